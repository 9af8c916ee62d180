import { keyOf, numberIn } from '#core/lib/key.ts'
import type {
  duplicateCases as duplicateContract,
  moveSteps as moveContract,
  sendCases as sendContract,
  splitCase as splitContract,
  takeBackCases as takeBackContract,
} from '#core/reuse/copy-contract.ts'
import { emptyContent, parametersIn, type VersionContent } from '#core/cases/steps.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { addAlias, dropAlias, showCase } from '#db/cases/merging.ts'
import { addCase, caseById, findCase, lastCasePosition, type CaseStored } from '#db/cases/cases.ts'
import { addLink, openLinks } from '#db/cases/links.ts'
import { readContent, workingCopy, writeContent } from '#db/cases/versions.ts'
import { executedSteps } from '#db/cases/uses.ts'
import { hideRows } from '#db/finding/search.ts'
import { customFields, setTags, setValues, tagsOf, valuesOf } from '#db/projects/fields.ts'
import { bumpStructure, findProject, type ProjectRow, takeNumbers } from '#db/projects/projects.ts'
import { requirementById } from '#db/requirements/requirements.ts'
import { roleOf } from '#server/http/permission.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { rewriteCase, stampOf } from '#server/cases/rewrite-case.ts'

const anew = (content: VersionContent): VersionContent => ({
  ...content,
  steps: content.steps.map((step) => ({ ...step, id: null })),
})

interface Copying {
  readonly title: string
  readonly content: VersionContent
  readonly into: ProjectRow
  readonly folderId: number | null
}

/** A new case with what another says and is; its steps get identities of their own. */
function copyCase(context: Context, own: CaseStored, of: Copying): { id: number; number: number } {
  const { tx, by } = context
  const { importance, type, component, automation, estimate, objective } = own
  const number = takeNumbers(tx, of.into.id, 'case')
  const made = addCase(
    tx,
    {
      projectId: of.into.id,
      number,
      title: of.title,
      position: lastCasePosition(tx, of.into.id, of.folderId) + 1,
      folderId: of.folderId,
      importance,
      type,
      component,
      automation,
      estimate,
      objective,
      ownerId: of.into.id === own.projectId ? own.ownerId : null,
      steps: of.content.steps.length,
    },
    { ...by, emptyFingerprint: stampOf(emptyContent) },
  )
  writeContent(tx, { id: made.workingId, caseId: made.id }, anew(of.content), stampOf(of.content))
  setTags(tx, of.into.id, 'case', made.id, tagsOf(tx, 'case', [own.id]).get(own.id) ?? [])
  return { id: made.id, number }
}

function copyValues(
  { tx, project }: Context,
  from: number,
  to: { readonly id: number; readonly projectId: number },
): string[] {
  const own = valuesOf(tx, 'case', project.id, [from]).get(from) ?? {}
  const [here, there] = [customFields(tx, project.id, 'case'), customFields(tx, to.projectId, 'case')]
  return Object.entries(own).flatMap(([fieldId, values]) => {
    const field = here.find(({ id }) => String(id) === fieldId)
    const target = field && there.find(({ name, kind }) => name === field.name && kind === field.kind)
    if (target) setValues(tx, target, to.id, values)
    return target || !field ? [] : [field.name]
  })
}

function copyLinks(context: Context, from: number, to: number): void {
  for (const link of openLinks(context.tx, { caseId: from })) {
    const requirement = requirementById(context.tx, context.project.id, link.requirementId)
    if (requirement && requirement.deletedAt === null)
      addLink(
        context.tx,
        {
          projectId: context.project.id,
          requirementId: requirement.id,
          caseId: to,
          revision: link.confirmedRevision,
          versionId: null,
          quote: link.quote,
        },
        context.by,
      )
  }
}

export function duplicateCases(
  context: Context,
  { body }: Input<typeof duplicateContract>,
): Answer<typeof duplicateContract> {
  const made = body.ids.map((id) => {
    const own = caseIn(context, id)
    const copy = copyCase(context, own, {
      title: `${own.title} (copy)`.slice(0, 300),
      content: readContent(context.tx, workingCopy(context.tx, own.id)),
      into: context.project,
      folderId: own.folderId,
    })
    copyValues(context, own.id, { id: copy.id, projectId: context.project.id })
    copyLinks(context, own.id, copy.id)
    context.change({
      kind: 'case',
      id: copy.id,
      ref: keyOf('case', copy.number),
      action: 'created',
      detail: { 'copy of': [null, keyOf('case', own.number)] },
    })
    return copy
  })
  return { keys: made.map(({ number }) => keyOf('case', number)), ids: made.map(({ id }) => id) }
}

function caseIn({ tx, project }: Context, id: number): CaseStored {
  const own = found(caseById(tx, id), 'A case chosen here')
  if (own.projectId !== project.id)
    throw new Refusal('not-found', 'A case chosen here is not in this project; nothing was changed.')
  return own
}

/** Into another project: what is inserted is written out, links and what the other project has no field for are left and told. */
export function sendCases(context: Context, { body }: Input<typeof sendContract>): Answer<typeof sendContract> {
  const { tx, project, now } = context
  const into = projectToWrite(context, body.project)
  if (into.id === project.id) throw new Refusal('invalid', 'These cases are in that project already.')
  const left = new Set<string>()
  const made = body.ids.map((id) => {
    const own = caseIn(context, id)
    const content = readContent(tx, workingCopy(tx, own.id))
    if (content.steps.some(({ use }) => use)) left.add('routines: their steps are written out')
    if (content.needs || content.table) left.add('cases to run before and data tables')
    if (openLinks(tx, { caseId: own.id }).length > 0) left.add('links to requirements')
    const copy = copyCase(context, own, {
      title: own.title,
      into,
      folderId: null,
      content: {
        preconditions: content.preconditions,
        parameters: content.parameters,
        rows: content.rows,
        steps: executedSteps(tx, content.steps).map(({ from: _, ...step }) => ({ ...step, id: null })),
        ...(content.environment !== undefined && { environment: content.environment }),
      },
    })
    for (const name of copyValues(context, own.id, { id: copy.id, projectId: into.id })) left.add(`the field ${name}`)
    const detail = { to: [null, `${into.key} ${keyOf('case', copy.number)}`] as const }
    if (body.move) {
      addAlias(tx, { projectId: project.id, key: keyOf('case', own.number), kind: 'case', ownerId: copy.id, at: now })
      hideRows(tx, 'test_case', [own.id], now)
    }
    context.change({
      kind: 'case',
      id: own.id,
      ref: keyOf('case', own.number),
      action: body.move ? 'moved' : 'copied',
      detail,
    })
    return copy
  })
  bumpStructure(tx, into.id)
  return {
    keys: made.map(({ number }) => keyOf('case', number)),
    ids: made.map(({ id }) => id),
    left: [...left],
  }
}

function projectToWrite({ tx, person, limit }: Context, key: string): ProjectRow {
  const into = findProject(tx, key)
  const role = into ? roleOf(tx, into, { person, limit }) : null
  if (!into || role === null || role === 'viewer')
    throw new Refusal('not-found', `There is no project ${key} in which you may write; nothing was changed.`)
  return into
}

/** The copies go, and what was moved stands here again under its own key. */
export function takeBackCases(
  context: Context,
  { body }: Input<typeof takeBackContract>,
): Answer<typeof takeBackContract> {
  const { tx, project, now } = context
  const into = projectToWrite(context, body.project)
  const copies = body.copies.filter((id) => caseById(tx, id)?.projectId === into.id)
  hideRows(tx, 'test_case', copies, now)
  bumpStructure(tx, into.id)
  const moved = body.moved.flatMap((id) => caseById(tx, id) ?? []).filter((own) => own.projectId === project.id)
  for (const own of moved) {
    const ref = keyOf('case', own.number)
    dropAlias(tx, project.id, ref)
    showCase(tx, own.id)
    context.change({ kind: 'case', id: own.id, ref, action: 'restored' })
  }
  return { back: copies.length }
}

/** The steps from one on become a case of their own, linked to the same requirements; what this case said is kept as a version. */
export function splitCase(
  context: Context,
  { params, body }: Input<typeof splitContract>,
): Answer<typeof splitContract> {
  const { tx } = context
  const own = found(findCase(tx, context.project.id, params.ref), keyOf('case', params.ref))
  const content = readContent(tx, workingCopy(tx, own.id))
  const at = content.steps.findIndex(({ id }) => id === body.from)
  if (at < 0)
    throw new Refusal('invalid', `${keyOf('case', params.ref)} has no such step any more; nothing was changed.`)
  if (at === 0) throw new Refusal('invalid', 'With the first step the whole case would go; choose a later one.')
  const second = partOf(content, content.steps.slice(at))
  const copy = copyCase(context, own, {
    title: body.title,
    content: second,
    into: context.project,
    folderId: own.folderId,
  })
  copyValues(context, own.id, { id: copy.id, projectId: context.project.id })
  copyLinks(context, own.id, copy.id)
  context.change({
    kind: 'case',
    id: copy.id,
    ref: keyOf('case', copy.number),
    action: 'created',
    detail: { 'split from': [null, keyOf('case', own.number)] },
  })
  rewriteCase(
    context,
    own,
    partOf(content, content.steps.slice(0, at)),
    `split: steps from ${at + 1} on are ${keyOf('case', copy.number)}`,
  )
  return { key: keyOf('case', copy.number) }
}

/** The same case with other steps: its parameters are those they use, and rows keep only their values. */
function partOf(content: VersionContent, steps: VersionContent['steps']): VersionContent {
  const used = parametersIn({ preconditions: content.preconditions, steps })
  const rows = content.rows.map((row) =>
    Object.fromEntries(Object.entries(row).filter(([name]) => used.includes(name))),
  )
  return {
    ...content,
    steps,
    parameters: used,
    rows:
      used.length === 0
        ? []
        : rows.filter(
            (row, index) => rows.findIndex((other) => JSON.stringify(other) === JSON.stringify(row)) === index,
          ),
  }
}

export function moveSteps(context: Context, { params, body }: Input<typeof moveContract>): Answer<typeof moveContract> {
  const { tx, project } = context
  const own = found(findCase(tx, project.id, params.ref), keyOf('case', params.ref))
  const to = found(findCase(tx, project.id, numberIn('case', body.to)), body.to)
  if (to.id === own.id) throw new Refusal('invalid', 'These steps are in that case already.')
  const content = readContent(tx, workingCopy(tx, own.id))
  const chosen = content.steps.filter(({ id }) => body.steps.includes(id))
  if (chosen.length < body.steps.length)
    throw new Refusal(
      'conflict',
      `Some of these steps are not in ${keyOf('case', params.ref)} any more; nothing was moved.`,
    )
  if (chosen.some(({ use }) => use?.ref === keyOf('case', to.number)))
    throw new Refusal('refused', `One of these steps inserts ${keyOf('case', to.number)} itself; nothing was moved.`)
  const target = readContent(tx, workingCopy(tx, to.id))
  const next = { ...target, steps: [...target.steps, ...chosen.map((step) => ({ ...step, id: null }))] }
  rewriteCase(
    context,
    to,
    { ...next, parameters: [...new Set([...target.parameters, ...parametersIn(next)])] },
    `steps from ${keyOf('case', own.number)}`,
  )
  context.change({ kind: 'case', id: to.id, ref: keyOf('case', to.number), action: 'written' })
  if (!body.copy) {
    rewriteCase(
      context,
      own,
      partOf(
        content,
        content.steps.filter(({ id }) => !body.steps.includes(id)),
      ),
      `steps moved to ${keyOf('case', to.number)}`,
    )
    context.change({ kind: 'case', id: own.id, ref: keyOf('case', own.number), action: 'written' })
  }
  return { moved: chosen.length }
}
