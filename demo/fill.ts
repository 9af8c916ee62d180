import { addDays, format } from 'date-fns'
import { emptyContent } from '#core/cases/steps.ts'
import { dayIn, weekdayOf } from '#core/lib/days.ts'
import { seeded } from '#core/lib/random.ts'
import type { Db, Tx } from '#db/open.ts'
import { allPeople } from '#db/people/people.ts'
import { sortByTime } from '#db/history/changes.ts'
import { writeSetting } from '#db/installation/settings.ts'
import { addBuild, addEnvironment, addIteration, addRelease } from '#db/projects/releases.ts'
import { addProject, findProject } from '#db/projects/projects.ts'
import { stampOf } from '#server/cases/rewrite-case.ts'
import { fillComings, fillPeople, joinPeople, people } from './fill-people.ts'
import { fillDepot } from './fill-depot.ts'
import { fillReuse } from './fill-reuse.ts'
import { fillFields } from './fill-fields.ts'
import { fillTechniques } from './fill-techniques.ts'
import { writeBasis } from './fill-basis.ts'
import { organise } from './fill-plans.ts'
import { execute } from './fill-runs.ts'
import { logDefects, evidenceWriter, editLately } from './fill-defects.ts'

interface FillOptions {
  readonly now: number
  readonly hash: (password: string) => Promise<string>
  readonly evidence: string
  /** Folder of the demo's own pictures. */
  readonly pictures: string
}
export const day = 86_400_000
const password = 'ferry-2024'

export const testers = ['mira', 'tobin', 'yusra', 'ansa'] as const

/** Fills the demo once; answers who can sign in. Dates count from the day it is filled. */
export async function fillDemo(
  db: Db,
  options: FillOptions,
): Promise<{ name: string; email: string; roles: string }[]> {
  if (!findProject(db, 'FERRY')) {
    const passwordHash = await options.hash(password)
    const writeEvidence = evidenceWriter(options.evidence)
    db.transaction((tx) => {
      fill(tx, { ...options, passwordHash, writeEvidence })
      writeSetting(tx, 'sample password', password)
    })
  }
  return allPeople(db)
}

export interface Filling extends FillOptions {
  readonly passwordHash: string
  readonly writeEvidence: (bytes: Buffer) => string
}

function fill(tx: Tx, of: Filling): void {
  const random = seeded(24)
  fillPeople(tx, of)
  const frame = setUpFerry(tx, of.now)
  const basis = writeBasis(tx, frame, of, random)
  const plans = organise(tx, frame, basis, of.now)
  const runs = execute(tx, frame, plans, { ...of, random, basis })
  logDefects(tx, frame, basis, runs, of)
  editLately(tx, frame, basis, of)
  fillFields(tx, frame.projectId, {
    cases: basis.cases,
    requirements: [...basis.requirements].map(([title, id]) => ({ id, title })),
    people: people.map(({ id }) => id),
    random: seeded(77),
    now: of.now,
  })
  fillReuse(tx, { projectId: frame.projectId, now: of.now, cases: basis.cases })
  fillTechniques(tx, { projectId: frame.projectId, now: of.now, cases: basis.cases, requirements: basis.requirements })
  fillDepot(tx, { now: of.now, emptyFingerprint: stampOf(emptyContent) })
  fillComings(tx, frame.projectId, of.now)
  sortByTime(tx)
}

/** Monday to Friday, and the day on which the demo is begun: before a release some work on it, too. */
const workingDays = (today: string): string => [...new Set([1, 2, 3, 4, 5, weekdayOf(today)])].sort().join(',')

function setUpFerry(tx: Tx, now: number) {
  const projectId = addProject(tx, {
    key: 'FERRY',
    name: 'Crossing Desk',
    product: 'Crossing Desk',
    timeZone: 'Europe/Oslo',
    workingDays: workingDays(dayIn('Europe/Oslo', now)),
    createdAt: now - 90 * day,
  })
  joinPeople(tx, projectId)
  const date = (days: number) => format(addDays(now, days), 'yyyy-MM-dd')
  const releases = new Map([
    ['2.3', addRelease(tx, projectId, { name: '2.3', state: 'Shipped', startOn: date(-84), dueOn: date(-40) })],
    ['2.4', addRelease(tx, projectId, { name: '2.4', state: 'In test', startOn: date(-30), dueOn: date(21) })],
  ])
  const iterations = addIterations(tx, releases, date)
  const builds = addBuilds(tx, projectId, releases, now)
  return { projectId, releases, iterations, builds, environments: addEnvironments(tx, projectId), date }
}
export type Frame = ReturnType<typeof setUpFerry>

/** Days from today on which the iterations of a release begin, and the last ends. */
const starts: Readonly<Record<string, readonly number[]>> = { '2.3': [-84, -70, -56, -40], '2.4': [-30, -16, -2, 21] }

function addIterations(
  tx: Tx,
  releases: ReadonlyMap<string, number>,
  date: (days: number) => string,
): Map<string, number> {
  const made = new Map<string, number>()
  for (const [name, releaseId] of releases)
    for (const n of [1, 2, 3]) {
      const [from = 0, to = 1] = (starts[name] ?? []).slice(n - 1)
      const iteration = { releaseId, name: `Iteration ${n}`, startOn: date(from), dueOn: date(to - 1) }
      made.set(`${name}/${n}`, addIteration(tx, iteration))
    }
  return made
}

/** Builds with the days since they were offered. */
const offered: readonly (readonly [name: string, release: string, days: number])[] = [
  ['2.3.0', '2.3', -75],
  ['2.3.1', '2.3', -62],
  ['2.3.2', '2.3', -50],
  ['2.3.4', '2.3', -43],
  ['2.4.0-beta1', '2.4', -27],
  ['2.4.0-beta2', '2.4', -19],
  ['2.4.0-rc1', '2.4', -10],
  ['2.4.0-rc2', '2.4', -3],
]

/** All that were offered, and one that was refused as soon as somebody looked at it. */
function addBuilds(tx: Tx, projectId: number, releases: ReadonlyMap<string, number>, now: number): Map<string, number> {
  const releaseId = (name: string) => releases.get(name) ?? 0
  const builds = new Map(
    offered.map(([name, release, days]) => [
      name,
      addBuild(tx, projectId, { releaseId: releaseId(release), name, offeredAt: now + days * day }),
    ]),
  )
  const refused = { state: 'Refused' as const, offeredAt: now - day, endedAt: now - 0.8 * day }
  const name = '2.4.0-rc3'
  return builds.set(name, addBuild(tx, projectId, { releaseId: releaseId('2.4'), name, ...refused }))
}

const environments: readonly (readonly [engine: string, device: string, database: string, seats: number | null])[] = [
  ['Chromium', 'desk', 'Tern', null],
  ['Gecko', 'desk', 'Tern', null],
  ['WebKit', 'desk', 'Otter', null],
  ['Chromium', 'phone', 'Tern', 2],
  ['WebKit', 'phone', 'Otter', 1],
  ['WebKit', 'tablet', 'Otter', 1],
]

const addEnvironments = (tx: Tx, projectId: number): Map<string, number> =>
  new Map(
    environments.map(([engine, device, database, seats]) => {
      const name = `${engine}, ${device}`
      return [name, addEnvironment(tx, projectId, { name, seats, values: { engine, device, database } })]
    }),
  )

export interface FilledCase {
  readonly id: number
  readonly title: string
  readonly component: string
  readonly requirementId: number | null
  readonly importance: string
  readonly versionId: number | null
  readonly written: boolean
}
export interface Basis {
  readonly cases: readonly FilledCase[]
  readonly requirements: ReadonlyMap<string, number>
}
export interface DoneAttempt {
  readonly id: number
  readonly itemId: number
  readonly own: FilledCase
  readonly environment: string
  readonly build: string
  readonly verdict: string
  readonly failedStep: number | null
  readonly at: number
  readonly personId: string
}
