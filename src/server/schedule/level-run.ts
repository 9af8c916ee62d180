import { createHash } from 'node:crypto'
import { sumOf } from '#core/lib/figures.ts'
import { levelRun as levelContract, type LevelAnswer, type PlacedItem } from '#core/schedule/contract.ts'
import type { Levelled } from '#core/schedule/level.ts'
import { type Levelling, type LevelItem, withoutCircles } from '#core/schedule/levelling.ts'
import type { Line } from '#core/schedule/line.ts'
import { freeOn } from '#core/schedule/load.ts'
import { worthOf } from '#core/schedule/worth.ts'
import { projectDetail } from '#db/projects/detail.ts'
import type { RunStored } from '#db/runs/runs.ts'
import { placesOf } from '#db/schedule/places.ts'
import type { Hand } from '#db/schedule/team.ts'
import { itemsAsPlanned, type OpenWork } from '#db/schedule/worth.ts'
import { replyWith } from '#server/http/reply.ts'
import type { Input, OpenContext } from '#server/http/route.ts'
import { levelJob, levelModelJob, levelTextJob, type WeighedItem } from '#server/workers/questions.ts'
import { overRun, type Reading } from './line-over.ts'
import { needsOf } from './needs.ts'
import { lineDrawn } from './read-line.ts'
import type { Drawn } from './shown-line.ts'
import { runGoingOn } from './team-days.ts'

/** So many of what finds no place are named. */
const mostCut = 200

/** What a plan of days rests on, as one word: it changes when an item, a place or somebody's time does, and not with a verdict. */
export function basisOf({ tx, project, now }: Reading, ref: number): string {
  const { runs, hands, days } = overRun({ tx, project, now }, ref)
  const run = runs[0]?.id ?? 0
  // Without their minutes, which verdicts teach.
  const placed = placesOf(tx, run).map(({ item, person, day, start, pinned }) => [item, person, day, start, pinned])
  return createHash('sha256')
    .update(JSON.stringify([itemsAsPlanned(tx, run), placed, hands, days]))
    .digest('hex')
}

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

/** Where every item would go, with the worth reached against what is proven to be the most. */
export async function levelRun(
  context: OpenContext,
  { params: { ref }, body: { above } }: Input<typeof levelContract>,
): Promise<Response> {
  const { jobs } = context.services
  runGoingOn(context.tx, context.project, ref)
  const drawn = await lineDrawn(context, { of: { kind: 'run', ref, changes: null }, basis: true })
  const model = await jobs.run(levelModelJob, { ...drawn, above })
  const told = await jobs.run(levelJob, model)
  return replyWith(levelContract, await jobs.run(levelTextJob, { ...drawn, told, above }))
}

interface Chosen {
  readonly drawn: Drawn
  readonly line: Line
  /** Only what is above the line. */
  readonly above: boolean
}

/** What is levelled of a run, and what of it stays where it is. */
function going({ tx, project }: Reading, { drawn, line, above }: Chosen) {
  const { items, over } = drawn
  const run = over.runs[0]
  if (!run) throw new Error('a line of no run is not levelled')
  const chosen = new Set(line.above)
  const open = above ? items.filter(({ id, held }) => chosen.has(String(id)) && held !== 'below') : items
  const places = placesOf(tx, run.id)
  const stays = laidOut(stayingAmong(places, open, over.days), { open, change: project.switchMinutes })
  return { run, open, places, stays }
}

/** What stays, one after the other from the beginning of each day, in the order it had, with the minutes it takes to set up another environment. */
function laidOut(
  stays: readonly PlacedItem[],
  { open, change }: { readonly open: readonly WeighedItem[]; readonly change: number },
): PlacedItem[] {
  const environments = new Map(open.map(({ id, environment }) => [id, environment]))
  const at = new Map<string, { time: number; environment: number | null }>()
  return [...stays]
    .sort((a, b) => a.start - b.start || a.item - b.item)
    .map((place) => {
      const key = `${place.person} ${place.day}`
      const before = at.get(key) ?? { time: 0, environment: null }
      const environment = environments.get(place.item) ?? null
      const start = before.time + (before.environment === null || before.environment === environment ? 0 : change)
      at.set(key, { time: start + place.minutes, environment })
      return { ...place, start }
    })
}

/** The run as a levelling. */
export function levelModel(reading: Reading, chosen: Chosen): Levelling {
  const { days, hands } = chosen.drawn.over
  return modelOf(reading, { ...going(reading, chosen), days, hands })
}

/** What a levelling comes to, against how the run is planned now. */
export function levelAnswer(reading: Reading, of: Chosen & { readonly told: Levelled }): LevelAnswer {
  const { drawn, told } = of
  const { stays, places } = going(reading, of)
  const staying = new Set(stays.map(({ item }) => item))
  const byId = new Map(drawn.items.map((item) => [item.id, item]))
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
  const reached = worthOfPlaces(stays, byId)
  return {
    basis: drawn.basis,
    places: next,
    worth: told.worth + reached,
    bound: told.bound + reached,
    moved: next.filter((place) => !staying.has(place.item) && isElsewhere(before.get(place.item), place)).length,
    placed: next.filter(({ item }) => !before.has(item)).length,
    taken: places.filter(({ item }) => byId.has(item) && !then.has(item)).length,
    stays: stays.length,
    cut: told.cut.slice(0, mostCut).map(({ key, why }) => ({ item: Number(key), why })),
    cutTotal: told.cut.length,
  }
}

/** What items on days are worth, of those that are known. */
export const worthOfPlaces = (
  places: readonly PlacedItem[],
  known: ReadonlyMap<number, Pick<WeighedItem, 'parts' | 'chance'>>,
): number =>
  sumOf(
    places.flatMap(({ item }) => known.get(item) ?? []),
    worthOf,
  )

export const isElsewhere = (before: PlacedItem | undefined, now: PlacedItem): boolean =>
  before !== undefined && (before.person !== now.person || before.day !== now.day || before.start !== now.start)

/** The run as a levelling: what stays stands at the beginning of its day, with its seat, and the rest comes after it. */
function modelOf(
  { tx, project }: Pick<Reading, 'tx' | 'project'>,
  of: {
    readonly run: RunStored
    readonly open: readonly WeighedItem[]
    readonly days: readonly string[]
    readonly hands: readonly Hand[]
    readonly stays: readonly PlacedItem[]
  },
): Levelling {
  const known = projectDetail(tx, project, 'viewer').environments
  const names = new Map(known.map(({ id, name, isAny }) => [id, isAny ? undefined : name]))
  const environments = new Map(of.open.map(({ id, environment }) => [id, environment]))
  const staying = new Set(of.stays.map(({ item }) => item))
  const going = of.open.filter(({ id }) => !staying.has(id))
  const needs = needsOf(tx, { projectId: project.id, runId: of.run.id }, of.open)
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
      minutes: of.days.map((_, at) => freeOn(hand, at)),
    })),
    // Preconditions may go round in a circle: that is cut, so that the rest is planned.
    items: withoutCircles(items).items,
    seats: Object.fromEntries(known.flatMap(({ name, seats }) => (seats === null ? [] : [[name, seats]]))),
    switch: project.switchMinutes,
    held: of.stays.map(({ item, person, day, start, minutes }) => ({
      key: String(item),
      person,
      day,
      start,
      minutes,
      environment: names.get(environments.get(item) ?? 0),
    })),
  }
}
