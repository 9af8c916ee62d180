import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idInPath } from '#core/lib/owned.ts'
import { richText } from '#core/lib/rich-text.ts'
import { timings } from './timing.ts'
import { done, idParams, instant, none, orUndo } from '#core/lib/shapes.ts'

// What is noted at an attempt beside its verdicts.

const attempts = '/projects/:key/attempts/:id'

export const commentStep = contract({
  name: 'commentStep',
  method: 'PUT',
  path: `${attempts}/rows/:row/steps/:step/comment`,
  permission: 'execute',
  summary: 'What happened at a step',
  params: idParams('attempt').extend({ row: z.coerce.number().int().min(1), step: idInPath('step') }),
  query: none,
  body: z.object({ text: richText(20_000) }),
  output: z.object({ storedAt: instant, text: z.string() }),
})

export const setReason = contract({
  name: 'setReason',
  method: 'PUT',
  path: `${attempts}/reason`,
  permission: 'execute',
  summary: 'Which of the project’s reasons is given for the verdict; `null` takes it away',
  params: idParams('attempt'),
  query: none,
  body: z.object({ reason: z.string().max(60).nullable() }),
  output: z.object({ reason: z.string().nullable() }),
})

export const clockAttempt = contract({
  name: 'clockAttempt',
  method: 'POST',
  path: `${attempts}/clock`,
  permission: 'execute',
  summary: 'Add seconds spent on an attempt',
  params: idParams('attempt'),
  query: none,
  body: z.object({ seconds: z.number().int().min(1).max(3600) }),
  output: z.object({ seconds: z.number() }),
})
export const timeAttempt = contract({
  name: 'timeAttempt',
  method: 'PUT',
  path: `${attempts}/time`,
  permission: 'execute',
  summary: 'How long an attempt took, by whoever made it; the clock of the desk adds nothing to it any more',
  params: idParams('attempt'),
  query: none,
  body: z.object({ minutes: z.number().int().min(0).max(1440) }),
  output: z.object({ seconds: z.number(), timing: z.enum(timings) }),
})
export const removeEvidence = contract({
  name: 'removeEvidence',
  method: 'DELETE',
  path: '/projects/:key/evidence/:id',
  permission: 'execute',
  summary: 'Hide an attachment; can be undone',
  params: idParams('attachment'),
  query: orUndo,
  body: none,
  output: done,
})
