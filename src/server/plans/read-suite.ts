import { parseFilter } from '#core/lib/filter.ts'
import { ruleFields } from '#core/finding/fields.ts'
import { keyOf } from '#core/lib/key.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type {
  listMembers as membersContract,
  readSuite as readContract,
  readSuiteChanges as changesContract,
  readSuiteNotYet as notYetContract,
  readSuiteRequirements as requirementsContract,
  SourceShown,
  SuiteMember,
  SuiteSheet,
  tryBest as bestContract,
  tryRule as ruleContract,
} from '#core/plans/suite-contract.ts'
import { notYetTestable } from '#db/cases/testable.ts'
import { ownFieldsOf } from '#db/cases/ask.ts'
import type { Tx } from '#db/open.ts'
import { type SourceStored, sourcesOf } from '#db/plans/definitions.ts'
import { ruleOf } from '#db/plans/members.ts'
import { missingOfPlans, provedBySuite } from '#db/plans/proved.ts'
import { namesOf } from '#db/plans/sources.ts'
import { cameSince, lastMembersOf, openStays, rewrittenSince, wentSince } from '#db/plans/stays.ts'
import {
  exclusionsOf,
  findSuite,
  memberRows,
  pinsOf,
  plansOfSuite,
  runsOfSuite,
  suiteRows,
  type SuiteStored,
  suitesHolding,
} from '#db/plans/suites.ts'
import { versionsHolding } from '#db/plans/versions.ts'
import type { ProjectRow } from '#db/projects/projects.ts'
import { found } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import type { Services } from '#server/http/services.ts'
import { scopeOf } from '#server/finding/scope-of.ts'
import { bestJob, ruleJob, suiteJob, type SuiteReply } from '#server/workers/questions.ts'

/** So many cases come with the sheet; the rest as they come into sight. */
const firstMembers = 100
const most = 200

type Asked = Pick<Services, 'db' | 'jobs' | 'now'>

/** All a suite's sheet shows; who is in it is reckoned on another thread, for a rule may go over all cases. */
export async function suiteSheetOf(services: Asked, project: ProjectRow, number: number): Promise<SuiteSheet> {
  const { db: tx } = services
  const stored = found(findSuite(tx, project.id, number), keyOf('suite', number))
  const reply = await services.jobs.run(suiteJob, {
    projectId: project.id,
    suite: stored.id,
    cursor: 0,
    limit: firstMembers,
  })
  const [row] = suiteRows(tx, project.id, [stored.id], services.now())
  if (!row) throw new Refusal('deleted', `${keyOf('suite', number)} was deleted; it can be brought back.`)
  const pins = pinsOf(tx, stored.id)
  return {
    ...row,
    cases: reply.total,
    minutes: reply.minutes,
    closedReason: stored.closedReason,
    orderedBy: stored.orderedBy,
    pins: pins.length,
    idle: pins.filter(({ idle }) => idle).length,
    sources: sourcesShown(tx, project.id, stored, reply),
    exclusions: exclusionsOf(tx, stored.id),
    members: membersOf(tx, reply),
    plans: plansOfSuite(tx, stored.id),
    runs: runsOfSuite(tx, stored.id),
    within: suitesHolding(tx, stored.id),
    versions: versionsHolding(tx, stored.id, 12),
  }
}

export const readSuite = (
  { services, project }: OpenContext,
  { params }: Input<typeof readContract>,
): Promise<Answer<typeof readContract>> => suiteSheetOf(services, project, params.ref)

function membersOf(tx: Tx, { rows }: SuiteReply): SuiteMember[] {
  const told = new Map(rows.map((row) => [row.id, row]))
  return memberRows(
    tx,
    rows.map(({ id }) => id),
  ).map((row) => ({ ...row, by: [...(told.get(row.id)?.by ?? [])], why: told.get(row.id)?.why ?? null }))
}

function sourcesShown(tx: Tx, projectId: number, suite: SuiteStored, reply: SuiteReply): SourceShown[] {
  const own = sourcesOf(tx, projectId).filter(({ suiteId }) => suiteId === suite.id)
  const ids = (of: (source: SourceStored) => number | null) => own.flatMap((source) => of(source) ?? [])
  const requirements = namesOf(
    tx,
    'requirement',
    ids(({ requirementId }) => requirementId),
  )
  const suites = namesOf(
    tx,
    'suite',
    ids(({ includedId }) => includedId),
  )
  const told = new Map(reply.sources.map((source) => [source.id, source]))
  return own.map((source) => {
    const problem = told.get(source.id)?.problem ?? null
    return {
      id: source.id,
      kind: source.kind,
      cases: told.get(source.id)?.cases ?? 0,
      requirement: requirements.get(source.requirementId ?? 0) ?? null,
      suite: suites.get(source.includedId ?? 0) ?? null,
      words: source.words,
      filter: ruleOf(source).filter,
      minutes: source.minutes,
      frozen: source.frozen !== null,
      problem,
      last: problem === null ? [] : lastMembersOf(tx, source).slice(0, most),
    }
  })
}

export async function listMembers(
  { services, tx, project }: OpenContext,
  { params, query }: Input<typeof membersContract>,
): Promise<Answer<typeof membersContract>> {
  const stored = found(findSuite(tx, project.id, params.ref), keyOf('suite', params.ref))
  const reply = await services.jobs.run(suiteJob, { projectId: project.id, suite: stored.id, ...query })
  const next = query.cursor + reply.rows.length
  return { rows: membersOf(tx, reply), total: reply.total, next: next < reply.total ? next : null }
}

/** What changed since an instant; where none is said, since the last run that was made of it began, else in the last week. */
export async function readSuiteChanges(
  { tx, project, now }: OpenContext,
  { params, query }: Input<typeof changesContract>,
): Promise<Answer<typeof changesContract>> {
  const stored = found(findSuite(tx, project.id, params.ref), keyOf('suite', params.ref))
  const [run] = query.since === undefined ? runsOfSuite(tx, stored.id) : []
  const since = query.since ?? run?.at ?? now - 7 * 86_400_000
  return {
    since,
    run: run ? { key: run.key, title: run.title } : null,
    came: cameSince(tx, stored.id, since),
    went: wentSince(tx, stored.id, since),
    rewritten: rewrittenSince(tx, stored.id, since),
  }
}

const mostNotYet = 500

/** What of a suite waits for a later iteration or release than one looks at. */
export async function readSuiteNotYet(
  { tx, project }: OpenContext,
  { params, query }: Input<typeof notYetContract>,
): Promise<Answer<typeof notYetContract>> {
  const stored = found(findSuite(tx, project.id, params.ref), keyOf('suite', params.ref))
  const members = openStays(tx, stored.id).map((stay) => stay.case)
  const all = notYetTestable(tx, project.id, scopeOf(tx, project, query), members)
  const shown = new Map(all.slice(0, mostNotYet).map(({ id, from }) => [id, from]))
  const rows = memberRows(tx, [...shown.keys()]).map(({ id, key, title }) => ({
    id,
    key,
    title,
    from: shown.get(id) ?? '',
  }))
  return { rows, total: all.length }
}

export async function readSuiteRequirements(
  { tx, project }: OpenContext,
  { params }: Input<typeof requirementsContract>,
): Promise<Answer<typeof requirementsContract>> {
  const stored = found(findSuite(tx, project.id, params.ref), keyOf('suite', params.ref))
  return { proved: provedBySuite(tx, stored.id), missing: missingOfPlans(tx, project.id, stored.id) }
}

export async function tryRule(
  { services, tx, project }: OpenContext,
  { query }: Input<typeof ruleContract>,
): Promise<Answer<typeof ruleContract>> {
  const fields = ruleFields(ownFieldsOf(tx, project.id))
  const parsed = parseFilter(query.filter, fields)
  if ('problem' in parsed) return { total: 0, minutes: 0, first: [], problem: parsed.problem }
  const rule = { words: query.words ?? '', filter: parsed.filter }
  const { first, ...reply } = await services.jobs.run(ruleJob, { projectId: project.id, rule, limit: 8 })
  const rows = memberRows(tx, first).map(({ id, key, title, importance }) => ({ id, key, title, importance }))
  return { ...reply, first: rows }
}

export async function tryBest(
  { services, tx, project }: OpenContext,
  { query }: Input<typeof bestContract>,
): Promise<Answer<typeof bestContract>> {
  const { minutes, requirement = null } = query
  const reply = await services.jobs.run(bestJob, { projectId: project.id, minutes, requirement })
  const shown = reply.rows.slice(0, most)
  const why = new Map(shown.map((row) => [row.id, row.why]))
  return {
    total: reply.total,
    minutes: reply.minutes,
    first: memberRows(
      tx,
      shown.map(({ id }) => id),
    ).map(({ id, key, title }) => ({ id, key, title, why: why.get(id) ?? '' })),
  }
}
