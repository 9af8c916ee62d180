import type { Verdict } from '#core/lib/verdict.ts'

// What becomes of the cases of a plan when the next release is planned.

/** Groups in the order in which the first that holds counts. */
export const carryGroups = ['retired', 'basis gone', 'failing', 'not executed', 'basis changed', 'still holds'] as const
export type CarryGroup = (typeof carryGroups)[number]

/** A case of the old plan, as it stood on the last build that was offered. */
export interface CarryCase {
  readonly id: number
  /** Retired or deleted. */
  readonly retired: boolean
  /** Requirements it ever proved. */
  readonly requirements: readonly {
    /** Neither dropped nor deleted, and still proved by it. */
    readonly live: boolean
    /** When it was last worded anew, ms UTC. */
    readonly changedAt: number
    /** The link was confirmed against an older wording. */
    readonly suspect: boolean
  }[]
  /** A slot an environment, with what stood there. */
  readonly slots: readonly { readonly verdict: Verdict; readonly finishedAt: number | null }[]
}

const failing: readonly Verdict[] = ['Failed', 'Blocked', 'Inconclusive']

/** The first group that holds for a case. */
export function carryGroupOf({ retired, requirements, slots }: CarryCase): CarryGroup {
  if (retired) return 'retired'
  const live = requirements.filter((each) => each.live)
  if (requirements.length > 0 && live.length === 0) return 'basis gone'
  if (slots.some(({ verdict }) => failing.includes(verdict))) return 'failing'
  if (slots.length === 0 || slots.some(({ verdict, finishedAt }) => verdict !== 'Passed' || finishedAt === null))
    return 'not executed'
  const oldest = Math.min(...slots.map(({ finishedAt }) => finishedAt ?? 0))
  return live.some(({ suspect, changedAt }) => suspect || changedAt > oldest) ? 'basis changed' : 'still holds'
}

/** Whether a case is taken into the next plan unless somebody says otherwise. */
export const isCarried: Readonly<Record<CarryGroup, boolean>> = {
  retired: false,
  'basis gone': false,
  failing: true,
  'not executed': true,
  'basis changed': true,
  'still holds': true,
}
