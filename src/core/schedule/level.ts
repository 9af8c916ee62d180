import type { SolveLinear } from '#core/lib/linear.ts'
import { dispatch } from './dispatch.ts'
import { improve } from './improve.ts'
import { relax } from './level-bound.ts'
import { levelFew } from './level-few.ts'
import {
  daysFor,
  dust,
  isScarce,
  type LevelItem,
  type Levelling,
  type Placing,
  possible,
  type Team,
  teamOf,
  type Work,
  worthOf,
  roomOn,
} from './levelling.ts'

export interface Levelled {
  /** In the order of days, people and minutes. */
  readonly assigned: readonly {
    readonly key: string
    readonly person: string
    readonly day: string
    readonly start: number
  }[]
  readonly cut: readonly { readonly key: string; readonly why: string }[]
  readonly worth: number
  /** No valid plan is worth more. */
  readonly bound: number
}

/**
 * Items on people's days, of the most worth that is found: exact for up to eight items, else the better of two placings (with
 * and without what a linear relaxation says), improved by exchanges. The same input gives the same plan.
 * @param solve a standard solver of linear programs; without one the bound is the worth of all that can be done
 */
export function level(of: Levelling, solve: SolveLinear | null): Levelled {
  const team = teamOf(of)
  const can = possible(team)
  // What holds seats at certain minutes is a matter for the other way.
  const few = team.seated.every((of) => of.length === 0) ? levelFew(team, can) : null
  if (few) return levelled(of, { team, can, placing: few, bound: worthOf(team, few) })
  const relaxed = relax(team, can, solve)
  const placing = improve(team, can, dispatch(team, can, relaxed))
  return levelled(of, { team, can, placing, bound: Math.max(relaxed.bound, worthOf(team, placing)) })
}

interface Found {
  readonly team: Team
  readonly can: readonly boolean[]
  readonly placing: Placing
  readonly bound: number
}

function levelled(of: Levelling, { team, can, placing, bound }: Found): Levelled {
  const assigned = team.work
    .flatMap(({ at }) => {
      const place = placing[at]
      return place ? [{ at, ...place }] : []
    })
    .sort((a, b) => a.day - b.day || a.person - b.person || a.start - b.start || a.at - b.at)
    .map(({ at, person, day, start }) => ({
      key: of.items[at]!.key,
      person: of.people[person]!.name,
      day: of.days[day]!,
      start,
    }))
  const cut = team.work
    .filter(({ at }) => !placing[at])
    .map((work) => ({ key: of.items[work.at]!.key, why: whyCut(of, { team, can, placing }, work) }))
  return { assigned, cut, worth: worthOf(team, placing), bound }
}

function whyCut(of: Levelling, { team, can, placing }: Omit<Found, 'bound'>, work: Work): string {
  const item = of.items[work.at]!
  const reason = whyImpossible(of, team, work)
  if (reason) return reason
  const before = work.after.find((at) => !can[at] || !placing[at])
  if (before !== undefined) return `waits for ${of.items[before]!.key}, which is cut`
  if (item.pin) return `${item.pin.name} has no time for it${item.pin.day === undefined ? '' : ` on ${item.pin.day}`}`
  const due = item.due === undefined ? '' : ` by ${item.due}`
  if (hasRoom(team, placing, work))
    return item.environment !== undefined && isScarce(team, work.environment)
      ? `no seat of ${item.environment} is free for it${due}`
      : `fits into no gap that is left${due}`
  if (work.worth <= dust) return `worth nothing, and no time is left${due}`
  return `no time is left${due} for what is worth ${short(work.worth)} in ${short(work.minutes)} min`
}

/** Whether somebody who may do it has so many minutes left on a day. */
function hasRoom(team: Team, placing: Placing, work: Work): boolean {
  const { work: all, minutes } = team
  const [first, last] = daysFor(work)
  const used = new Map<string, number>()
  for (const { at, minutes: own } of all) {
    const place = placing[at]
    if (place) used.set(`${place.person}:${place.day}`, (used.get(`${place.person}:${place.day}`) ?? 0) + own)
  }
  return work.people.some((person) =>
    minutes[person]!.some(
      (_, day) =>
        day >= first &&
        day <= last &&
        roomOn(team, person, day) > 0 &&
        roomOn(team, person, day) - (used.get(`${person}:${day}`) ?? 0) >= work.minutes - dust,
    ),
  )
}

/** Why an item could not be done even if there were nothing else; `null` where it could. */
function whyImpossible(of: Levelling, team: Team, work: Work): string | null {
  const item = of.items[work.at]!
  if (item.environment !== undefined && of.seats[item.environment] === 0) return `${item.environment} has no seat`
  if (work.people.length === 0) return whoNot(item)
  if (work.due < 0) return `due ${item.due ?? ''}, before the first day`
  if (work.day !== null && work.day < 0) return `pinned to ${item.pin?.day ?? ''}, which is none of the days`
  if (work.day !== null && work.day > work.due) return `pinned to ${item.pin?.day ?? ''}, after it is due`
  const [first, last] = daysFor(work)
  const longest = Math.max(
    0,
    ...work.people.flatMap((person) =>
      team.minutes[person]!.map((_, day) => roomOn(team, person, day)).slice(first, last + 1),
    ),
  )
  if (longest >= work.minutes - dust && (longest > 0 || work.minutes === 0)) return null
  const who = item.pin ? item.pin.name : 'whoever may do it'
  if (longest <= 0)
    return `${who} has no hours ${item.pin?.day === undefined ? 'on any day it may be done' : `on ${item.pin.day}`}`
  return `takes ${short(work.minutes)} min, longer than any day ${who} has for it (${short(longest)} min)`
}

const whoNot = ({ skills, pin }: LevelItem): string =>
  skills.length === 0
    ? 'there is nobody'
    : pin
      ? `${pin.name} lacks ${skills.join(' or ')}`
      : `nobody has ${skills.join(' and ')}`

const short = (of: number): string => String(Math.round(of * 100) / 100)
