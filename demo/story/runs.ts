import type { Build } from '../../standins/crossing-desk/builds.ts'
import type { WrittenCase } from '../basis/read-basis.ts'

/** Builds with the days since they were offered, counted from today. */
export const offered: Readonly<Record<Build, number>> = {
  '2.3.0': -61,
  '2.3.1': -57,
  '2.3.2': -50,
  '2.3.4': -45,
  '2.4.0-beta1': -27,
  '2.4.0-beta2': -19,
  '2.4.0-rc1': -10,
  '2.4.0-rc2': -3,
  '2.4.0-rc3': -1,
}
export const releaseOf = (build: Build): '2.3' | '2.4' => (build.startsWith('2.3') ? '2.3' : '2.4')

/** A build a run works on, and the days from and to which it does. */
interface Phase {
  readonly build: Build
  readonly from: number
  readonly to: number
  /** Of what is left of the run, so much is executed here. */
  readonly share: number
  /** Of what was executed on the build before, so much is executed again. */
  readonly again?: number
}
export interface RunStory {
  readonly title: string
  readonly plan: 'shipped' | 'current' | 'late'
  readonly state: 'Planned' | 'Open' | 'Closed'
  readonly environments: readonly string[]
  readonly phases: readonly Phase[]
  /** The last day it is planned for. */
  readonly end: number
  readonly keeps: (own: RunCase) => boolean
  /** Which of its working days, counted from 0, the phones had no network on. */
  readonly outage?: number
}
/** A case as a run chooses by it. */
export interface RunCase extends WrittenCase {
  readonly release: string
  readonly iteration: number
}

const desk = 'Chromium, desk'
const phone = 'WebKit, phone'
const upTo = (iteration: number) => (own: RunCase) => own.release === '2.3' || own.iteration <= iteration

/** The six runs of Crossing Desk, the oldest first. A new build comes while three of them go on. */
export const runStories: readonly RunStory[] = [
  {
    title: '2.3 system test',
    plan: 'shipped',
    state: 'Closed',
    environments: [desk, phone],
    phases: [
      { build: '2.3.0', from: -60, to: -58, share: 0.6 },
      { build: '2.3.1', from: -56, to: -52, share: 1 },
    ],
    end: -52,
    keeps: ({ release }) => release === '2.3',
  },
  {
    title: '2.3 regression',
    plan: 'shipped',
    state: 'Closed',
    environments: [desk, phone],
    phases: [
      { build: '2.3.2', from: -49, to: -46, share: 0.7 },
      { build: '2.3.4', from: -44, to: -40, share: 1, again: 0.4 },
    ],
    end: -40,
    keeps: ({ release }) => release === '2.3',
  },
  {
    title: 'Beta regression',
    plan: 'current',
    state: 'Closed',
    environments: [desk, phone],
    phases: [
      { build: '2.4.0-beta1', from: -26, to: -20, share: 0.6 },
      { build: '2.4.0-beta2', from: -18, to: -12, share: 1, again: 0.3 },
    ],
    end: -12,
    keeps: upTo(2),
  },
  {
    title: 'Rc1 regression',
    plan: 'current',
    state: 'Closed',
    environments: [desk, phone],
    phases: [{ build: '2.4.0-rc1', from: -9, to: -4, share: 0.97 }],
    end: -4,
    keeps: upTo(3),
    outage: 1,
  },
  {
    title: 'Rc2 regression',
    plan: 'current',
    state: 'Open',
    environments: [desk, phone],
    phases: [{ build: '2.4.0-rc2', from: -2, to: 0, share: 0.5 }],
    end: 2,
    keeps: upTo(3),
  },
  {
    title: 'Smoke on Gecko',
    plan: 'late',
    state: 'Planned',
    environments: ['Gecko, desk'],
    phases: [{ build: '2.4.0-rc2', from: 4, to: 5, share: 0 }],
    end: 5,
    keeps: ({ importance }) => importance === 'Critical',
  },
]
