import { keyOf } from '#core/lib/key.ts'
import type { writeCaseLines as contract } from '#core/cases/contract.ts'
import { fingerprintText, parametersIn, type StepText, stepLines, withTexts } from '#core/cases/steps.ts'
import { escapeText } from '#core/lib/plain-text.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { outlineLines } from '#core/requirements/outline.ts'
import { addCases, type BulkCase } from '#db/cases/add-cases.ts'
import { addLink } from '#db/cases/links.ts'
import { lastCasePosition } from '#db/cases/cases.ts'
import { type Template, templates } from '#db/reuse/templates.ts'
import { setManyTags } from '#db/projects/fields.ts'
import { belongs } from '#db/projects/releases.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { requirementById } from '#db/requirements/requirements.ts'
import { type Context, fingerprint, found } from '#server/http/context.ts'
import { refuseLines } from '#server/requirements/write-requirement-lines.ts'
import type { Answer, Input } from '#server/http/route.ts'

interface CaseLines {
  readonly title: string
  readonly steps: readonly StepText[]
}

/** A line a case; lines indented below it are its steps, `action => expected`. */
function caseLines(text: string): CaseLines[] {
  const cases: { title: string; steps: StepText[] }[] = []
  for (const { title, depth } of outlineLines(text)) {
    if (depth === 0) cases.push({ title, steps: [] })
    else cases.at(-1)?.steps.push(...stepLines(title).map((step) => withTexts(step, escapeText)))
  }
  return cases
}

/** Adds cases in one act; linked to the requirement they were written under. */
export function writeCaseLines(context: Context, { body }: Input<typeof contract>): Answer<typeof contract> {
  const { tx, project, by } = context
  const lines = caseLines(body.lines)
  refuseLines(lines)
  if (body.folder !== null && !belongs(tx, project.id, 'folder', body.folder))
    throw new Refusal('invalid', 'That folder is not one of this project.')
  const requirement =
    body.requirement === null
      ? null
      : found(requirementById(tx, project.id, body.requirement), 'The requirement to write under')
  const template = body.template === null ? undefined : templates(tx, project.id).find(({ id }) => id === body.template)
  if (body.template !== null && !template)
    throw new Refusal('invalid', 'That template is not there any more; nothing was stored.')
  const firstNumber = takeNumbers(tx, project.id, 'case', lines.length)
  const firstPosition = lastCasePosition(tx, project.id, body.folder) + 1
  const ids = addCases(
    tx,
    project.id,
    lines.map((line, index) =>
      newCase(line, template, {
        number: firstNumber + index,
        position: firstPosition + index,
        folderId: body.folder,
        component: requirement?.component ?? '',
      }),
    ),
    by,
  )
  if (template && template.content.tags.length > 0)
    setManyTags(
      tx,
      project.id,
      'case',
      ids.map((id) => ({ id, tags: template.content.tags })),
    )
  if (requirement)
    for (const id of ids)
      addLink(
        tx,
        {
          projectId: project.id,
          requirementId: requirement.id,
          caseId: id,
          revision: requirement.revision,
          versionId: null,
        },
        by,
      )
  context.changeMany(
    ids.map((id, index) => ({ kind: 'case', id, ref: keyOf('case', firstNumber + index), action: 'created' })),
  )
  if (requirement)
    context.change({
      kind: 'requirement',
      id: requirement.id,
      ref: keyOf('requirement', requirement.number),
      action: 'linked',
      detail: { cases: [null, lines.map((_, index) => keyOf('case', firstNumber + index))] },
    })
  return { keys: lines.map((_, index) => keyOf('case', firstNumber + index)) }
}

/** A line as a case; from a template it has what the template says, unless the line brings steps of its own. */
function newCase(
  { title, steps }: CaseLines,
  template: Template | undefined,
  at: Pick<BulkCase, 'number' | 'position' | 'folderId' | 'component'>,
): BulkCase {
  const from = template?.content
  const own = steps.length > 0 || !from ? steps : from.steps.map((step): StepText => ({ id: null, ...step }))
  const preconditions = from?.preconditions ?? ''
  const content = {
    preconditions,
    steps: own,
    parameters: [
      ...new Set([
        ...parametersIn({ preconditions, steps: own }),
        ...(steps.length > 0 ? [] : (from?.parameters ?? [])),
      ]),
    ],
    rows: steps.length > 0 ? [] : (from?.rows ?? []),
  }
  return {
    ...at,
    title,
    content,
    fingerprint: fingerprint(fingerprintText(content)),
    objective: from?.objective ?? '',
    importance: from?.importance ?? 'Medium',
    component: at.component || (from?.component ?? ''),
    type: from?.type ?? 'Functional',
    estimate: null,
    ownerId: null,
    automation: 'Manual',
    deletedAt: null,
  }
}
