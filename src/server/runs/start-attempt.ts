import { keyOf } from '#core/lib/key.ts'
import type { startAttempt as contract } from '#core/runs/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { caseById } from '#db/cases/cases.ts'
import { readContent, versionById } from '#db/cases/versions.ts'
import { addAttempt, addAttemptRow, findAttempt } from '#db/runs/attempts.ts'
import { findItem, saveItem } from '#db/runs/items.ts'
import { runById } from '#db/runs/runs.ts'
import { takeRows } from '#server/reuse/keep-tables.ts'
import { cutFrom } from '#server/cases/cut-version.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { attemptAnswer } from './desk-of.ts'
import { refreshItem } from './refresh-standing.ts'

/**
 * Starts an attempt on the run's build. The case version is pinned now (one is cut when the working copy has
 * moved on) and the data values are frozen, so that the record stays true whatever is edited later.
 */
export function startAttempt(context: Context, { params }: Input<typeof contract>): Answer<typeof contract> {
  const { tx, project, now } = context
  const item = found(findItem(tx, project.id, params.id), 'This item')
  const run = found(runById(tx, item.runId), 'This run')
  if (run.state !== 'Open')
    throw new Refusal(
      'refused',
      `Run ${keyOf('run', run.number)} is ${run.state}; only an open run is executed. A lead can open it.`,
    )
  const own = found(caseById(tx, item.caseId), 'The case of this item')
  const version = versionFor(context, own)
  if (!version)
    throw new Refusal(
      'refused',
      `${keyOf('case', own.number)} has no approved version, and this project executes approved cases only.`,
    )
  const id = addAttempt(tx, {
    projectId: project.id,
    caseId: own.id,
    versionId: version.id,
    environmentId: item.environmentId,
    buildId: run.buildId,
    itemId: item.id,
    personId: context.person.id,
    startedAt: now,
  })
  const rows =
    version.tableId === null || version.tableMode === null
      ? readContent(tx, version).rows
      : takeRows(context, { tableId: version.tableId, mode: version.tableMode, attemptId: id })
  rows.forEach((values, index) => addAttemptRow(tx, id, index + 1, values))
  refreshItem(tx, item.id)
  if (item.assigneeId === null) saveItem(tx, item.id, { assigneeId: context.person.id })
  context.change({ kind: 'attempt', id, ref: keyOf('run', run.number), action: 'started', verdict: true })
  const stored = findAttempt(tx, project.id, id)
  if (!stored) throw new Error(`attempt ${id} is gone`)
  return attemptAnswer(tx, project, stored, context.person.id)
}

function versionFor(context: Context, own: ReturnType<typeof caseById> & object) {
  if (context.project.approvalRequired)
    return own.approvedVersionId === null ? undefined : versionById(context.tx, own.approvedVersionId)
  const cut = cutFrom(context, own, 'taken into execution')
  return cut.id === null ? undefined : versionById(context.tx, cut.id)
}
