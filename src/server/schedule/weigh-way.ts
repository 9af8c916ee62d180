import { sumOf } from '#core/lib/figures.ts'
import { endOf } from '#core/schedule/finish.ts'
import { loadOf } from '#core/schedule/load.ts'
import { problemsOf } from '#core/schedule/problems.ts'
import { dayIn } from '#core/lib/days.ts'
import { type Changes, noChanges, type weighWhatIf as contract } from '#core/schedule/what-if-contract.ts'
import { placesOf } from '#db/schedule/places.ts'
import { type Hand, handsOf, newcomerMinutes, peopleOf } from '#db/schedule/team.ts'
import { whatIfById } from '#db/schedule/what-if.ts'
import type { RunStored } from '#db/runs/runs.ts'
import { found } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { levelJob } from '#server/workers/questions.ts'
import { modelOf, stayingAmong } from './level-run.ts'
import { type LineOver, overRun, weighed } from './line-over.ts'
import { atStake, workOf } from './read-line.ts'
import { daysLeft, hoursOf, reserveOf } from './team-days.ts'

/** What a run comes to if it goes another way, or as it goes now. Nothing is stored. */
export async function weighWhatIf(
  context: OpenContext,
  { params, query }: Input<typeof contract>,
): Promise<Answer<typeof contract>> {
  const { tx, services, project } = context
  const now = overRun(context, params.ref)
  const run = found(now.runs[0], 'the run')
  const way = query.id === undefined ? null : found(whatIfById(tx, query.id), 'the what-if')
  if (way && way.runId !== run.id) found(undefined, 'the what-if')
  const changes = way?.changes ?? noChanges
  const over = changed(context, { now, run, changes })
  const { items, line, scope } = await weighed(context, over, { without: changes.without })
  const known = new Map(items.map((item) => [String(item.id), item]))
  const of = (keys: readonly string[]) => keys.flatMap((key) => known.get(key) ?? [])
  const [above, below] = [of(line.above), of(line.below)]
  const places = placesOf(tx, run.id)
  const stays = stayingAmong(places, above, over.days)
  const told = await services.jobs.run(
    levelJob,
    modelOf(context, { run, open: above, days: over.days, hands: over.hands, stays }),
  )
  const standing = sumOf(stays, ({ item }) => {
    const own = known.get(String(item))
    return own ? own.share * own.chance : 0
  })
  const criteria = await atStake(context, scope, { above, all: items })
  const risk = riskOf([...above, ...below])
  const touched = new Set(above.flatMap(({ requirements }) => requirements))
  const untouched = new Set(below.flatMap(({ requirements }) => requirements).filter((id) => !touched.has(id)))
  const aboveMinutes = above.map(({ minutes }) => minutes)
  const kept = loadOf(stays)
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
    requirements: { above: touched.size, below: untouched.size },
    criteria: { met: criteria.met, of: criteria.of, stake: criteria.stake.map(({ words }) => words) },
    ends: endOf(aboveMinutes, over.hands, over.days),
    placed: { items: told.assigned.length + stays.length, worth: told.worth + standing, bound: told.bound + standing },
    problems: problemsOf({
      today: dayIn(project.timeZone, services.now()),
      days: over.days,
      hands: over.hands,
      work: workOf(context, over, above),
      places: places.filter(({ person, day }) => kept(person, day) > 0),
    }).map(({ words }) => words),
  }
}

/** The run as it would go: its days, and who there is on them. */
function changed(
  { tx, project, services }: OpenContext,
  { now, run, changes }: { now: LineOver; run: RunStored; changes: Changes },
): LineOver {
  const { join, more, endOn, reservePercent } = changes
  const days = endOn === null ? now.days : daysLeft(project, { startOn: run.startOn, endOn }, services.now())
  const asked = {
    projectId: project.id,
    people: [...new Set([...peopleOf(tx, [run.id]), ...join])],
    runs: [run.id],
    reservePercent: reservePercent ?? reserveOf(project, run),
  }
  const minutes = newcomerMinutes(tx, { ...asked, workingDays: project.workingDays }, days)
  const unnamed = Array.from({ length: more }, (_, at): Hand => ({
    id: `new ${at + 1}`,
    name: 'a new tester',
    skills: [],
    minutes,
    busy: days.map(() => 0),
  }))
  const hands = [...handsOf(tx, asked, days), ...unnamed]
  const hours = hoursOf(hands, days)
  return {
    ...now,
    days,
    hands,
    hours,
    // A line drawn by hand moves with the hours that come or go.
    drawn: now.drawn === null ? null : Math.max(0, now.drawn + hours - now.hours),
  }
}

/** The risk of the places that some items answer, each place once. */
function riskOf(items: readonly { readonly place: string; readonly share: number }[]): number {
  const places = new Map(items.map(({ place, share }) => [place, share]))
  return sumOf([...places.values()], (share) => share)
}
