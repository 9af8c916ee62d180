import { changedFields } from '#core/history/changes.ts'
import { counted } from '#core/lib/figures.ts'
import { keyOf } from '#core/lib/key.ts'
import { lower } from '#core/lib/lower.ts'
import { isRecord } from '#core/lib/record.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { type BuildState, componentsTouched, pathTable, type Touches } from '#core/projects/builds.ts'
import type {
  BuildSheet,
  createBuild as createContract,
  readBuild as readContract,
  readPaths as pathsContract,
  setPaths as setPathsContract,
  tellTouched as touchedContract,
  updateBuild as updateContract,
} from '#core/projects/builds-contract.ts'
import type { Tx } from '#db/open.ts'
import { namesOf } from '#db/plans/sources.ts'
import { suiteById } from '#db/plans/suites.ts'
import { projectDetail } from '#db/projects/detail.ts'
import { type ProjectRow, saveProject } from '#db/projects/projects.ts'
import { addBuild, buildById, type BuildStored, repairsOf, saveBuild, smokeOn } from '#db/projects/releases.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { buildEffectJob } from '#server/workers/questions.ts'
import { refuseTwin } from './set-up-project.ts'

export function createBuild(context: Context, { body }: Input<typeof createContract>): Answer<typeof createContract> {
  refuseTwin(context, 'builds', body.name)
  const id = addBuild(context.tx, context.project.id, {
    releaseId: body.release,
    name: body.name,
    state: body.state,
    notes: body.notes,
    touches: body.touches === null ? null : JSON.stringify(body.touches),
    offeredAt: context.now,
  })
  context.change({ kind: 'build', id, ref: body.name, action: body.state === 'Intake' ? 'intake' : 'offered' })
  return { id }
}

export function updateBuild(
  context: Context,
  { params, body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const before = found(buildById(context.tx, context.project.id, params.id), 'That build')
  const edit = {
    ...(body.notes !== undefined && { notes: body.notes }),
    ...(body.touches !== undefined && { touches: body.touches === null ? null : JSON.stringify(body.touches) }),
    ...(body.state !== undefined && { state: body.state }),
  }
  const detail = changedFields({ ...before }, edit)
  if (Object.keys(detail).length === 0) return { id: before.id }
  const next = body.state !== undefined && body.state !== before.state ? body.state : null
  const moved = next === null ? {} : movedTo(context, before, next, body.reason?.trim() ?? '')
  saveBuild(context.tx, before.id, { ...edit, ...moved })
  context.change({
    kind: 'build',
    id: before.id,
    ref: before.name,
    action: next === null ? 'changed' : lower(next),
    detail: { ...detail, ...(body.reason && { reason: [null, body.reason] }) },
  })
  return { id: before.id }
}

/** What goes with a change of state: when it ended, or from when it is offered. */
function movedTo(context: Context, before: BuildStored, state: BuildState, reason: string): Partial<BuildStored> {
  if (before.state === 'Intake' && state === 'Offered') {
    refuseUntested(context, before, reason)
    return { endedAt: null, offeredAt: context.now }
  }
  if (state === 'Offered' || state === 'Intake') return { endedAt: null }
  // What was never offered did not count as offered before it ended.
  return { endedAt: before.state === 'Intake' ? before.offeredAt : context.now }
}

/** A build leaves intake once its smoke suite has passed on it; or somebody says why all the same. */
function refuseUntested({ tx, project }: Context, { id, name }: BuildStored, reason: string): void {
  const smoke = smokeOf(tx, project, id)
  if (!smoke || smoke.missing.length === 0 || reason !== '') return
  const first = smoke.missing.slice(0, 3).map(({ key }) => key)
  throw new Refusal(
    'refused',
    `${name} stays in intake: ${smoke.missing.length} of ${counted(smoke.of, 'case')} of ${smoke.suite.key} ${smoke.missing.length === 1 ? 'has' : 'have'} not passed on it (${first.join(', ')}${smoke.missing.length > 3 ? ' …' : ''}). Say why it is offered all the same, or refuse it.`,
    { fields: [{ field: 'reason', message: 'is asked for' }] },
  )
}

function smokeOf(tx: Tx, project: ProjectRow, buildId: number): BuildSheet['smoke'] {
  const suite = smokeSuite(tx, project)
  if (!suite) return null
  const cases = smokeOn(tx, suite.id, buildId)
  const missing = cases.filter(({ passed }) => !passed)
  return {
    suite,
    passed: cases.length - missing.length,
    of: cases.length,
    missing: missing.slice(0, 200).map(({ id, key, title }) => ({ id, key, title })),
  }
}

function smokeSuite(tx: Tx, { id, smokeSuiteId }: ProjectRow): { id: number; key: string; title: string } | null {
  const suite = smokeSuiteId === null ? undefined : suiteById(tx, id, smokeSuiteId)
  return suite && suite.deletedAt === null
    ? { id: suite.id, key: keyOf('suite', suite.number), title: suite.title }
    : null
}

/** What is stored of what a build touches. */
function touchesIn(json: string | null): Touches | null {
  const read: unknown = json === null ? null : JSON.parse(json)
  if (!isRecord(read)) return null
  const list = (of: unknown): unknown[] => (Array.isArray(of) ? of : [])
  return {
    components: list(read['components']).map(String),
    requirements: list(read['requirements']).map(Number),
  }
}

export async function readBuild(
  { services, tx, project }: OpenContext,
  { params }: Input<typeof readContract>,
): Promise<Answer<typeof readContract>> {
  const stored = found(buildById(tx, project.id, params.id), 'That build')
  const { releases } = projectDetail(tx, project, 'viewer')
  const release = found(
    releases.find(({ id }) => id === stored.releaseId),
    'The release of this build',
  )
  const effect = await services.jobs.run(buildEffectJob, {
    projectId: project.id,
    scope: {
      release,
      iteration: null,
      build: { id: stored.id, name: stored.name, position: stored.position },
      environment: null,
      asOf: null,
    },
  })
  const touches = touchesIn(stored.touches)
  const names = namesOf(tx, 'requirement', touches?.requirements ?? [])
  return {
    id: stored.id,
    name: stored.name,
    release: release.name,
    releaseId: release.id,
    state: stored.state,
    offeredAt: stored.offeredAt,
    notes: stored.notes,
    touches: touches && {
      components: [...touches.components],
      requirements: touches.requirements.flatMap((id) => {
        const name = names.get(id)
        return name ? [{ id, key: name.key, title: name.title }] : []
      }),
    },
    repairs: repairsOf(tx, stored.id),
    smoke: smokeOf(tx, project, stored.id),
    effect,
  }
}

export const readPaths = ({ tx, project }: Context): Answer<typeof pathsContract> => ({
  paths: project.paths,
  smokeSuite: smokeSuite(tx, project),
})

export function setPaths(context: Context, { body }: Input<typeof setPathsContract>): Answer<typeof setPathsContract> {
  const { tx, project } = context
  const [problem] = body.paths === undefined ? [] : pathTable(body.paths).problems
  if (problem !== undefined) throw new Refusal('invalid', `${problem} Nothing was stored.`)
  const edit = {
    ...(body.paths !== undefined && { paths: body.paths }),
    ...(body.smokeSuite !== undefined && { smokeSuiteId: body.smokeSuite }),
  }
  const detail = changedFields({ ...project }, edit)
  if (Object.keys(detail).length === 0) return { ok: true }
  saveProject(tx, project.id, edit)
  context.change({ kind: 'project', id: project.id, ref: project.key, action: 'changed', detail })
  return { ok: true }
}

const mostUnknown = 50

export function tellTouched(
  { project }: Context,
  { body }: Input<typeof touchedContract>,
): Answer<typeof touchedContract> {
  const { lines } = pathTable(project.paths)
  if (lines.length === 0)
    throw new Refusal('refused', 'There is no table of paths yet; write which component each path belongs to first.')
  const { components, unknown } = componentsTouched(lines, body.paths.split('\n'))
  return { components: [...components], unknown: unknown.slice(0, mostUnknown), unknownTotal: unknown.length }
}
