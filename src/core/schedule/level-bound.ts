import type { LinearRow, SolveLinear } from '#core/lib/linear.ts'
import { daysFor, density, isScarce, roomOn, type Team, type Work } from './levelling.ts'

/** Items that the same people may do by the same day. */
interface Kind {
  readonly people: readonly number[]
  readonly due: number
  readonly work: Work[]
}
/** Items of one kind that the program takes together: their worth for a minute is nearly the same. */
interface Lot {
  readonly kind: number
  readonly work: readonly Work[]
}

export interface Relaxed {
  /** No valid plan is worth more. */
  readonly bound: number
  /** What an item is worth beyond what its minutes, its seat and its place in an order are worth to others. */
  readonly gain: readonly number[]
  /** Of each item the kind it is of; −1 of what cannot be done. */
  readonly kind: readonly number[]
  /** Minutes each person gives to each kind: `minutes[kind][person]`. */
  readonly minutes: readonly (readonly number[])[]
}

/** Of so many lots, about, the program speaks: more would be hardly nearer. */
const lots = 500

/**
 * The most worth there can be, from a relaxation: items may be cut into pieces and a person may go from one to another at no
 * cost, but nobody works longer than they have up to any day (due days are nested windows, so that cumulative sums say all),
 * an environment with few seats is not used longer than they are there, and no more of an item is done than of what goes before.
 * Minutes flow from kinds of items to people, not from each item to each day. The solver finds what an hour of each person and
 * day is worth, from lots of items; the bound is what each single item is worth at these prices, and holds at any prices
 * (Lagrangian relaxation; A. M. Geoffrion, Mathematical Programming Study 2, 1974), however exactly they were found.
 */
export function relax(team: Team, can: readonly boolean[], solve: SolveLinear | null): Relaxed {
  const kinds = kindsOf(team, can)
  const kind = team.work.map(() => -1)
  kinds.forEach(({ work }, index) => work.forEach(({ at }) => (kind[at] = index)))
  const total = team.work.reduce((sum, { at, worth }) => (can[at] ? sum + worth : sum), 0)
  const asked = new Asked(team, can, kinds)
  const found = total > 0 && solve ? solve(asked) : null
  if (!found)
    return {
      bound: total,
      gain: team.work.map(({ worth }) => worth),
      kind,
      minutes: kinds.map(() => team.minutes.map(() => Infinity)),
    }
  const { gain, paid } = asked.at(found.prices, kind)
  const bound = paid + gain.reduce((sum, each, at) => (can[at] ? sum + Math.max(0, each) : sum), 0)
  return { bound: Math.min(total, bound * (1 + 1e-12)), gain, kind, minutes: asked.minutesIn(found.of) }
}

function kindsOf(team: Team, can: readonly boolean[]): Kind[] {
  const kinds = new Map<string, Kind>()
  for (const work of team.work) {
    if (!can[work.at]) continue
    const due = daysFor(work)[1]
    const name = `${due}:${work.people.join()}`
    const kind = kinds.get(name) ?? { people: work.people, due, work: [] }
    if (kind.work.length === 0) kinds.set(name, kind)
    kind.work.push(work)
  }
  return [...kinds.values()]
}

/** What stands on one side of a row: a person up to a day, seats up to a day, or what goes before an item. */
type Limit =
  | { readonly of: 'person'; readonly person: number; readonly day: number }
  | { readonly of: 'seats'; readonly environment: number; readonly day: number }
  | { readonly of: 'order'; readonly item: number; readonly before: number }

/** The linear program: columns are the share of each lot, then the minutes of each kind with each of its people. */
class Asked {
  readonly worth: number[] = []
  readonly upTo: number[] = []
  readonly rows: LinearRow[] = []
  readonly #limits: (Limit | null)[] = []
  readonly #flows: { kind: number; person: number; column: number }[] = []
  readonly #team: Team
  readonly #can: readonly boolean[]
  readonly #kinds: readonly Kind[]
  readonly #lots: readonly Lot[]

  constructor(team: Team, can: readonly boolean[], kinds: readonly Kind[]) {
    this.#team = team
    this.#can = can
    this.#kinds = kinds
    this.#lots = lotsOf(team, can, kinds)
    for (const { work } of this.#lots)
      this.#column(
        work.reduce((sum, { worth }) => sum + worth, 0),
        1,
      )
    this.#flow()
    this.#people()
    this.#seats()
    this.#order()
  }

  #column(worth: number, upTo: number): number {
    this.upTo.push(upTo)
    return this.worth.push(worth) - 1
  }

  #row(of: readonly (readonly [column: number, coefficient: number])[], most: number, limit: Limit | null): void {
    if (of.length === 0) return
    this.#limits.push(limit)
    this.rows.push({
      columns: of.map(([column]) => column),
      coefficients: of.map(([, coefficient]) => coefficient),
      most,
    })
  }

  /** What is done of a kind is done by somebody. */
  #flow(): void {
    const own = this.#kinds.map((): [number, number][] => [])
    this.#lots.forEach(({ kind, work }, column) => own[kind]!.push([column, minutesOf(work)]))
    this.#kinds.forEach(({ people }, kind) => {
      for (const person of people) {
        const column = this.#column(0, Infinity)
        this.#flows.push({ kind, person, column })
        own[kind]!.push([column, -1])
      }
      this.#row(own[kind]!, 0, null)
    })
  }

  #people(): void {
    for (const person of this.#team.minutes.keys()) {
      const flows = this.#flows.filter((flow) => flow.person === person)
      let [most, before] = [0, 0]
      for (let day = 0; day < this.#team.days; day++) {
        most += roomOn(this.#team, person, day)
        const own = flows.filter(({ kind }) => this.#kinds[kind]!.due <= day)
        // Where nothing is due on a day, the next that has something says it as well.
        if (own.length > before)
          this.#row(
            own.map(({ column }) => [column, 1]),
            most,
            { of: 'person', person, day },
          )
        before = own.length
      }
    }
  }

  /** Nobody sits longer at an environment than its seats are there while somebody could be. */
  #seats(): void {
    const { days, minutes, seats } = this.#team
    const longest = Array.from({ length: days }, (_, day) => Math.max(0, ...minutes.map((of) => of[day]!)))
    for (const [environment, of] of seats.entries()) {
      if (!isScarce(this.#team, environment)) continue
      const own = this.#lots.flatMap(({ kind, work }, column) =>
        work[0]?.environment === environment ? [{ column, work, due: this.#kinds[kind]!.due }] : [],
      )
      for (const day of new Set(own.map(({ due }) => due)))
        this.#row(
          own.filter(({ due }) => due <= day).map(({ column, work }) => [column, minutesOf(work)]),
          of * longest.slice(0, day + 1).reduce((sum, each) => sum + each, 0),
          { of: 'seats', environment, day },
        )
    }
  }

  #order(): void {
    const column = new Map(
      this.#lots.flatMap(({ work }, at) => (work.length === 1 ? [[work[0]!.at, at] as const] : [])),
    )
    for (const { at, after } of this.#team.work) {
      if (!this.#can[at]) continue
      for (const before of after)
        this.#row(
          [
            [column.get(at)!, 1],
            [column.get(before)!, -1],
          ],
          0,
          { of: 'order', item: at, before },
        )
    }
  }

  /** What the items gain at some prices, and what is paid for all there is. */
  at(prices: readonly number[], kind: readonly number[]): { readonly gain: number[]; readonly paid: number } {
    const { work, minutes, seats } = this.#team
    const gain = work.map(({ worth }) => worth)
    const hour = minutes.map((of) => of.map(() => 0))
    const seat = seats.map(() => minutes[0]?.map(() => 0) ?? [])
    let paid = 0
    for (const [row, limit] of this.#limits.entries()) {
      const price = prices[row]!
      if (!limit || price === 0) continue
      paid += price * this.rows[row]!.most
      if (limit.of === 'order') {
        gain[limit.item]! -= price
        gain[limit.before]! += price
      } else {
        // What is due by an earlier day takes of this as well.
        const of = limit.of === 'person' ? hour[limit.person]! : seat[limit.environment]!
        for (let day = 0; day <= limit.day; day++) of[day]! += price
      }
    }
    const least = this.#kinds.map(({ people, due }) => Math.min(...people.map((person) => hour[person]![due]!)))
    for (const { at, environment, minutes: own } of work)
      if (kind[at]! >= 0)
        gain[at]! -=
          own * (least[kind[at]!]! + (environment < 0 ? 0 : (seat[environment]![this.#kinds[kind[at]!]!.due] ?? 0)))
    return { gain, paid }
  }

  minutesIn(of: readonly number[]): number[][] {
    const minutes = this.#kinds.map(() => this.#team.minutes.map(() => 0))
    for (const { kind, person, column } of this.#flows) minutes[kind]![person] = of[column]!
    return minutes
  }
}

const minutesOf = (work: readonly Work[]): number => work.reduce((sum, { minutes }) => sum + minutes, 0)

/** What has an order is a lot of its own; the rest are put together while they take less than a part of the whole. */
function lotsOf(team: Team, can: readonly boolean[], kinds: readonly Kind[]): Lot[] {
  const most = minutesOf(team.work) / lots
  return kinds.flatMap(({ work }, kind) => {
    const own: Work[][] = []
    const scarce = (of: Work): number => (isScarce(team, of.environment) ? of.environment : -1)
    const inOrder = [...work].sort((a, b) => scarce(a) - scarce(b) || density(b) - density(a) || a.at - b.at)
    let open: Work[] | null = null
    for (const each of inOrder) {
      const alone = each.after.length > 0 || each.before.some((at) => can[at])
      if (!alone && open && scarce(open[0]!) === scarce(each) && minutesOf(open) + each.minutes <= most) open.push(each)
      else {
        const lot = [each]
        own.push(lot)
        if (!alone) open = lot
      }
    }
    return own.map((of) => ({ kind, work: of }))
  })
}
