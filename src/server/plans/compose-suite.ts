import { counted } from '#core/lib/figures.ts'
import { ruleFields } from '#core/finding/fields.ts'
import { conditionsOf, filledFilter } from '#core/lib/filter.ts'
import { keyOf } from '#core/lib/key.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { wayBack } from '#core/plans/members.ts'
import type { SourceSaid } from '#core/plans/source.ts'
import type {
  addSource as addContract,
  changeSource as changeContract,
  excludeCases as excludeContract,
  removeSource as removeContract,
} from '#core/plans/suite-contract.ts'
import { ownFieldsOf } from '#db/cases/ask.ts'
import { type Frozen, sourcesOf } from '#db/plans/definitions.ts'
import { bestWithin } from '#db/plans/members.ts'
import { addSourceTo, findSource, includesOf, namesOf, saveSource, sourceColumns } from '#db/plans/sources.ts'
import { exclude, findSuite, include, saveSuite, type SuiteStored } from '#db/plans/suites.ts'
import { checkVersion, type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { noticeAtOnce, openSuite } from './open-suite.ts'

const mostSources = 50

/** Sources for a suite, each checked. */
export function addSources(context: Context, suiteId: number, all: readonly SourceSaid[]): number[] {
  const of = { projectId: context.project.id, suiteId, now: context.now }
  return all.map((said) => addSourceTo(context.tx, of, columnsOf(context, suiteId, said)))
}

function columnsOf(context: Context, suiteId: number, said: SourceSaid) {
  if (said.kind === 'rule') refuseUnknownField(context, said)
  if (said.kind === 'suite') refuseCircle(context, suiteId, said.suite)
  return sourceColumns(said, said.kind === 'best' && said.frozen ? frozenNow(context, said) : null)
}

function refuseUnknownField({ tx, project }: Context, { filter, words }: Extract<SourceSaid, { kind: 'rule' }>): void {
  // An empty group holds of everything.
  if ((filter === null || filledFilter(filter) === null) && words === '')
    throw new Refusal('invalid', 'A rule with no condition would bring every case; say which.', {
      fields: [{ field: 'filter', message: 'is empty' }],
    })
  const known = new Set(ruleFields(ownFieldsOf(tx, project.id)).map(({ name }) => name))
  const unknown = (filter === null ? [] : conditionsOf(filter)).find(({ field }) => !known.has(field))
  if (unknown)
    throw new Refusal(
      'invalid',
      `A rule cannot ask for “${unknown.field}”: it asks for fields of cases and of their requirements, not for what is found out by executing or what changes with the clock.`,
      { fields: [{ field: 'filter', message: 'asks for what a rule cannot' }] },
    )
}

function refuseCircle({ tx, project }: Context, suite: number, included: number): void {
  const way = wayBack(includesOf(tx, project.id), suite, included)
  if (way === null) return
  const names = namesOf(tx, 'suite', way)
  const told = way.map((id) => names.get(id)?.key ?? '').join(' in ')
  throw new Refusal(
    'refused',
    way.length === 1
      ? `${told} would contain itself; nothing was stored.`
      : `This suite would contain itself, by way of ${told}; nothing was stored.`,
  )
}

function frozenNow({ tx, project }: Context, said: Extract<SourceSaid, { kind: 'best' }>): Frozen[] {
  const { cases, why } = bestWithin(tx, project.id, { minutes: said.minutes, requirementId: said.requirement })
  return cases.map((id) => ({ case: id, why: why[id] ?? '' }))
}

/** What is made of a suite anew: its version counts on, and what it holds is written down. */
function composed(
  context: Context,
  suite: SuiteStored,
  action: 'source added' | 'source changed' | 'source taken away' | 'source brought back' | 'cases left out',
): void {
  saveSuite(context.tx, suite.id, { version: suite.version + 1, updatedAt: context.now })
  noticeAtOnce(context, suite.id)
  context.change({ kind: 'suite', id: suite.id, ref: keyOf('suite', suite.number), action })
}

export function addSource(context: Context, { params, body }: Input<typeof addContract>): Answer<typeof addContract> {
  const suite = openSuite(findSuite(context.tx, context.project.id, params.ref), params.ref)
  const own = sourcesOf(context.tx, context.project.id).filter(({ suiteId }) => suiteId === suite.id)
  if (own.length >= mostSources)
    throw new Refusal(
      'refused',
      `A suite has at most ${counted(mostSources, 'source')}; put some into a suite of their own.`,
    )
  const [id = 0] = addSources(context, suite.id, [body])
  composed(context, suite, 'source added')
  return { id }
}

export function changeSource(
  context: Context,
  { params, body }: Input<typeof changeContract>,
): Answer<typeof changeContract> {
  const suite = openSuite(findSuite(context.tx, context.project.id, params.ref), params.ref)
  const before = found(findSource(context.tx, suite.id, params.source), 'That source')
  checkVersion(context, suite, keyOf('suite', suite.number))
  saveSource(context.tx, before.id, { ...columnsOf(context, suite.id, body), brokenAt: null })
  composed(context, suite, 'source changed')
  return { ok: true }
}

export function removeSource(
  context: Context,
  { params, query }: Input<typeof removeContract>,
): Answer<typeof removeContract> {
  const suite = openSuite(findSuite(context.tx, context.project.id, params.ref), params.ref)
  const undo = query.undo === 'yes'
  const stored = findSource(context.tx, suite.id, params.source)
  if (!stored) throw new Refusal('not-found', 'That source is not of this suite.')
  if (undo && stored.includedId !== null) refuseCircle(context, suite.id, stored.includedId)
  saveSource(context.tx, stored.id, { deletedAt: undo ? null : context.now })
  composed(context, suite, undo ? 'source brought back' : 'source taken away')
  return { ok: true }
}

export function excludeCases(
  context: Context,
  { params, body }: Input<typeof excludeContract>,
): Answer<typeof excludeContract> {
  const suite = openSuite(findSuite(context.tx, context.project.id, params.ref), params.ref)
  if (body.add.length > 0 && body.reason === '')
    throw new Refusal('invalid', 'Say why these cases are left out; nothing was stored.', {
      fields: [{ field: 'reason', message: 'is asked for' }],
    })
  exclude(context.tx, suite.id, body.add, { reason: body.reason, ...context.by })
  include(context.tx, suite.id, body.remove)
  composed(context, suite, 'cases left out')
  return { ok: true }
}
