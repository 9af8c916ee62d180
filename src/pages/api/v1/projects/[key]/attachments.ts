import { listAttachments as listAttachmentsContract, addFile as addFileContract } from '#core/talk/contract.ts'
import { openRoute, route } from '#server/http/route.ts'
import { listAttachments, addFile } from '#server/talk/attachments.ts'

export const GET = route(listAttachmentsContract, listAttachments)
export const POST = openRoute(addFileContract, addFile)
