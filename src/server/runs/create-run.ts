import { keyOf } from '#core/lib/key.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { daysBetween } from '#core/lib/days.ts'
import { sumOf } from '#core/lib/figures.ts'
import type { createRun as contract, previewRun as previewContract, RunSheet } from '#core/runs/contract.ts'
import type { Scope } from '#core/projects/scope.ts'
import { dealKnowing } from '#core/runs/dealing.ts'
import { notYetTestable } from '#db/cases/testable.ts'
import { casesOfDefects } from '#db/defects/queries.ts'
import { casesThere, keysOfCases } from '#db/cases/cases.ts'
import { unapprovedOf } from '#db/plans/suites.ts'
import { minutesGivenOn } from '#db/people/members.ts'
import { nameOf } from '#db/people/people.ts'
import { rowsNeeded } from '#db/reuse/data-tables.ts'
import { minutesOfCases } from '#db/cases/list.ts'
import type { Tx } from '#db/open.ts'
import { planById, planEnvironments, type PlanStored, planSuites } from '#db/plans/plans.ts'
import { projectDetail } from '#db/projects/detail.ts'
import { keepPolicy, policyById } from '#db/projects/policies.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { addItems, type NewItem } from '#db/runs/item-scope.ts'
import { addRun, dropStagedRun, setRunSuites, setTeam, showRun, stagedAt } from '#db/runs/runs.ts'
import type { Context } from '#server/http/context.ts'
import { atOnce, breathe, inSets } from '#server/http/going.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { asksJob, membersJob } from '#server/workers/questions.ts'
import { knowsNothing, whoKnows } from './who-knows.ts'

type NewRun = Input<typeof contract>['body']
/** What of it says which items it has. */
type Chosen = Input<typeof previewContract>['body']
type Slot = NonNullable<NewRun['items']>[number]

/** What a run is made of, before any of it is stored. */
interface Planned {
  readonly suites: readonly number[]
  readonly build: { readonly id: number; readonly release: number }
  readonly items: readonly NewItem[]
  readonly leftOut: number
}

/**
 * Opens a run: every case in every environment becomes an item, dealt to the team when asked. A large one is made out of sight in
 * sets and then shown at once, so that nobody at work waits for it.
 */
export async function createRun(
  context: OpenContext,
  { body }: Input<typeof contract>,
): Promise<Answer<typeof contract>> {
  const planned = await plannedFor(context, body)
  if (planned.items.length <= atOnce)
    return context.store((inside) => {
      const made = begin(inside, body, planned)
      addItems(inside.tx, made.id, planned.items, 0)
      return shown(inside, body, planned, made)
    })
  const made = context.store((inside) => begin(inside, body, planned))
  try {
    await inSets(planned.items, (part, from) => {
      context.store(({ tx }) => addItems(tx, made.id, part, from))
      return true
    })
    return context.store((inside) => shown(inside, body, planned, made))
  } catch (error) {
    context.store(({ tx }) => dropStagedRun(tx, made.id))
    throw error
  }
}

const nothingComposed: NonNullable<RunSheet['composed']> = { runs: [], plan: null, reasons: [], words: '', filter: '' }

async function plannedFor(context: OpenContext, body: NewRun): Promise<Planned> {
  if (body.endOn < body.startOn)
    throw new Refusal('invalid', 'The run ends before it starts.', {
      fields: [{ field: 'endOn', message: 'is before the start' }],
    })
  const { slots, leftOut, ...of } = await slotsFor(context, body)
  const items = body.deal === 'nobody' ? slots.map(asItem) : await dealt(context, slots, body)
  return { ...of, items, leftOut: leftOut.length }
}

/** So many cases are named; of more one is told how many. */
const mostNamed = 20

/** What would be in a run, and what in it cannot be executed yet. */
export async function previewRun(
  context: OpenContext,
  { body }: Input<typeof previewContract>,
): Promise<Answer<typeof previewContract>> {
  const { tx, project } = context
  const { slots, leftOut } = await slotsFor(context, body)
  await breathe()
  const cases = [...new Set(slots.map((each) => each.case))]
  const minutes = minutesOfCases(tx, cases)
  const rules = body.policy ?? policyById(tx, project.policyId)
  const unapproved = project.approvalRequired || rules.approvedOnly ? unapprovedOf(tx, cases) : []
  return {
    items: slots.length,
    minutes: sumOf(slots, (each) => minutes.get(each.case) ?? 0),
    leftOut: keysOfCases(tx, leftOut.slice(0, mostNamed)),
    leftOutCount: leftOut.length,
    unapproved: unapproved.slice(0, mostNamed),
    unapprovedCount: unapproved.length,
    team: teamHours(context, body),
    data: rowsNeeded(tx, slots),
  }
}

/** A window of more days is looked at no further. */
const mostDays = 92

/** What the team can give on the days of the run. */
function teamHours(
  { tx, project }: Pick<Context, 'tx' | 'project'>,
  { people, startOn, endOn }: Chosen,
): Answer<typeof previewContract>['team'] {
  if (people.length === 0 || !startOn || !endOn || endOn < startOn) return null
  const days = daysBetween(startOn, endOn, mostDays)
  const given = people.map((id) => ({
    name: nameOf(tx, id) ?? '',
    minutes: minutesGivenOn(tx, project.id, id, days),
  }))
  return {
    minutes: sumOf(given, ({ minutes }) => minutes),
    none: given.flatMap(({ name, minutes }) => (minutes === 0 && name !== '' ? [name] : [])),
  }
}

/** The run itself, which nobody sees yet. */
function begin(
  { tx, project, now }: Context,
  { title, aim, dataRows, plan, state, startOn, endOn, composed, policy }: NewRun,
  { build }: Planned,
): { id: number; number: number } {
  const number = takeNumbers(tx, project.id, 'run')
  const id = addRun(
    tx,
    {
      projectId: project.id,
      number,
      title,
      aim,
      dataRows,
      planId: plan,
      releaseId: build.release,
      buildId: build.id,
      state,
      startOn,
      endOn,
      composed: composed ? JSON.stringify({ ...nothingComposed, ...composed }) : null,
      policyId: policy === null ? null : keepPolicy(tx, project.id, policy, now),
      deletedAt: stagedAt,
    },
    now,
  )
  return { id, number }
}

function shown(
  context: Context,
  body: NewRun,
  { suites, items, leftOut }: Planned,
  { id, number }: { id: number; number: number },
): Answer<typeof contract> {
  const { tx } = context
  setTeam(tx, id, body.people)
  setRunSuites(tx, id, suites)
  showRun(tx, id)
  const key = keyOf('run', number)
  context.change({ kind: 'run', id, ref: key, action: body.state === 'Open' ? 'opened' : 'planned' })
  return { id, key, items: items.length, leftOut }
}

async function slotsFor(
  context: OpenContext,
  body: Chosen,
): Promise<{ suites: readonly number[]; build: Planned['build']; slots: readonly Slot[]; leftOut: readonly number[] }> {
  const { tx, project } = context
  const detail = projectDetail(tx, project, context.role)
  const build = detail.builds.find(({ id }) => id === body.build)
  if (!build) throw new Refusal('invalid', 'That build is not one of this project.')
  const plan = body.plan === null ? undefined : planById(tx, project.id, body.plan)
  const suites = body.items ? [] : suitesOf(tx, plan, body)
  const any = detail.environments.find(({ isAny }) => isAny)?.id
  const asked = body.items
    ? once(body.items)
    : ((await askedBy(context, body, any ?? 0)) ??
      itemsFor(await casesOf(context, suites, body), environmentsOf(tx, plan, { named: body.environments, any })))
  await breathe()
  const there = casesThere(
    tx,
    project.id,
    asked.map((each) => each.case),
  )
  const release = detail.releases.find(({ id }) => id === build.release) ?? null
  const iteration = detail.iterations.find(({ id }) => id === plan?.iterationId) ?? null
  const waiting = body.items ? new Set<number>() : notYetIn(context, { release, iteration }, asked)
  await breathe()
  const slots = asked.filter((each) => there.has(each.case) && !waiting.has(each.case))
  if (slots.length === 0)
    throw new Refusal(
      'refused',
      body.plan === null
        ? 'There is no case to run: nothing of what was chosen holds one that is there and can be tested by now.'
        : 'There is no case to run: the suites of this plan hold none. Pin cases to them or give them a rule, or choose other suites.',
    )
  const leftOut = [...new Set(asked.flatMap((each) => (waiting.has(each.case) ? [each.case] : [])))]
  return { suites, build, slots, leftOut }
}

export const asItem = ({ case: own, environment, reasons = [] }: Slot): NewItem => ({
  case: own,
  environment,
  reasons: reasons.join(','),
  assignee: null,
})

async function dealt(context: OpenContext, slots: readonly Slot[], { people, deal }: NewRun): Promise<NewItem[]> {
  const cases = slots.map((each) => each.case)
  const minutes = minutesOfCases(context.tx, cases)
  const knows = deal === 'knowing' ? await whoKnows(context, { cases, people }) : knowsNothing
  const of = dealKnowing(
    slots.map((each, id) => ({ id, minutes: minutes.get(each.case) ?? 0 })),
    people,
    { knows: (at, person) => knows(cases[at] ?? 0, person) },
  )
  const given = new Map(of.map(({ item, person }) => [item, person]))
  return slots.map((each, at) => ({ ...asItem(each), assignee: given.get(at) ?? null }))
}

/** Cases that cannot be tested yet in the release of the build and the iteration of the plan. */
function notYetIn(
  { tx, project }: Context,
  scope: Pick<Scope, 'release' | 'iteration'>,
  asked: readonly Slot[],
): Set<number> {
  const cases = [...new Set(asked.map((each) => each.case))]
  return new Set(notYetTestable(tx, project.id, scope, cases).map(({ id }) => id))
}

/** Whoever names an item twice gets it once. */
export const once = (items: readonly Slot[]): Slot[] => [
  ...new Map(items.map((each) => [`${each.case}:${each.environment}`, each])).values(),
]

/** What the plan asks for, where it says more than every case in each environment and the run says nothing else. */
async function askedBy({ project, services }: OpenContext, body: Chosen, any: number): Promise<Slot[] | null> {
  const { suites, cases, requirements, defects, environments } = body
  if (body.plan === null || [suites, cases, requirements, defects, environments].some(({ length }) => length > 0))
    return null
  const sets = await services.jobs.run(asksJob, { projectId: project.id, plan: body.plan })
  if (sets === null) return null
  return once(
    sets.flatMap(([id, own]) =>
      // Where any of several would do, the item is in the first of them; whoever executes it may choose another.
      own.map((set) => ({ case: id, environment: set[0] ?? any })),
    ),
  )
}

/** Every case in every environment. */
const itemsFor = (cases: readonly number[], environments: readonly number[]): Slot[] =>
  cases.flatMap((own) => environments.map((environment) => ({ case: own, environment })))

/** The suites named, else all of the plan. */
function suitesOf(tx: Tx, plan: PlanStored | undefined, body: Chosen): readonly number[] {
  return body.suites.length > 0 || !plan ? body.suites : planSuites(tx, plan.id).map(({ id }) => id)
}

async function casesOf(
  { tx, project, services }: OpenContext,
  suites: readonly number[],
  { requirements, defects, cases }: Chosen,
): Promise<number[]> {
  const members =
    suites.length + requirements.length === 0
      ? []
      : await services.jobs.run(membersJob, { projectId: project.id, suites, requirements })
  return [...new Set([...members, ...casesOfDefects(tx, defects), ...cases])]
}

/** Those that are named, else those of the plan, else any. */
function environmentsOf(
  tx: Tx,
  plan: PlanStored | undefined,
  { named, any }: { readonly named: readonly number[]; readonly any: number | undefined },
): readonly number[] {
  if (named.length > 0) return named
  const planned = plan ? planEnvironments(tx, plan.id).map(({ id }) => id) : []
  return planned.length > 0 || any === undefined ? planned : [any]
}
