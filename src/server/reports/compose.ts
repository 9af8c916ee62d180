import { createHash } from 'node:crypto'
import { sumOf } from '#core/lib/figures.ts'
import { bitsOf, compose, type Composed, type Known, reasonsFor } from '#core/runs/compose.ts'
import { type BuildAt, buildsInScope, offeredAfter } from '#core/runs/standing.ts'
import { type AnsweredSlot, type SlotAsked, suspected } from '#core/reports/scope-coverage.ts'
import { caseAskSource, ownFieldsOf } from '#db/cases/ask.ts'
import { listIds } from '#db/finding/list.ts'
import type { Db } from '#db/open.ts'
import { caseMinutesOf } from '#db/plans/criteria.ts'
import { slotsOfRuns } from '#db/runs/items.ts'
import type { ComposedReply, ComposedUnit, ComposeQuestion } from '#server/workers/questions.ts'
import { type Answered, answering } from './answered.ts'
import { reckon } from './asks.ts'
import type { Knowledge } from './facts-cache.ts'
import { kept } from './kept.ts'

/** What there is to choose from: units of cases in environments, and the reasons of each as bits. */
interface Units {
  readonly units: readonly ComposedUnit[]
  readonly bits: Uint8Array
  /** What sums over all of them need, side by side: a hundred thousand objects are slow to go over at each key. */
  readonly minutes: Float64Array
  readonly cases: Uint32Array
  readonly environments: Uint32Array
}
/** Out of what it is composed: the same as long as nothing but verdicts changed; what a verdict touched is made anew in its place. */
type Source = (known: Knowledge, beside: readonly Knowledge[]) => Units
const sources = new WeakMap<Knowledge['facts'], Map<string, Source>>()
/** Places of the units that a filter fits, until a verdict comes: another reason, the next page and the making ask for the same. */
const fitting = new WeakMap<Knowledge, Map<string, readonly number[]>>()
const most = 8

/** Slots of the runs and of the plan, each once; else all that is asked for. */
function slotsFrom(db: Db, known: Knowledge, { runs, plan, ...of }: ComposeQuestion): SlotAsked[] {
  const asAsked = (slots: ReadonlyMap<number, readonly AnsweredSlot[]>): SlotAsked[] =>
    [...slots].flatMap(([id, own]) =>
      own.map(({ environment, among }) =>
        among ? { case: id, environment: known.facts.anyEnvironment, among } : { case: id, environment },
      ),
    )
  if (runs.length === 0 && plan === null) return asAsked(known.slots)
  const all = [
    ...slotsOfRuns(db, runs),
    ...(plan === null ? [] : asAsked(reckon(db, known, { projectId: of.projectId, scope: of.scope, plan }).slots)),
  ]
  const place = (slot: SlotAsked) => `${slot.case} ${slot.among?.join() ?? slot.environment}`
  return [...new Map(all.map((slot) => [place(slot), slot])).values()]
}

function sourceOf(db: Db, known: Knowledge, question: ComposeQuestion): Source {
  const { facts, scope } = known
  const minutes = new Map(caseMinutesOf(db, question.projectId))
  const later = laterBuilds(buildsInScope(facts.builds, null, scope.build))
  const revisions = new Map(facts.requirements.map(({ id, revision }) => [id, revision]))
  const suspect = new Set(
    facts.links
      .filter((link) => (revisions.get(link.requirement) ?? 0) > link.confirmedRevision)
      .map((link) => link.case),
  )
  const unitOf = (id: number, answered: AnsweredSlot): ComposedUnit => {
    const slot = suspect.has(id) ? suspected(answered, scope.rules) : answered
    const { standing } = slot
    const known: Known = {
      verdict: slot.verdict,
      stale: slot.reasons,
      ...(standing ? later(standing.buildId, id) : { laterBuilds: 0, touchedBy: 0 }),
    }
    return {
      ...known,
      case: id,
      environment: slot.environment,
      reasons: reasonsFor(known),
      minutes: minutes.get(id) ?? 0,
      attempt: standing?.attemptId ?? null,
      at: standing?.finishedAt ?? null,
    }
  }
  // What stands in any release counts up to the build, and quarantine hides nothing: whoever makes a run is to see it.
  const answered = answering({ ...facts, quarantined: [] }, slotsFrom(db, known, question), (of) => ({
    ...of,
    release: null,
    environment: null,
  }))
  return unitsKept(answered, unitOf)
}

/** Units of all entries one after the other; those of an entry stay in their place, as many as its case has slots. */
function unitsKept(
  answered: ReturnType<typeof answering>,
  unitOf: (id: number, slot: AnsweredSlot) => ComposedUnit,
): Source {
  const columnsOf = (length: number) => ({
    bits: new Uint8Array(length),
    minutes: new Float64Array(length),
    cases: new Uint32Array(length),
    environments: new Uint32Array(length),
  })
  const units: ComposedUnit[] = []
  let columns = columnsOf(0)
  let before: readonly Answered[] = []
  return (known, beside) => {
    const entries = answered(known, beside)
    if (before.length === 0) columns = columnsOf(sumOf(entries, ({ slots }) => slots.length))
    let place = 0
    entries.forEach((entry, at) => {
      if (entry !== before[at])
        entry.slots.forEach((slot, n) => {
          const unit = unitOf(entry.id, slot)
          units[place + n] = unit
          columns.bits[place + n] = bitsOf(unit.reasons)
          columns.minutes[place + n] = unit.minutes
          columns.cases[place + n] = unit.case
          columns.environments[place + n] = unit.environment
        })
      place += entry.slots.length
    })
    before = entries
    return { units, ...columns }
  }
}

/** How many builds offered after one touch a case, and how many of these somebody said that of. */
function laterBuilds(builds: readonly BuildAt[]) {
  const positions = new Map(builds.map(({ id, position }) => [id, position]))
  const isSaid = builds.some(({ touches }) => touches)
  const said = builds.filter(({ touches }) => touches)
  const plain = new Map(builds.map(({ id, position }) => [id, offeredAfter(builds, position)]))
  return (build: number, id: number): Pick<Known, 'laterBuilds' | 'touchedBy'> => {
    const position = positions.get(build) ?? -Infinity
    if (!isSaid) return { laterBuilds: plain.get(build) ?? 0, touchedBy: 0 }
    return { laterBuilds: offeredAfter(builds, position, id), touchedBy: offeredAfter(said, position, id) }
  }
}

type Know = (projectId: number, scope: ComposeQuestion['scope']) => Knowledge

interface ComposedUnits extends Composed {
  readonly looked: number
  readonly of: Units
}

function composedOf(db: Db, know: Know, question: ComposeQuestion): ComposedUnits {
  const { projectId, scope, runs, plan, reasons, words, filter, others, now } = question
  const known = know(projectId, scope)
  const from = JSON.stringify([runs, plan])
  const source = kept(sources, { of: known.facts, key: from, most }, () => sourceOf(db, known, question))
  const of = source(
    known,
    others.map((each) => know(projectId, each)),
  )
  const among =
    filter === null && words.trim() === ''
      ? null
      : kept(fitting, { of: known, key: JSON.stringify([from, words, filter]), most }, () => {
          const asked = caseAskSource(projectId, ownFieldsOf(db, projectId), now)
          const fits = new Set(listIds(db, asked, { text: words, filter }))
          return of.units.flatMap((unit, at) => (fits.has(unit.case) ? [at] : []))
        })
  return { ...compose(of.bits, reasons, among), of, looked: among?.length ?? of.units.length }
}

/** The same for the same units with the same reasons in the same order, and for no others. */
function markOf(places: readonly number[], { cases, environments, bits }: Units): string {
  const told = new Uint32Array(places.length * 3)
  places.forEach((at, n) => told.set([cases[at] ?? 0, environments[at] ?? 0, bits[at] ?? 0], n * 3))
  return createHash('sha1').update(told).digest('hex')
}

export function composePage(
  db: Db,
  know: Know,
  { cursor, limit, ...question }: ComposeQuestion & { readonly cursor: number; readonly limit: number },
): ComposedReply {
  const { at, of, ...told } = composedOf(db, know, question)
  return {
    ...told,
    total: at.length,
    minutes: sumOf(at, (place) => of.minutes[place] ?? 0),
    mark: markOf(at, of),
    rows: unitsAt(of, at.slice(cursor, cursor + limit)),
  }
}

/** A run has at most so many items. */
const mostItems = 20_000

export function composeAll(db: Db, know: Know, question: ComposeQuestion) {
  const { at, of } = composedOf(db, know, question)
  return {
    mark: markOf(at, of),
    total: at.length,
    items: unitsAt(of, at.slice(0, mostItems)).map(({ case: own, environment, reasons }) => ({
      case: own,
      environment,
      reasons: [...reasons],
    })),
  }
}

const unitsAt = ({ units }: Units, places: readonly number[]): ComposedUnit[] => places.flatMap((at) => units[at] ?? [])
