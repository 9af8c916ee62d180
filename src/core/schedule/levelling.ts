// What a team could do on which days, with names replaced by places in lists: the form the levelling works on.

interface LevelPerson {
  readonly name: string
  /** Of each day, from minute 0 on. */
  readonly minutes: readonly number[]
  readonly skills: readonly string[]
}
export interface LevelItem {
  readonly key: string
  readonly minutes: number
  readonly worth: number
  /** All of them are needed. */
  readonly skills: readonly string[]
  readonly environment?: string | undefined
  /** Starts when these have ended, and is cut with them. */
  readonly after: readonly string[]
  /** Ends by that day, else it is cut. */
  readonly due?: string | undefined
  readonly pin?: { readonly name: string; readonly day?: string | undefined } | undefined
}
/** What stands at the beginning of somebody's day and is not levelled: it takes their minutes, and its seat, and items may be `after` it. */
interface Held {
  readonly key?: string
  readonly person: string
  readonly day: string
  readonly start: number
  readonly minutes: number
  readonly environment?: string | undefined
}
export interface Levelling {
  /** Plain dates in their order. */
  readonly days: readonly string[]
  readonly people: readonly LevelPerson[]
  readonly items: readonly LevelItem[]
  /** At most so many use an environment at one minute; one that is not named has no limit. */
  readonly seats: Readonly<Record<string, number>>
  /** Minutes it takes when a person's environment changes within a day; the first of a day takes none. */
  readonly switch: number
  /** In the order of their starts on each person's day. */
  readonly held?: readonly Held[]
}

/** An item among others: all that is named is a place in a list. */
export interface Work {
  readonly at: number
  readonly minutes: number
  readonly worth: number
  /** −1: it needs none, and leaves what is set up. */
  readonly environment: number
  /** Who may do it, by skills and pin. */
  readonly people: readonly number[]
  /** The last day on which it may be done; −1: none. */
  readonly due: number
  /** The only day on which it may be done. */
  readonly day: number | null
  readonly after: readonly number[]
  readonly before: readonly number[]
  /** When what is held before it has ended; `null` where nothing is. */
  readonly since: Since | null
}
/** A minute of a day. */
interface Since {
  readonly day: number
  readonly minute: number
}
export interface Team {
  readonly days: number
  /** Minutes of each person on each day, until when it goes. */
  readonly minutes: readonly (readonly number[])[]
  /** From which minute of it on they are free, and what is set up then (−1: nothing). */
  readonly from: readonly (readonly number[])[]
  readonly set: readonly (readonly number[])[]
  /** Of each day: when seats are taken by what is held. */
  readonly seated: readonly (readonly {
    readonly environment: number
    readonly start: number
    readonly end: number
  }[])[]
  readonly work: readonly Work[]
  /** Seats of each environment. */
  readonly seats: readonly number[]
  readonly switch: number
}

/** Where an item is placed. */
export interface Place {
  readonly person: number
  readonly day: number
  readonly start: number
}
/** Of each item its place, or `null` where it is cut. */
export type Placing = (Place | null)[]

/** So much is rounding. */
export const dust = 1e-6

/** The same, in places. Names in `after` and `pin` are known and `after` goes in no circle. */
export function teamOf({ days, people, items, seats, switch: change, held = [] }: Levelling): Team {
  const environments = [...new Set([...items, ...held].flatMap(({ environment }) => environment ?? []))]
  const own = (person: LevelPerson, day: string) =>
    held.filter((each) => each.person === person.name && each.day === day)
  const setBy = ({ environment }: Pick<Held, 'environment'>) =>
    environment === undefined ? -1 : environments.indexOf(environment)
  const places = new Map(items.map(({ key }, at) => [key, at]))
  const after = items.map((item) => item.after.flatMap((key) => places.get(key) ?? []))
  const before = items.map((): number[] => [])
  after.forEach((keys, at) => keys.forEach((key) => before[key]!.push(at)))
  const ends = new Map(
    held.flatMap(({ key, day, start, minutes }) =>
      key === undefined ? [] : [[key, { day: days.indexOf(day), minute: start + minutes }]],
    ),
  )
  return {
    days: days.length,
    minutes: people.map((person) => person.minutes),
    from: people.map((person) =>
      days.map((day) => Math.max(0, ...own(person, day).map((each) => each.start + each.minutes))),
    ),
    set: people.map((person) =>
      days.map(
        (day) =>
          own(person, day)
            .map(setBy)
            .findLast((each) => each >= 0) ?? -1,
      ),
    ),
    seated: days.map((day) =>
      held
        .filter((each) => each.day === day && each.environment !== undefined)
        .map((each) => ({ environment: setBy(each), start: each.start, end: each.start + each.minutes })),
    ),
    seats: environments.map((environment) => seats[environment] ?? Infinity),
    switch: change,
    work: items.map((item, at) => ({
      at,
      minutes: item.minutes,
      worth: item.worth,
      environment: item.environment === undefined ? -1 : environments.indexOf(item.environment),
      people: people.flatMap((person, index) => (mayDo(item, person) ? [index] : [])),
      due: item.due === undefined ? days.length - 1 : days.findLastIndex((day) => day <= (item.due ?? '')),
      day: item.pin?.day === undefined ? null : days.indexOf(item.pin.day),
      after: after[at]!,
      before: before[at]!,
      since: item.after.flatMap((key) => ends.get(key) ?? []).reduce(later, null),
    })),
  }
}

const later = (a: Since | null, b: Since): Since =>
  a && (a.day > b.day || (a.day === b.day && a.minute > b.minute)) ? a : b

const mayDo = ({ skills, pin }: LevelItem, person: LevelPerson): boolean =>
  (pin === undefined || pin.name === person.name) && skills.every((skill) => person.skills.includes(skill))

/** The days on which an item may be done. */
export function daysFor({ day, due, since }: Work): readonly [first: number, last: number] {
  const first = since?.day ?? 0
  return day === null ? [first, due] : day >= first && day <= due ? [day, day] : [0, -1]
}

/** Whether an item has no order with anything that is done. */
export const isFree = ({ after, since, before }: Work, can: readonly boolean[]): boolean =>
  after.length === 0 && since === null && before.every((at) => !can[at])

/** Whether an item could be done if there were nothing else; without a seat at all it cannot. */
function isPossible(team: Team, work: Work): boolean {
  if (work.environment >= 0 && team.seats[work.environment]! < 1) return false
  const [first, last] = daysFor(work)
  return work.people.some((person) =>
    team.minutes[person]!.some(
      (_, day) => day >= first && day <= last && roomOn(team, person, day) >= work.minutes - dust,
    ),
  )
}

/** Which items could be done, with all that must be done before them. */
export function possible(team: Team): boolean[] {
  const can = team.work.map((work) => isPossible(team, work))
  for (const at of inTurn(team.work)) if (team.work[at]!.after.some((key) => !can[key])) can[at] = false
  return can
}

/** Places of the items, each after all that must be done before it; what goes round in a circle is left out. */
function inTurn(work: readonly Pick<Work, 'after' | 'before'>[]): number[] {
  const open = work.map(({ after }) => after.length)
  const order = open.flatMap((left, at) => (left === 0 ? [at] : []))
  for (let next = 0; next < order.length; next++)
    for (const at of work[order[next]!]!.before) if (--open[at]! === 0) order.push(at)
  return order
}

/** What of a placing is worth how much. */
export const worthOf = (team: Team, placing: Placing): number =>
  team.work.reduce((sum, { at, worth }) => (placing[at] ? sum + worth : sum), 0)

/** What is left of somebody's day once what is held has ended. */
export const roomOn = ({ minutes, from }: Pick<Team, 'minutes' | 'from'>, person: number, day: number): number =>
  Math.max(0, minutes[person]![day]! - from[person]![day]!)

/** Whether an environment may have fewer seats than there are people. */
export const isScarce = ({ seats, minutes }: Team, environment: number): boolean =>
  environment >= 0 && seats[environment]! < minutes.length

/** Worth for a minute; what takes none comes before all. */
export const density = ({ worth, minutes }: Pick<Work, 'worth' | 'minutes'>): number =>
  minutes > 0 ? worth / minutes : worth * 1e6

/** Keys of items each of which waits for the next, and the last for the first; `null` where there is no such circle. */
export function circleIn(items: readonly Pick<LevelItem, 'key' | 'after'>[]): string[] | null {
  const after = new Map(items.map((item) => [item.key, item.after]))
  const done = new Set<string>()
  for (const { key: from } of items) {
    const path: string[] = []
    const next: string[] = [from]
    for (let key = next.pop(); key !== undefined; key = next.pop()) {
      if (key === leave) done.add(path.pop() ?? '')
      else if (path.includes(key)) return path.slice(path.indexOf(key))
      else if (!done.has(key)) {
        path.push(key)
        next.push(leave, ...(after.get(key) ?? []))
      }
    }
  }
  return null
}
/** Stands on the stack where an item has been gone through; no name is empty. */
const leave = ''

/** What goes round in circles, and the items without: the first of each circle does not wait for the next any more. */
export function withoutCircles<T extends Pick<LevelItem, 'key' | 'after'>>(
  items: readonly T[],
): { items: T[]; circles: string[][] } {
  let left = [...items]
  const circles: string[][] = []
  for (let circle = circleIn(left); circle; circle = circleIn(left)) {
    circles.push(circle)
    const [first, next] = circle
    left = left.map((item) =>
      item.key === first ? { ...item, after: item.after.filter((key) => key !== (next ?? first)) } : item,
    )
  }
  return { items: left, circles }
}
