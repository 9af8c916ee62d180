import { addComment as addCommentContract, listComments as listCommentsContract } from '#core/talk/contract.ts'
import { route } from '#server/http/route.ts'
import { addComment, listComments } from '#server/talk/comments.ts'

export const GET = route(listCommentsContract, listComments)
export const POST = route(addCommentContract, addComment)
