import { dayIn } from '#core/lib/days.ts'
import { sumOf } from '#core/lib/figures.ts'
import type { LineAnswer } from '#core/schedule/contract.ts'
import { endOf } from '#core/schedule/finish.ts'
import type { Levelled } from '#core/schedule/level.ts'
import type { Line } from '#core/schedule/line.ts'
import { problemsOf } from '#core/schedule/problems.ts'
import type { WayFigures } from '#core/schedule/what-if-contract.ts'
import type { Part } from '#core/schedule/worth.ts'
import { placesOf } from '#db/schedule/places.ts'
import { stayingAmong, worthOfPlaces } from './level-run.ts'
import type { Reading } from './line-over.ts'
import { type Drawn, itemsOf, touchedBy, workOf } from './shown-line.ts'

interface WayTold {
  readonly line: Line
  /** What is above it, levelled. */
  readonly told: Levelled
  readonly criteria: LineAnswer['criteria']
}

/** What a run comes to, in the figures that are set side by side. */
export function wayFigures(reading: Reading, drawn: Drawn, { line, told, criteria }: WayTold): WayFigures {
  const { tx, project, now } = reading
  const { over, items } = drawn
  const [above, below] = [itemsOf(drawn, line.above), itemsOf(drawn, line.below)]
  const known = new Map(above.map((item) => [item.id, item]))
  const places = over.runs.flatMap((run) => placesOf(tx, run.id)).filter(({ item }) => known.has(item))
  const stays = stayingAmong(places, above, over.days)
  const standing = worthOfPlaces(stays, known)
  const risk = riskOf([...above, ...below])
  const aboveMinutes = above.map(({ minutes }) => minutes)
  return {
    minutes: over.hours,
    days: over.days.filter((_, at) => over.hands.some(({ minutes }) => (minutes[at] ?? 0) > 0)).length,
    people: over.hands.length,
    items: items.length,
    work: sumOf(items, ({ minutes }) => minutes),
    above: above.length,
    aboveMinutes: sumOf(aboveMinutes, (minutes) => minutes),
    riskLeft: risk === 0 ? 0 : Math.max(0, 1 - riskOf(above) / risk),
    worth: line.worth,
    whole: line.whole,
    requirements: touchedBy(above, below),
    criteria: { met: criteria.met, of: criteria.of, stake: criteria.stake.map(({ words }) => words) },
    ends: endOf(aboveMinutes, over.hands, over.days),
    placed: { items: told.assigned.length + stays.length, worth: told.worth + standing, bound: told.bound + standing },
    problems: problemsOf({
      today: dayIn(project.timeZone, now),
      days: over.days,
      hands: over.hands,
      work: workOf(reading, over, above),
      // What is neither begun nor pinned goes somewhere else when it is levelled.
      places: stays,
    }).map(({ words }) => words),
  }
}

/** The risk of what some items answer, each part of it once. */
function riskOf(items: readonly { readonly parts: readonly Part[] }[]): number {
  const parts = new Map(items.flatMap((item) => item.parts.map(({ of, share }) => [of, share])))
  return sumOf([...parts.values()], (share) => share)
}
