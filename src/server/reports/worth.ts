import { groupBy } from '#core/lib/group.ts'
import { assumedRisk } from '#core/reports/coverage.ts'
import { type AnsweredSlot, suspected } from '#core/reports/scope-coverage.ts'
import type { WorthWeights } from '#core/projects/weights.ts'
import { type CaseShares, chanceToLearn, partsAt, sharesOf, worthWords } from '#core/schedule/worth.ts'
import type { Db } from '#db/open.ts'
import { lastEvent, placesSince } from '#db/reports/facts.ts'
import {
  failRate,
  importanceOf,
  type OpenWork,
  openWork,
  type PastAttempts,
  pastOf,
  placeKey,
  requirementsWithOpenDefect,
} from '#db/schedule/worth.ts'
import type { WeighedItem, WorthQuestion, WorthReply } from '#server/workers/questions.ts'
import { answering } from './answered.ts'
import type { Knowledge } from './facts-cache.ts'
import { kept } from './kept.ts'
import { targetsByCase, targetsOf, unitsOf } from './units.ts'

/** What verdicts do not change, so that it is kept with the facts. */
interface World {
  /** Case → what each of its places is worth, and the requirements it proves. */
  readonly shares: ReadonlyMap<number, CaseShares>
  readonly proves: ReadonlyMap<number, readonly number[]>
  /** Case → how many drafting targets it answers. */
  readonly targets: ReadonlyMap<number, number>
  readonly risks: ReadonlyMap<number, number>
  readonly suspect: ReadonlySet<number>
  readonly defective: ReadonlySet<number>
}
const worlds = new WeakMap<Knowledge['facts'], Map<string, World>>()
/** How the attempts of a run's cases went, up to an event; what came since is looked at again. */
interface Past {
  event: number
  readonly of: Map<string, PastAttempts>
}
const pasts = new WeakMap<Knowledge['facts'], Map<number, Past>>()
const answers = new WeakMap<Knowledge['facts'], Map<string, ReturnType<typeof answering>>>()
const rates = new WeakMap<Db, Map<number, { readonly at: number; readonly rate: number }>>()
/** The rate of fewer attempts than this is read again each time: the next of them changes it. */
const fewAttempts = 50
const day = 86_400_000
const mostRuns = 8

/** What each item of a run that is still to be executed is worth now, and why. */
export function weighRun(db: Db, known: Knowledge, { projectId, run, weights, now }: WorthQuestion): WorthReply {
  const items = openWork(db, run)
  const world = kept(worlds, { of: known.facts, key: JSON.stringify(weights), most: 2 }, () =>
    worldOf(db, known, { projectId, weights }),
  )
  const rate = rateOf(db, projectId, now)
  const past = pastFor(db, known, { projectId, run, items })
  const slots = slotsFor(known, run, items)
  return {
    rate,
    items: items.map((item): WeighedItem => {
      const slot = slots(item)
      const requirements = world.proves.get(item.case) ?? []
      const seen = world.suspect.has(item.case) ? suspected(slot, known.scope.rules) : slot
      const learnable = {
        ...(past.get(placeKey(item.case, item.environment)) ?? { fails: 0, n: 0 }),
        changed: seen.reasons.includes('case changed') || seen.reasons.includes('requirement changed'),
        openDefect: requirements.some((id) => world.defective.has(id)),
        retest: seen.reasons.includes('defect fixed since'),
        confidence: seen.standing === null ? 0 : seen.confidence,
      }
      const { chance, terms } = chanceToLearn(learnable, rate, weights)
      const shares = world.shares.get(item.case) ?? { own: weights[importanceWord(item.importance)], shared: [] }
      const { place, among, answers } = placeOf(known, item)
      const risk = requirements.length === 0 ? null : Math.max(...requirements.map((id) => world.risks.get(id) ?? 0))
      const build = seen.standing && (known.facts.buildNames.get(seen.standing.buildId) ?? null)
      return {
        ...item,
        parts: partsAt(shares, place, among),
        targets: world.targets.get(item.case) ?? 0,
        answers,
        chance,
        leaves: terms.map(({ leaves }) => leaves),
        requirements: [...requirements],
        why: worthWords({ ...learnable, verdict: seen.verdict, reasons: seen.reasons, build, risk }),
      }
    }),
  }
}

const importanceWord = (of: string): 'Critical' | 'High' | 'Medium' | 'Low' =>
  of === 'Critical' || of === 'High' || of === 'Low' ? of : 'Medium'

/** Which place of its case an item answers: two in different environments answer the same one where any of these would do. */
function placeOf({ slots, facts }: Knowledge, item: OpenWork): { place: string; among: string; answers: number } {
  const own = slots.get(item.case) ?? []
  const at = own.findIndex(
    ({ environment, among }) =>
      environment === item.environment ||
      among?.includes(item.environment) ||
      (!among && environment === facts.anyEnvironment),
  )
  const slot = own[at]
  return slot
    ? { place: `${item.case}.${at}`, among: amongOf(slot), answers: slot.environment }
    : { place: `${item.case}/${item.environment}`, among: `${item.environment}`, answers: item.environment }
}

/** In what a place is executed, the same word for places of different cases. */
const amongOf = ({ environment, among }: AnsweredSlot): string => among?.join() ?? String(environment)

function worldOf(db: Db, known: Knowledge, of: { projectId: number; weights: WorthWeights }): World {
  const { facts } = known
  const importance = importanceOf(db, of.projectId)
  const links = groupBy(facts.links, ({ requirement }) => requirement)
  const targets = targetsOf(db, of.projectId)
  const proving = (id: number): readonly number[] => [...new Set((links.get(id) ?? []).map((link) => link.case))]
  const revisions = new Map(facts.requirements.map(({ id, revision }) => [id, revision]))
  const risks = new Map(facts.requirements.map(({ id, risk }) => [id, risk ?? assumedRisk]))
  return {
    shares: sharesOf({
      requirements: facts.requirements.map(({ id, risk }) => ({
        id,
        risk: risk ?? assumedRisk,
        ...unitsOf(proving(id), targets.get(id)),
      })),
      cases: new Map(
        facts.cases
          .filter(({ designed }) => designed)
          .map(({ id }) => [
            id,
            {
              slots: slotsOf(known, id),
              adds: of.weights[importanceWord(importance.get(id) ?? '')],
            },
          ]),
      ),
    }),
    targets: targetsByCase(targets, proving),
    proves: new Map(
      [...groupBy(facts.links, (link) => link.case)].map(([id, all]) => [
        id,
        [...new Set(all.map(({ requirement }) => requirement))].filter((each) => risks.has(each)),
      ]),
    ),
    risks,
    suspect: new Set(
      facts.links
        .filter((link) => (revisions.get(link.requirement) ?? 0) > link.confirmedRevision)
        .map((link) => link.case),
    ),
    defective: requirementsWithOpenDefect(db, of.projectId),
  }
}

/** Where a case is to be executed; one that nobody asks for anywhere has a place all the same. */
function slotsOf({ slots }: Knowledge, id: number): string[] {
  const own = slots.get(id) ?? []
  return own.length > 0 ? own.map(amongOf) : ['']
}

function rateOf(db: Db, projectId: number, now: number): number {
  const known = rates.get(db) ?? new Map<number, { readonly at: number; readonly rate: number }>()
  rates.set(db, known)
  const before = known.get(projectId)
  if (before && now - before.at < day) return before.rate
  const { rate, n } = failRate(db, projectId)
  if (n >= fewAttempts) known.set(projectId, { at: now, rate })
  return rate
}

function pastFor(
  db: Db,
  known: Knowledge,
  { projectId, run, items }: { projectId: number; run: number; items: readonly OpenWork[] },
): ReadonlyMap<string, PastAttempts> {
  const event = lastEvent(db)
  const past = kept(pasts, { of: known.facts, key: run, most: mostRuns }, () => ({
    event,
    of: pastOf(db, [...new Set(items.map((item) => item.case))]),
  }))
  if (past.event === event) return past.of
  const touched = [...new Set(placesSince(db, projectId, past.event).map(({ caseId }) => caseId))]
  for (const [key, own] of pastOf(db, touched)) past.of.set(key, own)
  past.event = event
  return past.of
}

/** What stands for each item, in its own environment. */
function slotsFor(known: Knowledge, run: number, items: readonly OpenWork[]): (item: OpenWork) => AnsweredSlot {
  const asked = items.map((item) => ({ case: item.case, environment: item.environment }))
  const { facts } = known
  const answer = kept(answers, { of: facts, key: `${run}:${items.length}`, most: mostRuns }, () =>
    answering({ ...facts, quarantined: [], notYet: new Set() }, asked),
  )
  const found = new Map<string, AnsweredSlot>()
  for (const { id, slots } of answer(known)) for (const slot of slots) found.set(placeKey(id, slot.environment), slot)
  return (item) =>
    found.get(placeKey(item.case, item.environment)) ?? {
      verdict: 'Not run',
      confidence: 1,
      reasons: [],
      environment: item.environment,
      standing: null,
    }
}
