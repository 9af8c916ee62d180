import { sumOf } from '#core/lib/figures.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { criterionWords } from '#core/plans/criteria.ts'
import type {
  doubtAttempts as doubtContract,
  DoubtTold,
  liftDoubt as liftContract,
  listDoubts as listContract,
  tellDoubt as tellContract,
} from '#core/runs/attempts-contract.ts'
import { minutesOfCases } from '#db/cases/list.ts'
import { nameOf } from '#db/people/people.ts'
import { criteriaOf, planBranches, plansFor } from '#db/plans/criteria.ts'
import { namesOf } from '#db/plans/sources.ts'
import { projectDetail } from '#db/projects/detail.ts'
import { attemptRows } from '#db/runs/attempt-list.ts'
import { doubtAttempt, findAttempt } from '#db/runs/attempts.ts'
import {
  addDoubt,
  doubtable,
  closedBy,
  doubtById,
  doubtedBy,
  doubtsOf,
  endDoubt,
  firstBegun,
  signaturesSince,
} from '#db/runs/doubts.ts'
import { scopeOf } from '#server/finding/scope-of.ts'
import { type Context, found } from '#server/http/context.ts'
import { withFollowing } from '#server/http/in-turn.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { doubtJob, type DoubtReply } from '#server/workers/questions.ts'
import { refreshStanding } from './refresh-standing.ts'

const first = 200

/** What rests on some attempts in the scope one looks at. */
export async function tellDoubt(
  context: OpenContext,
  { query, body: { ids } }: Input<typeof tellContract>,
): Promise<Answer<typeof tellContract>> {
  const { tx, project, services } = context
  const scope = scopeOf(tx, project, query)
  const plans =
    scope.release === null
      ? []
      : plansFor(tx, { projectId: project.id, release: scope.release.id, iteration: scope.iteration?.id ?? null })
  const rules = plans.map(({ id }) => criteriaOf(tx, id).filter(({ side }) => side === 'exit'))
  const told = await services.jobs.run(doubtJob, {
    projectId: project.id,
    scope,
    ids,
    plans: plans.map(({ id }, at) => ({
      rules: (rules[at] ?? []).map(({ rule }) => rule),
      branches: planBranches(tx, id),
    })),
    most: 0,
  })
  const cases = [...new Set(told.fallen.map((slot) => slot.case))]
  const since = firstBegun(tx, ids)
  return {
    attempts: ids.length,
    ...slotsTold(context, told),
    requirements: requirementsTold(context, told.requirements.slice(0, first)),
    requirementCount: told.requirements.length,
    passing: told.passing,
    criteria: told.criteria.flatMap((outcomes, plan) =>
      outcomes.flatMap(({ from, to }, at) => {
        const own = rules[plan]?.[at]
        return from === to || !own
          ? []
          : [{ plan: plans[plan]?.key ?? '', said: criterionWords(own.rule, null), from, to }]
      }),
    ),
    signOffs: cases.length === 0 ? [] : signaturesSince(tx, { projectId: project.id, cases, since }),
    defects: closedBy(tx, project.id, ids),
  }
}

function slotsTold(
  { tx, project }: OpenContext,
  { fallen, repair }: DoubtReply,
): Pick<DoubtTold, 'slots' | 'slotCount' | 'repair' | 'minutes'> {
  const shown = fallen.slice(0, first)
  const environments = new Map(projectDetail(tx, project, 'viewer').environments.map(({ id, name }) => [id, name]))
  const cases = namesOf(tx, 'case', [...new Set([...shown, ...repair].map((slot) => slot.case))])
  const minutes = minutesOfCases(
    tx,
    repair.map((slot) => slot.case),
  )
  const named = (id: number) => cases.get(id) ?? { key: '', title: '' }
  const instead = new Map(
    attemptRows(
      tx,
      project.id,
      shown.flatMap((slot) => slot.instead ?? []),
    ).map((row) => [row.id, `${row.verdict} on ${row.build}, ${row.environment}`]),
  )
  const items = repair.map((slot) => ({ ...slot, ...named(slot.case), minutes: minutes.get(slot.case) ?? 0 }))
  return {
    slots: shown.map((slot) => ({
      ...named(slot.case),
      environment: environments.get(slot.environment) ?? '',
      from: slot.from,
      to: slot.to,
      by: slot.instead === null ? null : (instead.get(slot.instead) ?? null),
    })),
    slotCount: fallen.length,
    repair: items,
    minutes: sumOf(items, (item) => item.minutes),
  }
}

function requirementsTold({ tx }: OpenContext, changed: DoubtReply['requirements']): DoubtTold['requirements'] {
  const names = namesOf(
    tx,
    'requirement',
    changed.map(({ id }) => id),
  )
  return changed.map(({ id, from, to }) => ({ key: '', title: '', ...names.get(id), from, to }))
}

/** Doubts, the newest first. */
export const listDoubts = (
  { tx, project }: Context,
  { query }: Input<typeof listContract>,
): Answer<typeof listContract> => ({
  rows: doubtsOf(tx, project.id, query.limit).map(({ id, reason, attempts, personId, at, liftedAt, liftedById }) => ({
    id,
    reason,
    attempts,
    person: nameOf(tx, personId),
    at: at ?? 0,
    liftedAt,
    liftedBy: liftedById === null ? null : nameOf(tx, liftedById),
  })),
})

/** Doubts attempts in one act for a reason; those that were doubted or struck out before stay as they are. */
export async function doubtAttempts(
  context: OpenContext,
  { body: { ids, reason } }: Input<typeof doubtContract>,
): Promise<Answer<typeof doubtContract>> {
  const { tx, project } = context
  const all = doubtable(tx, project.id, ids)
  if (all.length === 0)
    throw new Refusal(
      'refused',
      'None of the chosen attempts can be doubted: they have no verdict yet, are doubted already, or were struck out.',
    )
  // What follows belongs to it, and comes after it.
  let doubt = 0
  const { stopped } = await withFollowing(
    context,
    (inside) => {
      doubt = addDoubt(inside.tx, {
        projectId: project.id,
        reason,
        attempts: all.length,
        personId: inside.person.id,
        at: inside.now,
      })
      tellAct(inside, 'attempts doubted', reason, all.length)
    },
    { all, step: (inside, id) => say(inside, id, { doubt: reason, doubtId: doubt }) },
  )
  return { id: doubt, attempts: all.length, stopped }
}

export async function liftDoubt(
  context: OpenContext,
  { params }: Input<typeof liftContract>,
): Promise<Answer<typeof liftContract>> {
  const { tx, project } = context
  const own = found(doubtById(tx, project.id, params.id), 'This doubt')
  const all = doubtedBy(tx, own.id)
  const { stopped } = await withFollowing(
    context,
    (inside) => {
      if (own.liftedAt !== null) return
      endDoubt(inside.tx, own.id, { liftedAt: inside.now, liftedById: inside.person.id })
      tellAct(inside, 'doubt lifted', own.reason, all.length)
    },
    { all, step: (inside, id) => say(inside, id, { doubt: null, doubtId: null }) },
  )
  return { attempts: all.length, stopped }
}

const tellAct = (
  { project, change }: Context,
  action: 'attempts doubted' | 'doubt lifted',
  reason: string,
  attempts: number,
): void =>
  change({
    kind: 'project',
    id: project.id,
    ref: project.key,
    action,
    detail: { reason: [null, reason], attempts: [null, attempts] },
  })

function say(
  inside: Context,
  id: number,
  to: { readonly doubt: string | null; readonly doubtId: number | null },
): void {
  const own = findAttempt(inside.tx, inside.project.id, id)
  if (!own || own.doubt === to.doubt) return
  doubtAttempt(inside.tx, id, to.doubt, to.doubtId)
  refreshStanding(inside.tx, own)
  inside.change({
    kind: 'attempt',
    id,
    ref: String(own.itemId ?? id),
    action: to.doubt === null ? 'believed again' : 'doubted',
    detail: { doubt: [own.doubt, to.doubt] },
  })
}
