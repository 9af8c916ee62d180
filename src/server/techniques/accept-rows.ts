import { keyOf, numberIn } from '#core/lib/key.ts'
import type { acceptRows as acceptContract, decideRows as decideContract } from '#core/techniques/contract.ts'
import { fingerprintText, type StepText, type VersionContent } from '#core/cases/steps.ts'
import { escapeText } from '#core/lib/plain-text.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { type DraftRow, rowKey, rowText } from '#core/techniques/draft-row.ts'
import { addCases } from '#db/cases/add-cases.ts'
import { addLink, openLinks } from '#db/cases/links.ts'
import { caseById, findCase, lastCasePosition, saveCase } from '#db/cases/cases.ts'
import { caseRows } from '#db/cases/list.ts'
import { readContent, workingCopy, writeContent } from '#db/cases/versions.ts'
import { takeNumbers } from '#db/projects/projects.ts'
import { requirementById } from '#db/requirements/requirements.ts'
import {
  addRow,
  casesOfRows,
  changeRows,
  decidedRows,
  type ModelStored,
  retiredWith,
  rowsAmong,
} from '#db/techniques/queries.ts'
import { cutFrom } from '#server/cases/cut-version.ts'
import { stampOf } from '#server/cases/rewrite-case.ts'
import { type Context, fingerprint, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { modelIn, tellRequirement } from './keep-models.ts'

type Accepted = Input<typeof acceptContract>['body']['rows'][number]

const step = (action: string, expected: string): StepText => ({
  id: null,
  action: escapeText(action),
  expected: escapeText(expected),
  data: '',
})

/** Cases from proposed rows, in one act; a row that was accepted already is not accepted twice. */
export function acceptRows(
  context: Context,
  { params, body }: Input<typeof acceptContract>,
): Answer<typeof acceptContract> {
  const { tx, project, by } = context
  const own = modelIn(context, params.id)
  if (own.revision !== body.revision)
    throw new Refusal(
      'conflict',
      `${own.name} has changed meanwhile; nothing was accepted. Look at what it proposes now.`,
    )
  const standing = decidedRows(tx, [own.id]).filter(({ decision, case: of }) => decision !== 'left out' && of?.live)
  const taken = new Set(standing.map(({ row }) => rowKey(row)))
  const fresh = body.rows.filter(({ row }) => {
    const key = rowKey(row)
    return !taken.has(key) && taken.add(key)
  })
  if (fresh.length === 0) throw new Refusal('refused', 'These rows are accepted already; nothing was added.')
  if (body.as === 'existing' && body.into === undefined)
    throw new Refusal('invalid', 'Say which case has these rows.', {
      fields: [{ field: 'into', message: 'is missing' }],
    })
  const made =
    body.as === 'existing'
      ? alreadyIn(context, own, { into: body.into!, rows: fresh })
      : body.as === 'cases'
        ? casesOf(context, own, fresh)
        : dataRowsOf(context, own, { rows: fresh, title: body.title, into: body.into })
  const rows = fresh.map(({ row }, at) =>
    addRow(
      tx,
      {
        projectId: project.id,
        modelId: own.id,
        row,
        decision: 'accepted',
        caseId: made[at]!.id,
        revision: own.revision,
      },
      by,
    ),
  )
  const keys = [...new Set(made.map(({ key }) => key))]
  tellRequirement(context, own.requirementId, 'cases accepted', { [own.name]: [null, keys] })
  return { keys, rows, cases: [...new Set(made.map(({ id }) => id))] }
}

interface Made {
  readonly id: number
  readonly key: string
}

function casesOf(context: Context, own: ModelStored, rows: readonly Accepted[]): Made[] {
  return newCases(
    context,
    own,
    rows.map(({ title, steps }) => ({
      title,
      content: {
        preconditions: '',
        steps: steps.map(({ action, expected }) => step(action, expected)),
        parameters: [],
        rows: [],
      },
    })),
  )
}

function newCases(
  context: Context,
  own: ModelStored,
  cases: readonly { readonly title: string; readonly content: VersionContent }[],
): Made[] {
  const { tx, project, by } = context
  const requirement = found(requirementById(tx, project.id, own.requirementId), 'The requirement')
  const first = takeNumbers(tx, project.id, 'case', cases.length)
  const position = lastCasePosition(tx, project.id, null) + 1
  const ids = addCases(
    tx,
    project.id,
    cases.map(({ title, content }, at) => ({
      number: first + at,
      position: position + at,
      folderId: null,
      component: requirement.component,
      title,
      content,
      fingerprint: fingerprint(fingerprintText(content)),
      objective: '',
      importance: 'Medium' as const,
      type: 'Functional',
      estimate: null,
      automation: 'Manual' as const,
      ownerId: null,
      deletedAt: null,
    })),
    by,
  )
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
  context.changeMany(ids.map((id, at) => ({ kind: 'case', id, ref: keyOf('case', first + at), action: 'created' })))
  return ids.map((id, at) => ({ id, key: keyOf('case', first + at) }))
}

/** One case with a parameter for each name and a data row for each accepted row; or the rows put into a case that is there. */
function dataRowsOf(
  context: Context,
  own: ModelStored,
  {
    rows,
    title,
    into,
  }: { readonly rows: readonly Accepted[]; readonly title: string | undefined; readonly into: string | undefined },
): Made[] {
  if (own.technique === 'paths')
    throw new Refusal(
      'refused',
      'Paths differ in their steps, so they cannot be rows of one case. Accept them as cases.',
    )
  const data = rows.map(({ row, steps }) => ({
    ...row,
    expected: steps
      .map(({ expected }) => expected)
      .filter(Boolean)
      .join('; '),
  }))
  const withOutcome = data.some(({ expected }) => expected !== '')
  const cells = (row: DraftRow): DraftRow =>
    withOutcome ? row : Object.fromEntries(Object.entries(row).filter(([name]) => name !== 'expected'))
  if (into !== undefined) return intoCase(context, own, { into, rows: data.map(cells) })
  const names = Object.keys(rows[0]!.row)
  const action = `With ${names.map((name) => `${name} {${name}}`).join(', ')}`
  const content: VersionContent = {
    preconditions: '',
    steps: [step(action, withOutcome ? '{expected}' : '')],
    parameters: [...names, ...(withOutcome ? ['expected'] : [])],
    rows: data.map(cells),
  }
  const [made] = newCases(context, own, [{ title: title ?? own.name, content }])
  return rows.map(() => made!)
}

function intoCase(
  context: Context,
  own: ModelStored,
  { into, rows }: { readonly into: string; readonly rows: readonly DraftRow[] },
): Made[] {
  const { tx, project } = context
  const stored = found(findCase(tx, project.id, numberIn('case', into)), into)
  const working = workingCopy(tx, stored.id)
  const before = readContent(tx, working)
  const content: VersionContent = {
    ...before,
    parameters: [...new Set([...before.parameters, ...rows.flatMap((row) => Object.keys(row))])],
    rows: [...before.rows, ...rows],
  }
  writeContent(tx, { id: working.id, caseId: stored.id }, content, stampOf(content))
  const now = found(caseById(tx, stored.id), into)
  cutFrom(context, now, `rows of ${own.name}`)
  linkOnce(context, own, stored.id)
  return rows.map(() => ({ id: stored.id, key: into }))
}

/** Rows a case has already: nothing is changed in it. */
function alreadyIn(
  context: Context,
  own: ModelStored,
  { into, rows }: { readonly into: string; readonly rows: readonly Accepted[] },
): Made[] {
  const stored = found(findCase(context.tx, context.project.id, numberIn('case', into)), into)
  linkOnce(context, own, stored.id)
  return rows.map(() => ({ id: stored.id, key: into }))
}

function linkOnce({ tx, project, by }: Context, own: ModelStored, caseId: number): void {
  if (openLinks(tx, { requirementId: own.requirementId, caseId }).length > 0) return
  const requirement = found(requirementById(tx, project.id, own.requirementId), 'The requirement')
  addLink(
    tx,
    { projectId: project.id, requirementId: requirement.id, caseId, revision: requirement.revision, versionId: null },
    by,
  )
}

/** Rows named by their ids are all of this model, or nothing is decided. */
function refuseForeignRows({ tx }: Context, own: ModelStored, ids: readonly number[]): void {
  const known = new Set(rowsAmong(tx, own.id, ids))
  const stranger = ids.find((id) => !known.has(id))
  if (stranger !== undefined)
    throw new Refusal('invalid', `${own.name} has no decided row ${stranger}; nothing was changed.`)
}

/** What a person decides about rows; `again` takes a decision back by its row's id, and with it the retirement that came with it. */
export function decideRows(
  context: Context,
  { params, body }: Input<typeof decideContract>,
): Answer<typeof decideContract> {
  const { tx, project, by, now } = context
  const own = modelIn(context, params.id)
  refuseForeignRows(context, own, [...body.keep, ...body.end, ...body.again])
  const left = body.leaveOut.map((row) =>
    addRow(
      tx,
      { projectId: project.id, modelId: own.id, row, decision: 'left out', caseId: null, revision: own.revision },
      by,
    ),
  )
  changeRows(tx, own.id, body.keep, { decision: 'kept' })
  changeRows(tx, own.id, body.end, { endedAt: now })
  const revived = caseRows(tx, project.id, retiredWith(tx, own.id, body.again))
  for (const { id } of revived) saveCase(tx, id, { retiredAt: null })
  context.changeMany(revived.map(({ id, key }) => ({ kind: 'case', id, ref: key, action: 'live again' })))
  changeRows(tx, own.id, body.again, { endedAt: null, decision: 'accepted' })
  const ended = body.retire ? casesOfRows(tx, own.id, body.end) : []
  // A case that other rows still stand for is not retired with one of its rows.
  const used = new Set(decidedRows(tx, [own.id]).map(({ caseId }) => caseId))
  const retire = caseRows(
    tx,
    project.id,
    ended.filter((id) => !used.has(id)),
  )
  for (const { id } of retire) saveCase(tx, id, { retiredAt: now })
  context.changeMany(retire.map(({ id, key }) => ({ kind: 'case', id, ref: key, action: 'retired' })))
  const rows = [...left, ...body.keep, ...body.end, ...body.again]
  if (rows.length > 0)
    tellRequirement(context, own.requirementId, 'rows decided', {
      [own.name]: [
        null,
        [...body.leaveOut.map(rowText), ...(retire.length > 0 ? retire.map(({ key }) => `${key} retired`) : [])].slice(
          0,
          50,
        ),
      ],
    })
  return { rows, retired: retire.map(({ key }) => key) }
}
