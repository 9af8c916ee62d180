import { lower } from '#core/lib/lower.ts'
import { keyOf } from '#core/lib/key.ts'
import type {
  listRuns as listContract,
  orderRuns as orderContract,
  readRun as readContract,
  RunSheet,
  updateRun as updateContract,
} from '#core/runs/contract.ts'
import { composedShown } from '#core/runs/compose-contract.ts'
import { hasEnded } from '#core/runs/state.ts'
import { readJson } from '#core/lib/read-json.ts'
import { runFields } from '#core/finding/fields.ts'
import { definedOf } from '#core/lib/defined.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { type Changes, changedFields } from '#core/history/changes.ts'
import { rollUpSlots } from '#core/lib/verdict.ts'
import { counted } from '#core/lib/figures.ts'
import { type Policy, policySentences } from '#core/projects/policy.ts'
import { keepPolicy, policyById, policyIdOf } from '#db/projects/policies.ts'
import { owingItems } from '#db/runs/owed.ts'
import { casesIn, quarantinedIn, unassignedIn, verdictsIn, wordsIn } from '#db/runs/outcome.ts'
import { unapprovedOf } from '#db/plans/suites.ts'
import { planById } from '#db/plans/plans.ts'
import type { Tx } from '#db/open.ts'
import { findRun, runRows, runSource, type RunStored, saveRun, setTeam, teamOf } from '#db/runs/runs.ts'
import { attemptsIn } from '#db/runs/shape.ts'
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

export function readRun({ tx, project }: Context, { params }: Input<typeof readContract>): Answer<typeof readContract> {
  const stored = found(findRun(tx, project.id, params.ref), keyOf('run', params.ref))
  const [row] = runRows(tx, project.id, [stored.id])
  if (!row) throw new Error(`run ${stored.id} has no row`)
  const plan = stored.planId === null ? undefined : planById(tx, project.id, stored.planId)
  const policy = policyById(tx, policyIdOf(stored, project))
  const owing = owingItems(tx, stored.id, null)
  const kept = quarantinedIn(tx, stored.id)
  return {
    ...row,
    aim: stored.aim,
    dataRows: stored.dataRows,
    planTitle: plan?.title ?? null,
    releaseId: stored.releaseId,
    buildId: stored.buildId,
    outcome: rollUpSlots(verdictsIn(tx, stored.id, [...kept.keys()])),
    policy,
    ownPolicy: stored.policyId !== null,
    owing: owing.slice(0, 20),
    owingCount: owing.length,
    quarantined: [...new Set(kept.values())],
    words: wordsIn(tx, stored.id),
    attempts: attemptsIn(tx, [stored.id]),
    team: teamOf(tx, stored.id),
    closedAt: stored.closedAt,
    endedReason: stored.endedReason,
    composed: composedIn(stored.composed),
    ...afterCloseOf(tx, stored.id),
    unapproved: project.approvalRequired || policy.approvedOnly ? unapprovedOf(tx, casesIn(tx, stored.id)) : [],
    unassigned: unassignedIn(tx, stored.id),
  }
}

function composedIn(text: string | null): RunSheet['composed'] {
  const parsed = text === null ? null : composedShown.safeParse(readJson(text))
  return parsed?.success ? parsed.data : null
}

/** What was said of the run's items after its close, as far as one reads it on a page. */
function afterCloseOf(tx: Tx, runId: number): Pick<RunSheet, 'afterClose' | 'afterCloseCount' | 'amendedCount'> {
  const { rows, count, amended } = eventsAfterClose(tx, runId, 20)
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
      counts: row.counts,
    })),
    afterCloseCount: count,
    amendedCount: amended,
  }
}

/** A run that ends notes when and why; one that goes on forgets it. */
export function endOf(state: RunSheet['state'] | undefined, reason: string, before: RunStored, now: number) {
  if (state === undefined || state === before.state) return {}
  if (state === 'Aborted' && reason === '')
    throw new Refusal('invalid', `Say why ${keyOf('run', before.number)} ends early; nothing was changed.`, {
      fields: [{ field: 'reason', message: 'is asked for' }],
    })
  const ends = hasEnded(state)
  return { closedAt: ends ? (before.closedAt ?? now) : null, endedReason: ends ? reason : '' }
}

/** A run that closes by hand has all that its verdicts ask for; one that ends early does not wait for it. */
export function refuseOwing({ tx }: Context, run: RunStored): void {
  const [first, ...more] = owingItems(tx, run.id, null)
  if (!first) return
  const others = more.length === 0 ? '' : ` and ${counted(more.length, 'more item')}`
  throw new Refusal(
    'refused',
    `${first.case}${others} of ${keyOf('run', run.number)} ${more.length === 0 ? 'lacks' : 'lack'} what the policy asks for (${first.owed.join(', ')}). Give it, or end the run early; nothing was changed.`,
  )
}

/** What a run's rules become; `null` where they say what they said before. What was recorded stays under those it began with. */
function policyChange(
  { tx, project, now }: Context,
  run: RunStored,
  to: Policy | null,
): { edit: Pick<RunStored, 'policyId'>; detail: Changes } | null {
  const before = policyById(tx, policyIdOf(run, project))
  const policyId = to === null ? null : keepPolicy(tx, project.id, to, now)
  if (policyId === run.policyId) return null
  const after = to ?? policyById(tx, project.policyId)
  return {
    edit: { policyId },
    detail: { policy: [policySentences(before).join(' '), policySentences(after).join(' ')] },
  }
}

export function updateRun(
  context: Context,
  { params, body }: Input<typeof updateContract>,
): Answer<typeof updateContract> {
  const before = found(findRun(context.tx, context.project.id, params.ref), keyOf('run', params.ref))
  checkVersion(context, before, keyOf('run', params.ref))
  const { people, build, policy, reason = '', ...fields } = body
  const edit = { ...fields, buildId: build }
  if (fields.state === 'Closed' && before.state !== 'Closed') refuseOwing(context, before)
  const [startOn, endOn] = [fields.startOn ?? before.startOn, fields.endOn ?? before.endOn]
  if (endOn < startOn)
    throw new Refusal('invalid', 'The run would end before it starts.', {
      fields: [{ field: 'endOn', message: 'is before the start' }],
    })
  const rules = policy === undefined ? null : policyChange(context, before, policy)
  const detail = { ...changedFields(before, edit), ...rules?.detail }
  if (people) setTeam(context.tx, before.id, people)
  if (Object.keys(detail).length === 0 && !people) return { version: before.version }
  const ended = endOf(fields.state, reason, before, context.now)
  saveRun(context.tx, before.id, {
    ...definedOf(edit),
    ...rules?.edit,
    ...ended,
    version: before.version + 1,
    updatedAt: context.now,
  })
  context.change({
    kind: 'run',
    id: before.id,
    ref: keyOf('run', before.number),
    action: fields.state && fields.state !== before.state ? lower(fields.state) : rules ? 'policy changed' : 'changed',
    detail: { ...detail, ...(ended.endedReason && { reason: [null, ended.endedReason] }) },
  })
  return { version: before.version + 1 }
}
