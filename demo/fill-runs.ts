import type { Random } from '#core/lib/random.ts'
import { dealEvenly } from '#core/runs/dealing.ts'
import { finalVerdict } from '#core/lib/verdict.ts'
import { readContent, versionById } from '#db/cases/versions.ts'
import type { Tx } from '#db/open.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { addAttempt, addAttemptRow, saveChange } from '#db/runs/attempts.ts'
import { addItem, itemsOfRun, saveItem } from '#db/runs/items.ts'
import { addRun, setTeam } from '#db/runs/runs.ts'
import { refreshStanding } from '#server/runs/refresh-standing.ts'
import { type DemoDefect, defects } from './outline.ts'
import { day, testers, type Filling, type Frame, type FilledCase, type Basis, type DoneAttempt } from './fill.ts'
import { organise } from './fill-plans.ts'

type Organised = ReturnType<typeof organise>

interface Executing extends Filling {
  readonly random: Random
  readonly basis: Basis
}

const all = (own: FilledCase): boolean =>
  own.written && own.requirementId !== null && !['Access', 'Platform'].includes(own.component)

const bothDevices = ['Chromium, desk', 'WebKit, phone']

/** The runs of Crossing Desk, the oldest first. */
const runs = (plans: Organised): readonly RunSpec[] => [
  {
    title: '2.3 regression',
    plan: plans.shipped,
    release: '2.3',
    build: '2.3.2',
    state: 'Closed',
    from: -49,
    to: -44,
    environments: ['Chromium, desk'],
    keep: (own) => all(own) && own.component !== 'Deck plan',
    done: 1,
  },
  {
    title: 'Beta 2 regression',
    plan: plans.current,
    release: '2.4',
    build: '2.4.0-beta2',
    state: 'Closed',
    from: -18,
    to: -12,
    environments: bothDevices,
    keep: (own) => all(own) && (plans.important(own) || own.component === 'Payment' || own.component === 'Fares'),
    done: 0.97,
  },
  {
    title: 'Rc1 regression',
    plan: plans.current,
    release: '2.4',
    build: '2.4.0-rc1',
    state: 'Closed',
    from: -9,
    to: -4,
    environments: bothDevices,
    keep: all,
    done: 0.92,
    outage: true,
  },
  {
    title: 'Rc2 regression',
    plan: plans.current,
    release: '2.4',
    build: '2.4.0-rc2',
    state: 'Open',
    from: -2,
    to: 3,
    environments: bothDevices,
    keep: (own) =>
      own.written &&
      own.requirementId !== null &&
      (plans.important(own) || ['Fares', 'Payment', 'Deck plan', 'Access'].includes(own.component)),
    done: 0.55,
  },
  smokeRun(plans),
]

const smokeRun = (plans: Organised): RunSpec => ({
  title: 'Smoke on Gecko',
  plan: plans.late,
  release: '2.4',
  build: '2.4.0-rc2',
  state: 'Planned',
  from: 4,
  to: 5,
  environments: ['Gecko, desk'],
  keep: (own) => own.importance === 'Critical' && own.written,
  done: 0,
})

export const execute = (tx: Tx, frame: Frame, plans: Organised, of: Executing): DoneAttempt[] =>
  runs(plans).flatMap((run) => executeRun(tx, frame, run, of))

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
