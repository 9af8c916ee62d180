import { keyOf, numberIn } from '#core/lib/key.ts'
import type { Desk, DeskAttempt } from '#core/runs/desk-contract.ts'
import { isSeveral } from '#core/runs/several.ts'
import { versionName } from '#core/cases/steps.ts'
import type { Role } from '#core/lib/rights.ts'
import { verdict } from '#core/lib/verdict.ts'
import { caseById, findCase } from '#db/cases/cases.ts'
import { readContent, versionById, workingCopy } from '#db/cases/versions.ts'
import { executedSteps } from '#db/cases/uses.ts'
import { defectsHere } from '#db/defects/queries.ts'
import type { Tx } from '#db/open.ts'
import { policyById } from '#db/projects/policies.ts'
import { type ProjectRow } from '#db/projects/projects.ts'
import { projectDetail } from '#db/projects/detail.ts'
import {
  attemptMarks,
  attemptOfPerson,
  attemptRows,
  type AttemptStored,
  findAttempt,
  previousAttempts,
  verdictInRun,
  wholeOf,
} from '#db/runs/attempts.ts'
import { evidenceOf } from '#db/runs/evidence.ts'
import { standsIn } from '#db/runs/installed.ts'
import { findItem, itemRows, queueOf, requirementsOfCase } from '#db/runs/items.ts'
import { lastUndoable, oddEvents } from '#db/runs/verdict-events.ts'
import { runById } from '#db/runs/runs.ts'
import { found } from '#server/http/context.ts'
import { amendUntil, policyOfRun } from './under-policy.ts'

/** All data of the desk for an item. */
export function deskOf(
  tx: Tx,
  project: ProjectRow,
  personId: string,
  { item: itemId, mine, now, role }: { item: number; mine: boolean; now: number; role: Role },
): Desk {
  const item = found(findItem(tx, project.id, itemId), 'This item')
  const run = found(runById(tx, item.runId), 'This run')
  const own = found(caseById(tx, item.caseId), 'The case of this item')
  const [row] = itemRows(tx, item.runId, [itemId], now)
  if (!row) throw new Error(`item ${itemId} has no row`)
  // Who judges for themselves sees what they said, and not what others did.
  const stored = isSeveral(item)
    ? attemptOfPerson(tx, item.id, personId)
    : item.attemptId === null
      ? undefined
      : findAttempt(tx, project.id, item.attemptId)
  const working = workingCopy(tx, own.id)
  const content = readContent(tx, working)
  const queue = queueOf(tx, run.id, mine ? personId : null)
  const at = queue.findIndex(({ id }) => id === itemId)
  const build = projectDetail(tx, project, 'viewer').builds.find(({ id }) => id === run.buildId)
  return {
    run: {
      key: keyOf('run', run.number),
      title: run.title,
      state: run.state,
      build: build?.name ?? '',
      buildId: run.buildId,
      policy: policyOfRun({ tx, project }, run),
      amendUntil: amendUntil({ tx, project, role }, run),
    },
    installed: standsIn(tx, item.environmentId, now) ?? null,
    item: row,
    case: { key: keyOf('case', own.number), title: own.title, objective: own.objective },
    requirements: requirementsOfCase(tx, own.id).map(({ key, title }) => ({ key, title })),
    needs: (content.needs ?? []).flatMap((key) => {
      const other = findCase(tx, project.id, numberIn('case', key))
      return other
        ? [{ key, title: other.title, verdict: verdict.nullable().parse(verdictInRun(tx, run.id, other.id) ?? null) }]
        : []
    }),
    wants: content.environment ?? '',
    attempt: stored ? attemptAnswer(tx, project, stored, personId) : null,
    preview: {
      preconditions: content.preconditions,
      steps: executedSteps(tx, content.steps),
      rows: content.rows.map((values) => ({ ...values })),
      version: 'working copy',
    },
    before: previousAttempts(tx, own.id, { attempt: item.attemptId, ...(isSeveral(item) && { item: item.id }) }),
    defects: defectsHere(tx, { caseId: own.id, attemptId: item.attemptId }),
    queue,
    place: { at: at + 1, of: queue.length },
  }
}

function saidOfWhole(stored: AttemptStored): DeskAttempt['whole'] {
  const whole = wholeOf(stored)
  return whole && { verdict: whole.verdict, word: whole.word, final: whole.final }
}

/** An attempt as the desk shows it: the version it was started on, whatever the case says by now. */
export function attemptAnswer(tx: Tx, project: ProjectRow, stored: AttemptStored, personId: string): DeskAttempt {
  const version = versionById(tx, stored.versionId)
  if (!version) throw new Error(`attempt ${stored.id} has no version`)
  const content = readContent(tx, version)
  const detail = projectDetail(tx, project, 'viewer')
  return {
    id: stored.id,
    item: stored.itemId,
    verdict: verdict.parse(stored.verdict),
    final: stored.final,
    word: stored.word,
    whole: saidOfWhole(stored),
    override: stored.overrideReason,
    version: versionName(version.major ?? 0, version.minor ?? 0),
    build: detail.builds.find(({ id }) => id === stored.buildId)?.name ?? '',
    environment: detail.environments.find(({ id }) => id === stored.environmentId)?.name ?? '',
    startedAt: stored.startedAt,
    finishedAt: stored.finishedAt,
    seconds: stored.seconds,
    timing: stored.timing,
    comment: stored.comment,
    reason: stored.reason,
    policy: policyById(tx, stored.policyId),
    doubt: stored.doubt,
    preconditions: content.preconditions,
    steps: executedSteps(tx, content.steps),
    rows: attemptRows(tx, stored.id),
    marks: attemptMarks(tx, stored.id),
    evidence: evidenceOf(tx, project.key, stored.id),
    canUndo: lastUndoable(tx, stored.id, personId) !== undefined,
    odd: oddEvents(tx, stored.id),
  }
}
