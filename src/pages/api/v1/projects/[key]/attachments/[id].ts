import { removeFile as removeFileContract } from '#core/talk/contract.ts'
import { route } from '#server/http/route.ts'
import { removeFile } from '#server/talk/attachments.ts'

export const DELETE = route(removeFileContract, removeFile)
