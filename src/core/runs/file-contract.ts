import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idsOf, memberId } from '#core/lib/owned.ts'
import { id, none, refParams } from '#core/lib/shapes.ts'
import { verdict } from '#core/lib/verdict.ts'
import { fileParts } from './run-file.ts'

export const runFileKinds = ['pdf', 'xlsx', 'csv'] as const
const most = 20_000

/** Words with commas: what goes with the items. */
const parts = z
  .string()
  .max(60)
  .default('')
  .transform((text) => text.split(',').filter((word) => word !== ''))
  .pipe(z.array(z.enum(fileParts)))

const one = { params: refParams('run') } as const
export const printRun = contract({
  ...one,
  name: 'printRun',
  method: 'GET',
  path: '/projects/:key/runs/:ref/file',
  permission: 'read',
  summary: 'A run as PDF, workbook or CSV, with its data rows, steps, words, defects and pictures as chosen',
  query: z.object({ as: z.enum(runFileKinds), with: parts }),
  body: none,
  output: z.unknown(),
  raw: true,
})
export const sendItemsOut = contract({
  ...one,
  name: 'sendItemsOut',
  method: 'POST',
  path: '/projects/:key/runs/:ref/out',
  permission: 'leadRuns',
  summary:
    'Items to be filled in elsewhere, on paper or in a spreadsheet, with keys and versions; a version is cut where one is missing',
  query: none,
  body: z.object({
    as: z.enum(runFileKinds),
    /** All that is still to be executed where none are named. */
    ids: idsOf('item', most).optional(),
  }),
  output: z.unknown(),
})

const outcomes = ['new', 'there', 'problem'] as const
export const bringItemsIn = contract({
  ...one,
  name: 'bringItemsIn',
  method: 'POST',
  path: '/projects/:key/runs/:ref/returned',
  permission: 'leadRuns',
  summary:
    'A file of items that comes back: told first, stored with `dry=no` as what somebody executed; a second time changes nothing',
  query: z.object({ person: memberId, dry: z.enum(['yes', 'no']).default('yes') }),
  body: z.unknown(),
  output: z.object({
    rows: z.array(
      z.object({
        /** 0: the line names none. */
        item: z.number().int(),
        line: z.number(),
        case: z.string(),
        title: z.string(),
        environment: z.string(),
        /** What stands there now, and what the file says. */
        before: verdict.nullable(),
        verdict: z.string(),
        words: z.string(),
        steps: z.number(),
        becomes: z.enum(outcomes),
        why: z.string(),
      }),
    ),
    counts: z.object({ new: z.number(), there: z.number(), problem: z.number(), empty: z.number() }),
    stored: z.boolean(),
    /** The attempts that were made, whose verdicts can be taken back. */
    undo: z.array(id),
  }),
  raw: true,
})
