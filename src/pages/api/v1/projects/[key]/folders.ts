import {
  createFolder as createFolderContract,
  listFolders as listFoldersContract,
} from '#core/cases/folder-contract.ts'
import { route } from '#server/http/route.ts'
import { createFolder, listFolders } from '#server/cases/keep-folders.ts'

export const GET = route(listFoldersContract, listFolders)
export const POST = route(createFolderContract, createFolder)
