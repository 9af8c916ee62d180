import type { Levelled } from '#core/schedule/level.ts'
import type { Levelling, LevelItem } from '#core/schedule/levelling.ts'
import { between, pick, type Random } from '#core/lib/random.ts'
import { dayAfter } from '#core/lib/days.ts'

/** What a plan breaks of the rules, in words; nothing where it is valid. Knows nothing of how plans are made. */
export function brokenRules(of: Levelling, plan: Levelled): string[] {
  const items = new Map(of.items.map((item) => [item.key, item]))
  const people = new Map(of.people.map((person) => [person.name, person]))
  const placed = plan.assigned.map((each) => {
    const item = items.get(each.key)!
    return { ...each, item, end: each.start + item.minutes, at: of.days.indexOf(each.day) }
  })
  const byKey = new Map(placed.map((each) => [each.key, each]))
  const held = new Map(
    (of.held ?? []).map((each) => [each.key ?? '', { at: of.days.indexOf(each.day), end: each.start + each.minutes }]),
  )
  const broken: string[] = []
  const rule = (holds: boolean, words: string) => void (holds || broken.push(words))
  const named = [...plan.assigned, ...plan.cut].map(({ key }) => key)
  rule(named.length === of.items.length && new Set(named).size === named.length, 'each item is placed or cut, once')
  for (const { key, item, person, at, start, end, day } of placed) {
    const hands = people.get(person)
    rule(at >= 0 && hands !== undefined, `${key} is somewhere`)
    rule(start >= 0 && end <= (hands?.minutes[at] ?? 0) + 1e-6, `${key} stays within the day of ${person}`)
    rule(
      item.skills.every((skill) => hands?.skills.includes(skill)),
      `${person} has the skills of ${key}`,
    )
    rule(item.due === undefined || day <= item.due, `${key} is in time`)
    rule(!item.pin || (item.pin.name === person && (item.pin.day ?? day) === day), `${key} is where it is pinned`)
    for (const before of item.after) {
      const other = byKey.get(before) ?? held.get(before)
      rule(
        other !== undefined && (other.at < at || (other.at === at && other.end <= start + 1e-6)),
        `${key} is after ${before}`,
      )
    }
  }
  broken.push(...brokenTurns(of, placed), ...brokenSeats(of, placed))
  const worth = placed.reduce((sum, { item }) => sum + item.worth, 0)
  rule(Math.abs(worth - plan.worth) <= 1e-6 * Math.max(1, worth), 'the worth adds up')
  rule(plan.bound >= plan.worth - 1e-6, 'the bound is not below the worth')
  return broken
}

interface Placed {
  readonly key: string
  readonly person: string
  readonly day: string
  readonly start: number
  readonly end: number
  readonly item: LevelItem
}

/** Whoever begins an item before they are free, or before its environment is set up. */
function brokenTurns(of: Levelling, placed: readonly Placed[]): string[] {
  const on = (name: string, day: string) => {
    const held = (of.held ?? []).filter((each) => each.person === name && each.day === day)
    let free = Math.max(0, ...held.map(({ start, minutes }) => start + minutes))
    let set = held.findLast(({ environment }) => environment !== undefined)?.environment
    const own = placed.filter((each) => each.person === name && each.day === day).sort((a, b) => a.start - b.start)
    return own.flatMap(({ key, item, start, end }) => {
      const change = item.environment !== undefined && set !== undefined && item.environment !== set ? of.switch : 0
      const holds = start >= free + change - 1e-6
      free = end
      set = item.environment ?? set
      return holds ? [] : [`${name} begins ${key} once they are free and it is set up`]
    })
  }
  return of.people.flatMap(({ name }) => of.days.flatMap((day) => on(name, day)))
}

/** Whoever sits down where no seat is free, at any minute of an item. */
function brokenSeats(of: Levelling, placed: readonly Placed[]): string[] {
  const at = (environment: string, seats: number, day: string) => {
    const own = placed.filter(
      (each) => each.day === day && each.item.environment === environment && each.item.minutes > 0,
    )
    const stays = (of.held ?? [])
      .filter((each) => each.day === day && each.environment === environment)
      .map(({ start, minutes }) => ({ start, end: start + minutes }))
    const all = [...own, ...stays]
    const taken = (minute: number) =>
      all.filter((each) => each.start <= minute + 1e-6 && each.end > minute + 1e-6).length
    return own.flatMap(({ key, start, end }) =>
      all.some((each) => each.start >= start - 1e-6 && each.start < end - 1e-6 && taken(each.start) > seats)
        ? [`a seat of ${environment} is free for ${key}`]
        : [],
    )
  }
  return Object.entries(of.seats).flatMap(([environment, seats]) =>
    of.days.flatMap((day) => at(environment, seats, day)),
  )
}

/** A made-up team with so many times more work than hours, as many of its kinds as are asked for. */
export function madeTeam(
  random: Random,
  of: {
    readonly items: number
    readonly people: number
    readonly days: number
    /** Minutes of work for a minute of hours. */
    readonly work: number
    readonly environments?: number
    readonly switch?: number
    readonly seats?: boolean
    readonly after?: boolean
    readonly pins?: boolean
    readonly due?: boolean
  },
): Levelling {
  const skills = ['card', 'phone', 'deck', 'languages']
  const days = Array.from({ length: of.days }, (_, day) => dayAfter('2026-11-23', day))
  const people = Array.from({ length: of.people }, (_, index) => ({
    name: `P${index + 1}`,
    minutes: days.map(() => (random() < 0.08 ? 0 : between(random, 18, 42) * 10)),
    skills: skills.filter(() => random() < 0.6),
  }))
  const hours = people.reduce((sum, { minutes }) => sum + minutes.reduce((all, each) => all + each, 0), 0)
  const environments = Array.from({ length: of.environments ?? 4 }, (_, index) => `E${index + 1}`)
  const mean = (hours * of.work) / of.items
  const items = Array.from({ length: of.items }, (_, index): LevelItem => {
    const key = `I${index + 1}`
    return {
      key,
      minutes: Math.max(1, Math.round(mean * (0.3 + 1.4 * random()))),
      worth: Math.round(1000 * random() ** 2) / 10,
      skills: random() < 0.35 ? [pick(random, skills)] : [],
      environment: pick(random, environments),
      after:
        of.after === true && index > 0 && random() < 0.15
          ? [`I${between(random, Math.max(1, index - 20), index)}`]
          : [],
      ...(of.due === true && random() < 0.2 && { due: pick(random, days) }),
      ...(of.pins === true &&
        random() < 0.05 && {
          pin: { name: pick(random, people).name, ...(random() < 0.5 && { day: pick(random, days) }) },
        }),
    }
  })
  const seats =
    of.seats === true
      ? Object.fromEntries(
          environments.map((name) => [name, between(random, 1, Math.max(1, Math.ceil(of.people / 2)))]),
        )
      : {}
  return { days, people, items, seats, switch: of.switch ?? 0 }
}
