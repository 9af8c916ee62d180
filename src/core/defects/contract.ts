import { deletedAnswer, manyAnswer, manyBody } from '#core/lib/many.ts'
import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idInPath, idOf, idsOf, memberId } from '#core/lib/owned.ts'
import { richText } from '#core/lib/rich-text.ts'
import {
  done,
  id,
  instant,
  line,
  listQuery,
  none,
  orderAnswer,
  pageOf,
  projectParams,
  refParams,
} from '#core/lib/shapes.ts'
import { defectState, severity } from './state.ts'

const defectRow = z.object({
  id,
  key: z.string(),
  number: z.number(),
  title: z.string(),
  severity,
  priority: z.number(),
  state: defectState,
  component: z.string(),
  foundIn: z.string().nullable(),
  fixedIn: z.string().nullable(),
  owner: z.string().nullable(),
  results: z.number(),
  at: instant,
  version: z.number(),
})
export type DefectRow = z.infer<typeof defectRow>
const defectSheet = defectRow.extend({
  text: z.string(),
  steps: z.string(),
  foundInId: id.nullable(),
  fixedInId: id.nullable(),
  environment: z.string().nullable(),
  ownerId: z.string().nullable(),
  reporter: z.string().nullable(),
  outsideRef: z.string(),
  updatedAt: instant,
  next: z.array(defectState),
  links: z.array(
    z.object({
      id,
      attempt: id.nullable(),
      attemptVerdict: z.string().nullable(),
      attemptBuild: z.string().nullable(),
      attemptAt: instant.nullable(),
      environment: z.string().nullable(),
      row: z.number().nullable(),
      step: id.nullable(),
      stepNumber: z.number().nullable(),
      item: id.nullable(),
      run: z.string().nullable(),
      case: z.string().nullable(),
      caseTitle: z.string().nullable(),
      requirement: z.string().nullable(),
      requirementTitle: z.string().nullable(),
    }),
  ),
  evidence: z.array(z.object({ id, name: z.string(), mime: z.string(), url: z.string() })),
  states: z.array(
    z.object({ state: defectState, at: instant, person: z.string().nullable(), fixedIn: z.string().nullable() }),
  ),
})
export type DefectSheet = z.infer<typeof defectSheet>

const base = '/projects/:key/defects'
const one = refParams('defect')
const list = { params: projectParams, query: listQuery, body: none }
export const listDefects = contract({
  name: 'listDefects',
  method: 'GET',
  path: base,
  permission: 'read',
  summary: 'Defects',
  ...list,
  output: pageOf(defectRow),
})
export const orderDefects = contract({
  name: 'orderDefects',
  method: 'GET',
  path: `${base}/order`,
  permission: 'read',
  summary: 'Ids of the list in their order',
  ...list,
  output: orderAnswer,
})
const from = z.object({
  attempt: idOf('attempt'),
  row: z.number().int().min(1).default(1),
  step: idOf('step').nullable().default(null),
})
export const draftDefectFrom = contract({
  name: 'draftDefectFrom',
  method: 'GET',
  path: `${base}/draft`,
  permission: 'reportDefects',
  summary: 'What a defect from a step would be filled with, and defects it may repeat',
  params: projectParams,
  query: z.object({
    attempt: idInPath('attempt'),
    row: z.coerce.number().int().default(1),
    step: idInPath('step').optional(),
  }),
  body: none,
  output: z.object({
    title: z.string(),
    steps: z.string(),
    text: z.string(),
    build: z.string(),
    environment: z.string(),
    requirement: z.string().nullable(),
    component: z.string(),
    like: z.array(z.object({ key: z.string(), title: z.string(), state: z.string() })),
  }),
})
export const createDefect = contract({
  name: 'createDefect',
  method: 'POST',
  path: base,
  permission: 'reportDefects',
  summary:
    'Log a defect; from a step it arrives filled in and linked to attempt, step, item, case and requirement in one transaction',
  params: projectParams,
  query: none,
  output: z.object({ id, key: z.string() }),
  body: z.object({
    title: line(300).optional(),
    text: richText(100_000).default(''),
    severity,
    priority: z.number().int().min(1).max(5).default(3),
    component: z.string().max(80).optional(),
    from: from.nullable().default(null),
    foundIn: idOf('build').nullable().default(null),
  }),
})
export const readDefect = contract({
  name: 'readDefect',
  method: 'GET',
  path: `${base}/:ref`,
  permission: 'read',
  summary: 'A defect with what it is linked to',
  params: one,
  query: none,
  body: none,
  output: defectSheet,
})
export const updateDefect = contract({
  name: 'updateDefect',
  method: 'PATCH',
  path: `${base}/:ref`,
  permission: 'reportDefects',
  summary: 'Change a defect or move it to another state',
  params: one,
  query: none,
  body: z
    .object({
      title: line(300),
      text: richText(100_000),
      severity,
      priority: z.number().int().min(1).max(5),
      component: z.string().max(80),
      state: defectState,
      fixedInId: idOf('build').nullable(),
      foundInId: idOf('build').nullable(),
      ownerId: memberId.nullable(),
      outsideRef: z.string().max(80),
    })
    .partial(),
  output: z.object({ version: z.number(), state: defectState }),
  versioned: true,
})
/** What may be set on many defects at once. */
const defectSet = z
  .object({
    severity,
    priority: z.number().int().min(1).max(5),
    component: z.string().max(80),
    ownerId: memberId.nullable(),
  })
  .partial()
export type DefectSet = z.infer<typeof defectSet>

export const changeDefects = contract({
  name: 'changeDefects',
  method: 'PATCH',
  path: base,
  permission: 'reportDefects',
  summary: 'Change the same fields of many; undo with the values answered',
  params: projectParams,
  query: none,
  body: manyBody('defect', defectSet),
  output: manyAnswer(defectSet),
})
export const linkDefect = contract({
  name: 'linkDefect',
  method: 'POST',
  path: `${base}/:ref/links`,
  permission: 'reportDefects',
  summary: 'Link a defect to an attempt’s step, with its item, case and requirement',
  params: one,
  query: none,
  body: from,
  output: done,
})
export const deleteDefects = contract({
  name: 'deleteDefects',
  method: 'POST',
  path: `${base}/delete`,
  permission: 'delete',
  summary: 'Delete defects; can be undone',
  params: projectParams,
  query: none,
  body: z.object({ ids: idsOf('defect', 5000) }),
  output: deletedAnswer,
})
