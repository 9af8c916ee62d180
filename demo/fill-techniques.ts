import { finished } from '#core/techniques/combos.ts'
import { draft } from '#core/techniques/draft.ts'
import type { Proposed } from '#core/techniques/draft-answer.ts'
import { draftModel, type DraftRow, titleBy } from '#core/techniques/draft-row.ts'
import { linesOf } from '#core/techniques/lines.ts'
import { addLink } from '#db/cases/links.ts'
import { lastCasePosition } from '#db/cases/cases.ts'
import type { Tx } from '#db/open.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { requirementById } from '#db/requirements/requirements.ts'
import { addChecklist, addModel, addRow, saveChecklist } from '#db/techniques/queries.ts'
import { day } from '../standins/crossing-desk/clock.ts'
import { contentOf, type Routine, storeCase } from './fill-basis.ts'
import { type DemoModel, models } from './technique-models.ts'

interface TechniquesOf {
  readonly projectId: number
  readonly now: number
  readonly cases: readonly { readonly id: number; readonly title: string }[]
  readonly requirements: ReadonlyMap<string, number>
  readonly routines: ReadonlyMap<string, Routine>
}

const checklists: Readonly<Record<string, readonly (readonly [text: string, done: boolean])[]>> = {
  'Vehicle length and height bands': [
    ['Length is said in feet by a visitor from overseas', false],
    ['Two clerks measure the same camper', true],
    ['The band is printed large enough to be read at the ramp', false],
  ],
  'State of a booking follows its path': [
    ['Power fails between paying and the receipt', true],
    ['Two clerks cancel the same booking', false],
  ],
}

/** Models at the drafting table, each partly accepted, so that their meters have something to tell. */
export function fillTechniques(tx: Tx, of: TechniquesOf): void {
  for (const [index, demo] of models.entries()) fillModel(tx, of, demo, index)
  for (const [title, entries] of Object.entries(checklists)) fillChecklist(tx, of, title, entries)
}

function requirementNamed(tx: Tx, of: TechniquesOf, title: string) {
  const id = of.requirements.get(title)
  const requirement = id === undefined ? undefined : requirementById(tx, of.projectId, id)
  if (!requirement) throw new Error(`the demo has no requirement “${title}”`)
  return requirement
}

interface By {
  readonly now: number
  readonly personId: string
}

function fillModel(tx: Tx, of: TechniquesOf, demo: DemoModel, index: number): void {
  const requirement = requirementNamed(tx, of, demo.requirement)
  const model = draftModel.parse(demo.model)
  const by: By = { now: of.now - (20 - index) * day, personId: index % 2 === 0 ? 'ansa' : 'yusra' }
  const modelId = addModel(
    tx,
    {
      projectId: of.projectId,
      requirementId: requirement.id,
      requirementRevision: requirement.revision,
      name: demo.name,
      model,
      source: linesOf(model),
      pattern: demo.pattern ?? '',
    },
    by,
  )
  const note = (row: DraftRow, caseId: number) =>
    addRow(tx, { projectId: of.projectId, modelId, row, decision: 'accepted', caseId, revision: 1 }, by)
  for (const [title, row] of Object.entries(demo.answered ?? {})) {
    const own = of.cases.find((each) => each.title === title)
    if (!own) throw new Error(`the demo has no case “${title}”`)
    note(row, own.id)
  }
  if (!demo.accept) return
  const taken = Object.values(demo.answered ?? {}).map((row) => JSON.stringify(row))
  const chosen = finished(draft(model, []))
    .proposed.filter(({ row, negative }) => !negative && !taken.includes(JSON.stringify(row)))
    .slice(0, demo.accept)
  const ids = acceptedCases(tx, of, { demo, requirement, chosen, by })
  for (const [at, caseId] of ids.entries()) {
    const { id: requirementId, revision } = requirement
    addLink(tx, { projectId: of.projectId, requirementId, caseId, revision, versionId: null }, by)
    note(chosen[at]!.row, caseId)
  }
}

interface Accepted {
  readonly demo: DemoModel
  readonly requirement: ReturnType<typeof requirementNamed>
  readonly chosen: readonly Proposed[]
  readonly by: By
}

/** What was accepted became cases, which an author wrote out. */
function acceptedCases(tx: Tx, of: TechniquesOf, { demo, requirement, chosen, by }: Accepted): number[] {
  const { projectId, routines } = of
  return chosen.map(({ row }, at) => {
    const steps = demo.steps?.(row) ?? []
    const content = contentOf({ steps, columns: [], rows: [] }, routines, 'new')
    return storeCase(
      tx,
      {
        projectId,
        number: takeNumbers(tx, projectId, 'case'),
        position: lastCasePosition(tx, projectId, null) + 1,
        component: requirement.component,
        title: titleBy(demo.pattern ?? '{all}', row, at + 1),
        importance: 'Medium',
        type: 'Functional',
        ownerId: by.personId,
        estimate: 4 + steps.length,
      },
      content,
      by,
    )
  })
}

function fillChecklist(
  tx: Tx,
  of: TechniquesOf,
  title: string,
  entries: readonly (readonly [text: string, done: boolean])[],
): void {
  const { id: requirementId } = requirementNamed(tx, of, title)
  const ids = addChecklist(
    tx,
    { projectId: of.projectId, requirementId },
    entries.map(([text]) => text),
  )
  for (const [at, [, done]] of entries.entries())
    if (done) saveChecklist(tx, ids[at]!, { doneAt: of.now - 3 * day, doneBy: 'tobin' })
}
