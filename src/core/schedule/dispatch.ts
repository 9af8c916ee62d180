import type { Relaxed } from './level-bound.ts'
import { daysFor, density, dust, isScarce, type Placing, type Team, type Work } from './levelling.ts'

/** Items that are alike to whoever looks for the next: the same people, environment, days. */
interface Pile {
  readonly people: ReadonlySet<number>
  readonly environment: number
  readonly due: number
  readonly day: number | null
  readonly leads: boolean
  readonly kind: number
  /** Whether the relaxed plan holds them whole. */
  readonly wanted: boolean
  /** By minutes, the shortest first; what is not wanted, by worth a minute, the least first. */
  readonly work: Work[]
}
/** So many of what is not wanted are looked at for one that fits. */
const mostLooks = 60

interface Interval {
  readonly start: number
  readonly end: number
}
interface Hand {
  readonly person: number
  time: number
  environment: number
}

/**
 * Places items day by day and minute by minute: whoever is free first takes the next of what they may do, wanted items first,
 * then what is due, what others wait for, and what needs no change of environment (list scheduling by priority; R. L. Graham,
 * SIAM Journal on Applied Mathematics 17, 1969). What the relaxed plan gives each person of each kind keeps the rare skills free
 * for what needs them. A seat is taken from start to end of an item, and an item starts when those before it have ended.
 */
export function dispatch(team: Team, can: readonly boolean[], relaxed: Relaxed): Placing {
  const run = new Dispatch(team, can, relaxed)
  for (let day = 0; day < team.days; day++) run.day(day)
  return run.placing
}

class Dispatch {
  readonly placing: Placing
  readonly #team: Team
  readonly #piles = new Map<string, Pile>()
  readonly #relaxed: Relaxed
  readonly #left: number[][]
  /** Before how many an item still has to wait. */
  readonly #open: number[]
  readonly #can: readonly boolean[]
  #taken: Interval[][] = []
  /** Items that can begin at an instant of the day, and those on whose day what is held before them has not ended yet. */
  #coming: { at: number; work: Work }[] = []
  #later: Work[] = []

  constructor(team: Team, can: readonly boolean[], relaxed: Relaxed) {
    this.#team = team
    this.#can = can
    this.#relaxed = relaxed
    this.#left = relaxed.minutes.map((of) => [...of])
    this.placing = team.work.map(() => null)
    this.#open = team.work.map(({ after }) => after.length)
    this.#later = team.work.filter((work) => can[work.at] && work.after.length === 0)
  }

  day(day: number): void {
    const { seats, seated, minutes, from, set } = this.#team
    this.#taken = seats.map((_, environment) => seated[day]!.filter((each) => each.environment === environment))
    const waiting = [...this.#coming.splice(0).map(({ work }) => work), ...this.#later.splice(0)]
    for (const work of waiting) this.#await(work, day, 0)
    const hands = minutes.flatMap((of, person): Hand[] =>
      of[day]! > from[person]![day]! ? [{ person, time: from[person]![day]!, environment: set[person]![day]! }] : [],
    )
    while (hands.length > 0) {
      const hand = hands.reduce((first, each) => (each.time < first.time - dust ? each : first))
      this.#release(hand.time)
      if (this.#next(hand, day)) continue
      const later = this.#nextChange(hand.time)
      if (later < this.#team.minutes[hand.person]![day]!) hand.time = later
      else hands.splice(hands.indexOf(hand), 1)
    }
  }

  /** An item before which all that is levelled has ended, at a minute of the day. */
  #await(work: Work, day: number, minute: number): void {
    const { since } = work
    if (since && since.day > day) this.#later.push(work)
    else {
      const at = since?.day === day ? Math.max(since.minute, minute) : minute
      if (at > 0) this.#coming.push({ at, work })
      else this.#offer(work)
    }
  }

  /** Puts an item among those to choose from. */
  #offer(work: Work): void {
    const wanted = this.#relaxed.gain[work.at]! > 0
    const kind = this.#relaxed.kind[work.at]!
    const leads = work.before.some((at) => this.#can[at])
    const name = [kind, work.environment, work.day, leads, wanted, work.people.join()].join(':')
    const pile = this.#piles.get(name) ?? {
      people: new Set(work.people),
      environment: work.environment,
      due: daysFor(work)[1],
      day: work.day,
      leads,
      kind,
      wanted,
      work: [],
    }
    this.#piles.set(name, pile)
    const rank = (each: Work) => (wanted ? each.minutes : density(each))
    pile.work.splice(placeFor(pile.work, rank(work), rank), 0, work)
  }

  #release(now: number): void {
    if (this.#coming.length === 0) return
    const ready = this.#coming.filter(({ at }) => at <= now + dust)
    if (ready.length === 0) return
    this.#coming = this.#coming.filter(({ at }) => at > now + dust)
    for (const { work } of ready) this.#offer(work)
  }

  /** When a seat becomes free or something may begin, after an instant. */
  #nextChange(now: number): number {
    let next = Infinity
    for (const { at } of this.#coming) if (at > now + dust) next = Math.min(next, at)
    const seated = this.#taken.filter((_, environment) => isScarce(this.#team, environment)).flat()
    for (const { end } of seated) if (end > now + dust) next = Math.min(next, end)
    return next
  }

  /** Gives somebody who is free their next item; `false` where there is none now. */
  #next(hand: Hand, day: number): boolean {
    const until = this.#team.minutes[hand.person]![day]!
    let best: { pile: Pile; index: number; start: number } | null = null
    let most = -Infinity
    const free = new Map<number, number>()
    for (const pile of this.#piles.values()) {
      if (pile.work.length === 0 || pile.due < day || !pile.people.has(hand.person)) continue
      if (pile.day !== null && pile.day !== day) continue
      const start = hand.time + this.#change(hand, pile.environment)
      const seated = free.get(pile.environment) ?? this.#freeFor(pile.environment, start)
      free.set(pile.environment, seated)
      const index = this.#fitting(pile, Math.min(until - start, seated))
      if (index < 0) continue
      const score =
        this.#score(pile, hand, day) + (pile.wanted ? pile.work[index]!.minutes : 50 * density(pile.work[index]!)) / 1e3
      if (score <= most) continue
      most = score
      best = { pile, index, start }
    }
    if (!best) return false
    this.#take(best.pile, best.index, { hand, day, start: best.start })
    return true
  }

  #change = (hand: Hand, environment: number): number =>
    environment < 0 || hand.environment < 0 || hand.environment === environment ? 0 : this.#team.switch

  /** Which of a pile would be taken: of the wanted the longest that fits, of the others the best for a minute. */
  #fitting({ work, wanted }: Pile, room: number): number {
    if (wanted) return placeFor(work, room + dust, ({ minutes }) => minutes) - 1
    const last = Math.max(0, work.length - mostLooks)
    for (let index = work.length - 1; index >= last; index--) if (work[index]!.minutes <= room + dust) return index
    return -1
  }

  /** For how long from an instant on a seat is free. */
  #freeFor(environment: number, start: number): number {
    if (!isScarce(this.#team, environment)) return Infinity
    const seats = this.#team.seats[environment]!
    const over = this.#taken[environment]!.filter(({ end }) => end > start + dust)
    if (over.length < seats) return Infinity
    const isFull = (at: number) =>
      over.filter((each) => each.start <= at + dust && each.end > at + dust).length >= seats
    if (isFull(start)) return -1
    const later = over.map((each) => each.start).filter((at) => at > start && isFull(at))
    return Math.min(...later) - start
  }

  #score({ wanted, day: only, due, leads, environment, kind, people }: Pile, hand: Hand, day: number): number {
    const own = environment < 0 || hand.environment === environment
    return (
      (only === day ? 16_000 : 0) +
      (wanted ? 8000 : 0) +
      (due === day ? 4000 : 0) +
      (leads ? 2000 : 0) +
      (own ? 1000 : 0) +
      (this.#left[kind]![hand.person]! > 0 ? 500 : 0) +
      // A seat that is free now may not be later.
      (isScarce(this.#team, environment) ? 200 : 0) +
      5 * (this.#team.days - due) -
      people.size
    )
  }

  #take(pile: Pile, index: number, { hand, day, start }: { hand: Hand; day: number; start: number }): void {
    const [work] = pile.work.splice(index, 1)
    if (!work) return
    const end = start + work.minutes
    this.placing[work.at] = { person: hand.person, day, start }
    this.#left[pile.kind]![hand.person]! -= work.minutes
    if (work.environment >= 0) {
      this.#taken[work.environment]!.push({ start, end })
      hand.environment = work.environment
    }
    hand.time = end
    for (const at of work.before)
      if (--this.#open[at]! === 0 && this.#can[at]) this.#await(this.#team.work[at]!, day, end)
  }
}

/** How many of a list, ordered by a rank, come before one of such a rank or are equal to it. */
function placeFor(list: readonly Work[], rank: number, of: (work: Work) => number): number {
  let [low, high] = [0, list.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (of(list[middle]!) <= rank) low = middle + 1
    else high = middle
  }
  return low
}
