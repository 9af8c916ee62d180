import { listInbox as listInboxContract } from '#core/talk/contract.ts'
import { route } from '#server/http/route.ts'
import { listInbox } from '#server/talk/comments.ts'

export const GET = route(listInboxContract, listInbox)
