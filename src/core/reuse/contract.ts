import { deletedAnswer } from '#core/lib/many.ts'
import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idOf, idsOf } from '#core/lib/owned.ts'
import { richText } from '#core/lib/rich-text.ts'
import {
  id,
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
import { contentShape, usedShape, userShape } from '#core/cases/contract.ts'

const routineRow = z.object({
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
const routineSheet = routineRow.extend({
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
const one = refParams('routine')
export const listRoutines = contract({
  name: 'listRoutines',
  method: 'GET',
  path: base,
  permission: 'read',
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
  permission: 'read',
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
  permission: 'writeCases',
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
  permission: 'read',
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
  permission: 'writeCases',
  summary: 'Change the title or the objective',
  params: one,
  query: none,
  body: z.object({ title: line(300), objective: richText(50_000) }).partial(),
  output: z.object({ version: z.number() }),
  versioned: true,
})
export const storeRoutine = contract({
  name: 'storeRoutine',
  method: 'PUT',
  path: `${base}/:ref/working`,
  permission: 'writeCases',
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
  permission: 'writeCases',
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
  permission: 'delete',
  summary: 'Delete routines that nothing uses any more; can be undone',
  params: projectParams,
  query: none,
  body: z.object({ ids: idsOf('routine', 500) }),
  output: deletedAnswer,
})
export const repinUses = contract({
  name: 'repinUses',
  method: 'POST',
  path: `${base}/:ref/repin`,
  permission: 'writeCases',
  summary: 'Let cases and routines use another version: each gets a new minor version. Undo with what is answered',
  params: one,
  query: none,
  body: z.object({
    in: z
      .array(z.string().regex(/^(RT|TC)-[1-9]\d{0,9}$/))
      .min(1)
      .max(2000),
    to: idOf('routine_version'),
  }),
  output: z.object({ changed: z.number(), undo: z.array(z.object({ to: id, in: z.array(z.string()) })) }),
})
export const extractRoutine = contract({
  name: 'extractRoutine',
  method: 'POST',
  path: `${base}/extract`,
  permission: 'writeCases',
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
