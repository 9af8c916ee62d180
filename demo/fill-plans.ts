import type { Tx } from '#db/open.ts'
import { addPlan, setPlanEnvironments, setPlanSuites } from '#db/plans/plans.ts'
import { addSuite, pinToSuite } from '#db/plans/suites.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { day, type Frame, type FilledCase, type Basis } from './fill.ts'

export function organise(tx: Tx, frame: Frame, basis: Basis, now: number) {
  const suite = (title: string, objective: string, keep: (own: FilledCase) => boolean, days: number) => {
    const id = addSuite(
      tx,
      {
        projectId: frame.projectId,
        number: takeNumbers(tx, frame.projectId, 'suite'),
        title,
        objective: `<p>${objective}</p>`,
        state: 'Active',
      },
      now - days * day,
    )
    pinToSuite(
      tx,
      id,
      basis.cases.filter((own) => own.written && own.requirementId !== null && keep(own)).map((own) => own.id),
    )
    return id
  }
  const important = (own: FilledCase) => own.importance === 'Critical' || own.importance === 'High'
  const booking = suite(
    'Booking core',
    'From the first search to a paid booking.',
    ({ component }) => component === 'Booking',
    80,
  )
  const money = suite(
    'Fares, payment and refunds',
    'Every way money comes and goes.',
    ({ component }) => component === 'Fares' || component === 'Payment',
    80,
  )
  const quay = suite(
    'Quay and deck',
    'What happens between check-in and departure.',
    ({ component }) => component === 'Quay' || component === 'Deck plan' || component === 'Weather',
    80,
  )
  const access = suite(
    'Access and platform',
    'Languages, keyboard, load and recovery.',
    ({ component }) => component === 'Access' || component === 'Platform',
    30,
  )
  const smoke = suite(
    'Smoke',
    'One hour that tells whether a build is worth testing.',
    (own) => own.importance === 'Critical',
    80,
  )
  const plan = (
    title: string,
    release: string,
    of: {
      state: 'Closed' | 'Signed off' | 'In review'
      iteration?: string
      suites: readonly number[]
      environments: readonly string[]
      objective: string
    },
    days: number,
  ) => {
    const id = addPlan(
      tx,
      {
        projectId: frame.projectId,
        number: takeNumbers(tx, frame.projectId, 'plan'),
        title,
        objective: `<p>${of.objective}</p>`,
        state: of.state,
        releaseId: frame.releases.get(release) ?? 0,
        iterationId: of.iteration ? (frame.iterations.get(of.iteration) ?? null) : null,
      },
      now - days * day,
    )
    setPlanSuites(tx, id, of.suites)
    setPlanEnvironments(
      tx,
      id,
      of.environments.map((name) => frame.environments.get(name) ?? 0),
    )
    return id
  }
  return {
    important,
    smoke,
    booking,
    money,
    quay,
    access,
    shipped: plan(
      'Release 2.3 regression',
      '2.3',
      {
        state: 'Closed',
        suites: [booking, money, quay],
        environments: ['Chromium, desk'],
        objective: 'Nothing that worked before stops working.',
      },
      78,
    ),
    current: plan(
      'Release 2.4 system test',
      '2.4',
      {
        state: 'Signed off',
        suites: [booking, money, quay, access],
        environments: ['Chromium, desk', 'WebKit, phone'],
        objective:
          'The new fare table, vehicle bands and deck rules work on desk and phone, and what 2.3 did still holds.',
      },
      28,
    ),
    late: plan(
      'Iteration 3: account payment and first day of sales',
      '2.4',
      {
        state: 'In review',
        iteration: '2.4/3',
        suites: [smoke],
        environments: ['Gecko, desk'],
        objective: 'The smoke suite on the third engine before the release is offered.',
      },
      4,
    ),
  }
}
