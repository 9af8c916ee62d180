import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { id, instant, none, projectParams } from '#core/lib/shapes.ts'

export const commentShape = z.object({ id, person: z.string(), mine: z.boolean(), text: z.string(), at: instant })
export const listComments = contract({ name: 'listComments', method: 'GET', path: '/projects/:key/comments', permission: 'viewer', summary: 'Comments on an object', params: projectParams, query: z.object({ ref: z.string().max(20) }), body: none, output: z.object({ rows: z.array(commentShape) }) })
export const addComment = contract({ name: 'addComment', method: 'POST', path: '/projects/:key/comments', permission: 'tester', summary: 'Comment on an object', params: projectParams, query: none, body: z.object({ ref: z.string().max(20), text: z.string().trim().min(1, 'may not be empty').max(20_000) }), output: z.object({ id }) })
