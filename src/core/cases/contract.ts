import { deletedAnswer, manyAnswer, manyBody, tagsOfMany } from '#core/lib/many.ts'
import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idOf, idsOf, memberId } from '#core/lib/owned.ts'
import { richText } from '#core/lib/rich-text.ts'
import {
  id,
  idParams,
  instant,
  line,
  listQuery,
  none,
  orderAnswer,
  pageOf,
  projectParams,
  refParams,
  scopeQuery,
  text,
} from '#core/lib/shapes.ts'
import { customFieldShape, customValues } from '#core/projects/custom.ts'
import { automation, importance, versionState } from './case.ts'

const caseRow = z.object({
  id,
  key: z.string(),
  number: z.number(),
  title: z.string(),
  importance,
  state: versionState,
  type: z.string(),
  component: z.string(),
  owner: z.string().nullable(),
  automation,
  estimate: z.number().nullable(),
  folder: z.string().nullable(),
  steps: z.number(),
  requirements: z.number(),
  retired: z.boolean(),
  version: z.number(),
  versionName: z.string().nullable(),
  tags: z.array(z.string()),
  custom: customValues,
})
export type CaseRow = z.infer<typeof caseRow>

/** What a step inserts; version 0 asks for the newest. */
const useShape = z.object({
  kind: z.enum(['routine', 'case']),
  version: z.number().int().min(0).default(0),
  ref: z.string().regex(/^(RT|TC)-[1-9]\d{0,9}$/, 'is a key such as RT-3 or TC-12'),
  name: z.string().max(20).default(''),
  values: z.record(z.string().max(40), richText(2000)).default({}),
})
export const stepShape = z.object({
  /** Of the case's or routine's own steps; any other is taken for a new one. */
  id: id.nullable(),
  action: richText(20_000),
  expected: richText(20_000),
  data: richText(20_000),
  use: useShape.optional(),
  /** Its verdict asks for evidence. */
  evidence: z.literal(true).optional(),
})
export const contentShape = z.object({
  preconditions: richText(50_000),
  steps: z.array(stepShape).max(500),
  parameters: z.array(line(40)).max(60),
  rows: z.array(z.record(z.string().max(40), z.string().max(2000))).max(1000),
  needs: z
    .array(z.string().regex(/^TC-[1-9]\d{0,9}$/, 'is a key such as TC-12'))
    .max(50)
    .optional(),
  environment: z.string().max(200).optional(),
  table: z
    .object({ id: idOf('data_table'), name: z.string().max(100).default(''), mode: z.enum(['each', 'one']) })
    .optional(),
})
/** A version that is inserted, as the grid of steps shows it. */
export const usedShape = z.object({
  kind: z.enum(['routine', 'case']),
  version: id,
  ref: z.string(),
  title: z.string(),
  name: z.string(),
  newest: z.string().nullable(),
  parameters: z.array(z.string()),
  steps: z.array(
    z.object({
      action: z.string(),
      expected: z.string(),
      data: z.string(),
      evidence: z.literal(true).optional(),
      from: z.string(),
    }),
  ),
})
export type Used = z.infer<typeof usedShape>
export const userShape = z.object({ key: z.string(), title: z.string(), name: z.string(), version: id })
const versionEntry = z.object({
  id,
  name: z.string(),
  state: versionState,
  at: instant,
  by: z.string().nullable(),
  why: z.string(),
  fingerprint: z.string(),
})
/** A case in an environment, with the result that stands there. */
export const slotShape = z.object({
  environment: z.string(),
  verdict: z.string(),
  /** The project's own word it was given in. */
  word: z.string().nullable(),
  reasons: z.array(z.string()),
  confidence: z.number(),
  build: z.string().nullable(),
  at: instant.nullable(),
  attempt: id.nullable(),
  defects: z.array(z.string()),
})
const caseSheet = caseRow.extend({
  objective: z.string(),
  ownerId: z.string().nullable(),
  folderId: id.nullable(),
  fromReleaseId: id.nullable(),
  fromIterationId: id.nullable(),
  /** In the scope it cannot be tested yet: from when it can. */
  notYet: z.string().nullable(),
  createdAt: instant,
  updatedAt: instant,
  content: contentShape,
  contentStamp: z.string(),
  unsaved: z.boolean(),
  versions: z.array(versionEntry),
  links: z.array(
    z.object({
      link: id,
      id,
      key: z.string(),
      title: z.string(),
      risk: z.number().nullable(),
      suspect: z.boolean(),
      step: id.nullable(),
      quote: z.string(),
      sentences: z.array(z.string()),
    }),
  ),
  slots: z.array(slotShape),
  attempts: z.array(
    z.object({
      id,
      verdict: z.string(),
      /** The project's own word for it. */
      word: z.string().nullable(),
      environment: z.string(),
      build: z.string(),
      at: instant.nullable(),
      person: z.string().nullable(),
      version: z.string(),
      /** It was recorded by mistake: kept, and counts nowhere. */
      struck: z.boolean(),
    }),
  ),
  defects: z.array(
    z.object({ key: z.string(), title: z.string(), state: z.string(), severity: z.string(), open: z.boolean() }),
  ),
  suites: z.array(z.object({ key: z.string(), title: z.string() })),
  components: z.array(z.string()),
  fields: z.array(customFieldShape),
  used: z.array(usedShape),
  usedBy: z.array(userShape),
  needs: z.array(z.object({ key: z.string(), title: z.string() })),
  mergedInto: z.string().nullable(),
  merged: z.array(z.string()),
  /** Has the person who asks written in it since it was approved last? Then somebody else approves it. */
  wroteIt: z.boolean(),
  reviews: z.array(
    z.object({
      person: z.string(),
      personId: z.string(),
      by: z.string(),
      at: instant,
      version: z.string(),
      answer: z.enum(['approved', 'sent back']).nullable(),
      answeredAt: instant.nullable(),
    }),
  ),
  suggestions: z.array(
    z.object({
      id,
      by: z.string(),
      mine: z.boolean(),
      at: instant,
      note: z.string(),
      state: z.enum(['Open', 'Taken', 'Declined']),
      version: z.string(),
    }),
  ),
  stepComments: z.array(z.object({ step: id, n: z.number() })),
})
export type CaseSheet = z.infer<typeof caseSheet>

export const base = '/projects/:key/cases'
export const one = refParams('case')
export const listCases = contract({
  name: 'listCases',
  method: 'GET',
  path: base,
  permission: 'read',
  summary: 'Cases',
  params: projectParams,
  query: listQuery.extend(scopeQuery.shape),
  body: none,
  output: pageOf(caseRow),
})
export const orderCases = contract({
  name: 'orderCases',
  method: 'GET',
  path: `${base}/order`,
  permission: 'read',
  summary: 'Ids of the list in their order',
  params: projectParams,
  query: listQuery.extend(scopeQuery.shape),
  body: none,
  output: orderAnswer,
})
export const writeCaseLines = contract({
  name: 'writeCaseLines',
  method: 'POST',
  path: `${base}/lines`,
  permission: 'writeCases',
  summary: 'Add cases from lines, linked to a requirement when one is named; indented lines are steps',
  params: projectParams,
  query: none,
  body: z.object({
    lines: text(4_000_000),
    requirement: idOf('requirement').nullable().default(null),
    folder: idOf('folder').nullable().default(null),
    template: idOf('case_template').nullable().default(null),
  }),
  output: z.object({ keys: z.array(z.string()) }),
})
export const readCase = contract({
  name: 'readCase',
  method: 'GET',
  path: `${base}/:ref`,
  permission: 'read',
  summary: 'A case with its working copy, versions, links and results',
  params: one,
  query: scopeQuery,
  body: none,
  output: caseSheet,
})
const caseFieldsBody = z
  .object({
    title: line(300),
    objective: richText(50_000),
    type: z.string().trim().max(60),
    component: z.string().trim().max(80),
    importance,
    ownerId: memberId.nullable(),
    automation,
    estimate: z.number().int().min(1).max(10_000).nullable(),
    folderId: idOf('folder').nullable(),
    /** From when it can be tested, by hand; `null`: from the latest of its requirements. */
    fromReleaseId: idOf('release').nullable(),
    fromIterationId: idOf('iteration').nullable(),
    retired: z.boolean(),
    tags: z.array(line(40)).max(50),
    custom: customValues,
  })
  .partial()
export const updateCase = contract({
  name: 'updateCase',
  method: 'PATCH',
  path: `${base}/:ref`,
  permission: 'writeCases',
  summary: 'Change fields of a case',
  params: one,
  query: none,
  body: caseFieldsBody,
  output: z.object({ version: z.number() }),
  versioned: true,
})
/** What may be set on many cases at once. */
const caseSet = caseFieldsBody.omit({ title: true, objective: true })
export type CaseSet = z.infer<typeof caseSet>

export const changeCases = contract({
  name: 'changeCases',
  method: 'PATCH',
  path: base,
  permission: 'writeCases',
  summary: 'Change the same fields of many; undo with the values answered',
  params: projectParams,
  query: none,
  body: manyBody('test_case', caseSet).extend({ tags: tagsOfMany }),
  output: manyAnswer(caseSet),
})
export const deleteCases = contract({
  name: 'deleteCases',
  method: 'POST',
  path: `${base}/delete`,
  permission: 'delete',
  summary: 'Delete cases; can be undone',
  params: projectParams,
  query: none,
  body: z.object({ ids: idsOf('test_case', 5000) }),
  output: deletedAnswer,
})
export const storeWorkingCopy = contract({
  name: 'storeWorkingCopy',
  method: 'PUT',
  path: `${base}/:ref/working`,
  permission: 'writeCases',
  summary: 'Store the working copy as typed; `stamp` is the one it was read with',
  params: one,
  query: none,
  body: z.object({ content: contentShape, stamp: z.string() }),
  output: z.object({ content: contentShape, stamp: z.string(), at: instant }),
})
export const cutVersion = contract({
  name: 'cutVersion',
  method: 'POST',
  path: `${base}/:ref/versions`,
  permission: 'writeCases',
  summary: 'Cut a minor version of the working copy, if its fingerprint changed',
  params: one,
  query: none,
  body: z.object({ why: z.string().trim().max(500).default('') }),
  output: z.object({ id: id.nullable(), name: z.string().nullable(), cut: z.boolean() }),
})
export const readVersion = contract({
  name: 'readVersion',
  method: 'GET',
  path: '/projects/:key/versions/:id',
  permission: 'read',
  summary: 'What one version says',
  params: idParams('case_version'),
  query: none,
  body: none,
  output: z.object({ id, name: z.string(), state: versionState, content: contentShape }),
})
const stretch = z.object({ kind: z.enum(['same', 'added', 'removed']), text: z.string() })
export const stretches = z.array(stretch)
const settingShape = z.object({ needs: z.array(z.string()), environment: z.string(), table: z.string() })
const stepChange = z.object({
  before: z.number().nullable(),
  after: z.number().nullable(),
  changed: z.boolean(),
  moved: z.boolean(),
  id: id.nullable(),
  action: stretches,
  expected: stretches,
  data: stretches,
})
const rowsShape = z.array(z.record(z.string(), z.string()))
const side = z.object({
  id: id.nullable(),
  name: z.string(),
  state: versionState,
  at: instant,
  by: z.string().nullable(),
  why: z.string(),
})
export const caseComparison = z.object({
  from: side,
  to: side,
  preconditions: stretches,
  steps: z.array(stepChange),
  parameters: z.object({ before: z.array(z.string()), after: z.array(z.string()) }),
  rows: z.object({ before: rowsShape, after: rowsShape }),
  setting: z.object({ before: settingShape, after: settingShape }),
  same: z.boolean(),
})
export type CaseComparison = z.infer<typeof caseComparison>
const versionNamed = z.union([z.literal('working'), z.coerce.number().int().positive()])
export const compareCase = contract({
  name: 'compareCase',
  method: 'GET',
  path: `${base}/:ref/compare`,
  permission: 'read',
  summary: 'Two versions of a case side by side, steps aligned and words compared; `working` is the working copy',
  params: one,
  query: z.object({ from: versionNamed, to: versionNamed }),
  body: none,
  output: caseComparison,
})
export const restoreVersion = contract({
  name: 'restoreVersion',
  method: 'POST',
  path: `${base}/:ref/restore`,
  permission: 'writeCases',
  summary: 'Make the working copy say again what a version says; what it said is kept as a version first',
  params: one,
  query: none,
  body: z.object({ version: idOf('case_version') }),
  output: z.object({ kept: z.string().nullable() }),
})
