import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idOf } from '#core/lib/owned.ts'
import { id, idParams, keyShape, none } from '#core/lib/shapes.ts'

// What was recorded in the wrong place goes where it belongs, and back.

const attempts = '/projects/:key/attempts/:id'
const row = z.number().int().min(1).max(1000)

export const moveAttempt = contract({
  name: 'moveAttempt',
  method: 'POST',
  path: `${attempts}/move`,
  permission: 'leadRuns',
  summary:
    'Move an attempt to another item with evidence and defects; to one of another case only its whole verdict goes, with its steps as a note',
  params: idParams('attempt'),
  query: none,
  body: z.object({ run: keyShape('run'), case: keyShape('case'), environment: idOf('environment') }),
  /** `attempt`: where it stands now; `before`: the item it came from, where it is the same attempt still. */
  output: z.object({ attempt: id, item: id, before: id.nullable(), another: z.boolean() }),
})
export const moveAttemptBack = contract({
  name: 'moveAttemptBack',
  method: 'POST',
  path: `${attempts}/move/back`,
  permission: 'leadRuns',
  summary: 'Take a move to another case back: what it made is struck out, and what was recorded counts again',
  params: idParams('attempt'),
  query: none,
  /** What the move made of it. */
  body: z.object({ made: idOf('attempt') }),
  output: z.object({ attempt: id }),
})
export const swapAttemptRows = contract({
  name: 'swapAttemptRows',
  method: 'POST',
  path: `${attempts}/rows`,
  permission: 'leadRuns',
  summary: 'What was said of a data row belongs to another one, and the other way round; again takes it back',
  params: idParams('attempt'),
  query: none,
  body: z.object({ one: row, other: row }),
  output: z.object({ attempt: id }),
})
