import type { FinalVerdict } from '#core/lib/verdict.ts'
import type { Random } from '#core/lib/random.ts'
import { dealEvenly } from '#core/runs/dealing.ts'
import { minute } from '../../standins/crossing-desk/clock.ts'
import type { Build } from '../../standins/crossing-desk/builds.ts'
import { type FaultId, faults } from '../../standins/crossing-desk/faults.ts'
import { instantAt, type Stretch, workingTime } from './calendar.ts'
import { metBy } from './looking.ts'
import { type RunCase, runStories, type RunStory } from './runs.ts'

export const testers = ['mira', 'tobin', 'yusra', 'ansa'] as const
/** How long each takes for what is estimated at one minute. */
const pace: Readonly<Record<string, number>> = { mira: 0.9, tobin: 1.6, yusra: 1, ansa: 1.1 }

/** Why a verdict is what it is. All but the first are human, and none of them tells anything of the build. */
export const reasons = [
  'as the build is',
  'no network on the phones',
  'the slow line',
  'not clear what is right',
  'left out',
  'overlooked',
] as const
type Reason = (typeof reasons)[number]

/** What happened to a case in a run, once. */
export interface Happened {
  readonly run: string
  readonly own: RunCase
  readonly environment: string
  readonly build: Build
  readonly person: string
  readonly startedAt: number
  readonly finishedAt: number
  readonly verdict: FinalVerdict
  readonly reason: Reason
  /** Which of the steps of the case the verdict was given at; `null`: all of it passed. */
  readonly step: number | null
  readonly fault: FaultId | null
  /** What the tester wrote at that step. */
  readonly seen: string
}
interface Slot {
  readonly own: RunCase
  readonly environment: string
  readonly person: string
}
export interface RunHappened {
  readonly story: RunStory
  /** In the order of the run. */
  readonly slots: readonly Slot[]
  readonly attempts: readonly Happened[]
}

/** All that happened in the runs, by the faults each build has and by what people are like; the same for the same `random`. */
export const happenings = (cases: readonly RunCase[], of: { now: number; random: Random }): RunHappened[] =>
  runStories.map((story) => {
    const slots = slotsOf(story, cases)
    return { story, slots, attempts: executed(story, slots, of) }
  })

const ranks: Readonly<Record<string, number>> = { Critical: 0, High: 1, Medium: 2, Low: 3 }

/** What matters most comes first; each tester gets an even share of the minutes. */
function slotsOf(story: RunStory, cases: readonly RunCase[]): Slot[] {
  const kept = cases
    .filter((own) => story.keeps(own))
    .sort((a, b) => (ranks[a.importance] ?? 9) - (ranks[b.importance] ?? 9))
    .flatMap((own) => story.environments.map((environment) => ({ own, environment })))
  const dealt = dealEvenly(
    kept.map(({ own }, id) => ({ id, minutes: minutesOf(own) })),
    testers,
  )
  const person = new Map(dealt.map((each) => [each.item, each.person]))
  return kept.map((slot, at) => ({ ...slot, person: person.get(at) ?? testers[0] }))
}

/** An estimate, in minutes. */
export const minutesOf = ({ steps, rows }: RunCase): number =>
  Math.round(2 + steps.length * 1.2 + Math.max(0, rows.length - 1) * 1.5)

const never: Stretch = { from: 0, to: 0 }

interface Going {
  readonly now: number
  readonly random: Random
}

function executed(story: RunStory, slots: readonly Slot[], of: Going): Happened[] {
  const done: Happened[] = []
  let left = [...slots]
  for (const { build, from, to, share, again: part = 0 } of story.phases) {
    const again = done
      .filter(({ verdict }) => verdict === 'Failed' || verdict === 'Blocked' || of.random() < part)
      .map(({ own, environment, person }) => ({ own, environment, person }))
    const now = [...again, ...left.slice(0, Math.round(left.length * share))]
    left = left.slice(Math.round(left.length * share))
    const stopped = workingTime(of.now, from, to)[story.outage ?? -1] ?? never
    for (const person of testers) {
      const own = now.filter((each) => each.person === person)
      done.push(...inTurn(story, own, { ...of, build, from, to, person, stopped }))
    }
  }
  return done.sort((a, b) => a.finishedAt - b.finishedAt)
}

interface Turn extends Going {
  readonly build: Build
  readonly from: number
  readonly to: number
  readonly person: string
  /** When the phones had no network. */
  readonly stopped: Stretch
}

/** One tester's cases, one after the other through the working hours; who was stopped by the network tries again the day after. */
function inTurn(story: RunStory, slots: readonly Slot[], turn: Turn): Happened[] {
  const { now, from, to, random, person } = turn
  const time = workingTime(now, from, to)
  const done = slots.map((slot, at) => {
    const startedAt = instantAt(time, (at + 0.2 * random()) / slots.length)
    const room = instantAt(time, (at + 0.95) / slots.length) - startedAt
    const wanted = minutesOf(slot.own) * (pace[person] ?? 1) * (0.75 + 0.5 * random()) * minute
    const took = Math.max(minute, Math.round(Math.min(wanted, room > 0 ? room : wanted)))
    return happened(story.title, slot, turn, { startedAt, finishedAt: startedAt + took })
  })
  return [...done, ...triedAgain(story.title, done, turn)]
}

const happened = (
  run: string,
  slot: Slot,
  turn: Turn,
  times: Pick<Happened, 'startedAt' | 'finishedAt'>,
): Happened => ({ run, ...slot, build: turn.build, ...times, ...verdictOf(slot, { ...turn, at: times.startedAt }) })

/** What the network stopped and matters most, once more on the last day. */
function triedAgain(run: string, done: readonly Happened[], turn: Turn): Happened[] {
  const time = workingTime(turn.now, turn.to, turn.to)
  return done
    .filter(({ reason, own }) => reason === 'no network on the phones' && ranks[own.importance]! < 2)
    .map(({ own, environment, person }, at, all) => {
      const startedAt = instantAt(time, 0.4 + (0.5 * at) / all.length)
      return happened(run, { own, environment, person }, turn, { startedAt, finishedAt: startedAt + 4 * minute })
    })
}

type Told = Pick<Happened, 'verdict' | 'reason' | 'step' | 'fault' | 'seen'>

/** Whose answer depends on the line to the machine it runs on. */
export const unreliable = 'Clock of the hold is on the page of payment too'
/** Passed although the fault was there: even a careful tester overlooks something. */
const overlookedTitle = 'Bow limit moves freight aft'

function verdictOf({ own, environment }: Slot, at: Turn & { readonly at: number }): Told {
  const { random, build } = at
  const last = own.steps.length - 1
  const human = (verdict: Told['verdict'], reason: Reason, step: number | null, seen: string): Told => ({
    verdict,
    reason,
    step,
    fault: null,
    seen,
  })
  if (at.at >= at.stopped.from && at.at <= at.stopped.to && environment.endsWith('phone'))
    return human('Blocked', 'no network on the phones', 0, 'The phones have no network today; the page does not open.')
  const met = metBy(own, build, environment)
  if (met && own.title === overlookedTitle && environment.endsWith('phone'))
    return human('Passed', 'overlooked', null, '')
  if (met) return { verdict: 'Failed', reason: 'as the build is', ...met, seen: faults[met.fault].see }
  if (own.title === unreliable && random() < 0.4)
    return human('Failed', 'the slow line', last, 'The clock stood still until the page was loaded again.')
  const chance = random()
  if (chance < 0.01)
    return human(
      'Inconclusive',
      'not clear what is right',
      last,
      'From what the page shows I cannot tell whether this is right.',
    )
  if (chance > 0.985) return human('Skipped', 'left out', 0, 'Left out: no time for it before the end.')
  return { verdict: 'Passed', reason: 'as the build is', step: null, fault: null, seen: '' }
}
