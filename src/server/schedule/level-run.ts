import { createHash } from 'node:crypto'
import { sumOf } from '#core/lib/figures.ts'
import type { levelRun as levelContract, PlacedItem } from '#core/schedule/contract.ts'
import { freeOn, loadOf } from '#core/schedule/load.ts'
import type { Levelling, LevelItem } from '#core/schedule/levelling.ts'
import { withoutCircles } from '#core/schedule/levelling.ts'
import { projectDetail } from '#db/projects/detail.ts'
import type { RunStored } from '#db/runs/runs.ts'
import { placesOf } from '#db/schedule/places.ts'
import type { Hand } from '#db/schedule/team.ts'
import { type OpenWork, openWork } from '#db/schedule/worth.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { levelJob, type WeighedItem } from '#server/workers/questions.ts'
import { overRun, weighed } from './line-over.ts'
import { needsOf } from './needs.ts'
import { runGoingOn } from './team-days.ts'

/** So many of what finds no place are named. */
const mostCut = 200

/** What a levelling is worked out from, as one word: it changes when an item, a place or somebody's time does. */
export const basisOf = (
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

/** What of some items stays where it is: what somebody began or pinned. */
export function stayingAmong(
  places: readonly PlacedItem[],
  open: readonly Pick<OpenWork, 'id' | 'verdict'>[],
  days: readonly string[],
): PlacedItem[] {
  const going = new Map(open.map((item) => [item.id, item]))
  return places.filter(({ item, pinned, day }) => {
    const own = going.get(item)
    return own !== undefined && (pinned || isBegun(own)) && days.includes(day)
  })
}

/** Where every item would go, with the worth reached against what is proven to be the most. Nothing is stored. */
export async function levelRun(
  context: OpenContext,
  { params, body }: Input<typeof levelContract>,
): Promise<Answer<typeof levelContract>> {
  const { services, tx } = context
  const run = runGoingOn(tx, context.project, params.ref)
  const over = overRun(context, params.ref)
  const { days, hands } = over
  const places = placesOf(tx, run.id)
  // Read with what it is worked out from: what changes while it is must make it refused.
  const basis = basisOf(openWork(tx, run.id), places, hands, days)
  const { items, line } = await weighed(context, over)
  const above = new Set(line.above)
  const open = body.above ? items.filter(({ id, held }) => above.has(String(id)) && held !== 'below') : items
  const stays = stayingAmong(places, open, days)
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
    basis,
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
export const isElsewhere = (before: PlacedItem | undefined, now: PlacedItem): boolean =>
  before !== undefined && (before.person !== now.person || before.day !== now.day || before.start !== now.start)

/** The run as a levelling: what stays where it is takes its minutes off the day, and its seat's. */
export function modelOf(
  { tx, project }: Pick<OpenContext, 'tx' | 'project'>,
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
  const needs = needsOf(tx, { projectId: project.id, runId: of.run.id }, going)
  const taken = loadOf(of.stays)
  const items = going.map((item): LevelItem => {
    const { skills, after } = needs(item.id)
    return {
      key: String(item.id),
      minutes: item.minutes,
      worth: worthOf(item),
      skills,
      environment: names.get(item.environment),
      after: after.map(String),
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
    // Preconditions may go round in a circle: that is cut, so that the rest is planned.
    items: withoutCircles(items).items,
    seats: Object.fromEntries(environments.flatMap(({ name, seats }) => (seats === null ? [] : [[name, seats]]))),
    switch: project.switchMinutes,
  }
}
