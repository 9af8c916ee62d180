import { z } from 'zod'
import { type Filter, filterShape } from '#core/lib/filter.ts'
import { idOf } from '#core/lib/owned.ts'

/** What brings cases into a suite, beside pinning them. */
export const sourceKinds = ['branch', 'rule', 'suite', 'best'] as const
export type SourceKind = (typeof sourceKinds)[number]

/** How a suite's cases stand: as somebody put them (a newcomer comes last), or by what they are. */
export const suiteOrders = ['hand', 'outline', 'importance', 'risk', 'folder'] as const
export type SuiteOrder = (typeof suiteOrders)[number]

/** So many minutes may be asked for: a working year of ten people. */
const mostMinutes = 1_000_000

/** A source as somebody says it. */
export const sourceSaid = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('branch'), requirement: idOf('requirement') }),
  z.object({
    kind: z.literal('rule'),
    words: z.string().trim().max(200).default(''),
    filter: filterShape.nullable().default(null),
  }),
  z.object({ kind: z.literal('suite'), suite: idOf('suite') }),
  z.object({
    kind: z.literal('best'),
    minutes: z.number().int('minutes are a whole number').min(1, 'at least a minute').max(mostMinutes),
    requirement: idOf('requirement').nullable().default(null),
    frozen: z.boolean().default(false),
  }),
])
export type SourceSaid = z.output<typeof sourceSaid>

/** A rule: words typed as in a list, and a filter. */
export interface Rule {
  readonly words: string
  readonly filter: Filter | null
}
