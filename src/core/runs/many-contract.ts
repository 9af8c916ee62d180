import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { mostAtOnce, stopped } from '#core/lib/many.ts'
import { idOf, idsOf } from '#core/lib/owned.ts'
import { line, none, refParams, id } from '#core/lib/shapes.ts'
import { finalVerdict } from '#core/lib/verdict.ts'

const verdicts = '/projects/:key/runs/:ref/verdicts'
export const giveVerdicts = contract({
  name: 'giveVerdicts',
  method: 'POST',
  path: verdicts,
  permission: 'leadRuns',
  summary: 'Give many items of a run one verdict for a reason, each in an attempt of its own',
  params: refParams('run'),
  query: none,
  body: z.object({
    ids: idsOf('item', mostAtOnce),
    verdict: finalVerdict,
    reason: line(1000),
    /** Seconds each took, as its share of what all of them took together; the clock and people's own words are told apart from it. */
    seconds: z.number().int().min(0).max(36_000).default(0),
    /** One of the project's own verdicts for items. */
    word: z.string().max(40).nullable().default(null),
    /** One of the project's reasons for the verdict. */
    because: z.string().max(60).nullable().default(null),
  }),
  /** `undo`: the attempts, whose verdicts are taken back; `left`: what could not be given one, and why. */
  output: z.object({
    changed: z.number(),
    undo: z.array(id),
    left: z.array(z.object({ item: id, why: z.string() })),
    stopped,
  }),
})
export const takeVerdictsBack = contract({
  name: 'takeVerdictsBack',
  method: 'POST',
  path: `${verdicts}/back`,
  permission: 'leadRuns',
  summary: 'Take back what was given to many; the attempts stay in history without it',
  params: refParams('run'),
  query: none,
  body: z.object({ ids: z.array(idOf('attempt')).min(1).max(mostAtOnce) }),
  output: z.object({ changed: z.number(), stopped }),
})
