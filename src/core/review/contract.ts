import { z } from 'zod'
import { versionState } from '#core/cases/case.ts'
import { base, caseComparison, contentShape, one as oneCase } from '#core/cases/contract.ts'
import { contract } from '#core/lib/contract.ts'
import { memberId } from '#core/lib/owned.ts'
import { id, idParams, instant, none, refParams } from '#core/lib/shapes.ts'

const one = { path: '/projects/:key/suggestions/:id', params: idParams('suggestion') } as const
const suggestionSheet = z.object({
  id,
  case: z.string(),
  version: z.string(),
  mine: z.boolean(),
  state: z.enum(['Open', 'Taken', 'Declined']),
  note: z.string(),
  content: contentShape,
  contentStamp: z.string(),
  comparison: caseComparison.omit({ from: true, to: true }),
})
export const startSuggestion = contract({
  name: 'startSuggestion',
  method: 'POST',
  path: '/projects/:key/cases/:ref/suggestions',
  permission: 'review',
  summary: 'Begin to suggest changes to a case: a copy of its newest version that only you write',
  params: refParams('case'),
  query: none,
  body: none,
  output: z.object({ id }),
})
export const readSuggestion = contract({
  ...one,
  name: 'readSuggestion',
  method: 'GET',
  permission: 'read',
  summary: 'A suggestion, compared with the version it was made from',
  query: none,
  body: none,
  output: suggestionSheet,
})
export const storeSuggestion = contract({
  ...one,
  name: 'storeSuggestion',
  method: 'PUT',
  permission: 'review',
  summary: 'Store a suggestion as typed; with a note it is sent to the owner and the author',
  query: none,
  body: z.object({
    content: contentShape.optional(),
    stamp: z.string().default(''),
    note: z.string().trim().max(1000).optional(),
  }),
  output: z.object({ content: contentShape, stamp: z.string(), at: instant }),
})
export const decideSuggestion = contract({
  ...one,
  name: 'decideSuggestion',
  method: 'POST',
  permission: 'review',
  summary: 'Take a suggestion into the working copy, or decline it',
  query: none,
  body: z.object({ take: z.boolean() }),
  output: z.object({ kept: z.string().nullable() }),
})

export const reviewCase = contract({
  name: 'reviewCase',
  method: 'POST',
  path: `${base}/:ref/review`,
  permission: 'review',
  summary: 'Ask for review, send back, or (a lead, not the author) approve the newest version',
  params: oneCase,
  query: none,
  body: z.object({
    to: versionState,
    people: z.array(memberId).max(50).default([]),
    why: z.string().trim().max(500).default(''),
  }),
  output: z.object({ name: z.string() }),
})
