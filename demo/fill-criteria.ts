import type { CriterionRule, CriterionSide } from '#core/plans/criteria.ts'
import type { PlanPart } from '#core/plans/state.ts'
import type { Tx } from '#db/open.ts'
import { addCriterionTo, saveCriterion } from '#db/plans/criteria.ts'
import { savePart, setBranches, setMilestones, setPeople, setRisks } from '#db/plans/parts.ts'
import { day } from '../standins/crossing-desk/clock.ts'
import { requirementNamed } from './named.ts'
import type { Frame } from './fill.ts'
import type { organise } from './fill-plans.ts'

type Plans = ReturnType<typeof organise>['plans']

const parts: Readonly<Record<keyof Plans, Partial<Record<PlanPart, string>>>> = {
  shipped: {
    what: '<p>Everything that 2.2 did, in the browsers of the two big ports.</p>',
    when: '<p>Two passes, a week each; the second on the build that is shipped.</p>',
  },
  current: {
    why: '<p>The islands vote on the new fares in spring: a wrong sum on the first day would be in every paper.</p>',
    what: '<p>The harbour’s own dues are reckoned by the port and are not tested here.</p>',
    where:
      '<p>Each bench is reset to the known state before a run; the test bank answers with card 4000 0000 0000 0002 as refused.</p>',
    when: '<p>Ansa tests the deck plan alone: nobody else has loaded a ferry.</p>',
  },
  late: { where: '<p>The bench with Gecko is shared with the web team on Thursdays.</p>' },
}

interface Asked {
  readonly side?: CriterionSide
  readonly rule: CriterionRule
  /** Waived by Ilo until so many days from now. */
  readonly waived?: { readonly days: number; readonly reason: string }
}

const exit: readonly Asked[] = [
  {
    rule: { kind: 'share', measure: 'designed', basis: 'recorded', byRisk: false, branch: null, atLeast: 80 },
  },
  {
    rule: { kind: 'share', measure: 'passing', basis: 'current', byRisk: true, branch: null, atLeast: 52 },
  },
  { rule: { kind: 'defects', severity: 'Critical', atMost: 4 } },
  { rule: { kind: 'important', importance: 'Critical', days: null } },
  {
    rule: { kind: 'approved', atLeast: 95 },
    waived: { days: 6, reason: 'The cases from the drafting table are reviewed with the next iteration' },
  },
  { rule: { kind: 'untold', atMost: 2 } },
  { rule: { kind: 'suspect', atMost: 25 } },
  { rule: { kind: 'items', atLeast: 65 } },
]
const entry: readonly Asked[] = [
  {
    side: 'entry',
    rule: { kind: 'share', measure: 'designed', basis: 'recorded', byRisk: true, branch: null, atLeast: 75 },
  },
  { side: 'entry', rule: { kind: 'defects', severity: 'Critical', atMost: 5 } },
]
const smoke: readonly Asked[] = [
  { rule: { kind: 'important', importance: 'Critical', days: 7 } },
  { rule: { kind: 'runs' } },
]
const old: readonly Asked[] = [
  { rule: { kind: 'share', measure: 'executed', basis: 'recorded', byRisk: false, branch: null, atLeast: 90 } },
]

/** What the plans say beside their suites: why, where, by whom, and when it is enough. */
export function fillCriteria(tx: Tx, frame: Frame, plans: Plans, now: number): void {
  const { projectId, date } = frame
  for (const [name, planId] of Object.entries(plans) as [keyof Plans, number][])
    for (const [part, words] of Object.entries(parts[name]) as [PlanPart, string][]) savePart(tx, planId, part, words)
  const asked: readonly [number, readonly Asked[]][] = [
    [plans.current, [...exit, ...entry]],
    [plans.late, smoke],
    [plans.shipped, old],
  ]
  for (const [planId, criteria] of asked)
    for (const { side = 'exit', rule, waived } of criteria) {
      const id = addCriterionTo(tx, { projectId, planId, side, rule })
      if (waived)
        saveCriterion(tx, id, {
          waivedBy: 'ilo',
          waivedAt: now - 2 * day,
          waivedReason: waived.reason,
          waivedUntil: date(waived.days),
        })
    }
  const requirement = (title: string) => requirementNamed(tx, projectId, title)
  const risk = (title: string, likelihood: number, impact: number, ...answers: string[]) => ({
    title,
    likelihood,
    impact,
    requirements: answers.map(requirement).filter((id) => id > 0),
    cases: [],
  })
  setRisks(tx, { projectId, planId: plans.current, now }, [
    risk('A reduction is forgotten or counted twice, and people pay a wrong fare', 3, 5, 'Fares and concessions'),
    risk('A vehicle is given a place it does not fit, and the ferry sails late', 3, 4, 'Deck plan'),
    risk('A storm cancels sailings, and the quay does not learn of it', 2, 5, 'Weather and rebooking'),
    risk('The first day of sales brings more people than the desk bears', 2, 4, 'Load and recovery'),
  ])
  setBranches(tx, plans.current, [])
  setPeople(tx, plans.current, [
    { id: 'mira', part: 'leads; fares and payment' },
    { id: 'ansa', part: 'deck plan' },
    { id: 'tobin', part: 'booking, on the phone' },
    { id: 'yusra', part: 'quay and weather' },
  ])
  setMilestones(tx, { projectId, planId: plans.current, now }, [
    { title: 'Last build with new functions', on: date(4) },
    { title: 'Go or no-go with the ports', on: date(18) },
  ])
}
