import { stopped } from '#core/lib/many.ts'
import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idOf, idsOf } from '#core/lib/owned.ts'
import { done, id, idParams, none, projectParams } from '#core/lib/shapes.ts'

export const createLinks = contract({
  name: 'createLinks',
  method: 'POST',
  path: '/projects/:key/links',
  permission: 'writeCases',
  summary: 'Link requirements and cases, many to many, by key or by id; existing links stay',
  params: projectParams,
  query: none,
  body: z
    .object({
      requirements: z.array(z.string()).max(500).default([]),
      requirementIds: z.array(idOf('requirement')).max(20_000).default([]),
      cases: z.array(z.string()).max(5000).default([]),
      caseIds: z.array(idOf('test_case')).max(20_000).default([]),
    })
    .refine((of) => of.requirements.length + of.requirementIds.length > 0, 'names no requirement')
    .refine((of) => of.cases.length + of.caseIds.length > 0, 'names no case'),
  output: z.object({
    made: z.number(),
    /** How many links were asked for; those that are not made stood already. */
    of: z.number(),
    links: z.array(id),
    stopped,
  }),
})
export const endLinks = contract({
  name: 'endLinks',
  method: 'POST',
  path: '/projects/:key/links/end',
  permission: 'writeCases',
  summary: 'Unlink many at once; what is not there any more is passed over',
  params: projectParams,
  query: none,
  body: z.object({ ids: idsOf('link', 100_000) }),
  output: z.object({ ended: z.number(), stopped }),
})
export const endLink = contract({
  name: 'endLink',
  method: 'DELETE',
  path: '/projects/:key/links/:id',
  permission: 'writeCases',
  summary: 'Unlink; the past keeps the link',
  params: idParams('link'),
  query: none,
  body: none,
  output: done,
})
export const updateLink = contract({
  name: 'updateLink',
  method: 'PATCH',
  path: '/projects/:key/links/:id',
  permission: 'writeCases',
  summary: 'Which step proves which sentence; `null` and an empty text mean the whole',
  params: idParams('link'),
  query: none,
  body: z.object({ step: idOf('step').nullable(), quote: z.string().trim().max(1000) }),
  output: done,
})
export const confirmLink = contract({
  name: 'confirmLink',
  method: 'POST',
  path: '/projects/:key/links/:id/confirm',
  permission: 'writeCases',
  summary: 'Confirm a suspect link against the requirement as it is now',
  params: idParams('link'),
  query: none,
  body: none,
  output: done,
})
