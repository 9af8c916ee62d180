import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { done, id, idParams, none, projectParams } from '#core/lib/shapes.ts'

export const createLinks = contract({
  name: 'createLinks',
  method: 'POST',
  path: '/projects/:key/links',
  permission: 'tester',
  summary: 'Link requirements and cases, many to many; existing links stay',
  params: projectParams,
  query: none,
  body: z.object({ requirements: z.array(z.string()).min(1).max(500), cases: z.array(z.string()).min(1).max(5000) }),
  output: z.object({ made: z.number() }),
})
export const endLink = contract({
  name: 'endLink',
  method: 'DELETE',
  path: '/projects/:key/links/:id',
  permission: 'tester',
  summary: 'Unlink; the past keeps the link',
  params: idParams,
  query: none,
  body: none,
  output: done,
})
export const updateLink = contract({
  name: 'updateLink',
  method: 'PATCH',
  path: '/projects/:key/links/:id',
  permission: 'tester',
  summary: 'Which step proves which sentence; `null` and an empty text mean the whole',
  params: idParams,
  query: none,
  body: z.object({ step: id.nullable(), quote: z.string().trim().max(1000) }),
  output: done,
})
export const confirmLink = contract({
  name: 'confirmLink',
  method: 'POST',
  path: '/projects/:key/links/:id/confirm',
  permission: 'tester',
  summary: 'Confirm a suspect link against the requirement as it is now',
  params: idParams,
  query: none,
  body: none,
  output: done,
})
