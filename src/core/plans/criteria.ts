import { z } from 'zod'
import { importances } from '#core/cases/case.ts'
import { severities } from '#core/defects/state.ts'
import { percentText, percent } from '#core/lib/figures.ts'
import { idOf } from '#core/lib/owned.ts'

export const measures = ['designed', 'executed', 'passing', 'fully passing'] as const
export type Measure = (typeof measures)[number]
/** Which of the three figures: all results, current ones, or each as far as it can be trusted. */
export const bases = ['recorded', 'current', 'confident'] as const
export type Basis = (typeof bases)[number]
export const criterionSides = ['entry', 'exit'] as const
export type CriterionSide = (typeof criterionSides)[number]

const share = z.number().min(0, 'a share is 0 to 100').max(100, 'a share is 0 to 100')
const count = z.number().int('a whole number').min(0, 'not less than 0').max(100_000)

/** A criterion as a typed sentence with its choices. */
export const criterionRule = z.discriminatedUnion('kind', [
  /** So much of the requirements, or of one branch, in one of the figures. */
  z.object({
    kind: z.literal('share'),
    measure: z.enum(measures),
    basis: z.enum(bases).default('recorded'),
    byRisk: z.boolean().default(false),
    branch: idOf('requirement').nullable().default(null),
    atLeast: share,
  }),
  /** Open defects of a severity or worse. */
  z.object({ kind: z.literal('defects'), severity: z.enum(severities), atMost: count }),
  /** All cases of an importance or above executed: on the newest build, or within some days. */
  z.object({
    kind: z.literal('important'),
    importance: z.enum(importances),
    days: z.number().int().min(1).max(1000).nullable().default(null),
  }),
  /** Failing results that no defect tells of. */
  z.object({ kind: z.literal('untold'), atMost: count.default(0) }),
  z.object({ kind: z.literal('suspect'), atMost: count }),
  /** So much of the cases in scope approved. */
  z.object({ kind: z.literal('approved'), atLeast: share }),
  /** So much of what plans ask for executed. */
  z.object({ kind: z.literal('items'), atLeast: share }),
  z.object({ kind: z.literal('runs') }),
])
export type CriterionRule = z.output<typeof criterionRule>

export const outcomes = ['met', 'not met', 'waived', 'undecidable'] as const
export type Outcome = (typeof outcomes)[number]

/** What is missing where a criterion is not met: objects of one kind by id, slots as case and environment. */
export type Missing =
  | { readonly of: 'requirements' | 'cases' | 'defects' | 'runs'; readonly ids: readonly number[] }
  | { readonly of: 'slots'; readonly slots: readonly { readonly case: number; readonly environment: number }[] }

/** The same as it is told: of what is missing the first, and how much it is in all. */
export interface EvaluatedShort extends Evaluated {
  readonly missingTotal: number
}

export interface Evaluated {
  readonly outcome: Exclude<Outcome, 'waived'>
  /** Between 0 and 1, or a count; `null` where there is nothing to count. */
  readonly figure: number | null
  readonly missing: Missing
}

/** A slot in scope as criteria look at it. */
export interface CriterionSlot {
  readonly environment: number
  readonly verdict: string
  readonly stale: boolean
  /** On the newest build of the scope. */
  readonly onNewest: boolean
  /** Days since it was executed; `null`: never. */
  readonly days: number | null
  /** A defect tells of it. */
  readonly told: boolean
}

/** All that criteria are evaluated over: what is in the scope of the plan. */
export interface CriteriaFacts {
  /** Shares of requirements, of all in scope or of a branch; `null` where there are none. */
  readonly shares: (of: {
    readonly measure: Measure
    readonly basis: Basis
    readonly byRisk: boolean
    readonly branch: number | null
  }) => number | null
  /** Leaves of which the measure does not wholly hold. */
  readonly lacking: (of: {
    readonly measure: Measure
    readonly basis: Basis
    readonly branch: number | null
  }) => readonly number[]
  readonly defects: readonly { readonly id: number; readonly severity: (typeof severities)[number] }[]
  readonly cases: readonly {
    readonly id: number
    readonly importance: (typeof importances)[number]
    readonly approved: boolean
    readonly slots: readonly CriterionSlot[]
  }[]
  readonly suspect: readonly number[]
  readonly openRuns: readonly number[]
}

const isExecuted = ({ verdict }: CriterionSlot): boolean =>
  verdict === 'Passed' || verdict === 'Failed' || verdict === 'Inconclusive'

/** Does the criterion hold, over these facts? Compared unrounded; a share of nothing decides nothing. */
export function evaluate(rule: CriterionRule, facts: CriteriaFacts): Evaluated {
  switch (rule.kind) {
    case 'share': {
      const figure = facts.shares(rule)
      return atLeast(figure, rule.atLeast, { of: 'requirements', ids: facts.lacking(rule) })
    }
    case 'defects': {
      const worst = severities.slice(0, severities.indexOf(rule.severity) + 1)
      const ids = facts.defects.filter(({ severity }) => worst.includes(severity)).map(({ id }) => id)
      return atMost(ids.length, rule.atMost, { of: 'defects', ids })
    }
    case 'important':
      return important(rule, facts)
    case 'untold': {
      const slots = slotsOf(facts, ({ verdict, told }) => verdict === 'Failed' && !told)
      return atMost(slots.length, rule.atMost, { of: 'slots', slots })
    }
    case 'suspect':
      return atMost(facts.suspect.length, rule.atMost, { of: 'cases', ids: [...new Set(facts.suspect)] })
    case 'approved': {
      const ids = facts.cases.filter(({ approved }) => !approved).map(({ id }) => id)
      const all = facts.cases.length
      return atLeast(all === 0 ? null : (all - ids.length) / all, rule.atLeast, { of: 'cases', ids })
    }
    case 'items': {
      const all = slotCount(facts)
      const slots = slotsOf(facts, (slot) => !isExecuted(slot))
      return atLeast(all === 0 ? null : (all - slots.length) / all, rule.atLeast, { of: 'slots', slots })
    }
    case 'runs':
      return atMost(facts.openRuns.length, 0, { of: 'runs', ids: facts.openRuns })
  }
}

function important(
  { importance, days }: Extract<CriterionRule, { kind: 'important' }>,
  facts: CriteriaFacts,
): Evaluated {
  const wanted = importances.slice(0, importances.indexOf(importance) + 1)
  const own = { cases: facts.cases.filter((each) => wanted.includes(each.importance)) }
  const all = slotCount(own)
  const recent = (slot: CriterionSlot) => (days === null ? slot.onNewest : slot.days !== null && slot.days <= days)
  const slots = slotsOf(own, (slot) => !isExecuted(slot) || !recent(slot))
  return atLeast(all === 0 ? null : (all - slots.length) / all, 100, { of: 'slots', slots })
}

/** Slots for which something holds. Of fifty thousand cases a loop takes a third of what lists of lists do. */
function slotsOf(
  { cases }: Pick<CriteriaFacts, 'cases'>,
  holds: (slot: CriterionSlot) => boolean,
): { readonly case: number; readonly environment: number }[] {
  const found: { readonly case: number; readonly environment: number }[] = []
  for (const { id, slots } of cases)
    for (const slot of slots) if (holds(slot)) found.push({ case: id, environment: slot.environment })
  return found
}

const slotCount = ({ cases }: Pick<CriteriaFacts, 'cases'>): number => {
  let sum = 0
  for (const { slots } of cases) sum += slots.length
  return sum
}

/** Binary dust of sums of weights is no lack. */
const dust = 1e-9
const nothing = (missing: Missing): Missing =>
  missing.of === 'slots' ? { of: 'slots', slots: [] } : { of: missing.of, ids: [] }

function atLeast(figure: number | null, wanted: number, missing: Missing): Evaluated {
  if (figure === null) return { outcome: 'undecidable', figure, missing: nothing(missing) }
  const met = figure * 100 >= wanted - dust
  return { outcome: met ? 'met' : 'not met', figure, missing: met ? nothing(missing) : missing }
}

function atMost(figure: number, wanted: number, missing: Missing): Evaluated {
  const met = figure <= wanted
  return { outcome: met ? 'met' : 'not met', figure, missing: met ? nothing(missing) : missing }
}

/** A waiver holds until the end of its day in the project's time; `today` is a plain date there. */
export const isWaived = (until: string | null, today: string): boolean => until !== null && today <= until

const basisWords: Readonly<Record<Basis, string>> = {
  recorded: 'as recorded',
  current: 'on current results',
  confident: 'weighted by confidence',
}

/** The criterion as a sentence; `branchName` is of the requirement at the top of its branch. */
export function criterionWords(rule: CriterionRule, branchName: string | null): string {
  const where = branchName === null ? '' : ` in ${branchName}`
  switch (rule.kind) {
    case 'share':
      return `${rule.measure.charAt(0).toUpperCase()}${rule.measure.slice(1)}${rule.byRisk ? ' by risk' : ''}${rule.measure === 'designed' ? '' : ` ${basisWords[rule.basis]}`}${where}: at least ${rule.atLeast} %`
    case 'defects':
      return rule.atMost === 0
        ? `No open defect that is ${rule.severity}${rule.severity === 'Critical' ? '' : ' or worse'}`
        : `At most ${rule.atMost} open defects that are ${rule.severity}${rule.severity === 'Critical' ? '' : ' or worse'}`
    case 'important':
      return `All cases that are ${rule.importance}${rule.importance === 'Critical' ? '' : ' or above'} executed ${rule.days === null ? 'on the newest build' : `within ${rule.days} days`}`
    case 'untold':
      return rule.atMost === 0
        ? 'No failing result without a defect'
        : `At most ${rule.atMost} failing results without a defect`
    case 'suspect':
      return rule.atMost === 0 ? 'No suspect link' : `At most ${rule.atMost} suspect links`
    case 'approved':
      return `Cases approved: at least ${rule.atLeast} %`
    case 'items':
      return `Planned items executed: at least ${rule.atLeast} %`
    case 'runs':
      return 'No run left open'
  }
}

/** Does its figure count things, or is it a share? */
const isCount = ({ kind }: CriterionRule): boolean =>
  kind === 'defects' || kind === 'untold' || kind === 'suspect' || kind === 'runs'

/** Its figure as text: `57 %`, `3`, or a dash where there is nothing to count. */
export function figureText(rule: CriterionRule, figure: number | null): string {
  if (figure === null) return '–'
  return isCount(rule) ? String(figure) : percentText(percent(figure, 1))
}

/** What is asked, beside the figure: `at least 95 %`. */
export function wantedText(rule: CriterionRule): string {
  if (rule.kind === 'important') return 'all of them'
  if (rule.kind === 'runs') return 'none'
  return 'atLeast' in rule ? `at least ${rule.atLeast} %` : rule.atMost === 0 ? 'none' : `at most ${rule.atMost}`
}

/** What is evaluated, with no more of what is missing than is told: of a large project it would be tens of thousands of items. */
export function shortened({ missing, ...told }: Evaluated, most: number): EvaluatedShort {
  return missing.of === 'slots'
    ? { ...told, missing: { of: 'slots', slots: missing.slots.slice(0, most) }, missingTotal: missing.slots.length }
    : { ...told, missing: { of: missing.of, ids: missing.ids.slice(0, most) }, missingTotal: missing.ids.length }
}
