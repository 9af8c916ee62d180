import { keyOf } from '#core/lib/key.ts'
import type { writeCaseLines as contract } from '#core/cases/contract.ts'
import { type CaseLines, caseLines } from '#core/cases/case-lines.ts'
import { fingerprintText, parametersIn, type StepText } from '#core/cases/steps.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { addCases, type BulkCase } from '#db/cases/add-cases.ts'
import { addLink } from '#db/cases/links.ts'
import { lastCasePosition } from '#db/cases/cases.ts'
import { type Template, templates } from '#db/reuse/templates.ts'
import { setManyTags } from '#db/projects/fields.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { requirementById } from '#db/requirements/requirements.ts'
import { type Context, fingerprint, found } from '#server/http/context.ts'
import { refuseLines } from '#server/requirements/write-requirement-lines.ts'
import type { Answer, Input } from '#server/http/route.ts'

/** Adds cases in one act; linked to the requirement they were written under. */
export function writeCaseLines(context: Context, { body }: Input<typeof contract>): Answer<typeof contract> {
  const { tx, project, by } = context
  const lines = caseLines(body.lines)
  refuseLines(lines)
  const requirement =
    body.requirement === null
      ? null
      : found(requirementById(tx, project.id, body.requirement), 'The requirement to write under')
  const template = body.template === null ? undefined : templateOf(context, body.template)
  const firstNumber = takeNumbers(tx, project.id, 'case', lines.length)
  const firstPosition = lastCasePosition(tx, project.id, body.folder) + 1
  const fresh = lines.map((line, index) =>
    newCase(line, template, {
      number: firstNumber + index,
      position: firstPosition + index,
      folderId: body.folder,
      component: requirement?.component ?? '',
    }),
  )
  const ids = addCases(tx, project.id, fresh, by)
  const keys = fresh.map(({ number }) => keyOf('case', number))
  const tags = template?.content.tags ?? []
  if (tags.length > 0)
    setManyTags(
      tx,
      project.id,
      'case',
      ids.map((id) => ({ id, tags })),
    )
  context.changeMany(ids.map((id, index) => ({ kind: 'case', id, ref: keys[index] ?? '', action: 'created' })))
  if (requirement) linkAll(context, requirement, ids, keys)
  return { keys }
}

function templateOf({ tx, project }: Context, id: number): Template {
  const template = templates(tx, project.id).find((each) => each.id === id)
  if (!template) throw new Refusal('invalid', 'That template is not there any more; nothing was stored.')
  return template
}

function linkAll(
  context: Context,
  { id: requirementId, number, revision }: NonNullable<ReturnType<typeof requirementById>>,
  ids: readonly number[],
  keys: readonly string[],
): void {
  const { tx, project, by } = context
  for (const caseId of ids) addLink(tx, { projectId: project.id, requirementId, caseId, revision, versionId: null }, by)
  context.change({
    kind: 'requirement',
    id: requirementId,
    ref: keyOf('requirement', number),
    action: 'linked',
    detail: { cases: [null, keys] },
  })
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
