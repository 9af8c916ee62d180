import {
  updateFolder as updateFolderContract,
  deleteFolder as deleteFolderContract,
} from '#core/cases/folder-contract.ts'
import { route } from '#server/http/route.ts'
import { updateFolder, deleteFolder } from '#server/cases/keep-folders.ts'

export const PATCH = route(updateFolderContract, updateFolder)
export const DELETE = route(deleteFolderContract, deleteFolder)
