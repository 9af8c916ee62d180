import { dayIn, daysBetween } from '#core/lib/days.ts'
import { sumOf } from '#core/lib/figures.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { hasEnded } from '#core/runs/state.ts'
import { keyOf } from '#core/lib/key.ts'
import type { HandShown, PlacedItem } from '#core/schedule/contract.ts'
import { freeOn, loadOf } from '#core/schedule/load.ts'
import { findRun, type RunStored } from '#db/runs/runs.ts'
import { type Hand, handsOf, peopleOf } from '#db/schedule/team.ts'
import { found } from '#server/http/context.ts'
import type { OpenContext } from '#server/http/route.ts'
import type { Tx } from '#db/open.ts'
import type { ProjectRow } from '#db/projects/projects.ts'

/** So many days are planned at most. */
export const mostDays = 60

export const runNamed = (tx: Tx, project: ProjectRow, ref: number): RunStored =>
  found(findRun(tx, project.id, ref), keyOf('run', ref))

/** The same, of one that still goes on: an ended one is not planned any more. */
export function runGoingOn(tx: Tx, project: ProjectRow, ref: number): RunStored {
  const run = runNamed(tx, project, ref)
  if (hasEnded(run.state))
    throw new Refusal('refused', `${keyOf('run', ref)} is ${run.state}; what is left of it is not planned any more.`)
  return run
}

/** The days of a run from today on; what is past cannot be planned. */
export function daysLeft({ timeZone }: ProjectRow, run: Pick<RunStored, 'startOn' | 'endOn'>, now: number): string[] {
  const today = dayIn(timeZone, now)
  return daysBetween(run.startOn > today ? run.startOn : today, run.endOn, mostDays)
}

export const handsIn = (
  { tx, project }: Pick<OpenContext, 'tx' | 'project'>,
  run: RunStored,
  days: readonly string[],
): Hand[] =>
  handsOf(
    tx,
    { projectId: project.id, people: peopleOf(tx, [run.id]), runs: [run.id], reservePercent: reserveOf(project, run) },
    days,
  )

/** What of its team's time a run keeps for retests, in per cent. */
export const reserveOf = (project: ProjectRow, run: RunStored): number => run.reservePercent ?? project.reservePercent

export const hoursOf = (hands: readonly Hand[], days: readonly string[]): number =>
  sumOf(hands, (hand) => sumOf([...days.keys()], (day) => freeOn(hand, day)))

export function shownHands(
  hands: readonly Hand[],
  days: readonly string[],
  places: readonly PlacedItem[],
): HandShown[] {
  const load = loadOf(places)
  return hands.map((hand) => ({
    ...hand,
    skills: [...hand.skills],
    minutes: [...hand.minutes],
    busy: [...hand.busy],
    placed: days.map((day) => load(hand.id, day)),
  }))
}

/** A last day lies in a run, and not behind today. */
export function refuseLastDay(
  { timeZone }: ProjectRow,
  run: Pick<RunStored, 'number' | 'startOn'>,
  { endOn, now }: { readonly endOn: string; readonly now: number },
): void {
  const fault = (sentence: string) =>
    new Refusal('invalid', sentence, { fields: [{ field: 'endOn', message: sentence }] })
  const today = dayIn(timeZone, now)
  if (endOn < today) throw fault(`${endOn} is before today, ${today}; nothing was stored.`)
  if (endOn < run.startOn) throw fault(`${keyOf('run', run.number)} starts on ${run.startOn}; ${endOn} is before that.`)
}
