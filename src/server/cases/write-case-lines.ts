import type { writeCaseLines as contract } from '#core/cases/contract.ts'
import { emptyContent, fingerprintText, parametersIn, type StepText, stepLines, withTexts } from '#core/cases/steps.ts'
import { escapeText } from '#core/lib/plain-text.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { outlineLines } from '#core/requirements/outline.ts'
import { addCase, addLink, lastCasePosition, writeContent } from '#db/cases/queries.ts'
import { belongs, takeNumbers } from '#db/projects/queries.ts'
import { requirementById } from '#db/requirements/queries.ts'
import { type Context, fingerprint, found } from '#server/http/context.ts'
import { refuseLines } from '#server/requirements/write-requirement-lines.ts'
import type { Answer, Input } from '#server/http/route.ts'

export interface CaseLines {
  readonly title: string
  readonly steps: readonly StepText[]
}

/** A line a case; lines indented below it are its steps, `action => expected`. */
export function caseLines(text: string): CaseLines[] {
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
  if (body.folder !== null && !belongs(tx, project.id, 'folder', body.folder)) throw new Refusal('invalid', 'That folder is not one of this project.')
  const requirement = body.requirement === null ? null : found(requirementById(tx, project.id, body.requirement), 'The requirement to write under')
  const firstNumber = takeNumbers(tx, project.id, 'TC', lines.length)
  const firstPosition = lastCasePosition(tx, project.id, body.folder) + 1
  const emptyFingerprint = fingerprint(fingerprintText(emptyContent))
  lines.forEach(({ title, steps }, index) => {
    const number = firstNumber + index
    const made = addCase(tx, { projectId: project.id, number, title, position: firstPosition + index, folderId: body.folder, component: requirement?.component ?? '', steps: steps.length }, { ...by, emptyFingerprint })
    const content = { ...emptyContent, steps, parameters: parametersIn({ preconditions: '', steps }) }
    if (steps.length > 0) writeContent(tx, { id: made.workingId, caseId: made.id }, content, fingerprint(fingerprintText(content)))
    if (requirement) addLink(tx, { projectId: project.id, requirementId: requirement.id, caseId: made.id, revision: requirement.revision, versionId: null }, by)
    context.change({ kind: 'case', id: made.id, ref: `TC-${number}`, action: 'created' })
  })
  if (requirement) context.change({ kind: 'requirement', id: requirement.id, ref: `RQ-${requirement.number}`, action: 'linked', detail: { cases: [null, lines.map((_, index) => `TC-${firstNumber + index}`)] } })
  return { keys: lines.map((_, index) => `TC-${firstNumber + index}`) }
}
