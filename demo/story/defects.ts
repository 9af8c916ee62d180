import type { DefectState, Severity } from '#core/defects/state.ts'
import { day, hour, minute } from '../../standins/crossing-desk/clock.ts'
import { type Build, builds } from '../../standins/crossing-desk/builds.ts'
import { type FaultId, faultIds, faults } from '../../standins/crossing-desk/faults.ts'
import type { Happened } from './attempts.ts'
import { offered } from './runs.ts'

export interface StateTold {
  readonly state: DefectState
  readonly at: number
  readonly person: string
  readonly fixedIn: Build | null
}
/** `A` is an attempt in whatever form the caller has it: what happened, or what was stored of it. */
export interface DefectStory<A extends Happened = Happened> {
  readonly title: string
  readonly text: string
  readonly severity: Severity
  readonly fault: FaultId | null
  /** The case it tells of, where no attempt failed by it. */
  readonly about: string
  readonly foundIn: Build
  /** Attempts that failed by it, the first of which it was logged from. */
  readonly failing: readonly A[]
  readonly states: readonly StateTold[]
}

interface Range {
  readonly from: Build
  readonly fixed: Build | null
}
const after = (build: Build, other: Build): boolean => builds.indexOf(build) >= builds.indexOf(other)
const within = (build: Build, { from, fixed }: Range): boolean =>
  after(build, from) && (fixed === null || !after(build, fixed))
const rangesOf = (id: FaultId): Range[] => {
  const { from, fixed, again } = faults[id]
  return [{ from, fixed }, ...(again ? [again] : [])]
}

/** What was logged: a defect for each fault that made somebody's case fail, with its repair and its retest; and what people add to that. */
export function defectStories<A extends Happened>(attempts: readonly A[], now: number): DefectStory<A>[] {
  const found = faultIds.flatMap((id) => storyOf(id, attempts, now) ?? [])
  const whole = (story: DefectStory<A>): DefectStory<A> => ({
    ...story,
    states: story.states.map((each) => ({ ...each, at: Math.round(each.at) })),
  })
  return [...found, ...byPeople(found, now)].map(whole).sort((a, b) => (a.states[0]?.at ?? 0) - (b.states[0]?.at ?? 0))
}

function storyOf<A extends Happened>(id: FaultId, attempts: readonly A[], now: number): DefectStory<A> | null {
  const failing = attempts.filter(({ fault }) => fault === id)
  const [first] = failing
  if (!first) return null
  const { defect: title, see: text, severity } = faults[id]
  const states = rangesOf(id).flatMap((range) => statesIn(id, range, attempts, now))
  // What comes back is not reported anew: the same defect is open again.
  const told = states.map((each, at): StateTold =>
    at > 0 && each.state === 'Reported' ? { ...each, state: 'Confirmed' } : each,
  )
  return { title, text, severity, fault: id, about: first.own.title, foundIn: first.build, failing, states: told }
}

/** From the first failure in a range of builds to the retest in a build that has the repair. */
function statesIn(id: FaultId, range: Range, attempts: readonly Happened[], now: number): StateTold[] {
  const first = attempts.find(({ fault, build }) => fault === id && within(build, range))
  if (!first) return []
  const at = first.finishedAt + 4 * minute
  const reported: StateTold = { state: 'Reported', at, person: first.person, fixedIn: null }
  const { fixed } = range
  if (fixed === null) return [reported, ...openStates(id, at, now)]
  const ready = Math.max(at + 3 * hour, now + offered[fixed] * day - 5 * hour)
  const inRepair: StateTold = { state: 'In repair', at: at + (ready - at) / 3, person: 'piet', fixedIn: null }
  const repaired: StateTold = { state: 'Ready to retest', at: ready, person: 'piet', fixedIn: fixed }
  const retest = attempts.find(
    (each) =>
      each.own.title === first.own.title &&
      each.environment === first.environment &&
      after(each.build, fixed) &&
      each.verdict === 'Passed' &&
      each.finishedAt > ready,
  )
  const closed: StateTold[] = retest
    ? [{ state: 'Closed', at: retest.finishedAt + 2 * minute, person: retest.person, fixedIn: fixed }]
    : []
  return [reported, inRepair, repaired, ...closed].filter((each) => each.at <= now)
}

/** Nobody has mended it: what is grave is worked on, the rest waits for its turn. */
function openStates(id: FaultId, at: number, now: number): StateTold[] {
  const { severity } = faults[id]
  const states: StateTold[] = [{ state: 'Confirmed', at: at + 5 * hour, person: 'mira', fixedIn: null }]
  if (severity === 'Critical' || faultIds.indexOf(id) % 3 === 0)
    states.push({ state: 'In repair', at: at + 20 * hour, person: 'piet', fixedIn: null })
  return severity === 'Cosmetic' ? [] : states.filter((each) => each.at <= now)
}

/** Two that tell again of what is known, two that were none, and one of a build that was refused before a run began on it. */
function byPeople<A extends Happened>(found: readonly DefectStory<A>[], now: number): DefectStory<A>[] {
  const twice = (fault: FaultId, title: string, text: string): DefectStory<A>[] => {
    const story = found.find((each) => each.fault === fault)
    const second = story?.failing[1]
    if (!story || !second) return []
    const states: StateTold[] = [
      { state: 'Reported', at: second.finishedAt + 6 * minute, person: second.person, fixedIn: null },
    ]
    return [{ ...story, title, text, failing: [], foundIn: second.build, states }]
  }
  const none = (about: string, title: string, text: string, [at, build]: readonly [number, Build]): DefectStory<A> => ({
    title,
    text,
    severity: 'Minor',
    fault: null,
    about,
    foundIn: build,
    failing: [],
    states: [
      { state: 'Reported', at: now + at * day, person: 'tobin', fixedIn: null },
      { state: 'Rejected', at: now + (at + 0.6) * day, person: 'ansa', fixedIn: null },
    ],
  })
  return [
    ...twice(
      'band-cut-to-decimetres',
      'A car of 4.51 m is charged as 4.5 m',
      'The fare of a car of 4.51 m is 29.00, that of the small band.',
    ),
    ...twice(
      'trailer-in-another-lane',
      'Car and trailer are parted on the deck plan',
      'The trailer of a car stands in C2, the car in C1.',
    ),
    none(
      'Motorcycle pays the fixed fare',
      'Motorcycle of 2.60 m pays no more than one of 1.90 m',
      'Both pay 11.00. By the requirement that is right: the fare is fixed.',
      [-24.2, '2.4.0-beta1'],
    ),
    none(
      'Friday evening pays in full',
      'Sailing of Friday at 20:30 is not off-peak',
      'It costs 9.00. By the requirement that is right: Fridays have no off-peak sailings.',
      [-47.4, '2.3.2'],
    ),
    refusedBuild(now),
  ]
}

/** Nobody could try that build at all. */
function refusedBuild(now: number): DefectStory<never> {
  const { defect: title, see: text, severity } = faults['nobody-signs-in']
  return {
    title,
    text,
    severity,
    fault: 'nobody-signs-in',
    about: 'Staff sign in and land on their page',
    foundIn: '2.4.0-rc3',
    failing: [],
    states: [
      { state: 'Reported', at: now - 0.85 * day, person: 'ansa', fixedIn: null },
      { state: 'In repair', at: now - 0.7 * day, person: 'piet', fixedIn: null },
    ],
  }
}
