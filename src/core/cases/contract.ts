import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { done, id, idParams, instant, line, listQuery, none, orderAnswer, pageOf, projectParams, refParams, scopeQuery, text } from '#core/lib/shapes.ts'
import { customFieldShape, customValues } from '#core/projects/custom.ts'
import { automation, importance, versionState } from './case.ts'

export const caseRow = z.object({
  id, key: z.string(), number: z.number(), title: z.string(), importance, state: versionState, type: z.string(), component: z.string(), owner: z.string().nullable(), automation,
  estimate: z.number().nullable(), folder: z.string().nullable(), steps: z.number(), requirements: z.number(), retired: z.boolean(), version: z.number(), versionName: z.string().nullable(),
})
export type CaseRow = z.infer<typeof caseRow>

export const stepShape = z.object({ id: id.nullable(), action: text(20_000), expected: text(20_000), data: text(20_000) })
export const contentShape = z.object({
  preconditions: text(50_000), steps: z.array(stepShape).max(500),
  parameters: z.array(line(40)).max(60), rows: z.array(z.record(z.string().max(40), z.string().max(2000))).max(1000),
})
const versionEntry = z.object({ id, name: z.string(), state: versionState, at: instant, by: z.string().nullable(), why: z.string(), fingerprint: z.string() })
const slot = z.object({
  environment: z.string(), verdict: z.string(), reasons: z.array(z.string()), confidence: z.number(), build: z.string().nullable(), at: instant.nullable(), attempt: id.nullable(), defects: z.array(z.string()),
})
export const caseSheet = caseRow.extend({
  objective: z.string(), ownerId: z.string().nullable(), folderId: id.nullable(), createdAt: instant, updatedAt: instant,
  content: contentShape, contentStamp: z.string(), unsaved: z.boolean(), versions: z.array(versionEntry),
  links: z.array(z.object({ link: id, id, key: z.string(), title: z.string(), risk: z.number().nullable(), suspect: z.boolean() })),
  slots: z.array(slot),
  attempts: z.array(z.object({ id, verdict: z.string(), environment: z.string(), build: z.string(), at: instant.nullable(), person: z.string().nullable(), version: z.string() })),
  defects: z.array(z.object({ key: z.string(), title: z.string(), state: z.string(), severity: z.string() })),
  suites: z.array(z.object({ key: z.string(), title: z.string() })),
  components: z.array(z.string()), tags: z.array(z.string()), custom: customValues, fields: z.array(customFieldShape),
})
export type CaseSheet = z.infer<typeof caseSheet>

const base = '/projects/:key/cases'
const one = refParams('TC')
export const listCases = contract({
  name: 'listCases', method: 'GET', path: base, permission: 'viewer', summary: 'Cases', params: projectParams, query: listQuery, body: none, output: pageOf(caseRow),
})
export const orderCases = contract({
  name: 'orderCases', method: 'GET', path: `${base}/order`, permission: 'viewer', summary: 'Ids of the list in their order', params: projectParams, query: listQuery, body: none, output: orderAnswer,
})
export const writeCaseLines = contract({
  name: 'writeCaseLines', method: 'POST', path: `${base}/lines`, permission: 'tester', summary: 'Add cases from lines, linked to a requirement when one is named; indented lines are steps',
  params: projectParams, query: none, body: z.object({ lines: text(4_000_000), requirement: id.nullable().default(null), folder: id.nullable().default(null) }), output: z.object({ keys: z.array(z.string()) }),
})
export const readCase = contract({
  name: 'readCase', method: 'GET', path: `${base}/:ref`, permission: 'viewer', summary: 'A case with its working copy, versions, links and results',
  params: one, query: scopeQuery, body: none, output: caseSheet,
})
export const caseFieldsBody = z.object({
  title: line(300), objective: text(50_000), type: z.string().trim().max(60), component: z.string().trim().max(80), importance, ownerId: z.string().nullable(), automation,
  estimate: z.number().int().min(1).max(10_000).nullable(), folderId: id.nullable(), retired: z.boolean(), tags: z.array(line(40)).max(50), custom: customValues,
}).partial()
export const updateCase = contract({
  name: 'updateCase', method: 'PATCH', path: `${base}/:ref`, permission: 'tester', summary: 'Change fields of a case',
  params: one, query: none, body: caseFieldsBody, output: z.object({ version: z.number() }), versioned: true,
})
export const bulkCases = contract({
  name: 'bulkCases', method: 'PATCH', path: base, permission: 'tester', summary: 'Change the same fields of many; undo with the values answered',
  params: projectParams, query: none, body: z.object({ ids: z.array(id).min(1).max(20_000), set: caseFieldsBody.omit({ title: true, objective: true, tags: true, custom: true }) }), output: z.object({ changed: z.number(), undo: z.array(z.object({ id, set: z.record(z.string(), z.unknown()) })) }),
})
export const deleteCases = contract({
  name: 'deleteCases', method: 'POST', path: `${base}/delete`, permission: 'lead', summary: 'Delete cases; can be undone',
  params: projectParams, query: none, body: z.object({ ids: z.array(id).min(1).max(5000) }), output: z.object({ refs: z.array(z.string()) }),
})
export const storeWorkingCopy = contract({
  name: 'storeWorkingCopy', method: 'PUT', path: `${base}/:ref/working`, permission: 'tester', summary: 'Store the working copy as typed; `stamp` is the one it was read with',
  params: one, query: none, body: z.object({ content: contentShape, stamp: z.string() }), output: z.object({ content: contentShape, stamp: z.string(), at: instant }),
})
export const cutVersion = contract({
  name: 'cutVersion', method: 'POST', path: `${base}/:ref/versions`, permission: 'tester', summary: 'Cut a minor version of the working copy, if its fingerprint changed',
  params: one, query: none, body: z.object({ why: z.string().trim().max(500).default('') }), output: z.object({ id: id.nullable(), name: z.string().nullable(), cut: z.boolean() }),
})
export const reviewCase = contract({
  name: 'reviewCase', method: 'POST', path: `${base}/:ref/review`, permission: 'tester', summary: 'Ask for review, send back, or (a lead, not the author) approve the newest version',
  params: one, query: none, body: z.object({ to: versionState }), output: z.object({ name: z.string() }),
})
export const readVersion = contract({
  name: 'readVersion', method: 'GET', path: '/projects/:key/versions/:id', permission: 'viewer', summary: 'What one version says',
  params: idParams, query: none, body: none, output: z.object({ id, name: z.string(), state: versionState, content: contentShape }),
})
const stretch = z.object({ kind: z.enum(['same', 'added', 'removed']), text: z.string() })
export const stretches = z.array(stretch)
const stepChange = z.object({ before: z.number().nullable(), after: z.number().nullable(), changed: z.boolean(), moved: z.boolean(), id: id.nullable(), action: stretches, expected: stretches, data: stretches })
const rowsShape = z.array(z.record(z.string(), z.string()))
const side = z.object({ id: id.nullable(), name: z.string(), state: versionState, at: instant, by: z.string().nullable(), why: z.string() })
export const caseComparison = z.object({
  from: side, to: side, preconditions: stretches, steps: z.array(stepChange), parameters: z.object({ before: z.array(z.string()), after: z.array(z.string()) }), rows: z.object({ before: rowsShape, after: rowsShape }), same: z.boolean(),
})
export type CaseComparison = z.infer<typeof caseComparison>
const versionNamed = z.union([z.literal('working'), z.coerce.number().int().positive()])
export const compareCase = contract({
  name: 'compareCase', method: 'GET', path: `${base}/:ref/compare`, permission: 'viewer', summary: 'Two versions of a case side by side, steps aligned and words compared; `working` is the working copy', params: one, query: z.object({ from: versionNamed, to: versionNamed }), body: none, output: caseComparison,
})
export const restoreVersion = contract({
  name: 'restoreVersion', method: 'POST', path: `${base}/:ref/restore`, permission: 'tester', summary: 'Make the working copy say again what a version says; what it said is kept as a version first', params: one, query: none, body: z.object({ version: id }), output: z.object({ kept: z.string().nullable() }),
})
export const createLinks = contract({
  name: 'createLinks', method: 'POST', path: '/projects/:key/links', permission: 'tester', summary: 'Link requirements and cases, many to many; existing links stay',
  params: projectParams, query: none, body: z.object({ requirements: z.array(z.string()).min(1).max(500), cases: z.array(z.string()).min(1).max(5000) }), output: z.object({ made: z.number() }),
})
export const endLink = contract({
  name: 'endLink', method: 'DELETE', path: '/projects/:key/links/:id', permission: 'tester', summary: 'Unlink; the past keeps the link', params: idParams, query: none, body: none, output: done,
})
export const confirmLink = contract({
  name: 'confirmLink', method: 'POST', path: '/projects/:key/links/:id/confirm', permission: 'tester', summary: 'Confirm a suspect link against the requirement as it is now', params: idParams, query: none, body: none, output: done,
})
export const folderShape = z.object({ id, parent: id.nullable(), name: z.string(), position: z.number(), cases: z.number() })
export const listFolders = contract({
  name: 'listFolders', method: 'GET', path: '/projects/:key/folders', permission: 'viewer', summary: 'The folder tree', params: projectParams, query: none, body: none, output: z.object({ rows: z.array(folderShape) }),
})
export const createFolder = contract({
  name: 'createFolder', method: 'POST', path: '/projects/:key/folders', permission: 'tester', summary: 'Add a folder', params: projectParams, query: none, body: z.object({ name: line(100), parent: id.nullable().default(null) }), output: z.object({ id }),
})
