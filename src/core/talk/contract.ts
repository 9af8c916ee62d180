import { planParts } from '#core/plans/state.ts'
import { noticeKinds } from './notice.ts'
import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idOf } from '#core/lib/owned.ts'
import { richText } from '#core/lib/rich-text.ts'
import { done, id, idParams, instant, none, projectParams } from '#core/lib/shapes.ts'

const commentShape = z.object({
  id,
  person: z.string(),
  mine: z.boolean(),
  step: id.nullable(),
  part: z.enum(planParts).nullable(),
  text: z.string(),
  at: instant,
})
export const listComments = contract({
  name: 'listComments',
  method: 'GET',
  path: '/projects/:key/comments',
  permission: 'read',
  summary: 'Comments on an object, or on one of its steps',
  params: projectParams,
  query: z.object({ ref: z.string().max(20) }),
  body: none,
  output: z.object({ rows: z.array(commentShape) }),
})
export const addComment = contract({
  name: 'addComment',
  method: 'POST',
  path: '/projects/:key/comments',
  permission: 'discuss',
  summary: 'Comment on an object or one of its steps; @name tells a person',
  params: projectParams,
  query: none,
  body: z.object({
    ref: z.string().max(20),
    step: idOf('step').nullable().default(null),
    /** Of a plan: which of its parts. */
    part: z.enum(planParts).nullable().default(null),
    text: richText(20_000).pipe(z.string().trim().min(1, 'may not be empty')),
  }),
  output: z.object({ id, told: z.array(z.string()) }),
})
const inboxEntry = z.object({
  id,
  kind: z.enum(noticeKinds),
  ref: z.string(),
  text: z.string(),
  from: z.string().nullable(),
  at: instant,
  read: z.boolean(),
})
export const listInbox = contract({
  name: 'listInbox',
  method: 'GET',
  path: '/projects/:key/inbox',
  permission: 'read',
  summary: 'What waits for you to see, newest first',
  params: projectParams,
  query: z.object({
    limit: z.coerce.number().int().min(1).max(200).default(50),
    before: z.coerce.number().int().optional(),
  }),
  body: none,
  output: z.object({ rows: z.array(inboxEntry), unread: z.number(), next: z.number().nullable() }),
})
export const readInbox = contract({
  name: 'readInbox',
  method: 'POST',
  path: '/projects/:key/inbox/read',
  permission: 'read',
  summary: 'Mark entries of your inbox as seen, or as not seen',
  params: projectParams,
  query: none,
  body: z.object({ ids: z.array(idOf('notice')).max(500), read: z.boolean().default(true) }),
  output: done,
})

const attachmentShape = z.object({
  id,
  name: z.string(),
  mime: z.string(),
  size: z.number(),
  at: instant,
  person: z.string().nullable(),
  url: z.string(),
})
export const listAttachments = contract({
  name: 'listAttachments',
  method: 'GET',
  path: '/projects/:key/attachments',
  permission: 'read',
  summary: 'Files attached to a requirement or a case',
  params: projectParams,
  query: z.object({ ref: z.string().max(20) }),
  body: none,
  output: z.object({ rows: z.array(attachmentShape) }),
})
export const addFile = contract({
  name: 'addFile',
  method: 'POST',
  path: '/projects/:key/attachments',
  permission: 'discuss',
  summary: 'Attach a file to a requirement or a case; the body is its bytes',
  params: projectParams,
  query: z.object({ ref: z.string().max(20), name: z.string().trim().min(1).max(200) }),
  body: none,
  output: attachmentShape,
  raw: true,
})
export const removeFile = contract({
  name: 'removeFile',
  method: 'DELETE',
  path: '/projects/:key/attachments/:id',
  permission: 'discuss',
  summary: 'Take a file away; `undo=1` brings it back',
  params: idParams('attachment'),
  query: z.object({ undo: z.coerce.boolean().default(false) }),
  body: none,
  output: done,
})

const wanted = z.object({ kinds: z.array(z.enum(noticeKinds)) })
export const readLetters = contract({
  name: 'readLetters',
  method: 'GET',
  path: '/me/letters',
  permission: 'person',
  summary: 'Which kinds of notices come to you as letters too; `mail` says whether letters can leave this installation',
  params: none,
  query: none,
  body: none,
  output: wanted.extend({ mail: z.boolean() }),
})
export const chooseLetters = contract({
  name: 'chooseLetters',
  method: 'PUT',
  path: '/me/letters',
  permission: 'person',
  summary: 'Choose which kinds of notices come to you as letters too',
  params: none,
  query: none,
  body: wanted,
  output: done,
})
