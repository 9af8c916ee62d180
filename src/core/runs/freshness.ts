import type { Verdict } from '#core/lib/verdict.ts'

export const staleReasons = [
  'older build',
  'case changed',
  'requirement changed',
  'defect fixed since',
  'too old',
  'doubted',
] as const
export type StaleReason = (typeof staleReasons)[number]

export interface FreshnessRules {
  /** Days of 24 hours after which a result is too old. */
  readonly limitDays: number
  readonly olderBuild: number
  readonly caseChanged: number
  readonly requirementChanged: number
  readonly halfLifeDays: number
}
export const defaultFreshness: FreshnessRules = {
  limitDays: 14,
  olderBuild: 0.85,
  caseChanged: 0.5,
  requirementChanged: 0.6,
  halfLifeDays: 14,
}

/** The facts about one standing result. Instants in milliseconds UTC. */
export interface FreshnessFacts {
  readonly verdict: Verdict
  readonly finishedAt: number
  readonly asOf: number
  /** Builds in scope, Offered for testing, after the attempt's. */
  readonly laterBuilds: number
  readonly fingerprintChanged: boolean
  readonly suspect: boolean
  /** A defect linked to the attempt is Ready to retest or Closed, fixed in a later build in scope. */
  readonly defectFixedSince: boolean
  /** Somebody said that the attempt is not to be believed. */
  readonly doubted?: boolean
}

export interface Freshness {
  readonly reasons: readonly StaleReason[]
  /** Product of the weights; 1 when current. */
  readonly confidence: number
}

const day = 86_400_000
const current: Freshness = { reasons: [], confidence: 1 }

/** Why a standing result is no longer current, and how far to trust it still. */
export function freshness(facts: FreshnessFacts, rules: FreshnessRules = defaultFreshness): Freshness {
  const reasons: StaleReason[] = []
  let confidence = 1
  const add = (reason: StaleReason, weight: number) => {
    reasons.push(reason)
    confidence *= weight
  }
  const age = (facts.asOf - facts.finishedAt) / day
  if (facts.laterBuilds >= 1) add('older build', rules.olderBuild ** facts.laterBuilds)
  if (facts.fingerprintChanged) add('case changed', rules.caseChanged)
  if (facts.suspect) add('requirement changed', rules.requirementChanged)
  if (facts.defectFixedSince && (facts.verdict === 'Failed' || facts.verdict === 'Blocked'))
    add('defect fixed since', 0)
  if (age > rules.limitDays) add('too old', 0.5 ** ((age - rules.limitDays) / rules.halfLifeDays))
  if (facts.doubted) add('doubted', 0)
  return reasons.length === 0 ? current : { reasons, confidence }
}
