import { readInbox as readInboxContract } from '#core/talk/contract.ts'
import { route } from '#server/http/route.ts'
import { readInbox } from '#server/talk/comments.ts'

export const POST = route(readInboxContract, readInbox)
