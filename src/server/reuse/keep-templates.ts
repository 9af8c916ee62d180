import { numberIn } from '#core/lib/key.ts'
import type {
  createTemplate as createContract,
  deleteTemplate as deleteContract,
  listTemplates as listContract,
} from '#core/reuse/template-contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { findCase } from '#db/cases/cases.ts'
import { readContent, workingCopy } from '#db/cases/versions.ts'
import { addTemplate, findTemplate, hideTemplate, templateNamed, templates } from '#db/reuse/templates.ts'
import { executedSteps } from '#db/cases/uses.ts'
import { tagsOf } from '#db/projects/fields.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

export const listTemplates = ({ tx, project }: Context): Answer<typeof listContract> => ({
  rows: templates(tx, project.id).map(({ id, name, content, by, at }) => ({
    id,
    name,
    steps: content.steps.length,
    by,
    at,
  })),
})

export function createTemplate(
  context: Context,
  { body }: Input<typeof createContract>,
): Answer<typeof createContract> {
  const { tx, project, person, now } = context
  const own = found(findCase(tx, project.id, numberIn('case', body.case)), body.case)
  noSecond(context, body.name)
  const { preconditions, parameters, rows, steps } = readContent(tx, workingCopy(tx, own.id))
  const content = {
    objective: own.objective,
    type: own.type,
    component: own.component,
    importance: own.importance,
    tags: tagsOf(tx, 'case', [own.id]).get(own.id) ?? [],
    preconditions,
    parameters,
    rows,
    steps: executedSteps(tx, steps).map(({ action, expected, data }) => ({ action, expected, data })),
  }
  const id = addTemplate(tx, {
    projectId: project.id,
    name: body.name,
    content: JSON.stringify(content),
    personId: person.id,
    at: now,
  })
  context.change({ kind: 'template', id, ref: body.name, action: 'created' })
  return { id }
}

export function deleteTemplate(
  context: Context,
  { params, query }: Input<typeof deleteContract>,
): Answer<typeof deleteContract> {
  const { tx, project, now } = context
  const back = query.undo === 'yes'
  const own = findTemplate(tx, project.id, params.id)
  if (!own || (own.deletedAt !== null) !== back)
    throw new Refusal('not-found', 'There is no such template in this project.')
  if (back) noSecond(context, own.name)
  hideTemplate(tx, params.id, back ? null : now)
  context.change({ kind: 'template', id: params.id, ref: own.name, action: back ? 'restored' : 'deleted' })
  return { ok: true }
}

function noSecond({ tx, project }: Context, name: string): void {
  if (templateNamed(tx, project.id, name))
    throw new Refusal('refused', `There is a template called ${name} already; nothing was stored.`)
}
