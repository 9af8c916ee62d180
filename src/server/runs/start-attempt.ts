import { keyOf } from '#core/lib/key.ts'
import type { startAttempt as contract } from '#core/runs/desk-contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { chosenRows } from '#core/runs/data-rows.ts'
import { caseById } from '#db/cases/cases.ts'
import { readContent, versionById, type VersionStored } from '#db/cases/versions.ts'
import { addAttempt, addAttemptRow, findAttempt } from '#db/runs/attempts.ts'
import { findItem, type ItemStored, saveItem } from '#db/runs/items.ts'
import { runById } from '#db/runs/runs.ts'
import { standsIn } from '#db/runs/installed.ts'
import { policyById, policyIdOf } from '#db/projects/policies.ts'
import { takeRows } from '#server/reuse/keep-tables.ts'
import { cutFrom } from '#server/cases/cut-version.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { attemptAnswer } from './desk-of.ts'
import { refreshItem } from './refresh-standing.ts'
import { policyOfRun, refuseOthers } from './under-policy.ts'

/**
 * Starts an attempt on the build that stands in its environment, else on the run's. The case version is pinned now (one is cut when the working copy has
 * moved on) and the data values are frozen, so that the record stays true whatever is edited later.
 */
export function startAttempt(context: Context, { params, body }: Input<typeof contract>): Answer<typeof contract> {
  const { tx, project, person } = context
  const item = found(findItem(tx, project.id, params.id), 'This item')
  const policy = policyOfRun(context, found(runById(tx, item.runId), 'This run'))
  const takes = item.assigneeId === null && policy.opens === 'taken'
  const own = takes ? { ...item, assigneeId: person.id } : item
  refuseOthers(context, policy, own, null)
  const id = beginAttempt(context, own, body)
  if (takes) saveItem(tx, item.id, { assigneeId: person.id })
  const stored = findAttempt(tx, project.id, id)
  if (!stored) throw new Error(`attempt ${id} is gone`)
  return attemptAnswer(tx, project, stored, person.id)
}

interface Begun {
  readonly build?: number | undefined
  /** The one that was executed, where that was elsewhere; else the newest that may be. */
  readonly version?: VersionStored
  /** Who executes it. */
  readonly person?: string
}

/** The attempt alone; whose item it is stays as it was. */
export function beginAttempt(
  context: Context,
  item: ItemStored,
  { build, version: said, person = context.person.id }: Begun,
): number {
  const { tx, project, now } = context
  const run = found(runById(tx, item.runId), 'This run')
  if (run.state !== 'Open')
    throw new Refusal(
      'refused',
      `Run ${keyOf('run', run.number)} is ${run.state}; only an open run is executed. A lead can open it.`,
    )
  const own = found(caseById(tx, item.caseId), 'The case of this item')
  const policyId = policyIdOf(run, project)
  const { approvedOnly } = policyById(tx, policyId)
  const version = said ?? versionFor(context, own, project.approvalRequired || approvedOnly)
  if (!version)
    throw new Refusal(
      'refused',
      `${keyOf('case', own.number)} has no approved version, and ${project.approvalRequired ? 'this project' : 'this run'} executes approved cases only.`,
    )
  const id = addAttempt(tx, {
    projectId: project.id,
    caseId: own.id,
    versionId: version.id,
    environmentId: item.environmentId,
    ...buildFor(context, { environment: item.environmentId, expected: run.buildId, said: build }),
    itemId: item.id,
    personId: person,
    policyId,
    startedAt: now,
  })
  const rows =
    version.tableId === null || version.tableMode === null
      ? chosen(readContent(tx, version).rows, run.dataRows)
      : unchosen(
          takeRows(context, {
            tableId: version.tableId,
            mode: version.tableMode,
            attemptId: id,
            environmentId: item.environmentId,
          }),
        )
  rows.forEach((each, index) => addAttemptRow(tx, { attemptId: id, row: index + 1, ...each }))
  refreshItem(tx, item.id)
  context.change({ kind: 'attempt', id, ref: keyOf('run', run.number), action: 'started', verdict: true })
  return id
}

type Values = Readonly<Record<string, string>>
interface RowTaken {
  readonly values: Values
  readonly origin: number | null
}

/** The rows of a case that its run executes, each with its number in the case where not all are. */
function chosen(rows: readonly Values[], text: string): RowTaken[] {
  const numbers = chosenRows(text, rows.length)
  return numbers.map((row) => ({
    values: rows[row - 1] ?? {},
    origin: numbers.length === rows.length ? null : row,
  }))
}
const unchosen = (rows: readonly Values[]): RowTaken[] => rows.map((values) => ({ values, origin: null }))

interface BuildAsked {
  readonly environment: number
  readonly expected: number
  readonly said: number | undefined
}

/** The build that is executed on, and what that is taken from: only whoever executes can say that it is not what stands there. */
function buildFor({ tx, now }: Context, { environment, expected, said }: BuildAsked) {
  const stands = standsIn(tx, environment, now)?.build
  const usual = stands ?? expected
  if (said !== undefined && said !== usual && said !== expected)
    throw new Refusal(
      'refused',
      'An attempt is on the build that stands there, or on that of its run; nothing was begun.',
    )
  const buildBy =
    said !== undefined && said !== usual ? ('person' as const) : stands ? ('installation' as const) : ('run' as const)
  return { buildId: said ?? usual, buildBy, expectedBuildId: expected }
}

function versionFor(context: Context, own: ReturnType<typeof caseById> & object, approvedOnly: boolean) {
  if (approvedOnly) return own.approvedVersionId === null ? undefined : versionById(context.tx, own.approvedVersionId)
  const cut = cutFrom(context, own, 'taken into execution')
  return cut.id === null ? undefined : versionById(context.tx, cut.id)
}
