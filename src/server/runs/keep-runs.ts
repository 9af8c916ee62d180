import { lower } from '#core/lib/lower.ts'
import { keyOf } from '#core/lib/key.ts'
import type {
  createRun as createContract,
  listRuns as listContract,
  orderRuns as orderContract,
  readRun as readContract,
  RunSheet,
  updateRun as updateContract,
} from '#core/runs/contract.ts'
import { runFields } from '#core/finding/fields.ts'
import { definedOf } from '#core/lib/defined.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { changedFields } from '#core/history/changes.ts'
import { dealEvenly } from '#core/runs/dealing.ts'
import { slotsAsked } from '#core/plans/asks.ts'
import { rollUpSlots, verdict } from '#core/lib/verdict.ts'
import { caseById } from '#db/cases/cases.ts'
import { notYetTestable } from '#db/cases/testable.ts'
import { askedNow } from '#db/plans/asked.ts'
import { casesOfSuites, unapprovedOf } from '#db/plans/suites.ts'
import { planById, planEnvironments, planSuites } from '#db/plans/plans.ts'
import { projectDetail } from '#db/projects/detail.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import type { Tx } from '#db/open.ts'
import { addItem, itemsOfRun, saveItem } from '#db/runs/items.ts'
import {
  addRun,
  findRun,
  runRows,
  runSource,
  type RunStored,
  saveRun,
  setRunSuites,
  setTeam,
  teamOf,
} from '#db/runs/runs.ts'
import { type AfterClose, eventsAfterClose } from '#db/runs/verdict-events.ts'
import { answerOrder, answerPage } from '#server/finding/list-question.ts'
import { checkVersion, type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export const listRuns = (
  { tx, project }: Context,
  { query }: Input<typeof listContract>,
): Answer<typeof listContract> =>
  answerPage(tx, query, {
    source: runSource(project.id),
    fields: runFields,
    rows: (ids) => runRows(tx, project.id, ids),
  })

export const orderRuns = (
  { tx, project }: Context,
  { query }: Input<typeof orderContract>,
): Answer<typeof orderContract> => answerOrder(tx, query, { source: runSource(project.id), fields: runFields })

type NewRun = Input<typeof createContract>['body']

/** Opens a run: every case in every environment becomes an item, dealt to the team when asked. */
export function createRun(context: Context, { body }: Input<typeof createContract>): Answer<typeof createContract> {
  const { tx, project, now } = context
  if (body.endOn < body.startOn)
    throw new Refusal('invalid', 'The run ends before it starts.', {
      fields: [{ field: 'endOn', message: 'is before the start' }],
    })
  const detail = projectDetail(tx, project, context.role)
  const build = detail.builds.find(({ id }) => id === body.build)
  if (!build) throw new Refusal('invalid', 'That build is not one of this project.')
  const suites = body.items ? [] : suitesOf(context, body)
  const asked = body.items
    ? once(body.items)
    : (askedBy(context, body) ??
      itemsFor(casesOf(context, suites, body), environmentsOf(context, body, detail.environments)))
  const waiting = body.items ? new Set<number>() : notYetIn(context, body, build.release, asked)
  const items = asked.filter((each) => !waiting.has(each.case))
  if (items.length === 0)
    throw new Refusal(
      'refused',
      'There is no case to run: the suites of this plan hold none. Pin cases to them or give them a rule, or choose other suites.',
    )
  const number = takeNumbers(tx, project.id, 'run')
  const id = addRun(
    tx,
    {
      projectId: project.id,
      number,
      title: body.title,
      planId: body.plan,
      releaseId: build.release,
      buildId: build.id,
      state: body.state,
      startOn: body.startOn,
      endOn: body.endOn,
    },
    now,
  )
  setTeam(tx, id, body.people)
  setRunSuites(tx, id, suites)
  items.forEach((own, at) =>
    addItem(tx, { runId: id, caseId: own.case, environmentId: own.environment, position: at + 1 }),
  )
  if (body.deal)
    for (const { item, person } of dealEvenly(itemsOfRun(tx, id, null), body.people))
      saveItem(tx, item, { assigneeId: person })
  context.change({ kind: 'run', id, ref: keyOf('run', number), action: body.state === 'Open' ? 'opened' : 'planned' })
  const leftOut = new Set(asked.flatMap((each) => (waiting.has(each.case) ? [each.case] : []))).size
  return { id, key: keyOf('run', number), items: items.length, leftOut }
}

/** Cases that cannot be tested yet in the release of the build and the iteration of the plan. */
function notYetIn({ tx, project }: Context, body: NewRun, releaseId: number, asked: readonly Slot[]): Set<number> {
  const cases = [...new Set(asked.map((each) => each.case))]
  const detail = projectDetail(tx, project, 'viewer')
  const plan = body.plan === null ? undefined : planById(tx, project.id, body.plan)
  const release = detail.releases.find(({ id }) => id === releaseId) ?? null
  const iteration = detail.iterations.find(({ id }) => id === plan?.iterationId) ?? null
  return new Set(notYetTestable(tx, project.id, { release, iteration }, cases).map(({ id }) => id))
}

type Slot = NonNullable<NewRun['items']>[number]
/** Whoever names an item twice gets it once. */
const once = (items: readonly Slot[]): Slot[] => [
  ...new Map(items.map((each) => [`${each.case}:${each.environment}`, each])).values(),
]

/** What the plan asks for, where it says more than every case in each environment and the run says nothing else. */
function askedBy({ tx, project }: Context, body: NewRun): Slot[] | null {
  if (body.plan === null || [body.suites, body.cases, body.environments].some(({ length }) => length > 0)) return null
  const { world, plans } = askedNow(tx, project.id, [body.plan])
  const plan = plans.get(body.plan)
  if (!plan || plan.asks.length === 0) return null
  const any = projectDetail(tx, project, 'viewer').environments.find(({ isAny }) => isAny)?.id ?? 0
  return once(
    [...slotsAsked(plan, world).sets].flatMap(([id, sets]) =>
      // Where any of several would do, the item is in the first of them; whoever executes it may choose another.
      sets.map((set) => ({ case: id, environment: set[0] ?? any })),
    ),
  )
}

/** Every case in every environment. */
const itemsFor = (cases: readonly number[], environments: readonly number[]) =>
  cases.flatMap((own) => environments.map((environment) => ({ case: own, environment })))

/** The suites named, else all of the plan. */
function suitesOf({ tx, project }: Context, body: NewRun): readonly number[] {
  const plan = body.plan === null ? undefined : planById(tx, project.id, body.plan)
  return body.suites.length > 0 || !plan ? body.suites : planSuites(tx, plan.id).map(({ id }) => id)
}

function casesOf({ tx, project }: Context, suites: readonly number[], body: NewRun): number[] {
  const named = body.cases.filter((id) => {
    const own = caseById(tx, id)
    return own?.projectId === project.id && own.deletedAt === null
  })
  return [...new Set([...casesOfSuites(tx, project.id, suites), ...named])]
}

function environmentsOf(
  { tx, project }: Context,
  body: NewRun,
  all: readonly { id: number; isAny: boolean }[],
): number[] {
  if (body.environments.length > 0) return body.environments
  const plan = body.plan === null ? undefined : planById(tx, project.id, body.plan)
  const planned = plan ? planEnvironments(tx, plan.id).map(({ id }) => id) : []
  return planned.length > 0 ? planned : all.filter(({ isAny }) => isAny).map(({ id }) => id)
}

export function readRun({ tx, project }: Context, { params }: Input<typeof readContract>): Answer<typeof readContract> {
  const stored = found(findRun(tx, project.id, params.ref), keyOf('run', params.ref))
  const [row] = runRows(tx, project.id, [stored.id])
  if (!row) throw new Error(`run ${stored.id} has no row`)
  const plan = stored.planId === null ? undefined : planById(tx, project.id, stored.planId)
  const items = itemsOfRun(tx, stored.id, null)
  return {
    ...row,
    planTitle: plan?.title ?? null,
    releaseId: stored.releaseId,
    buildId: stored.buildId,
    outcome: rollUpSlots(items.map((item) => verdict.parse(item.verdict))),
    team: teamOf(tx, stored.id),
    closedAt: stored.closedAt,
    ...afterCloseOf(tx, stored.id),
    unapproved: project.approvalRequired
      ? unapprovedOf(
          tx,
          items.map(({ caseId }) => caseId),
        )
      : [],
    unassigned: items.filter(({ assigneeId, verdict: of }) => assigneeId === null && of === 'Not run').length,
  }
}

/** What was said of the run's items after its close, as far as one reads it on a page. */
function afterCloseOf(tx: Tx, runId: number): Pick<RunSheet, 'afterClose' | 'afterCloseCount'> {
  const { rows, count } = eventsAfterClose(tx, runId, 20)
  const said = ({ change, undoes }: AfterClose): string => {
    const to = change.whole?.to?.verdict ?? change.marks.at(-1)?.to?.verdict
    return undoes || !to ? 'a verdict taken back' : to
  }
  return {
    afterClose: rows.map((row) => ({
      item: row.item,
      case: row.case,
      person: row.person,
      verdict: said(row),
      at: row.at,
    })),
    afterCloseCount: count,
  }
}

/** A run that ends notes when; one that goes on forgets it. */
const closedAtOf = (state: RunSheet['state'] | undefined, before: RunStored, now: number) => {
  if (state === undefined || state === before.state) return {}
  return { closedAt: state === 'Closed' || state === 'Aborted' ? (before.closedAt ?? now) : null }
}

export function updateRun(
  context: Context,
  { params, body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const before = found(findRun(context.tx, context.project.id, params.ref), keyOf('run', params.ref))
  checkVersion(context, before, keyOf('run', params.ref))
  const { people, build, ...fields } = body
  const edit = { ...fields, buildId: build }
  const [startOn, endOn] = [fields.startOn ?? before.startOn, fields.endOn ?? before.endOn]
  if (endOn < startOn)
    throw new Refusal('invalid', 'The run would end before it starts.', {
      fields: [{ field: 'endOn', message: 'is before the start' }],
    })
  const detail = changedFields(before, edit)
  if (people) setTeam(context.tx, before.id, people)
  if (Object.keys(detail).length === 0 && !people) return { version: before.version }
  const closed = closedAtOf(fields.state, before, context.now)
  saveRun(context.tx, before.id, { ...definedOf(edit), ...closed, version: before.version + 1, updatedAt: context.now })
  context.change({
    kind: 'run',
    id: before.id,
    ref: keyOf('run', before.number),
    action: fields.state && fields.state !== before.state ? lower(fields.state) : 'changed',
    detail,
  })
  return { version: before.version + 1 }
}
