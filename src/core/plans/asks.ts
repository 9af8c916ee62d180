import { leastCover } from '#core/lib/set-cover.ts'
import { groupBy } from '#core/lib/group.ts'

// Which environments a plan asks for: slots of cases.

export const askWays = ['all', 'any', 'pairs', 'spread'] as const
/**
 * `all`: every environment; `any`: one, whichever; `pairs`: the least set in which every pair of factor values occurs that occurs
 * in any of them; `spread`: each case once, dealt over them.
 */
export type AskWay = (typeof askWays)[number]
export const askAbouts = ['plan', 'suite', 'requirement', 'case'] as const

/** What is asked for a case, for the cases of a branch or of a suite, or for all of the plan. */
export interface Ask {
  readonly about: (typeof askAbouts)[number]
  /** Of the case, requirement or suite; 0 for the plan. */
  readonly id: number
  readonly way: AskWay
  /** `null`: those of the plan. */
  readonly environments: readonly number[] | null
}

/** An environment by the values it stands for. */
export interface Place {
  readonly id: number
  readonly values: Readonly<Record<string, string>>
}

/** Values and pairs of values that occur together in an environment. */
function pairsIn({ values }: Place): string[] {
  const all = Object.entries(values)
    .map(([factor, value]) => JSON.stringify([factor, value]))
    .sort()
  return [...all, ...all.flatMap((one, at) => all.slice(at + 1).map((other) => `${one}${other}`))]
}

/** The least set of environments in which every pair of factor values occurs that occurs in any of them, in their order. */
export function leastForPairs(places: readonly Place[]): number[] {
  const holds = places.map((place) => new Set(pairsIn(place)))
  if (holds.every(({ size }) => size === 0)) return places.slice(0, 1).map(({ id }) => id)
  return leastCover(holds).flatMap((at) => places[at]?.id ?? [])
}

/** A case with the requirements it proves. */
export interface Dealt {
  readonly id: number
  readonly requirements: readonly number[]
}

/**
 * Deals each case to one environment. A newcomer goes where its requirements have fewest; then to one of the least set for pairs;
 * then where fewest are in all. So the first cases of a requirement meet every pair, and its environments differ by at most one
 * as long as no other requirement shares its cases.
 * @param before case → environment dealt already: it stays
 * @returns environments of the cases that are not in `before`
 */
export function spread(
  places: readonly Place[],
  cases: readonly Dealt[],
  before: ReadonlyMap<number, number>,
): Map<number, number> {
  const least = new Set(leastForPairs(places))
  const index = new Map(places.map(({ id }, at) => [id, at]))
  const counts = new Map<number, number[]>()
  const total = places.map(() => 0)
  const countsOf = (requirement: number): number[] => {
    const own = counts.get(requirement) ?? places.map(() => 0)
    counts.set(requirement, own)
    return own
  }
  const ofNone = [0]
  const put = ({ requirements }: Dealt, at: number): void => {
    total[at] = (total[at] ?? 0) + 1
    for (const requirement of requirements.length > 0 ? requirements : ofNone) {
      const own = countsOf(requirement)
      own[at] = (own[at] ?? 0) + 1
    }
  }
  const dealt = new Map<number, number>()
  for (const each of cases) {
    const at = index.get(before.get(each.id) ?? 0)
    if (at !== undefined) put(each, at)
  }
  for (const each of cases) {
    if (index.has(before.get(each.id) ?? 0) || dealt.has(each.id)) continue
    const own = (each.requirements.length > 0 ? each.requirements : ofNone).map(countsOf)
    const ranked = places.map(({ id }, at) => [
      own.reduce((sum, count) => sum + (count[at] ?? 0), 0),
      least.has(id) ? 0 : 1,
      total[at] ?? 0,
    ])
    const at = ranked.reduce((best, rank, place) => (isLess(rank, ranked[best] ?? []) ? place : best), 0)
    const place = places[at]
    if (!place) continue
    put(each, at)
    dealt.set(each.id, place.id)
  }
  return dealt
}

function isLess(a: readonly number[], b: readonly number[]): boolean {
  const at = a.findIndex((part, index) => part !== b[index])
  return at >= 0 && (a[at] ?? 0) < (b[at] ?? 0)
}

/** A plan as far as it asks for slots. */
export interface PlanAsked {
  readonly suites: readonly { readonly id: number; readonly cases: readonly number[] }[]
  /** Those it names, without those that are not allowed. */
  readonly environments: readonly number[]
  readonly asks: readonly Ask[]
  /** Case → environment, as it was dealt. */
  readonly deals: ReadonlyMap<number, number>
  /** What it asked for when it was frozen, and asks for whatever became of its suites since. */
  readonly frozen?: ReadonlyMap<number, readonly SlotSet[]>
}

/** What asks are read with. */
export interface AskWorld {
  readonly places: ReadonlyMap<number, Place>
  readonly requirementsOf: (caseId: number) => readonly number[]
  readonly parentOf: (requirement: number) => number | null
}

/** Sets of environments, any of which answers a slot; an empty one is answered by any environment there is. */
export type SlotSet = readonly number[]

export interface SlotsAsked {
  readonly sets: ReadonlyMap<number, readonly SlotSet[]>
  /** Cases that are dealt for the first time. */
  readonly fresh: ReadonlyMap<number, number>
  /** How each case is asked for: the ways of the suites that hold it, or what a case or branch says. */
  readonly ways: ReadonlyMap<number, readonly AskWay[]>
}

/** What a plan asks for, case by case: what is said of a case goes before what is said of its branch, of its suite and of all. */
export function slotsAsked(plan: PlanAsked, world: AskWorld): SlotsAsked {
  if (plan.frozen) return { sets: plan.frozen, fresh: new Map(), ways: new Map() }
  const saysOf = saying(plan, world)
  const asked = new Map<number, Ask[]>()
  const held = plan.suites.flatMap(({ id: suite, cases }) => cases.map((id) => ({ id, suite })))
  for (const { id, suite } of held) {
    const own = asked.get(id) ?? []
    asked.set(id, own)
    own.push(...saysOf(id, suite).filter((ask) => !own.includes(ask)))
  }
  const { dealtTo, fresh } = dealing(plan, world, asked)
  const sets = new Map<number, SlotSet[]>()
  const memo = new Map<Ask, SlotSet[]>()
  for (const [id, asks] of asked)
    sets.set(
      id,
      reduced(
        asks.flatMap((ask) => {
          if (ask.way === 'spread') return [dealtTo(id, ask)]
          const made = memo.get(ask) ?? setsOf(ask, plan, world)
          memo.set(ask, made)
          return made
        }),
      ),
    )
  return { sets, fresh, ways: new Map([...asked].map(([id, asks]) => [id, [...new Set(asks.map(({ way }) => way))]])) }
}

const usual: Ask = { about: 'plan', id: 0, way: 'all', environments: null }

/** What holds for a case in a suite. */
function saying({ asks }: PlanAsked, world: AskWorld): (id: number, suite: number) => readonly Ask[] {
  const by = (about: Ask['about']) => new Map(asks.filter((ask) => ask.about === about).map((ask) => [ask.id, ask]))
  const [ofCase, ofBranch, ofSuite] = [by('case'), by('requirement'), by('suite')]
  const ofPlan = by('plan').get(0) ?? usual
  const nearest = (requirement: number): Ask | null => {
    const seen = new Set<number>()
    for (let at: number | null = requirement; at !== null && !seen.has(at); at = world.parentOf(at)) {
      const ask = ofBranch.get(at)
      if (ask) return ask
      seen.add(at)
    }
    return null
  }
  return (id, suite) => {
    const own = ofCase.get(id)
    if (own) return [own]
    const branches = ofBranch.size === 0 ? [] : world.requirementsOf(id).flatMap((each) => nearest(each) ?? [])
    return branches.length > 0 ? branches : [ofSuite.get(suite) ?? ofPlan]
  }
}

const placesOf = ({ environments }: Ask, plan: PlanAsked, { places }: AskWorld): Place[] =>
  (environments ?? plan.environments).flatMap((id) => places.get(id) ?? [])

function setsOf(ask: Ask, plan: PlanAsked, world: AskWorld): SlotSet[] {
  const own = placesOf(ask, plan, world)
  if (own.length === 0) return [[]]
  const ids = own.map(({ id }) => id).sort((a, b) => a - b)
  if (ask.way === 'any') return [ids]
  return (ask.way === 'pairs' ? leastForPairs(own) : ids).map((id) => [id])
}

/** Where the cases are dealt that are spread. */
function dealing(plan: PlanAsked, world: AskWorld, asked: ReadonlyMap<number, readonly Ask[]>) {
  const fresh = new Map<number, number>()
  const known = new Map(plan.deals)
  const spreads = [...asked].flatMap(([id, asks]) =>
    asks.flatMap((ask) => (ask.way === 'spread' ? [{ id, places: placesOf(ask, plan, world) }] : [])),
  )
  for (const group of groupBy(spreads, ({ places }) => places.map(({ id }) => id).join()).values()) {
    const places = group[0]?.places ?? []
    const cases = group.map(({ id }) => ({ id, requirements: world.requirementsOf(id) }))
    for (const [id, environment] of spread(places, cases, known)) {
      fresh.set(id, environment)
      known.set(id, environment)
    }
  }
  const dealtTo = (id: number, ask: Ask): SlotSet => {
    const at = known.get(id)
    return at !== undefined && placesOf(ask, plan, world).some((place) => place.id === at) ? [at] : []
  }
  return { dealtTo, fresh }
}

/** A set that contains another falls away: what answers the smaller one answers it too. */
export function reduced(sets: readonly SlotSet[]): SlotSet[] {
  if (sets.length < 2) return [...sets]
  const distinct = [...new Map(sets.map((set) => [set.join(), set])).values()]
  const singles = new Set(distinct.flatMap((set) => (set.length === 1 ? set : [])))
  const isAnswered = (set: SlotSet) =>
    set.length === 0
      ? distinct.length > 1
      : set.length > 1 &&
        (set.some((id) => singles.has(id)) ||
          distinct.some((other) => other !== set && other.length > 0 && other.every((id) => set.includes(id))))
  return distinct.filter((set) => !isAnswered(set))
}
