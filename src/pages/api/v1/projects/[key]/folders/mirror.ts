import { mirrorFolders as mirrorFoldersContract } from '#core/cases/folder-contract.ts'
import { route } from '#server/http/route.ts'
import { mirrorFolders } from '#server/cases/keep-folders.ts'

export const POST = route(mirrorFoldersContract, mirrorFolders)
