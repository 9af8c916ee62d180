import { keyOf } from '#core/lib/key.ts'
import type { createDefect as createContract, draftDefectFrom as draftContract } from '#core/defects/contract.ts'
import { draftDefect } from '#core/defects/from-step.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { caseById } from '#db/cases/cases.ts'
import { readContent, versionById } from '#db/cases/versions.ts'
import { executedSteps } from '#db/cases/uses.ts'
import { addDefect, addDefectLink, likelyRepeats } from '#db/defects/queries.ts'
import { projectDetail } from '#db/projects/detail.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { attemptMarks, attemptRows, type AttemptStored, findAttempt } from '#db/runs/attempts.ts'
import { requirementsOfCase } from '#db/runs/items.ts'
import { type Context, found } from '#server/http/context.ts'
import { refreshStanding } from '#server/runs/refresh-standing.ts'
import type { Answer, Input } from '#server/http/route.ts'

interface FromStep {
  readonly attempt: number
  readonly row: number
  readonly step: number | null
}

export function draftDefectFrom(
  context: Context,
  { query }: Input<typeof draftContract>,
): Answer<typeof draftContract> {
  const of = factsOf(context, { attempt: query.attempt, row: query.row, step: query.step ?? null })
  const detail = projectDetail(context.tx, context.project, context.role)
  return {
    ...of.draft,
    text: of.comment,
    build: detail.builds.find(({ id }) => id === of.attempt.buildId)?.name ?? '',
    environment: detail.environments.find(({ id }) => id === of.attempt.environmentId)?.name ?? '',
    requirement: of.requirements[0] ? `${of.requirements[0].key} ${of.requirements[0].title}` : null,
    component: of.component,
    like: likelyRepeats(context.tx, context.project.id, of.attempt.caseId),
  }
}

/** Logs a defect; the links to attempt, step, item, case and requirement are stored in this same transaction. */
export function createDefect(context: Context, { body }: Input<typeof createContract>): Answer<typeof createContract> {
  const { tx, project, by } = context
  const of = body.from === null ? null : factsOf(context, body.from)
  const title = body.title ?? of?.draft.title
  if (!title)
    throw new Refusal('invalid', 'A defect needs a title.', {
      fields: [{ field: 'title', message: 'may not be empty' }],
    })
  const number = takeNumbers(tx, project.id, 'defect')
  const id = addDefect(
    tx,
    {
      projectId: project.id,
      number,
      title,
      text: body.text,
      steps: of?.draft.steps ?? '',
      severity: body.severity,
      priority: body.priority,
      component: body.component ?? of?.component ?? '',
      foundInBuildId: of?.attempt.buildId ?? body.foundIn,
      environmentId: of?.attempt.environmentId ?? null,
      reporterId: context.person.id,
    },
    by,
  )
  if (body.from !== null) linkFromStep(context, id, body.from)
  context.change({ kind: 'defect', id, ref: keyOf('defect', number), action: 'reported' })
  return { id, key: keyOf('defect', number) }
}

/** Links a defect to all that a failing step hangs on: one row per requirement of its case, or one without. */
export function linkFromStep(context: Context, defectId: number, from: FromStep): void {
  const of = factsOf(context, from)
  const link = {
    defectId,
    attemptId: of.attempt.id,
    row: from.row,
    stepId: from.step,
    itemId: of.attempt.itemId,
    caseId: of.attempt.caseId,
    fromAt: context.now,
  }
  const requirements = of.requirements.length > 0 ? of.requirements.map(({ id }) => id) : [null]
  for (const requirementId of requirements) addDefectLink(context.tx, { ...link, requirementId })
  refreshStanding(context.tx, of.attempt)
}

function factsOf({ tx, project }: Context, from: FromStep) {
  const attempt: AttemptStored | undefined = findAttempt(tx, project.id, from.attempt)
  if (!attempt) throw new Refusal('not-found', 'There is no such attempt in this project.')
  const own = found(caseById(tx, attempt.caseId), 'The case')
  const version = versionById(tx, attempt.versionId)
  if (!version) throw new Error(`attempt ${attempt.id} has no version`)
  const content = readContent(tx, version)
  const marks = attemptMarks(tx, attempt.id).filter(({ row }) => row === from.row)
  const steps = executedSteps(tx, content.steps).map((step) => {
    const mark = marks.find((each) => each.step === step.id)
    return { ...step, verdict: mark?.verdict ?? ('Not run' as const), comment: mark?.comment ?? '' }
  })
  const at = from.step === null ? steps.length - 1 : steps.findIndex(({ id }) => id === from.step)
  if (from.step !== null && at < 0)
    throw new Refusal('invalid', 'That step is not part of the version that was executed.')
  const draft = draftDefect({
    caseTitle: own.title,
    preconditions: content.preconditions,
    steps,
    at,
    values: attemptRows(tx, attempt.id)[from.row - 1] ?? {},
  })
  return {
    attempt,
    draft,
    comment: steps[at]?.comment ?? '',
    component: own.component,
    requirements: requirementsOfCase(tx, own.id),
  }
}
