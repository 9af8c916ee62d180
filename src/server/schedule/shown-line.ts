import { dayIn } from '#core/lib/days.ts'
import { sumOf } from '#core/lib/figures.ts'
import { keyOf } from '#core/lib/key.ts'
import type { Scope } from '#core/projects/scope.ts'
import type { LineAnswer } from '#core/schedule/contract.ts'
import type { Line } from '#core/schedule/line.ts'
import { shareOf, worthOf } from '#core/schedule/worth.ts'
import { problemsOf } from '#core/schedule/problems.ts'
import { projectDetail } from '#db/projects/detail.ts'
import { placesOf } from '#db/schedule/places.ts'
import { peopleOf } from '#db/schedule/team.ts'
import type { WeighedItem } from '#server/workers/questions.ts'
import type { LineOver, Reading } from './line-over.ts'
import { needsOf } from './needs.ts'
import { reserveOf, shownHands } from './team-days.ts'

/** An item with the place of its run among those the line is drawn over. */
export type ItemOver = WeighedItem & { readonly runOf: number }
/** What a line is drawn of. */
export interface Drawn {
  readonly projectId: number
  readonly over: LineOver
  readonly items: readonly ItemOver[]
  readonly minutes: number
  readonly rate: number
  /** Of the newest of the runs; `null` where criteria are none of its business. */
  readonly scope: Scope | null
  /** What a plan of days rests on, read before all the rest; empty where nobody asked. */
  readonly basis: string
}

/** Items by the keys the line has them under, in its order. */
export function itemsOf({ items }: Drawn, keys: readonly string[]): ItemOver[] {
  const byKey = new Map(items.map((item) => [String(item.id), item]))
  return keys.flatMap((key) => byKey.get(key) ?? [])
}

/** Everything the page of a line shows, but the criteria at stake. */
export function shownLine(reading: Reading, drawn: Drawn, line: Line): Omit<LineAnswer, 'criteria'> {
  const { tx, project, now } = reading
  const { over, items, minutes, rate } = drawn
  const { about, runs, days, hands } = over
  const byKey = new Map(items.map((item) => [String(item.id), item]))
  const order = [...line.above, ...line.below].flatMap((key) => byKey.get(key) ?? [])
  const [above, below] = [order.slice(0, line.above.length), order.slice(line.above.length)]
  const today = dayIn(project.timeZone, now)
  const open = new Set(items.map(({ id }) => id))
  const all = runs.flatMap((run) => placesOf(tx, run.id))
  const places = over.whose === null ? all : all.filter(({ person }) => person === over.whose)
  return {
    about,
    runs: runs.map((run) => ({
      key: keyOf('run', run.number),
      title: run.title,
      state: run.state,
      startOn: run.startOn,
      endOn: run.endOn,
      reserve: reserveOf(project, run),
      ownReserve: run.reservePercent !== null,
      team: peopleOf(tx, [run.id]),
      version: run.version,
    })),
    days: [...days],
    slipped: places
      .filter(({ item, day }) => day < today && open.has(item))
      .map(({ item, person, day }) => ({ item, person, day })),
    problems: problemsOf({ today, days, hands, work: workOf(reading, over, order), places }),
    ...inColumns(order),
    above: above.length,
    line: minutes,
    hours: over.hours,
    drawn: over.drawn !== null,
    reached: { worth: line.worth, bound: line.bound, whole: line.whole, cost: line.cost },
    requirements: touchedBy(above, below),
    rate,
    hands: shownHands(hands, days, places),
    places,
    seats: seatsOf(reading, items),
  }
}

/** Requirements that items above the line touch, and those that only items below it would. */
export function touchedBy(
  above: readonly WeighedItem[],
  below: readonly WeighedItem[],
): { above: number; below: number } {
  const touched = new Set(above.flatMap(({ requirements }) => requirements))
  const untouched = new Set(below.flatMap(({ requirements }) => requirements).filter((id) => !touched.has(id)))
  return { above: touched.size, below: untouched.size }
}

/** The items as they are planned: by skills, order and due days. */
export function workOf(
  { tx, project }: Pick<Reading, 'tx' | 'project'>,
  { runs }: LineOver,
  items: readonly ItemOver[],
) {
  const needs = runs.map((run, at) =>
    needsOf(
      tx,
      { projectId: project.id, runId: run.id },
      items.filter(({ runOf }) => runOf === at),
    ),
  )
  return items.map(({ id, key, minutes, due, verdict, runOf }) => ({
    id,
    key,
    minutes,
    due,
    begun: verdict === 'In progress',
    ...(needs[runOf]?.(id) ?? { skills: [], after: [] }),
  }))
}

/** The items side by side; what each adds counts a part once, by the greatest chance so far. */
function inColumns(order: readonly ItemOver[]) {
  const known = new Map<string, number>()
  const added = order.map(({ parts, chance }) => {
    let [adds, risk] = [0, 0]
    for (const { of, share } of parts) {
      const before = known.get(of)
      known.set(of, Math.max(before ?? 0, chance))
      adds += share * Math.max(0, chance - (before ?? 0))
      risk += before === undefined ? share : 0
    }
    return { adds, risk }
  })
  return {
    ids: order.map(({ id }) => id),
    runOf: order.map(({ runOf }) => runOf),
    keys: order.map(({ key }) => key),
    titles: order.map(({ title }) => title),
    environments: order.map(({ environmentName }) => environmentName),
    assignees: order.map(({ assignee }) => assignee),
    minutes: order.map((item) => item.minutes),
    sources: order.map(({ source }) => source),
    worth: order.map(worthOf),
    adds: added.map(({ adds }) => adds),
    risk: added.map(({ risk }) => risk),
    why: order.map(({ why }) => why),
    leaves: order.map(({ leaves }) => [...leaves]),
    shares: order.map(shareOf),
    targets: order.map(({ targets }) => targets),
    held: order.map(({ held }) => held),
  }
}

/** Environments with a number of seats that items of the run need, and for how long. */
function seatsOf({ tx, project }: Reading, items: readonly WeighedItem[]): LineAnswer['seats'] {
  return projectDetail(tx, project, 'viewer').environments.flatMap(({ id, name, seats }) => {
    const minutes = sumOf(
      items.filter(({ environment }) => environment === id),
      (item) => item.minutes,
    )
    return seats === null || minutes === 0 ? [] : [{ environment: name, seats, minutes }]
  })
}
