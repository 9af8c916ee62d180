import type { Tx } from '#db/open.ts'
import { addPlan, setPlanEnvironments, setPlanSuites } from '#db/plans/plans.ts'
import { addSuite, pinToSuite } from '#db/plans/suites.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { day } from '../standins/crossing-desk/clock.ts'
import { type Frame, type FilledCase, type Basis } from './fill.ts'

/** The suites of Crossing Desk: what each finds out, which written cases it pins, and how many days ago it was made. */
const suites = {
  booking: {
    title: 'Booking core',
    objective: 'From the first search to a paid booking.',
    keep: ({ own: { component } }: FilledCase) => component === 'Booking',
    days: 80,
  },
  money: {
    title: 'Fares, payment and refunds',
    objective: 'Every way money comes and goes.',
    keep: ({ own: { component } }: FilledCase) => component === 'Fares' || component === 'Payment',
    days: 80,
  },
  quay: {
    title: 'Quay and deck',
    objective: 'What happens between check-in and departure.',
    keep: ({ own: { component } }: FilledCase) => ['Quay', 'Deck plan', 'Weather'].includes(component),
    days: 80,
  },
  access: {
    title: 'Access and platform',
    objective: 'Languages, keyboard, load and recovery.',
    keep: ({ own: { component } }: FilledCase) => component === 'Access' || component === 'Platform',
    days: 30,
  },
  smoke: {
    title: 'Smoke',
    objective: 'One hour that tells whether a build is worth testing.',
    keep: ({ own: { importance } }: FilledCase) => importance === 'Critical',
    days: 80,
  },
}
type SuiteName = keyof typeof suites

interface DemoPlan {
  readonly title: string
  readonly release: string
  readonly iteration?: string
  readonly state: 'Closed' | 'Signed off' | 'In review'
  readonly suites: readonly SuiteName[]
  readonly environments: readonly string[]
  readonly objective: string
  readonly days: number
}

const shipped: DemoPlan = {
  title: 'Release 2.3 regression',
  release: '2.3',
  state: 'Closed',
  suites: ['booking', 'money', 'quay'],
  environments: ['Chromium, desk', 'WebKit, phone'],
  objective: 'Nothing that worked before stops working.',
  days: 78,
}
const current: DemoPlan = {
  title: 'Release 2.4 system test',
  release: '2.4',
  state: 'Signed off',
  suites: ['booking', 'money', 'quay', 'access'],
  environments: ['Chromium, desk', 'WebKit, phone'],
  objective: 'The new fare table, vehicle bands and deck rules work on desk and phone, and what 2.3 did still holds.',
  days: 28,
}
const late: DemoPlan = {
  title: 'Iteration 3: account payment and first day of sales',
  release: '2.4',
  iteration: '2.4/3',
  state: 'In review',
  suites: ['smoke'],
  environments: ['Gecko, desk'],
  objective: 'The smoke suite on the third engine before the release is offered.',
  days: 4,
}

/** Suites and the plans over them. */
export function organise(tx: Tx, frame: Frame, basis: Basis, now: number) {
  const made = {
    booking: writeSuite(tx, frame, basis, now, 'booking'),
    money: writeSuite(tx, frame, basis, now, 'money'),
    quay: writeSuite(tx, frame, basis, now, 'quay'),
    access: writeSuite(tx, frame, basis, now, 'access'),
    smoke: writeSuite(tx, frame, basis, now, 'smoke'),
  }
  const plan = (of: DemoPlan) => {
    const id = writePlan(tx, frame, of, now)
    setPlanSuites(
      tx,
      id,
      of.suites.map((name) => made[name]),
    )
    return id
  }
  return { plans: { shipped: plan(shipped), current: plan(current), late: plan(late) }, suites: made }
}

function writeSuite(tx: Tx, { projectId }: Frame, { cases }: Basis, now: number, name: SuiteName): number {
  const { title, objective, keep, days } = suites[name]
  const number = takeNumbers(tx, projectId, 'suite')
  const suite = { projectId, number, title, objective: `<p>${objective}</p>`, state: 'Active' as const }
  const id = addSuite(tx, suite, now - days * day)
  const pinned = cases.filter((own) => own.approved && keep(own))
  pinToSuite(
    tx,
    id,
    pinned.map((own) => own.id),
  )
  return id
}

function writePlan(
  tx: Tx,
  { projectId, releases, iterations, environments }: Frame,
  of: DemoPlan,
  now: number,
): number {
  const id = addPlan(
    tx,
    {
      projectId,
      number: takeNumbers(tx, projectId, 'plan'),
      title: of.title,
      objective: `<p>${of.objective}</p>`,
      state: of.state,
      releaseId: releases.get(of.release) ?? 0,
      iterationId: of.iteration ? (iterations.get(of.iteration) ?? null) : null,
    },
    now - of.days * day,
  )
  setPlanEnvironments(
    tx,
    id,
    of.environments.map((name) => environments.get(name) ?? 0),
  )
  return id
}
