import { seeded } from '#core/lib/random.ts'
import type { Db, Tx } from '#db/open.ts'
import { allPeople } from '#db/people/people.ts'
import { sortByTime } from '#db/history/changes.ts'
import { keepSample, sampleOf } from '#db/installation/samples.ts'
import { writeSetting } from '#db/installation/settings.ts'
import { addBuild, addEnvironment, addIteration, addRelease } from '#db/projects/releases.ts'
import { addProject, findProject } from '#db/projects/projects.ts'
import { learnNow } from '#server/schedule/renew-minutes.ts'
import { day } from '../standins/crossing-desk/clock.ts'
import { fillComings, fillPeople, joinPeople, people } from './fill-people.ts'
import { fillDepot } from './fill-depot.ts'
import { fillReuse } from './fill-reuse.ts'
import { fillEnvironments, retireCase } from './fill-environments.ts'
import { fillFields } from './fill-fields.ts'
import { fillTechniques } from './fill-techniques.ts'
import { type Routine, writeBasis } from './fill-basis.ts'
import { fillCriteria } from './fill-criteria.ts'
import { composeSuites } from './fill-suites.ts'
import { fillDays } from './fill-days.ts'
import { fillOrder } from './fill-order.ts'
import { fillRules } from './fill-rules.ts'
import { fillVersions } from './fill-versions.ts'
import { organise } from './fill-plans.ts'
import { execute } from './fill-runs.ts'
import { evidenceWriter, logDefects } from './fill-defects.ts'
import { editLately } from './fill-lately.ts'
import { writeSights } from './sights.ts'
import { datesFrom, plannedWeekdays, zone } from './story/calendar.ts'
import type { RunCase } from './story/runs.ts'
import { offered, releaseOf } from './story/runs.ts'
import { builds as buildNames } from '../standins/crossing-desk/builds.ts'

interface FillOptions {
  readonly now: number
  readonly hash: (password: string) => Promise<string>
  readonly evidence: string
  /** Folder of the demo's own pictures. */
  readonly pictures: string
}
const password = 'ferry-2024'

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

/** The page that tells of the sample names where the application it tests runs, for as long as it does; `null`: it does not. */
export function nameDesk(db: Db, desk: string | null): void {
  const project = findProject(db, 'FERRY')
  const sample = project && sampleOf(db, project.id)
  if (project && sample && sample.desk !== desk) keepSample(db, project.id, { ...sample, desk })
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
  const { plans, suites } = organise(tx, frame, basis, of.now)
  const done = execute(tx, frame, plans, { ...of, random, basis })
  logDefects(tx, frame, basis, done, of)
  editLately(tx, frame, basis, of)
  const cases = basis.cases.map(({ id, own, approved }) => ({ id, title: own.title, written: approved }))
  fillFields(tx, frame.projectId, {
    cases,
    requirements: basis.requirements,
    people: people.map(({ id }) => id),
    random: seeded(77),
    now: of.now,
  })
  fillReuse(tx, { projectId: frame.projectId, now: of.now, cases })
  fillTechniques(tx, {
    projectId: frame.projectId,
    now: of.now,
    cases,
    requirements: basis.requirements,
    routines: basis.routines,
  })
  retireCase(tx, frame.projectId, of.now)
  composeSuites(tx, frame, { basis, suites, now: of.now })
  fillEnvironments(tx, frame, { plans, suites }, of.now)
  fillCriteria(tx, frame, plans, of.now)
  fillVersions(tx, frame, plans, of.now)
  fillRules(tx, frame, of.now)
  fillOrder(tx, frame, of.now)
  fillDays(tx, frame, of.now)
  fillDepot(tx, of.now)
  fillComings(tx, frame.projectId, of.now)
  writeSights(tx, frame.projectId, of.now)
  sortByTime(tx)
  learnNow(tx, of.now)
}

function setUpFerry(tx: Tx, now: number) {
  const projectId = addProject(tx, {
    key: 'FERRY',
    name: 'Crossing Desk',
    product: 'Crossing Desk',
    timeZone: zone,
    workingDays: plannedWeekdays(now).join(','),
    createdAt: now - 90 * day,
  })
  joinPeople(tx, projectId)
  const date = datesFrom(now)
  const releases = new Map([
    ['2.3', addRelease(tx, projectId, { name: '2.3', state: 'Shipped', startOn: date(-84), dueOn: date(-38) })],
    ['2.4', addRelease(tx, projectId, { name: '2.4', state: 'In test', startOn: date(-30), dueOn: date(21) })],
  ])
  const iterations = addIterations(tx, releases, date)
  const builds = addBuilds(tx, projectId, releases, now)
  return { projectId, releases, iterations, builds, environments: addEnvironments(tx, projectId), date }
}
export type Frame = ReturnType<typeof setUpFerry>

/** Days from today on which the iterations of a release begin, and the last ends. */
const starts: Readonly<Record<string, readonly number[]>> = { '2.3': [-84, -70, -56, -38], '2.4': [-30, -16, -2, 21] }

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

/** All that were offered, and one that was refused as soon as somebody looked at it. */
function addBuilds(tx: Tx, projectId: number, releases: ReadonlyMap<string, number>, now: number): Map<string, number> {
  const refused = { state: 'Refused' as const, endedAt: now - 0.7 * day }
  return new Map(
    buildNames.map((name) => {
      const at = { releaseId: releases.get(releaseOf(name)) ?? 0, name, offeredAt: now + offered[name] * day }
      return [name, addBuild(tx, projectId, { ...at, ...(name === '2.4.0-rc3' && refused) })]
    }),
  )
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
  /** As it is written, with the release it is for. */
  readonly own: RunCase
  readonly requirementId: number | null
  readonly versionId: number | null
  /** Only then is it executed. */
  readonly approved: boolean
}
export interface Basis {
  readonly cases: readonly FilledCase[]
  readonly requirements: ReadonlyMap<string, number>
  readonly routines: ReadonlyMap<string, Routine>
}
