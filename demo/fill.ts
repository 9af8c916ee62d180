import { lower } from '#core/lib/lower.ts'
import { keyOf } from '#core/lib/key.ts'
import { createHash } from 'node:crypto'
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { addDays, format } from 'date-fns'
import { emptyContent, type VersionContent } from '#core/cases/steps.ts'
import { plain } from '#core/defects/from-step.ts'
import { pick, type Random, seeded } from '#core/lib/random.ts'
import { dealEvenly } from '#core/runs/dealing.ts'
import { finalVerdict } from '#core/lib/verdict.ts'
import { addCase, saveCase } from '#db/cases/cases.ts'
import { addFolder } from '#db/cases/folders.ts'
import { addLink } from '#db/cases/links.ts'
import { addVersion, readContent, setVersionState, versionById, workingCopy, writeContent } from '#db/cases/versions.ts'
import { addDefect, addDefectLink, addDefectState, saveDefect } from '#db/defects/queries.ts'
import type { Db, Tx } from '#db/open.ts'
import { addChange } from '#db/history/changes.ts'
import { addMember } from '#db/people/members.ts'
import { addPerson, allPeople } from '#db/people/people.ts'
import { writeSetting } from '#db/installation/settings.ts'
import { addPlan, setPlanEnvironments, setPlanSuites } from '#db/plans/plans.ts'
import { addSuite, pinToSuite } from '#db/plans/suites.ts'
import { addBuild, addEnvironment, addIteration, addRelease } from '#db/projects/releases.ts'
import { addProject, findProject, takeNumbers } from '#db/projects/projects.ts'
import { addRequirement, requirementById, saveRequirement } from '#db/requirements/requirements.ts'
import { setTargets } from '#db/requirements/targets.ts'
import { addAttempt, addAttemptRow, saveChange } from '#db/runs/attempts.ts'
import { addItem, itemsOfRun, saveItem } from '#db/runs/items.ts'
import { addRun, setTeam } from '#db/runs/runs.ts'
import { addAttachment, addComment } from '#db/talk/queries.ts'
import { stampOf } from '#server/cases/rewrite-case.ts'
import { refreshStanding } from '#server/runs/refresh-standing.ts'
import { fillDepot } from './fill-depot.ts'
import { fillReuse } from './fill-reuse.ts'
import { fillFields } from './fill-fields.ts'
import { fillTechniques } from './fill-techniques.ts'
import { heroCases } from './hero-cases.ts'
import { type DemoDefect, defects, openings, orphanCases, outline } from './outline.ts'
import { parseOutline } from './parse-outline.ts'

interface FillOptions {
  readonly now: number
  readonly hash: (password: string) => Promise<string>
  readonly evidence: string
  /** Folder of the demo's own pictures. */
  readonly pictures: string
}
const day = 86_400_000
const password = 'ferry-2024'

export const people = [
  { id: 'mira', name: 'Mira Kell', role: 'lead', minutesPerDay: 330, skills: ['card', 'phone'] },
  { id: 'ansa', name: 'Ansa Lind', role: 'lead', minutesPerDay: 300, skills: ['deck plan'] },
  { id: 'tobin', name: 'Tobin Rask', role: 'tester', minutesPerDay: 360, skills: ['phone'] },
  { id: 'yusra', name: 'Yusra Dahl', role: 'tester', minutesPerDay: 300, skills: ['WebKit', 'screen reader'] },
  { id: 'piet', name: 'Piet Vonk', role: 'tester', minutesPerDay: 120, skills: ['load'] },
  { id: 'oda', name: 'Oda Brandt', role: 'viewer', minutesPerDay: 0, skills: [] },
] as const
const testers = ['mira', 'tobin', 'yusra', 'ansa'] as const

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

interface Filling extends FillOptions {
  readonly passwordHash: string
  readonly writeEvidence: (bytes: Buffer) => string
}

function fill(tx: Tx, of: Filling): void {
  const random = seeded(24)
  addPerson(
    tx,
    { id: 'ilo', name: 'Ilo Strand', email: 'ilo@tarnsey.example', administrator: true, passwordHash: of.passwordHash },
    of.now - 90 * day,
  )
  for (const { id, name } of people)
    addPerson(
      tx,
      { id, name, email: `${id}@tarnsey.example`, administrator: false, passwordHash: of.passwordHash },
      of.now - 90 * day,
    )
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
}

function setUpFerry(tx: Tx, now: number) {
  const projectId = addProject(tx, {
    key: 'FERRY',
    name: 'Crossing Desk',
    product: 'Crossing Desk',
    timeZone: 'Europe/Oslo',
    createdAt: now - 90 * day,
  })
  for (const { id, role, minutesPerDay, skills } of people)
    addMember(tx, projectId, id, { role, minutesPerDay, skills })
  const date = (days: number) => format(addDays(now, days), 'yyyy-MM-dd')
  const releases = new Map([
    ['2.3', addRelease(tx, projectId, { name: '2.3', state: 'Shipped', startOn: date(-84), dueOn: date(-40) })],
    ['2.4', addRelease(tx, projectId, { name: '2.4', state: 'In test', startOn: date(-30), dueOn: date(21) })],
  ])
  const starts: Record<string, readonly number[]> = { '2.3': [-84, -70, -56, -40], '2.4': [-30, -16, -2, 21] }
  const iterations = new Map(
    [...releases].flatMap(([name, releaseId]) =>
      [1, 2, 3].map((n): [string, number] => [
        `${name}/${n}`,
        addIteration(tx, {
          releaseId,
          name: `Iteration ${n}`,
          startOn: date(starts[name]?.[n - 1] ?? 0),
          dueOn: date((starts[name]?.[n] ?? 1) - 1),
        }),
      ]),
    ),
  )
  const builds = new Map(
    (
      [
        ['2.3.0', '2.3', -75],
        ['2.3.1', '2.3', -62],
        ['2.3.2', '2.3', -50],
        ['2.3.4', '2.3', -43],
        ['2.4.0-beta1', '2.4', -27],
        ['2.4.0-beta2', '2.4', -19],
        ['2.4.0-rc1', '2.4', -10],
        ['2.4.0-rc2', '2.4', -3],
      ] as const
    ).map(([name, release, days]): [string, number] => [
      name,
      addBuild(tx, projectId, { releaseId: releases.get(release) ?? 0, name, offeredAt: now + days * day }),
    ]),
  )
  builds.set(
    '2.4.0-rc3',
    addBuild(tx, projectId, {
      releaseId: releases.get('2.4') ?? 0,
      name: '2.4.0-rc3',
      offeredAt: now - day,
      state: 'Refused',
      endedAt: now - 0.8 * day,
    }),
  )
  const environment = (engine: string, device: string, database: string, seats: number | null = null) =>
    addEnvironment(tx, projectId, { name: `${engine}, ${device}`, seats, values: { engine, device, database } })
  const environments = new Map([
    ['Chromium, desk', environment('Chromium', 'desk', 'Tern')],
    ['Gecko, desk', environment('Gecko', 'desk', 'Tern')],
    ['WebKit, desk', environment('WebKit', 'desk', 'Otter')],
    ['Chromium, phone', environment('Chromium', 'phone', 'Tern', 2)],
    ['WebKit, phone', environment('WebKit', 'phone', 'Otter', 1)],
    ['WebKit, tablet', environment('WebKit', 'tablet', 'Otter', 1)],
  ])
  return { projectId, releases, iterations, builds, environments, date }
}
type Frame = ReturnType<typeof setUpFerry>

interface FilledCase {
  readonly id: number
  readonly title: string
  readonly component: string
  readonly requirementId: number | null
  readonly importance: string
  readonly versionId: number | null
  readonly written: boolean
}
interface Basis {
  readonly cases: readonly FilledCase[]
  readonly requirements: ReadonlyMap<string, number>
}

function writeBasis(tx: Tx, frame: Frame, of: Filling, random: Random): Basis {
  const requirements = new Map<string, number>()
  const cases: FilledCase[] = []
  const nameId = new Map<string, string>(people.map(({ id, name }) => [name, id]))
  const branches = parseOutline(outline)
  const start = of.now - 83 * day
  branches.forEach((branch, place) => {
    const by = { now: start, personId: 'ansa' }
    const number = takeNumbers(tx, frame.projectId, 'requirement')
    const branchId = addRequirement(
      tx,
      {
        projectId: frame.projectId,
        number,
        parentId: null,
        position: place + 1,
        title: branch.title,
        component: branch.component,
        state: 'Agreed',
      },
      by,
    )
    const folderId = addFolder(tx, frame.projectId, branch.title, null)
    branch.requirements.forEach((each, index) => {
      const requirementId = addRequirement(
        tx,
        {
          projectId: frame.projectId,
          number: takeNumbers(tx, frame.projectId, 'requirement'),
          parentId: branchId,
          position: index + 1,
          title: each.title,
          text: `<p>${each.text}</p>`,
          kind: each.kind,
          component: branch.component,
          state: each.state,
          likelihood: each.likelihood,
          impact: each.impact,
          priority: index === 0 ? 1 : each.likelihood * each.impact >= 12 ? 2 : index % 3 === 2 ? null : 3,
          ownerId: nameId.get(each.owner) ?? null,
          outsideRef: `CD-${100 + requirements.size * 3}`,
          outsideUrl: `http://tracker.tarnsey.example/CD-${100 + requirements.size * 3}`,
        },
        by,
      )
      setTargets(tx, requirementId, [
        {
          release: frame.releases.get(each.release) ?? 0,
          iteration: frame.iterations.get(`${each.release}/${each.iteration}`) ?? null,
        },
      ])
      requirements.set(each.title, requirementId)
      for (const own of each.cases)
        cases.push(
          writeCase(tx, frame, {
            ...own,
            component: branch.component,
            requirementId,
            folderId,
            at: start + (2 + Math.floor(random() * 12)) * day,
            random,
          }),
        )
    })
  })
  const folderId = addFolder(tx, frame.projectId, 'Left over', null)
  for (const title of orphanCases)
    cases.push(
      writeCase(tx, frame, {
        title,
        importance: 'Low',
        written: true,
        component: 'Booking',
        requirementId: null,
        folderId,
        at: start,
        random,
      }),
    )
  return { cases, requirements }
}

interface NewDemoCase {
  readonly title: string
  readonly importance: 'Critical' | 'High' | 'Medium' | 'Low'
  readonly written: boolean
  readonly component: string
  readonly requirementId: number | null
  readonly folderId: number
  readonly at: number
  readonly random: Random
}

function writeCase(tx: Tx, frame: Frame, of: NewDemoCase): FilledCase {
  const content = of.written ? contentOf(of.title, of.component) : emptyContent
  const personId = pick(of.random, testers)
  const number = takeNumbers(tx, frame.projectId, 'case')
  const made = addCase(
    tx,
    {
      projectId: frame.projectId,
      number,
      title: of.title,
      position: number,
      folderId: of.folderId,
      component: of.component,
      importance: of.importance,
      ownerId: personId,
      steps: content.steps.length,
      createdAt: of.at,
      estimate: of.written ? 4 + Math.round(content.steps.length * 1.5 + of.random() * 12) : null,
      automation: of.random() < 0.12 ? 'Candidate' : 'Manual',
      type: of.component === 'Platform' ? 'Load' : of.component === 'Access' ? 'Accessibility' : 'Functional',
    },
    { now: of.at, personId, emptyFingerprint: stampOf(emptyContent) },
  )
  let versionId: number | null = null
  if (of.written) {
    writeContent(tx, { id: made.workingId, caseId: made.id }, content, stampOf(content))
    versionId = approve(tx, made.id, { at: of.at + day, author: personId, random: of.random })
  }
  if (of.requirementId !== null)
    addLink(
      tx,
      { projectId: frame.projectId, requirementId: of.requirementId, caseId: made.id, revision: 1, versionId },
      { now: of.at, personId },
    )
  return {
    id: made.id,
    title: of.title,
    component: of.component,
    requirementId: of.requirementId,
    importance: of.importance,
    versionId,
    written: of.written,
  }
}

function approve(tx: Tx, caseId: number, of: { at: number; author: string; random: Random }): number {
  const working = workingCopy(tx, caseId)
  const draft = addVersion(tx, working, {
    major: 0,
    minor: 1,
    state: 'Draft',
    why: '',
    now: of.at,
    personId: of.author,
  })
  if (of.random() < 0.15) {
    saveCase(tx, caseId, { newestVersionId: draft, state: 'Draft' })
    return draft
  }
  const approved = addVersion(tx, working, {
    major: 1,
    minor: 0,
    state: 'Approved',
    why: 'approved',
    now: of.at + day,
    personId: of.author === 'mira' ? 'ansa' : 'mira',
  })
  saveCase(tx, caseId, { newestVersionId: approved, approvedVersionId: approved, state: 'Approved' })
  return approved
}

function contentOf(title: string, component: string): VersionContent {
  const hero = heroCases[title]
  if (hero) return hero
  const opening = (openings[component] ?? []).map(([action, expected]) => ({ id: null, action, expected, data: '' }))
  const subject = title.replace(/^./, (first) => first.toLowerCase())
  return {
    ...emptyContent,
    steps: [
      ...opening,
      { id: null, action: `Bring about what the case asks: ${subject}`, expected: `${title}.`, data: '' },
      {
        id: null,
        action: 'Look at the log of the booking',
        expected: 'What was done is there once, with its time',
        data: '',
      },
    ],
  }
}

function organise(tx: Tx, frame: Frame, basis: Basis, now: number) {
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
type Organised = ReturnType<typeof organise>

interface Executing extends Filling {
  readonly random: Random
  readonly basis: Basis
}
interface DoneAttempt {
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

function execute(tx: Tx, frame: Frame, plans: Organised, of: Executing): DoneAttempt[] {
  const all = (own: FilledCase) =>
    own.written && own.requirementId !== null && !['Access', 'Platform'].includes(own.component)
  const run = (title: string, spec: Omit<RunSpec, 'title'>) => executeRun(tx, frame, { title, ...spec }, of)
  return [
    ...run('2.3 regression', {
      plan: plans.shipped,
      release: '2.3',
      build: '2.3.2',
      state: 'Closed',
      from: -49,
      to: -44,
      environments: ['Chromium, desk'],
      keep: (own) => all(own) && own.component !== 'Deck plan',
      done: 1,
    }),
    ...run('Beta 2 regression', {
      plan: plans.current,
      release: '2.4',
      build: '2.4.0-beta2',
      state: 'Closed',
      from: -18,
      to: -12,
      environments: ['Chromium, desk', 'WebKit, phone'],
      keep: (own) => all(own) && (plans.important(own) || own.component === 'Payment' || own.component === 'Fares'),
      done: 0.97,
    }),
    ...run('Rc1 regression', {
      plan: plans.current,
      release: '2.4',
      build: '2.4.0-rc1',
      state: 'Closed',
      from: -9,
      to: -4,
      environments: ['Chromium, desk', 'WebKit, phone'],
      keep: (own) => all(own),
      done: 0.92,
      outage: true,
    }),
    ...run('Rc2 regression', {
      plan: plans.current,
      release: '2.4',
      build: '2.4.0-rc2',
      state: 'Open',
      from: -2,
      to: 3,
      environments: ['Chromium, desk', 'WebKit, phone'],
      keep: (own) =>
        own.written &&
        own.requirementId !== null &&
        (plans.important(own) || ['Fares', 'Payment', 'Deck plan', 'Access'].includes(own.component)),
      done: 0.55,
    }),
    ...run('Smoke on Gecko', {
      plan: plans.late,
      release: '2.4',
      build: '2.4.0-rc2',
      state: 'Planned',
      from: 4,
      to: 5,
      environments: ['Gecko, desk'],
      keep: (own) => own.importance === 'Critical' && own.written,
      done: 0,
    }),
  ]
}

interface RunSpec {
  readonly title: string
  readonly plan: number
  readonly release: string
  readonly build: string
  readonly state: 'Planned' | 'Open' | 'Closed'
  readonly from: number
  readonly to: number
  readonly environments: readonly string[]
  readonly keep: (own: FilledCase) => boolean
  readonly done: number
  readonly outage?: true
}

function executeRun(tx: Tx, frame: Frame, spec: RunSpec, of: Executing): DoneAttempt[] {
  const buildId = frame.builds.get(spec.build) ?? 0
  const runId = addRun(
    tx,
    {
      projectId: frame.projectId,
      number: takeNumbers(tx, frame.projectId, 'run'),
      title: spec.title,
      planId: spec.plan,
      releaseId: frame.releases.get(spec.release) ?? 0,
      buildId,
      state: spec.state,
      startOn: frame.date(spec.from),
      endOn: frame.date(spec.to),
    },
    of.now + spec.from * day,
  )
  setTeam(tx, runId, testers)
  const slots = of.basis.cases
    .filter(spec.keep)
    .flatMap((own) => spec.environments.map((environment) => ({ own, environment })))
  const placed = slots.map(({ own, environment }, index) => ({
    own,
    environment,
    id: addItem(tx, {
      runId,
      caseId: own.id,
      environmentId: frame.environments.get(environment) ?? 0,
      position: index + 1,
    }),
  }))
  const dealt = new Map(dealEvenly(itemsOfRun(tx, runId, null), testers).map(({ item, person }) => [item, person]))
  // The last items of a run stay with nobody, as they do.
  placed.forEach(({ id }, index) =>
    spec.state === 'Open' && index > placed.length - 9 ? null : saveItem(tx, id, { assigneeId: dealt.get(id) ?? null }),
  )
  const span = (Math.min(spec.to, -0.1) - spec.from) * day
  return placed.flatMap((slot, index) => {
    if (of.random() > spec.done || slot.own.versionId === null) return []
    const at = Math.round(of.now + spec.from * day + (span * (index + of.random())) / placed.length)
    return [attemptOn(tx, frame, spec, { ...slot, at, personId: dealt.get(slot.id) ?? 'mira', random: of.random })]
  })
}

function attemptOn(
  tx: Tx,
  frame: Frame,
  spec: RunSpec,
  of: { own: FilledCase; environment: string; id: number; at: number; personId: string; random: Random },
): DoneAttempt {
  const versionId = of.own.versionId ?? 0
  const version = versionById(tx, versionId)
  const content = version ? readContent(tx, version) : { steps: [], rows: [] }
  const steps = content.steps.map(({ id }) => id)
  const verdict = verdictOf(spec, of)
  const place = {
    caseId: of.own.id,
    environmentId: frame.environments.get(of.environment) ?? 0,
    buildId: frame.builds.get(spec.build) ?? 0,
  }
  const minutes = 4 + Math.round(of.random() * 14)
  const id = addAttempt(tx, {
    projectId: frame.projectId,
    ...place,
    versionId,
    itemId: of.id,
    personId: of.personId,
    verdict,
    final: true,
    startedAt: of.at - minutes * 60_000,
    finishedAt: of.at,
    seconds: minutes * 60,
  })
  const failing = Math.max(1, steps.length - 1)
  content.rows.forEach((values, index) => addAttemptRow(tx, id, index + 1, values))
  const rows = Array.from({ length: Math.max(1, content.rows.length) }, (_, index) => index + 1)
  const marks = rows.flatMap((row) =>
    steps.flatMap((step, index) => {
      const given = verdict === 'Passed' || index + 1 < failing ? 'Passed' : index + 1 === failing ? verdict : null
      return given === null
        ? []
        : [{ from: null, to: { row, step, verdict: finalVerdict.parse(given), word: null, final: true } }]
    }),
  )
  saveChange(tx, id, { marks, whole: null }, of.at)
  saveItem(tx, of.id, { verdict, attemptId: id, assigneeId: of.personId })
  refreshStanding(tx, place)
  return {
    id,
    itemId: of.id,
    own: of.own,
    environment: of.environment,
    build: spec.build,
    verdict,
    failedStep: verdict === 'Failed' ? (steps[failing - 1] ?? null) : null,
    at: of.at,
    personId: of.personId,
  }
}

const buildOrder = [
  '2.3.0',
  '2.3.1',
  '2.3.2',
  '2.3.4',
  '2.4.0-beta1',
  '2.4.0-beta2',
  '2.4.0-rc1',
  '2.4.0-rc2',
  '2.4.0-rc3',
]
const position = (build: string): number => buildOrder.indexOf(build)

/** A defect shows in the builds from which it is found up to the one it is fixed in. */
const shows = (defect: DemoDefect, own: FilledCase, at: { build: string; environment: string }): boolean =>
  defect.found !== '' &&
  defect.state !== 'Rejected' &&
  own.title.startsWith(defect.found) &&
  position(at.build) >= position(defect.from) &&
  (defect.fixed === null || position(at.build) < position(defect.fixed)) &&
  (!defect.engine || at.environment.startsWith(defect.engine))

function verdictOf(spec: RunSpec, of: { own: FilledCase; environment: string; random: Random }): string {
  if (defects.some((defect) => shows(defect, of.own, { build: spec.build, environment: of.environment })))
    return 'Failed'
  if (spec.outage && of.environment === 'WebKit, phone' && of.own.component === 'Payment') return 'Blocked'
  const chance = of.random()
  if (of.own.title === 'Clock shows the time left on every page') return chance < 0.5 ? 'Failed' : 'Passed'
  if (of.own.component === 'Deck plan' && chance < 0.12) return 'Failed'
  if (chance < 0.02) return 'Inconclusive'
  if (chance < 0.05) return 'Blocked'
  return chance > 0.985 ? 'Skipped' : 'Passed'
}

function logDefects(tx: Tx, frame: Frame, basis: Basis, attempts: readonly DoneAttempt[], of: Filling): void {
  defects.forEach((defect, index) => {
    const own = basis.cases.find(({ title }) => defect.found !== '' && title.startsWith(defect.found))
    const failing = own ? attempts.filter((attempt) => attempt.own.id === own.id && attempt.verdict === 'Failed') : []
    const first = failing[0]
    const at = first
      ? first.at + 240_000
      : of.now -
        (defect.from.includes('rc2')
          ? 1.5
          : defect.from.includes('rc1')
            ? 7
            : defect.from.startsWith('2.4')
              ? 16
              : 46) *
          day
    const fixedIn = defect.fixed === null ? null : (frame.builds.get(defect.fixed) ?? null)
    const reporterId = first?.personId ?? 'yusra'
    const number = takeNumbers(tx, frame.projectId, 'defect')
    const id = addDefect(
      tx,
      {
        projectId: frame.projectId,
        number,
        title: defect.title,
        text: `<p>${defect.text}</p>`,
        severity: defect.severity,
        priority: defect.severity === 'Critical' ? 1 : defect.severity === 'Major' ? 2 : 4,
        component: own?.component ?? 'Booking',
        state: 'Reported',
        foundInBuildId: frame.builds.get(first?.build ?? defect.from) ?? null,
        environmentId: first ? (frame.environments.get(first.environment) ?? null) : null,
        reporterId,
        ownerId: index % 3 === 0 ? 'piet' : null,
        steps: own
          ? contentOf(own.title, own.component)
              .steps.map((step, at) => `${at + 1}. ${plain(step.action)}. Should be: ${plain(step.expected)}`)
              .join('\n')
          : '',
      },
      { now: at, personId: reporterId },
    )
    if (defect.state !== 'Reported') {
      const moved = Math.min(at + 1.5 * day, of.now - 0.3 * day)
      saveDefect(tx, id, { state: defect.state, fixedInBuildId: fixedIn, updatedAt: moved })
      addDefectState(tx, { defectId: id, state: defect.state, fixedInBuildId: fixedIn, at: moved, personId: 'piet' })
      addChange(tx, {
        projectId: frame.projectId,
        at: moved,
        personId: 'piet',
        kind: 'defect',
        ownerId: id,
        ref: keyOf('defect', number),
        action: lower(defect.state),
        detail: { state: ['Reported', defect.state] },
      })
    }
    for (const attempt of failing)
      addDefectLink(tx, {
        defectId: id,
        attemptId: attempt.id,
        row: 1,
        stepId: attempt.failedStep,
        itemId: attempt.itemId,
        caseId: attempt.own.id,
        requirementId: attempt.own.requirementId,
        fromAt: at,
      })
    if (own && failing.length === 0)
      addDefectLink(tx, { defectId: id, caseId: own.id, requirementId: own.requirementId, fromAt: at })
    if (first && index < 3) attachPicture(tx, frame, first, of)
  })
}

function attachPicture(tx: Tx, frame: Frame, attempt: DoneAttempt, of: Filling): void {
  const name = attempt.own.component === 'Payment' ? 'charges.png' : 'fare.png'
  const bytes = readFileSync(join(of.pictures, name))
  addAttachment(tx, {
    projectId: frame.projectId,
    ownerKind: 'attempt',
    ownerId: attempt.id,
    row: 1,
    stepId: attempt.failedStep,
    hash: of.writeEvidence(bytes),
    name,
    mime: 'image/png',
    size: bytes.length,
    at: attempt.at,
    personId: attempt.personId,
  })
}

function evidenceWriter(folder: string): (bytes: Buffer) => string {
  mkdirSync(folder, { recursive: true })
  return (bytes) => {
    const hash = createHash('sha256').update(bytes).digest('hex')
    writeFileSync(join(folder, hash), bytes)
    return hash
  }
}

/** What happened in the last days: requirements re-worded (links turn suspect), cases changed after their last run, reviews asked. */
function editLately(tx: Tx, frame: Frame, basis: Basis, of: Filling): void {
  const reword = (title: string, text: string, days: number) => {
    const before = requirementById(tx, frame.projectId, basis.requirements.get(title) ?? 0)
    if (!before) return
    saveRequirement(tx, before, { text: `<p>${text}</p>` }, { now: of.now - days * day, personId: 'ansa' })
    addChange(tx, {
      projectId: frame.projectId,
      at: of.now - days * day,
      personId: 'ansa',
      kind: 'requirement',
      ownerId: before.id,
      ref: keyOf('requirement', before.number),
      action: 'changed',
      detail: { text: [before.text, text] },
    })
  }
  reword(
    'Pets and bicycles on board',
    'Pets travel in the pet area, at most ten a sailing; bicycles go on the rack, at most thirty. A folded bicycle is luggage.',
    0.6,
  )
  reword(
    'Vouchers, in whole or part',
    'A voucher pays a booking in whole or in part; what is left of it stays usable until its date. At most two vouchers pay one booking.',
    2.5,
  )
  const change = (title: string, step: string, days: number, review: boolean) => {
    const own = basis.cases.find((each) => each.title === title)
    const version = own?.versionId == null ? undefined : versionById(tx, own.versionId)
    if (!own || !version) return
    const content = contentOf(own.title, own.component)
    const steps = [
      ...readContent(tx, workingCopy(tx, own.id)).steps,
      { id: null, action: step, expected: 'It holds', data: '' },
    ]
    const next = { ...content, steps }
    writeContent(tx, { id: workingCopy(tx, own.id).id, caseId: own.id }, next, stampOf(next))
    const id = addVersion(tx, workingCopy(tx, own.id), {
      major: version.major ?? 0,
      minor: (version.minor ?? 0) + 1,
      state: 'Draft',
      why: 'follows the new fare table',
      now: of.now - days * day,
      personId: 'tobin',
    })
    if (review) setVersionState(tx, id, { state: 'In review' })
    saveCase(tx, own.id, { newestVersionId: id, steps: steps.length, state: review ? 'In review' : 'Draft' })
  }
  change('Group of ten with islanders gets the group fare', 'Take one islander out of the group', 1, true)
  change('Van of 2.10 m is placed on the car deck', 'Add a roof box of 0.05 m', 2, true)
  change('Voucher covers part of the fare, the card the rest', 'Pay with a second voucher', 1.4, true)
  change('Moved booking is not refunded as well', 'Ask for the refund by telephone', 3, false)
  change('Later sailing charges the difference', 'Read the receipt of both bookings', 0.4, true)
  change('Cancel six days and 23 hours before gives half', 'Read the time on the receipt', 1.1, true)
  const vehicle = basis.requirements.get('Vehicle length and height bands') ?? 0
  addComment(tx, {
    projectId: frame.projectId,
    ownerKind: 'requirement',
    ownerId: vehicle,
    text: '<p>The harbour office measures <strong>with</strong> the towing hook. Do we?</p>',
    at: of.now - 1.2 * day,
    personId: 'tobin',
  })
  addComment(tx, {
    projectId: frame.projectId,
    ownerKind: 'requirement',
    ownerId: vehicle,
    text: '<p>Yes, the length in the papers counts the hook.</p>',
    at: of.now - day,
    personId: 'ansa',
  })
}
