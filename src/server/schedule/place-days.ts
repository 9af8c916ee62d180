import { dayIn } from '#core/lib/days.ts'
import { counted, sumOf } from '#core/lib/figures.ts'
import { groupBy } from '#core/lib/group.ts'
import { keyOf } from '#core/lib/key.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type {
  moveOnDays as moveContract,
  PlacedItem,
  placeOnDays as placeContract,
  PlacingStored,
  restoreOnDays as restoreContract,
} from '#core/schedule/contract.ts'
import { freeOn } from '#core/schedule/load.ts'
import type { RunStored } from '#db/runs/runs.ts'
import { nameOf } from '#db/people/people.ts'
import { assigneesOf, dropPlaces, placesOf, putAssignees, putPlaces } from '#db/schedule/places.ts'
import { peopleOf } from '#db/schedule/team.ts'
import { openIds, openWork } from '#db/schedule/worth.ts'
import { tell } from '#db/talk/inbox.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { basisJob } from '#server/workers/questions.ts'
import { isElsewhere } from './level-run.ts'
import { daysLeft, handsIn, runGoingOn } from './team-days.ts'

/** So often it is looked again whether what a plan rests on has changed, where somebody changes the project all the while. */
const mostLooks = 4

/** Puts a whole plan of days in force, as long as what it was worked out from stands. */
export async function placeOnDays(
  context: OpenContext,
  { params, body }: Input<typeof placeContract>,
): Promise<Answer<typeof placeContract>> {
  const { services, project } = context
  for (let look = 0; look < mostLooks; look++) {
    const asked = { projectId: project.id, ref: params.ref, now: services.now() }
    const { basis, seen } = await services.jobs.run(basisJob, asked)
    if (basis !== body.basis) break
    const done = context.store((inside) =>
      inside.project.structureVersion === seen ? put(inside, params.ref, body) : null,
    )
    if (done) return done
  }
  throw new Refusal(
    'conflict',
    'Since this was worked out, the run, somebody’s time or the plan of days has changed; nothing was stored. Level again to see it with that.',
  )
}

function put(
  context: Context,
  ref: number,
  body: Pick<Input<typeof placeContract>['body'], 'places'>,
): Answer<typeof placeContract> {
  const { tx, project, now } = context
  const run = runGoingOn(tx, project, ref)
  const days = daysLeft(project, run, now)
  const team = new Set(peopleOf(tx, [run.id]))
  const open = openIds(tx, run.id)
  const own = new Set(open.map(({ id }) => id))
  const before = placesOf(tx, run.id).filter(({ item }) => own.has(item))
  // What somebody began meanwhile stays where it is.
  const placedBefore = new Set(before.map(({ item }) => item))
  const begun = new Set(open.flatMap(({ id, begun: is }) => (is === 1 && placedBefore.has(id) ? [id] : [])))
  const places = body.places.filter(({ item }) => own.has(item) && !begun.has(item))
  const astray = places.find(({ day }) => !days.includes(day))
  if (astray)
    throw new Refusal('invalid', `${astray.day} is none of the days that are left of the run; nothing was stored.`)
  if (places.some(({ person }) => !team.has(person)))
    throw new Refusal('invalid', 'Somebody of this plan is not of the run’s team; nothing was stored.')
  const placed = new Set(places.map(({ item }) => item))
  if (placed.size !== places.length)
    throw new Refusal('invalid', 'An item stands twice in this plan; nothing was stored.')
  const taken = before.flatMap(({ item }) => (placed.has(item) || begun.has(item) ? [] : [item]))
  const stood = asItStands(context, before, [...placed, ...taken])
  dropPlaces(tx, taken)
  putPlaces(tx, places)
  const told = tellPlanned(context, run, before, places)
  context.change({
    kind: 'run',
    id: run.id,
    ref: keyOf('run', run.number),
    action: 'levelled',
    detail: { items: [before.length, places.length] },
  })
  return { before: stood, told }
}

/** Where items are and whose they are, to be put back. */
function asItStands({ tx }: Context, all: readonly PlacedItem[], ids: readonly number[]): PlacingStored {
  const wanted = new Set(ids)
  const places = all.filter(({ item }) => wanted.has(item))
  const placed = new Set(places.map(({ item }) => item))
  return { places, off: ids.filter((id) => !placed.has(id)), assignees: assigneesOf(tx, ids) }
}

/** Tells everybody but whoever did it what came to their days; answers how many items that are. */
function tellPlanned(
  { tx, project, person, now }: Context,
  run: RunStored,
  before: readonly PlacedItem[],
  places: readonly PlacedItem[],
): number {
  const known = new Map(before.map((place) => [place.item, place]))
  const fresh = places.filter((place) => {
    const was = known.get(place.item)
    return was === undefined || isElsewhere(was, place)
  })
  for (const [personId, own] of groupBy(fresh, (place) => place.person)) {
    if (personId === person.id) continue
    const days = [...new Set(own.map(({ day }) => day))].sort()
    tell(tx, {
      projectId: project.id,
      personId,
      kind: 'planned',
      ref: keyOf('run', run.number),
      text: `put ${counted(own.length, 'item')} of ${run.title} on your days: ${days.join(', ')}`,
      fromId: person.id,
      at: now,
    })
  }
  return fresh.length
}

/** Some items to the end of somebody's day, where they are pinned; a pin may fill a day over, and that is said. */
export function moveOnDays(
  context: Context,
  { params, body }: Input<typeof moveContract>,
): Answer<typeof moveContract> {
  const { tx, project } = context
  const run = runGoingOn(tx, project, params.ref)
  const open = new Map(openWork(tx, run.id, body.ids).map((item) => [item.id, item]))
  const chosen = [...new Set(body.ids)]
  const wanted = chosen.flatMap((id) => open.get(id) ?? [])
  if (wanted.length < chosen.length)
    throw new Refusal('invalid', 'Some of these are no open items of this run any more; nothing was moved.')
  const all = placesOf(tx, run.id)
  const before = asItStands(context, all, chosen)
  const { to } = body
  if (to === null) {
    dropPlaces(tx, chosen)
    return { before, over: 0 }
  }
  const { free } = dayOf(context, run, to)
  const ids = new Set(chosen)
  const there = all.filter((place) => place.person === to.person && place.day === to.day && !ids.has(place.item))
  let start = Math.max(0, ...there.map((place) => place.start + place.minutes))
  const places = wanted.map((item): PlacedItem => {
    const at = start
    start += item.minutes
    return { item: item.id, ...to, start: at, minutes: item.minutes, pinned: true }
  })
  putPlaces(tx, places)
  tellPlanned(context, run, all, places)
  const sum = sumOf(there, ({ minutes }) => minutes) + sumOf(wanted, ({ minutes }) => minutes)
  context.change({
    kind: 'run',
    id: run.id,
    ref: keyOf('run', run.number),
    action: 'moved on days',
    detail: { items: [null, wanted.length] },
  })
  return { before, over: Math.max(0, sum - free) }
}

/** What somebody can give on a day of a run that is still to come. */
function dayOf(
  context: Context,
  run: RunStored,
  { person, day }: { person: string; day: string },
): { readonly free: number } {
  const { project, now } = context
  if (day < dayIn(project.timeZone, now)) throw new Refusal('invalid', `${day} is over; choose today or a later day.`)
  if (day < run.startOn || day > run.endOn)
    throw new Refusal(
      'invalid',
      `${day} is none of the days of ${keyOf('run', run.number)}, which goes from ${run.startOn} to ${run.endOn}.`,
    )
  const days = daysLeft(project, run, now)
  const hand = handsIn(context, run, days).find(({ id }) => id === person)
  if (!hand)
    throw new Refusal(
      'invalid',
      `${nameOf(context.tx, person) ?? 'This person'} is not of the team of ${keyOf('run', run.number)}; add them first.`,
    )
  return { free: freeOn(hand, days.indexOf(day)) }
}

/** Puts items where they were, as the answer of a placing or a move has it; what became of others meanwhile stays. */
export function restoreOnDays(
  context: Context,
  { params, body }: Input<typeof restoreContract>,
): Answer<typeof restoreContract> {
  const { tx, project } = context
  const run = runGoingOn(tx, project, params.ref)
  const named = [...body.off, ...body.places.map(({ item }) => item)]
  const own = new Set(openWork(tx, run.id, named).map(({ id }) => id))
  const places = body.places.filter(({ item }) => own.has(item))
  const off = body.off.filter((id) => own.has(id))
  dropPlaces(tx, off)
  putPlaces(tx, places)
  putAssignees(
    tx,
    body.assignees.filter(({ item }) => own.has(item)),
  )
  context.change({
    kind: 'run',
    id: run.id,
    ref: keyOf('run', run.number),
    action: 'moved on days',
    detail: { items: [null, places.length + off.length] },
  })
  return { restored: places.length + off.length }
}
