import { groupBy } from '#core/lib/group.ts'
import { once } from '#core/lib/once.ts'
import { type Ask, askWays, type AskWorld, type PlanAsked, slotsAsked, type SlotsAsked } from '#core/plans/asks.ts'
import { notAllowed, pairsNotMet } from '#core/plans/factors.ts'
import { coverage, type CoverageNode, type LeafMemo } from '#core/reports/coverage.ts'
import {
  caseCells,
  type FiguresMemo,
  matrixFigures,
  matrixPlaces,
  passedCells,
  priceOf,
  wants,
} from '#core/reports/matrix.ts'
import { type AnsweredSlot, nodesIfPassed, slotsOf } from '#core/reports/scope-coverage.ts'
import { outlineOrder } from '#core/requirements/outline.ts'
import { notYetTestable } from '#db/cases/testable.ts'
import type { Db } from '#db/open.ts'
import { askedNow, factorsOf, placesOf } from '#db/plans/asked.ts'
import { caseMinutesOf } from '#db/plans/criteria.ts'
import type {
  MatrixQuestion,
  MatrixReply,
  MatrixSlotsQuestion,
  MatrixSlotsReply,
  PlanQuestion,
  PriceQuestion,
  PriceReply,
} from '#server/workers/questions.ts'
import { answering } from './answered.ts'
import type { Knowledge } from './facts-cache.ts'
import { kept } from './kept.ts'

/** A plan with what it asks for. */
interface Asking {
  readonly plan: PlanAsked
  readonly world: AskWorld
  readonly asked: SlotsAsked
  readonly minutesOf: (id: number) => number
  readonly answered: ReturnType<typeof answering>
  /** What each way of asking would cost, by what it is asked of. */
  readonly prices: Map<string, Omit<PriceReply, 'covered'>>
  /** Environments as the columns of the matrix. */
  readonly columns: readonly number[]
  readonly figuresMemo: FiguresMemo
  readonly thenMemo: { readonly nodes: WeakMap<CoverageNode['cases'], CoverageNode>; readonly leaves: LeafMemo }
}
interface Reckoned extends Asking {
  readonly slots: ReadonlyMap<number, readonly AnsweredSlot[]>
  /** Of the matrix, the same for every page of it. */
  readonly figures: () => ReturnType<typeof matrixFigures>
  readonly places: Readonly<Record<MatrixQuestion['by'], () => ReturnType<typeof matrixPlaces>>>
  readonly covered: () => PriceReply['covered']
}

/** What is asked is the same as long as nothing but verdicts changed; what answers it, as long as what is known of the scope. */
const askingOf = new WeakMap<Knowledge['facts'], Map<number, Asking>>()
const reckonedOf = new WeakMap<Knowledge, Map<number, Reckoned>>()

/** What a plan asks for and what answers it. */
export const reckon = (db: Db, known: Knowledge, { projectId, plan: id }: PlanQuestion): Reckoned =>
  kept(reckonedOf, { of: known, key: id }, () => {
    const asking = kept(askingOf, { of: known.facts, key: id }, () => askingAnew(db, known, projectId, id))
    const slots = new Map(asking.answered(known).map((each) => [each.id, each.slots]))
    const placesBy = (by: MatrixQuestion['by']) =>
      once(() => matrixPlaces({ slots, requirements: by === 'cases' ? [] : requirementsOf(known, asking.asked) }, by))
    return {
      ...asking,
      slots,
      figures: once(() => matrixFigures(slots, asking.minutesOf, asking.figuresMemo)),
      places: { cases: placesBy('cases'), requirements: placesBy('requirements') },
      covered: once(() => coveredBy(known, slots, asking.thenMemo)),
    }
  })

/** Without what cannot be tested yet in the scope. */
const testable = (asked: SlotsAsked, { facts }: Knowledge): SlotsAsked => ({
  ...asked,
  sets: new Map([...asked.sets].filter(([id]) => !facts.notYet?.has(id))),
})

function askingAnew(db: Db, known: Knowledge, projectId: number, id: number): Asking {
  const { world, plans } = askedNow(db, projectId, [id])
  const plan = plans.get(id)
  if (!plan) throw new Error(`no plan ${id}`)
  const minutes = new Map(caseMinutesOf(db, projectId))
  const asked = testable(slotsAsked(plan, world), known)
  return {
    plan,
    world,
    asked,
    minutesOf: (own) => minutes.get(own) ?? 0,
    // Whatever other plans of the release ask for beside.
    answered: answering(
      known.facts,
      [...asked.sets].flatMap(([own, sets]) => slotsOf(own, sets, known.facts.anyEnvironment)),
    ),
    prices: new Map(),
    columns: columnsOf(plan, world, asked),
    figuresMemo: new WeakMap(),
    thenMemo: { nodes: new WeakMap(), leaves: new WeakMap() },
  }
}

/** Columns: environments of the plan in their order, then others that something of it is asked in. */
function columnsOf(plan: PlanAsked, world: AskWorld, { sets }: SlotsAsked): number[] {
  const others = new Set([...sets.values()].flatMap((own) => own.flat()))
  const named = plan.environments.filter((id) => world.places.has(id))
  return [...named, ...[...world.places.keys()].filter((id) => others.has(id) && !named.includes(id))]
}

/** Requirements in the order of the outline, each with the plan's cases that prove it. */
function requirementsOf(known: Knowledge, { sets }: SlotsAsked) {
  const links = groupBy(
    known.facts.links.filter((link) => sets.has(link.case)),
    ({ requirement }) => requirement,
  )
  return outlineOrder(known.facts.requirements).map(({ place: { id } }) => ({
    id,
    cases: [...new Set((links.get(id) ?? []).map((link) => link.case))],
  }))
}

export function matrixOf(db: Db, known: Knowledge, question: MatrixQuestion): MatrixReply {
  const own = reckon(db, known, question)
  const { slots, asked, columns } = own
  const places = own.places[question.by]()
  return {
    columns: [...columns],
    figures: own.figures(),
    total: places.length,
    rows: places.slice(question.cursor, question.cursor + question.limit).map((place) =>
      place.kind === 'requirement'
        ? { kind: place.kind, id: place.id, cells: passedCells(place.cases, { slots, columns }) }
        : {
            kind: place.kind,
            id: place.id,
            ways: [...(asked.ways.get(place.id) ?? [])],
            cells: caseCells(slots.get(place.id) ?? [], columns),
          },
    ),
  }
}

/** A run has at most so many items. */
const mostSlots = 20_000

export function matrixSlots(db: Db, known: Knowledge, { find, ...question }: MatrixSlotsQuestion): MatrixSlotsReply {
  const { slots } = reckon(db, known, question)
  const all = [...slots].flatMap(([id, own]) =>
    own.filter((slot) => wants[find](slot)).map(({ environment }) => ({ case: id, environment })),
  )
  return { slots: all.slice(0, mostSlots), total: all.length }
}

/** What each way of asking would cost, for all of the plan or a part of it. */
export function pricesOf(db: Db, known: Knowledge, { about, id, ...question }: PriceQuestion): PriceReply {
  const own = reckon(db, known, question)
  const of = `${about} ${id}`
  const prices = own.prices.get(of) ?? pricesAnew(db, known, { about, id, ...question }, own)
  own.prices.set(of, prices)
  return { ...prices, covered: own.covered() }
}

/** All of it that verdicts do not change. */
function pricesAnew(
  db: Db,
  known: Knowledge,
  { about, id, ...question }: PriceQuestion,
  { plan, world, minutesOf, asked }: Asking,
): Omit<PriceReply, 'covered'> {
  const before = plan.asks.find((ask) => ask.about === about && ask.id === id)
  const rest = plan.asks.filter((ask) => ask !== before)
  const ways = askWays.map((way) => {
    const ask: Ask = { about, id, way, environments: before?.environments ?? null }
    return { way, ...priceOf(testable(slotsAsked({ ...plan, asks: [...rest, ask] }, world), known).sets, minutesOf) }
  })
  const places = placesOf(db, question.projectId)
  const factors = factorsOf(db, question.projectId, places)
  const chosen = places.filter((place) => plan.environments.includes(place.id))
  return {
    now: priceOf(asked.sets, minutesOf),
    ways,
    pairs: pairsNotMet(factors, chosen).map(({ pair, rule }) => ({ pair: [...pair], rule })),
    notAllowed: [...notAllowed(factors, places)],
    notYet: notYetTestable(db, question.projectId, question.scope, [
      ...new Set(plan.suites.flatMap((suite) => suite.cases)),
    ]),
    ...lackingIn(known, plan, asked),
  }
}

const mostLacking = 100

/** Requirements at the ends of the outline, each with the plan's environments in which none of their cases is asked. */
function lackingIn(known: Knowledge, plan: PlanAsked, asked: SlotsAsked): Pick<PriceReply, 'lacking' | 'lackingTotal'> {
  const parents = new Set(known.facts.requirements.map(({ parent }) => parent))
  const lacking = requirementsOf(known, asked).flatMap(({ id, cases }) => {
    if (parents.has(id) || cases.length === 0) return []
    const there = new Set(cases.flatMap((each) => (asked.sets.get(each) ?? []).flat()))
    const environments = plan.environments.filter((each) => !there.has(each))
    return environments.length === 0 ? [] : [{ id, environments }]
  })
  return { lacking: lacking.slice(0, mostLacking), lackingTotal: lacking.length }
}

/** The share of what is asked in the scope that passes now on current results, by risk, and that would if all of the plan passed. */
function coveredBy(
  known: Knowledge,
  slots: Reckoned['slots'],
  { nodes, leaves }: Asking['thenMemo'],
): PriceReply['covered'] {
  const passes = (id: number, at: number) => slots.get(id)?.some(({ environment }) => environment === at) ?? false
  const then = nodesIfPassed(known.nodes, { slots: known.slots, passes, rules: known.scope.rules }, nodes)
  const share = ({ total }: ReturnType<typeof coverage>) => total.figures.passing.byRisk.current
  return { now: share(known.result()), then: share(coverage(then, leaves)) }
}

/** Newcomers of all plans that are spread and were never dealt, in the order they are dealt in. */
export function freshDeals(db: Db, projectId: number, plans: readonly number[]) {
  const { world, plans: asked } = askedNow(db, projectId, plans)
  return [...asked].flatMap(([plan, own]) => {
    if (own.asks.every(({ way }) => way !== 'spread')) return []
    const deals = [...slotsAsked(own, world).fresh].map(([id, environment]) => ({ case: id, environment }))
    return deals.length === 0 ? [] : [{ plan, deals }]
  })
}

/** How the cases of a plan would be dealt if none had been: what moves, and what stands where a case is dealt away from. */
export function dealtAgain(db: Db, known: Knowledge, question: PlanQuestion) {
  const { plan, world } = reckon(db, known, question)
  const fresh = slotsAsked({ ...plan, deals: new Map() }, world).fresh
  const moved = [...fresh].flatMap(([id, to]) => {
    const from = plan.deals.get(id)
    if (from === undefined || from === to) return []
    const standing = (known.standing.get(id) ?? []).filter(({ environmentId }) => environmentId === from).at(-1)
    return [{ case: id, from, to, verdict: standing?.verdict ?? null }]
  })
  return {
    deals: [...fresh].map(([id, environment]) => ({ case: id, environment })),
    moved,
    before: [...plan.deals].map(([id, environment]) => ({ case: id, environment })),
  }
}
