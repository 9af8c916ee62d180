import { createHash } from 'node:crypto'
import { dayIn } from '#core/lib/days.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { sumOf } from '#core/lib/figures.ts'
import type {
  levelRun as levelContract,
  moveOnDays as moveContract,
  PlacedItem,
  placeOnDays as placeContract,
} from '#core/schedule/contract.ts'
import type { Levelling, LevelItem } from '#core/schedule/levelling.ts'
import { circleIn } from '#core/schedule/levelling.ts'
import { projectDetail } from '#db/projects/detail.ts'
import type { RunStored } from '#db/runs/runs.ts'
import { wordsOfCases } from '#db/runs/knowing.ts'
import { dropPlaces, placesOf, putPlace, putPlaces } from '#db/schedule/places.ts'
import type { Hand } from '#db/schedule/team.ts'
import { type OpenWork, openWork, orderInRun } from '#db/schedule/worth.ts'
import { skillsOf } from '#db/people/members.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { levelJob, type WeighedItem } from '#server/workers/questions.ts'
import { keyOf } from '#core/lib/key.ts'
import { weighed } from './read-line.ts'
import { daysLeft, freeOn, handsIn, hoursOf, runNamed } from './team-days.ts'

/** So many of what finds no place are named. */
const mostCut = 200

/** What a levelling is worked out from, as one word: it changes when an item, a place or somebody's time does. */
const basisOf = (
  work: readonly OpenWork[],
  places: readonly PlacedItem[],
  hands: readonly Hand[],
  days: readonly string[],
): string =>
  createHash('sha256')
    .update(
      JSON.stringify([
        work.map(({ id, minutes, verdict, due, held, assignee }) => [id, minutes, verdict, due, held, assignee]),
        places,
        hands,
        days,
      ]),
    )
    .digest('hex')

const isBegun = ({ verdict }: Pick<OpenWork, 'verdict'>): boolean => verdict === 'In progress'

/** Where every item would go, with the worth reached against what is proven to be the most. Nothing is stored. */
export async function levelRun(
  context: OpenContext,
  { params, body }: Input<typeof levelContract>,
): Promise<Answer<typeof levelContract>> {
  const { services, tx, project } = context
  const run = runNamed(tx, project, params.ref)
  const days = daysLeft(project, run, services.now())
  const hands = handsIn(context, run, days)
  const places = placesOf(tx, run.id)
  const { items, line } = await weighed(context, run, { minutes: undefined, hours: hoursOf(hands, days) })
  const above = new Set(line.above)
  const open = body.above ? items.filter(({ id, held }) => above.has(String(id)) && held !== 'below') : items
  const stays = places.filter(({ item, pinned, day }) => {
    const own = open.find(({ id }) => id === item)
    return own !== undefined && (pinned || isBegun(own)) && days.includes(day)
  })
  const model = modelOf(context, { run, open, days, hands, stays })
  const told = await services.jobs.run(levelJob, model)
  const staying = new Map(stays.map((place) => [place.item, place]))
  const byId = new Map(items.map((item) => [item.id, item]))
  const next = [
    ...stays,
    ...told.assigned.flatMap(({ key, person, day, start }): PlacedItem[] => {
      const item = byId.get(Number(key))
      return item && !staying.has(item.id)
        ? [{ item: item.id, person, day, start: Math.round(start), minutes: item.minutes, pinned: false }]
        : []
    }),
  ]
  const before = new Map(places.map((place) => [place.item, place]))
  const then = new Map(next.map((place) => [place.item, place]))
  const reached = sumOf(stays, ({ item }) => worthOf(byId.get(item)))
  return {
    basis: basisOf(openWork(tx, run.id), places, hands, days),
    places: next,
    worth: told.worth + reached,
    bound: told.bound + reached,
    moved: next.filter((place) => isElsewhere(before.get(place.item), place)).length,
    placed: next.filter(({ item }) => !before.has(item)).length,
    taken: places.filter(({ item }) => !then.has(item)).length,
    stays: stays.length,
    cut: told.cut.slice(0, mostCut).map(({ key, why }) => ({ item: Number(key), why })),
    cutTotal: told.cut.length,
  }
}

const worthOf = (item: WeighedItem | undefined): number => (item ? item.share * item.chance : 0)
const isElsewhere = (before: PlacedItem | undefined, now: PlacedItem): boolean =>
  before !== undefined && (before.person !== now.person || before.day !== now.day || before.start !== now.start)

/** The run as a levelling: what stays where it is takes its minutes off the day, and its seat's. */
function modelOf(
  { tx, project }: OpenContext,
  of: {
    readonly run: RunStored
    readonly open: readonly WeighedItem[]
    readonly days: readonly string[]
    readonly hands: readonly Hand[]
    readonly stays: readonly PlacedItem[]
  },
): Levelling {
  const environments = projectDetail(tx, project, 'viewer').environments
  const names = new Map(environments.map(({ id, name, isAny }) => [id, isAny ? undefined : name]))
  const staying = new Set(of.stays.map(({ item }) => item))
  const going = of.open.filter(({ id }) => !staying.has(id))
  const keys = new Set(going.map(({ id }) => id))
  const order = orderInRun(tx, of.run.id)
  const words = wordsOfCases(tx, [...new Set(going.map((item) => item.case))])
  const skills = skillsOf(tx, project.id)
  const taken = (person: string, day: string) =>
    sumOf(
      of.stays.filter((place) => place.person === person && place.day === day),
      ({ minutes }) => minutes,
    )
  const items = going.map((item): LevelItem => {
    const said = words.get(item.case) ?? new Set()
    return {
      key: String(item.id),
      minutes: item.minutes,
      worth: worthOf(item),
      skills: skills.filter((skill) => said.has(skill)),
      environment: names.get(item.environment),
      after: (order.get(item.id) ?? []).filter((other) => keys.has(other)).map(String),
      due: item.due ?? undefined,
    }
  })
  return {
    days: [...of.days],
    people: of.hands.map((hand) => ({
      name: hand.id,
      skills: hand.skills.map((skill) => skill.trim().toLowerCase()),
      minutes: of.days.map((day, at) => Math.max(0, freeOn(hand, at) - taken(hand.id, day))),
    })),
    items: withoutCircles(items),
    seats: Object.fromEntries(environments.flatMap(({ name, seats }) => (seats === null ? [] : [[name, seats]]))),
    switch: project.switchMinutes,
  }
}

/** Preconditions may go round in a circle: what closes one says nothing, so that the rest is planned. */
function withoutCircles(items: readonly LevelItem[]): LevelItem[] {
  let left = [...items]
  for (let circle = circleIn(left); circle; circle = circleIn(left)) {
    const [first, next] = circle
    left = left.map((item) =>
      item.key === first ? { ...item, after: item.after.filter((key) => key !== (next ?? first)) } : item,
    )
  }
  return left
}

/** Puts a whole plan of days in force, or what was before. */
export function placeOnDays(
  context: Context,
  { params, body }: Input<typeof placeContract>,
): Answer<typeof placeContract> {
  const { tx, project, now } = context
  const run = runNamed(tx, project, params.ref)
  const before = placesOf(tx, run.id)
  const days = daysLeft(project, run, now)
  const work = openWork(tx, run.id)
  if (body.basis !== null && body.basis !== basisOf(work, before, handsIn(context, run, days), days))
    throw new Refusal(
      'conflict',
      'Since this was worked out, the run, somebody’s time or the plan of days has changed; nothing was stored. Level again to see it with that.',
    )
  const own = new Set(work.map(({ id }) => id))
  const team = new Set(handsIn(context, run, days).map(({ id }) => id))
  const places = body.places.filter(({ item }) => own.has(item))
  const stranger = places.find(({ person }) => !team.has(person))
  if (stranger) throw new Refusal('invalid', 'Somebody of this plan is not of the run’s team; nothing was stored.')
  if (new Set(places.map(({ item }) => item)).size !== places.length)
    throw new Refusal('invalid', 'An item stands twice in this plan; nothing was stored.')
  putPlaces(tx, run.id, places)
  const known = new Map(before.map((place) => [place.item, place]))
  const told = places.filter((place) => {
    const was = known.get(place.item)
    return was === undefined || isElsewhere(was, place)
  }).length
  context.change({
    kind: 'run',
    id: run.id,
    ref: keyOf('run', run.number),
    action: 'levelled',
    detail: { items: [before.length, places.length] },
  })
  return { before, told }
}

/** Some items to the end of somebody's day, where they are pinned; a pin may fill a day over, and that is said. */
export function moveOnDays(
  context: Context,
  { params, body }: Input<typeof moveContract>,
): Answer<typeof moveContract> {
  const { tx, project, now } = context
  const run = runNamed(tx, project, params.ref)
  const open = new Map(openWork(tx, run.id).map((item) => [item.id, item]))
  const wanted = body.ids.flatMap((id) => open.get(id) ?? [])
  if (wanted.length < body.ids.length)
    throw new Refusal('invalid', 'Some of these are no open items of this run any more; nothing was moved.')
  const all = placesOf(tx, run.id)
  const ids = new Set(body.ids)
  const before = all.filter(({ item }) => ids.has(item))
  const known = new Set(before.map(({ item }) => item))
  const answer = { before, free: body.ids.filter((id) => !known.has(id)) }
  if (body.to === null) {
    dropPlaces(tx, body.ids)
    return { ...answer, over: 0 }
  }
  const { person, day } = body.to
  const today = dayIn(project.timeZone, now)
  if (day < today) throw new Refusal('invalid', `${day} is over; choose today or a later day.`)
  if (day < run.startOn || day > run.endOn)
    throw new Refusal(
      'invalid',
      `${day} is none of the days of ${keyOf('run', run.number)}, which goes from ${run.startOn} to ${run.endOn}.`,
    )
  const days = daysLeft(project, run, now)
  const hand = handsIn(context, run, days).find(({ id }) => id === person)
  if (!hand) throw new Refusal('invalid', 'This person is not of the run’s team; add them first.')
  const there = all.filter((place) => place.person === person && place.day === day && !ids.has(place.item))
  let start = Math.max(0, ...there.map((place) => place.start + place.minutes))
  for (const item of wanted) {
    putPlace(tx, { item: item.id, person, day, start, minutes: item.minutes, pinned: true })
    start += item.minutes
  }
  const sum = sumOf(there, ({ minutes }) => minutes) + sumOf(wanted, ({ minutes }) => minutes)
  context.change({
    kind: 'run',
    id: run.id,
    ref: keyOf('run', run.number),
    action: 'moved on days',
    detail: { items: [null, wanted.length] },
  })
  return { ...answer, over: Math.max(0, sum - freeOn(hand, days.indexOf(day))) }
}
