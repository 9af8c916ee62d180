import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { deletedAnswer } from '#core/lib/many.ts'
import { idOf, idsOf } from '#core/lib/owned.ts'
import { line, none, projectParams, refParams } from '#core/lib/shapes.ts'
import { runStates } from './state.ts'

/** What a run is split by. */
export const splitWays = ['tester', 'environment', 'requirement'] as const
export type SplitWay = (typeof splitWays)[number]

const key = z.string().regex(/^RN-\d{1,9}$/, 'is the key of a run')
const runs = '/projects/:key/runs'
export const splitRun = contract({
  name: 'splitRun',
  method: 'POST',
  path: `${runs}/:ref/split`,
  permission: 'leadRuns',
  summary:
    'Split a run: the largest part stays, each other goes into a run of its own with what was executed; merged back with `remove`',
  params: refParams('run'),
  query: none,
  body: z.object({ by: z.enum(splitWays) }),
  output: z.object({ runs: z.array(z.object({ key: z.string(), title: z.string(), items: z.number() })) }),
})
export const mergeRuns = contract({
  name: 'mergeRuns',
  method: 'POST',
  path: `${runs}/:ref/merge`,
  permission: 'leadRuns',
  summary:
    'Put all items of other runs into this one; those that are in both stay where they are, and the other run is closed',
  params: refParams('run'),
  query: none,
  body: z.object({
    from: z.array(key).min(1).max(50),
    /** The emptied runs are deleted and not closed: the way back from splitting. */
    remove: z.boolean().default(false),
  }),
  /** `twins`: items that are in both. */
  output: z.object({
    moved: z.number(),
    twins: z.number(),
    undo: z.array(z.object({ run: z.string(), ids: z.array(z.number()) })),
  }),
})
export const unmergeRuns = contract({
  name: 'unmergeRuns',
  method: 'POST',
  path: `${runs}/:ref/unmerge`,
  permission: 'leadRuns',
  summary: 'Take a merge back: the items go back, and the runs are open again',
  params: refParams('run'),
  query: none,
  body: z.object({
    parts: z
      .array(z.object({ run: key, ids: z.array(idOf('item')).max(20_000) }))
      .min(1)
      .max(50),
  }),
  output: z.object({ moved: z.number() }),
})
export const deleteRuns = contract({
  name: 'deleteRuns',
  method: 'DELETE',
  path: runs,
  permission: 'leadRuns',
  summary: 'Delete runs; what was executed stays in history and counts. Brought back by their keys',
  params: projectParams,
  query: none,
  body: z.object({ ids: idsOf('run', 200) }),
  output: deletedAnswer.extend({ attempts: z.number() }),
})
const tags = z.array(line(40)).max(50).default([])
export const tagRuns = contract({
  name: 'tagRuns',
  method: 'POST',
  path: `${runs}/tags`,
  permission: 'leadRuns',
  summary: 'Put tags on many runs, and take tags from them',
  params: projectParams,
  query: none,
  body: z.object({ ids: idsOf('run', 200), add: tags, drop: tags }),
  /** `undo`: asked again with these it is as it was. */
  output: z.object({
    changed: z.number(),
    undo: z.array(z.object({ ids: z.array(z.number()), add: z.array(z.string()), drop: z.array(z.string()) })),
  }),
})
export const endRuns = contract({
  name: 'endRuns',
  method: 'POST',
  path: `${runs}/end`,
  permission: 'leadRuns',
  summary: 'Close, end early or open many runs; what cannot be is left and named',
  params: projectParams,
  query: none,
  body: z.object({
    ids: idsOf('run', 200),
    state: z.enum(runStates),
    reason: z.string().trim().max(500).default(''),
  }),
  output: z.object({
    changed: z.number(),
    /** Asked again with these it is as it was. */
    undo: z.array(z.object({ ids: z.array(z.number()), state: z.enum(runStates), reason: z.string() })),
    left: z.array(z.object({ run: z.string(), why: z.string() })),
  }),
})
