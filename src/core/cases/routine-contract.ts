import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import {
  done,
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
  text,
} from '#core/lib/shapes.ts'
import { contentShape, usedShape, userShape } from './contract.ts'

export const routineRow = z.object({
  id,
  key: z.string(),
  number: z.number(),
  title: z.string(),
  steps: z.number(),
  uses: z.number(),
  behind: z.number(),
  versionName: z.string().nullable(),
  version: z.number(),
  updatedAt: instant,
})
export type RoutineRow = z.infer<typeof routineRow>
export const routineSheet = routineRow.extend({
  objective: z.string(),
  content: contentShape,
  contentStamp: z.string(),
  unsaved: z.boolean(),
  used: z.array(usedShape),
  newestId: id.nullable(),
  versions: z.array(z.object({ id, name: z.string(), at: instant, by: z.string().nullable(), why: z.string() })),
  usedBy: z.array(userShape),
})
export type RoutineSheet = z.infer<typeof routineSheet>

const base = '/projects/:key/routines'
const one = refParams('RT')
export const listRoutines = contract({
  name: 'listRoutines',
  method: 'GET',
  path: base,
  permission: 'viewer',
  summary: 'Routines: named steps that cases insert',
  params: projectParams,
  query: listQuery,
  body: none,
  output: pageOf(routineRow),
})
export const orderRoutines = contract({
  name: 'orderRoutines',
  method: 'GET',
  path: `${base}/order`,
  permission: 'viewer',
  summary: 'Ids of the list in their order',
  params: projectParams,
  query: listQuery,
  body: none,
  output: orderAnswer,
})
export const createRoutine = contract({
  name: 'createRoutine',
  method: 'POST',
  path: base,
  permission: 'tester',
  summary: 'Add a routine; lines are its steps, `action => expected`',
  params: projectParams,
  query: none,
  body: z.object({ title: line(300), lines: text(200_000).default('') }),
  output: z.object({ key: z.string() }),
})
export const readRoutine = contract({
  name: 'readRoutine',
  method: 'GET',
  path: `${base}/:ref`,
  permission: 'viewer',
  summary: 'A routine with its working copy, versions and where it is used',
  params: one,
  query: none,
  body: none,
  output: routineSheet,
})
export const updateRoutine = contract({
  name: 'updateRoutine',
  method: 'PATCH',
  path: `${base}/:ref`,
  permission: 'tester',
  summary: 'Change the title or the objective',
  params: one,
  query: none,
  body: z.object({ title: line(300), objective: text(50_000) }).partial(),
  output: z.object({ version: z.number() }),
  versioned: true,
})
export const storeRoutine = contract({
  name: 'storeRoutine',
  method: 'PUT',
  path: `${base}/:ref/working`,
  permission: 'tester',
  summary: 'Store the working copy as typed',
  params: one,
  query: none,
  body: z.object({ content: contentShape, stamp: z.string() }),
  output: z.object({ content: contentShape, stamp: z.string(), at: instant }),
})
export const cutRoutine = contract({
  name: 'cutRoutine',
  method: 'POST',
  path: `${base}/:ref/versions`,
  permission: 'tester',
  summary: 'Cut a minor version, if the steps changed',
  params: one,
  query: none,
  body: z.object({ why: z.string().trim().max(500).default('') }),
  output: z.object({ id: id.nullable(), name: z.string().nullable(), cut: z.boolean() }),
})
export const deleteRoutines = contract({
  name: 'deleteRoutines',
  method: 'POST',
  path: `${base}/delete`,
  permission: 'lead',
  summary: 'Delete routines that nothing uses any more; can be undone',
  params: projectParams,
  query: none,
  body: z.object({ ids: z.array(id).min(1).max(500) }),
  output: z.object({ refs: z.array(z.string()) }),
})
export const repinUses = contract({
  name: 'repinUses',
  method: 'POST',
  path: `${base}/:ref/repin`,
  permission: 'tester',
  summary: 'Let cases and routines use another version: each gets a new minor version. Undo with what is answered',
  params: one,
  query: none,
  body: z.object({
    in: z
      .array(z.string().regex(/^(RT|TC)-[1-9]\d{0,9}$/))
      .min(1)
      .max(2000),
    to: id,
  }),
  output: z.object({ changed: z.number(), undo: z.array(z.object({ to: id, in: z.array(z.string()) })) }),
})
export const extractRoutine = contract({
  name: 'extractRoutine',
  method: 'POST',
  path: `${base}/extract`,
  permission: 'tester',
  summary: 'Make a routine of steps, and put it in their place in every case named',
  params: projectParams,
  query: none,
  body: z.object({
    title: line(300),
    length: z.number().int().min(1).max(200),
    from: z.object({ case: z.string(), at: z.number().int().min(0) }),
    also: z.array(z.object({ case: z.string(), at: z.number().int().min(0) })).max(2000),
  }),
  output: z.object({ key: z.string(), cases: z.number() }),
})

const place = z.object({ case: z.string(), title: z.string(), at: z.number() })
export const findRepeats = contract({
  name: 'findRepeats',
  method: 'GET',
  path: '/projects/:key/cases/repeats',
  permission: 'viewer',
  summary:
    'Steps that several cases repeat word for word, the most worth first; with `ref`, only runs this case has part in',
  params: projectParams,
  query: z.object({ ref: z.string().max(20).optional(), limit: z.coerce.number().int().min(1).max(100).default(20) }),
  body: none,
  output: z.object({
    rows: z.array(
      z.object({
        length: z.number(),
        saved: z.number(),
        steps: z.array(z.object({ action: z.string(), expected: z.string(), data: z.string() })),
        places: z.array(place),
      }),
    ),
    total: z.number(),
  }),
})
export const findSame = contract({
  name: 'findSame',
  method: 'GET',
  path: '/projects/:key/cases/:ref/same',
  permission: 'viewer',
  summary: 'Other cases that say the same steps as this one from a step on',
  params: refParams('TC'),
  query: z.object({ at: z.coerce.number().int().min(0), length: z.coerce.number().int().min(1).max(200) }),
  body: none,
  output: z.object({ places: z.array(place) }),
})
export const findAlike = contract({
  name: 'findAlike',
  method: 'GET',
  path: '/projects/:key/cases/alike',
  permission: 'viewer',
  summary: 'Groups of cases that say nearly the same',
  params: projectParams,
  query: z.object({
    atLeast: z.coerce.number().min(0.3).max(1).default(0.6),
    limit: z.coerce.number().int().min(1).max(100).default(30),
  }),
  body: none,
  output: z.object({
    rows: z.array(
      z.object({
        likeness: z.number(),
        cases: z.array(
          z.object({
            id,
            key: z.string(),
            title: z.string(),
            steps: z.number(),
            links: z.number(),
            attempts: z.number(),
          }),
        ),
        more: z.number(),
      }),
    ),
    total: z.number(),
    whole: z.boolean(),
  }),
})
export const mergeCases = contract({
  name: 'mergeCases',
  method: 'POST',
  path: '/projects/:key/cases/merge',
  permission: 'lead',
  summary:
    'Let one case stand for others: it takes their links, pins, defects and tags; they are retired and keep their results',
  params: projectParams,
  query: none,
  body: z.object({ keep: z.string(), drop: z.array(z.string()).min(1).max(50) }),
  output: z.object({ links: z.number(), dropped: z.array(z.string()) }),
})
export const unmergeCase = contract({
  name: 'unmergeCase',
  method: 'POST',
  path: '/projects/:key/cases/:ref/unmerge',
  permission: 'lead',
  summary: 'Take a merge back: the case lives again, and what the other took from it goes',
  params: refParams('TC'),
  query: none,
  body: none,
  output: done,
})
export const duplicateCases = contract({
  name: 'duplicateCases',
  method: 'POST',
  path: '/projects/:key/cases/duplicate',
  permission: 'tester',
  summary: 'Copies of cases beside them, with steps, fields, tags and links',
  params: projectParams,
  query: none,
  body: z.object({ ids: z.array(id).min(1).max(1000) }),
  output: z.object({ keys: z.array(z.string()), ids: z.array(id) }),
})
export const sendCases = contract({
  name: 'sendCases',
  method: 'POST',
  path: '/projects/:key/cases/send',
  permission: 'lead',
  summary: 'Copy or move cases to another project; a moved one is found under its old key too',
  params: projectParams,
  query: none,
  body: z.object({ ids: z.array(id).min(1).max(1000), project: z.string(), move: z.boolean() }),
  output: z.object({ keys: z.array(z.string()), left: z.array(z.string()) }),
})
export const splitCase = contract({
  name: 'splitCase',
  method: 'POST',
  path: '/projects/:key/cases/:ref/split',
  permission: 'tester',
  summary: 'Let the steps from one on be a case of their own, with the same links',
  params: refParams('TC'),
  query: none,
  body: z.object({ from: id, title: line(300) }),
  output: z.object({ key: z.string() }),
})
export const moveSteps = contract({
  name: 'moveSteps',
  method: 'POST',
  path: '/projects/:key/cases/:ref/steps',
  permission: 'tester',
  summary: 'Move or copy steps to the end of another case',
  params: refParams('TC'),
  query: none,
  body: z.object({ steps: z.array(id).min(1).max(500), to: z.string(), copy: z.boolean() }),
  output: z.object({ moved: z.number() }),
})
export const templateShape = z.object({
  id,
  name: z.string(),
  steps: z.number(),
  by: z.string().nullable(),
  at: instant,
})
export const listTemplates = contract({
  name: 'listTemplates',
  method: 'GET',
  path: '/projects/:key/templates',
  permission: 'viewer',
  summary: 'What new cases can start from',
  params: projectParams,
  query: none,
  body: none,
  output: z.object({ rows: z.array(templateShape) }),
})
export const createTemplate = contract({
  name: 'createTemplate',
  method: 'POST',
  path: '/projects/:key/templates',
  permission: 'tester',
  summary: 'Keep what a case says as a template',
  params: projectParams,
  query: none,
  body: z.object({ name: line(80), case: z.string() }),
  output: z.object({ id }),
})
export const deleteTemplate = contract({
  name: 'deleteTemplate',
  method: 'DELETE',
  path: '/projects/:key/templates/:id',
  permission: 'tester',
  summary: 'Take a template away',
  params: idParams,
  query: none,
  body: none,
  output: done,
})

export const tableShape = z.object({
  id,
  name: z.string(),
  columns: z.array(z.string()),
  version: z.number(),
  rows: z.number(),
  held: z.number(),
  cases: z.number(),
})
export type TableRow = z.infer<typeof tableShape>
const tableValues = z.record(z.string().max(40), z.string().max(2000))
export const tableSheet = tableShape.extend({
  values: z.array(
    z.object({
      id,
      values: tableValues,
      heldBy: z.string().nullable(),
      heldAt: instant.nullable(),
      heldIn: z.string().nullable(),
      mine: z.boolean(),
    }),
  ),
  usedBy: z.array(z.object({ key: z.string(), title: z.string(), mode: z.string() })),
})
export type TableSheet = z.infer<typeof tableSheet>
export const listTables = contract({
  name: 'listTables',
  method: 'GET',
  path: '/projects/:key/tables',
  permission: 'viewer',
  summary: 'Data tables that cases share',
  params: projectParams,
  query: none,
  body: none,
  output: z.object({ rows: z.array(tableShape) }),
})
export const createTable = contract({
  name: 'createTable',
  method: 'POST',
  path: '/projects/:key/tables',
  permission: 'tester',
  summary: 'Add a data table',
  params: projectParams,
  query: none,
  body: z.object({ name: line(100), columns: z.array(line(40)).max(60).default([]) }),
  output: z.object({ id }),
})
export const readTable = contract({
  name: 'readTable',
  method: 'GET',
  path: '/projects/:key/tables/:id',
  permission: 'viewer',
  summary: 'A data table with its rows and who holds them',
  params: idParams,
  query: none,
  body: none,
  output: tableSheet,
})
export const updateTable = contract({
  name: 'updateTable',
  method: 'PATCH',
  path: '/projects/:key/tables/:id',
  permission: 'tester',
  summary: 'Change name, columns or rows; rows without an id are new',
  params: idParams,
  query: none,
  body: z
    .object({
      name: line(100),
      columns: z.array(line(40)).max(60),
      rows: z.array(z.object({ id: id.nullable(), values: tableValues })).max(2000),
    })
    .partial(),
  output: z.object({ version: z.number() }),
  versioned: true,
})
export const deleteTable = contract({
  name: 'deleteTable',
  method: 'DELETE',
  path: '/projects/:key/tables/:id',
  permission: 'lead',
  summary: 'Delete a data table that no case uses',
  params: idParams,
  query: none,
  body: none,
  output: done,
})
export const releaseRow = contract({
  name: 'releaseRow',
  method: 'POST',
  path: '/projects/:key/tables/:id/release',
  permission: 'tester',
  summary: 'Give a checked-out row back; a lead can for somebody else',
  params: idParams,
  query: none,
  body: z.object({ row: id }),
  output: done,
})
export const holdRow = contract({
  name: 'holdRow',
  method: 'POST',
  path: '/projects/:key/tables/:id/hold',
  permission: 'tester',
  summary: 'Check a row out by hand',
  params: idParams,
  query: none,
  body: z.object({ row: id }),
  output: done,
})
