import { daysFor, dust, type Place, type Placing, type Team, type Work } from './levelling.ts'

/** Of so many items every plan is looked at. */
const mostFew = 8
const mostStates = 400_000

interface State {
  readonly done: number
  /** Of each person: when they are free, and what is set up. */
  readonly free: readonly number[]
  readonly set: readonly number[]
  /** When what was placed ends, by item. */
  readonly placed: ReadonlyMap<number, Place>
  readonly since: number
}

/**
 * The most worth of a few items, by looking at all plans: for each day, which sets of items can be done on it (each item as early
 * as those begun before it allow, which loses no plan), then the best way to give the days their sets, fuller days first.
 * `null` where that is too much to look at.
 */
export function levelFew(team: Team, can: readonly boolean[]): Placing | null {
  const work = team.work.filter(({ at }) => can[at])
  if (work.length > mostFew) return null
  const days = Array.from({ length: team.days }, (_, day) => new FewOnDay(team, work, day))
  const all = 1 << work.length
  const worth = Array.from({ length: all }, (_, set) =>
    work.reduce((sum, of, bit) => (set & (1 << bit) ? sum + of.worth : sum), 0),
  )
  // What may be done by the end of a day, with what is done on that day; later days only add to it.
  let reached = new Map<number, readonly number[]>([[0, []]])
  for (const day of days) {
    reached = day.added(reached, all)
    if (day.gaveUp) return null
  }
  let [best, found]: [number, readonly number[]] = [-1, []]
  for (const [set, sets] of reached) if (worth[set]! > best + dust) [best, found] = [worth[set]!, sets]
  const placing: Placing = team.work.map(() => null)
  for (const [at, set] of found.entries())
    for (const [item, place] of days[at]!.planOf(set) ?? []) placing[item] = place
  return placing
}

/** Which sets of a few items can be done on one day. */
class FewOnDay {
  gaveUp = false
  readonly day: number
  readonly #team: Team
  readonly #work: readonly Work[]
  readonly #known = new Map<number, ReadonlyMap<number, Place> | null>()
  #states = 0

  constructor(team: Team, work: readonly Work[], day: number) {
    this.#team = team
    this.#work = work
    this.day = day
  }

  /** What may be done by the end of the day, each with the sets of the days up to it. */
  added(reached: ReadonlyMap<number, readonly number[]>, all: number): Map<number, readonly number[]> {
    const next = new Map(reached)
    for (const [before, sets] of reached) {
      const padded = [...sets, ...Array.from({ length: this.day - sets.length }, () => 0)]
      for (let set = all - 1; set > 0; set--)
        if (!(set & before) && !next.has(set | before) && this.#allows(set, before))
          next.set(set | before, [...padded, set])
    }
    return next
  }

  /** Whether a set can be done on the day when what stands in `before` was done on days before. */
  #allows(set: number, before: number): boolean {
    for (const [bit, { after }] of this.#work.entries())
      if (set & (1 << bit) && after.some((at) => !((set | before) & this.#bitOf(at)))) return false
    return this.planOf(set) !== null
  }

  #bitOf(at: number): number {
    const bit = this.#work.findIndex((work) => work.at === at)
    return bit < 0 ? 0 : 1 << bit
  }

  /** When each of a set is done on the day; `null` where it cannot be. */
  planOf(set: number): ReadonlyMap<number, Place> | null {
    const known = this.#known.get(set)
    if (known !== undefined) return known
    let plan: ReadonlyMap<number, Place> | null = null
    // What is too much without one of its items is too much with it.
    const parts = this.#work.flatMap((_, bit) => (set & (1 << bit) ? [set & ~(1 << bit)] : []))
    if (set !== 0 && parts.some((part) => part !== 0 && this.planOf(part) === null)) plan = null
    else plan = this.#search(set)
    this.#known.set(set, plan)
    return plan
  }

  #search(set: number): ReadonlyMap<number, Place> | null {
    const seen = new Set<string>()
    const people = this.#team.from.map((of) => of[this.day]!)
    const walk = (state: State): ReadonlyMap<number, Place> | null => {
      if (state.done === set) return state.placed
      if (++this.#states > mostStates) this.gaveUp = true
      if (this.gaveUp) return null
      const name = nameOf(state)
      if (seen.has(name)) return null
      seen.add(name)
      for (const [bit, work] of this.#work.entries()) {
        if (!(set & (1 << bit)) || state.done & (1 << bit)) continue
        for (const person of work.people) {
          const next = this.#with(state, { bit, work, person, set })
          const found = next && walk(next)
          if (found) return found
        }
      }
      return null
    }
    const set0 = this.#team.set.map((of) => of[this.day]!)
    return walk({ done: 0, free: people, set: set0, placed: new Map(), since: 0 })
  }

  /** The state once somebody has begun an item as early as they can, and not before what was begun last. */
  #with(
    state: State,
    { bit, work, person, set }: { bit: number; work: Work; person: number; set: number },
  ): State | null {
    const [first, last] = daysFor(work)
    if (this.day < first || this.day > last) return null
    let start = Math.max(state.since, state.free[person]! + this.#change(state.set[person]!, work.environment))
    if (work.since?.day === this.day) start = Math.max(start, work.since.minute)
    for (const at of work.after) {
      if (!(set & this.#bitOf(at))) continue
      const before = state.placed.get(at)
      if (!before) return null
      start = Math.max(start, before.start + this.#team.work[at]!.minutes)
    }
    start = this.#seatFrom(state, work, start)
    if (start + work.minutes > this.#team.minutes[person]![this.day]! + dust) return null
    return {
      done: state.done | (1 << bit),
      free: state.free.map((time, index) => (index === person ? start + work.minutes : time)),
      set: state.set.map((own, index) => (index === person && work.environment >= 0 ? work.environment : own)),
      placed: new Map([...state.placed, [work.at, { person, day: this.day, start }]]),
      since: start,
    }
  }

  #change = (set: number, environment: number): number =>
    environment < 0 || set < 0 || set === environment ? 0 : this.#team.switch

  /** The first instant at which a seat is free: all others began earlier, so that it stays free. */
  #seatFrom({ placed }: State, work: Work, from: number): number {
    const seats = work.environment < 0 ? Infinity : this.#team.seats[work.environment]!
    const ends = [...placed]
      .filter(([at]) => this.#team.work[at]!.environment === work.environment)
      .map(([at, { start }]) => start + this.#team.work[at]!.minutes)
      .sort((a, b) => a - b)
    return ends.filter((end) => end > from + dust).length < seats
      ? from
      : Math.max(from, ends[ends.length - seats] ?? from)
  }
}

/** What may still come depends on no more than this. */
const nameOf = ({ done, free, set, placed, since }: State): string =>
  [
    done,
    since,
    free.join(),
    set.join(),
    [...placed]
      .map(([at, { start }]) => `${at}@${start}`)
      .sort()
      .join(),
  ].join('|')
