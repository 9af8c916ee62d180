import { keyOf } from '#core/lib/key.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type {
  dealPlan as dealContract,
  MatrixRow,
  readMatrix as matrixContract,
  readMatrixSlots as slotsContract,
  readPrice as priceContract,
} from '#core/plans/asks-contract.ts'
import type { Tx } from '#db/open.ts'
import { factorsOf, placesOf, saveDeals } from '#db/plans/asked.ts'
import { findPlan } from '#db/plans/plans.ts'
import { namesOf } from '#db/plans/sources.ts'
import { itemsOfAttempts } from '#db/runs/items.ts'
import { projectDetail } from '#db/projects/detail.ts'
import type { ProjectRow } from '#db/projects/projects.ts'
import { found } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import {
  dealAgainJob,
  matrixJob,
  type MatrixReply,
  matrixSlotsJob,
  type PlanQuestion,
  priceJob,
  type PriceReply,
} from '#server/workers/questions.ts'
import { scopeOfPlan } from './evaluate-criteria.ts'
import { openPlan } from './open-plan.ts'

/** A plan in the scope it is looked at in. */
function asked(
  { tx, project }: Pick<OpenContext, 'tx' | 'project'>,
  ref: number,
  query: Parameters<typeof scopeOfPlan>[3],
): PlanQuestion {
  const plan = found(findPlan(tx, project.id, ref), keyOf('plan', ref))
  return { projectId: project.id, plan: plan.id, scope: scopeOfPlan(tx, project, plan, query) }
}

export async function readPrice(
  context: OpenContext,
  { params, query }: Input<typeof priceContract>,
): Promise<Answer<typeof priceContract>> {
  const { services, tx, project } = context
  const reply = await services.jobs.run(priceJob, { ...asked(context, params.ref, {}), ...query })
  const names = environmentNames(tx, project)
  const requirements = namesOf(
    tx,
    'requirement',
    reply.lacking.map(({ id }) => id),
  )
  return {
    ...reply,
    ...notYetOf(tx, reply.notYet),
    notAllowed: reply.notAllowed.map(([id, rule]) => ({ id, name: names.get(id) ?? '', rule })),
    lacking: reply.lacking.flatMap(({ id, environments }) => {
      const name = requirements.get(id)
      return name ? [{ ...name, environments: environments.map((each) => names.get(each) ?? '') }] : []
    }),
  }
}

/** What of a plan cannot be tested yet, apart and with its reason. */
function notYetOf(tx: Tx, all: PriceReply['notYet']): Pick<Answer<typeof priceContract>, 'notYet' | 'notYetTotal'> {
  const names = namesOf(
    tx,
    'case',
    all.slice(0, mostTold).map(({ id }) => id),
  )
  return {
    notYet: all.slice(0, mostTold).flatMap(({ id, from }) => {
      const name = names.get(id)
      return name ? [{ ...name, from }] : []
    }),
    notYetTotal: all.length,
  }
}

const environmentNames = (tx: Tx, project: ProjectRow): Map<number, string> =>
  new Map(projectDetail(tx, project, 'viewer').environments.map(({ id, name }) => [id, name]))

export async function readMatrix(
  context: OpenContext,
  { params, query }: Input<typeof matrixContract>,
): Promise<Answer<typeof matrixContract>> {
  const { services, tx, project, now } = context
  const { by, cursor, limit, ...scope } = query
  const reply = await services.jobs.run(matrixJob, { ...asked(context, params.ref, scope), by, cursor, limit })
  const environments = new Map(projectDetail(tx, project, 'viewer').environments.map((each) => [each.id, each]))
  const end = cursor + reply.rows.length
  const factors = Object.keys(factorsOf(tx, project.id, placesOf(tx, project.id)).values)
  return {
    columns: reply.columns.flatMap((id) => {
      const own = environments.get(id)
      const { outage = null } = own ?? {}
      const isOut = outage !== null && outage.fromAt <= now && (outage.untilAt === null || outage.untilAt > now)
      return own
        ? [{ id, name: own.name, values: inOrderOf(factors, own.values), outage: isOut ? outage.reason : null }]
        : []
    }),
    figures: reply.figures,
    rows: named(tx, reply.rows),
    total: reply.total,
    next: end < reply.total ? end : null,
  }
}

/** Values in the order in which the project names its factors. */
const inOrderOf = (factors: readonly string[], values: Readonly<Record<string, string>>): Record<string, string> =>
  Object.fromEntries(
    factors.flatMap((factor): [string, string][] => {
      const value = values[factor]
      return value === undefined ? [] : [[factor, value]]
    }),
  )

/** The rows in words; cases that prove nothing stand under a row of their own. */
function named(tx: Tx, rows: MatrixReply['rows']): MatrixRow[] {
  const of = (kind: 'requirement' | 'case') => rows.filter((row) => row.kind === kind).map(({ id }) => id)
  const requirements = namesOf(tx, 'requirement', of('requirement'))
  const cases = namesOf(tx, 'case', of('case'))
  const items = itemsOfAttempts(
    tx,
    rows.flatMap((row) => (row.kind === 'case' ? row.cells.flatMap((cell) => cell?.attempt ?? []) : [])),
  )
  return rows.map((row) => {
    const name = (row.kind === 'requirement' ? requirements : cases).get(row.id)
    const words = { key: name?.key ?? '', title: name?.title ?? 'Cases that prove no requirement' }
    if (row.kind === 'requirement') return { ...row, ...words }
    const cells = row.cells.map((cell) => cell && { ...cell, item: items.get(cell.attempt ?? 0) ?? null })
    return { ...row, ...words, cells }
  })
}

export const readMatrixSlots = (
  context: OpenContext,
  { params, query: { find, ...scope } }: Input<typeof slotsContract>,
): Promise<Answer<typeof slotsContract>> =>
  context.services.jobs.run(matrixSlotsJob, { ...asked(context, params.ref, scope), find })

const mostTold = 200

/** Deals the spread cases anew, or as they are said to be dealt; a closed plan stays as it was dealt. */
export async function dealPlan(
  context: OpenContext,
  { params, body }: Input<typeof dealContract>,
): Promise<Answer<typeof dealContract>> {
  const { services, tx, project, store } = context
  const plan = openPlan(context, params.ref)
  const again = await services.jobs.run(dealAgainJob, asked(context, params.ref, {}))
  if (again.deals.length === 0 && body.deals === undefined)
    throw new Refusal('refused', 'Nothing of this plan is spread over its environments; there is nothing to deal.')
  const names = environmentNames(tx, project)
  const unseated = again.moved.filter(({ verdict }) => verdict !== null)
  const cases = namesOf(
    tx,
    'case',
    unseated.slice(0, mostTold).map((each) => each.case),
  )
  if (body.only !== 'told')
    store((inside) => {
      saveDeals(inside.tx, plan.id, body.deals ?? again.deals)
      inside.change({
        kind: 'plan',
        id: plan.id,
        ref: keyOf('plan', plan.number),
        action: 'dealt again',
        detail: { moved: [null, body.deals ? body.deals.length : again.moved.length] },
      })
    })
  return {
    moved: again.moved.length,
    unseated: unseated.slice(0, mostTold).flatMap((each) => {
      const name = cases.get(each.case)
      if (!name) return []
      const { key, title } = name
      const [from, to] = [names.get(each.from) ?? '', names.get(each.to) ?? '']
      return [{ key, title, from, to, verdict: each.verdict ?? '' }]
    }),
    unseatedTotal: unseated.length,
    before: [...again.before],
  }
}
