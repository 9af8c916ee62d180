import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idOf } from '#core/lib/owned.ts'
import { done, id, idParams, instant, line, none, orUndo, projectParams } from '#core/lib/shapes.ts'

const tableShape = z.object({
  id,
  name: z.string(),
  columns: z.array(z.string()),
  version: z.number(),
  rows: z.number(),
  held: z.number(),
  cases: z.number(),
  /** Whether an execution uses a row up in its environment. */
  usedUp: z.boolean(),
})
export type TableRow = z.infer<typeof tableShape>
const tableValues = z.record(z.string().max(40), z.string().max(2000))
const tableSheet = tableShape.extend({
  values: z.array(
    z.object({
      id,
      values: tableValues,
      heldBy: z.string().nullable(),
      heldAt: instant.nullable(),
      heldIn: z.string().nullable(),
      mine: z.boolean(),
      /** Names of the environments it is used up in. */
      usedIn: z.array(z.string()),
    }),
  ),
  usedBy: z.array(z.object({ key: z.string(), title: z.string(), mode: z.string() })),
})
export type TableSheet = z.infer<typeof tableSheet>
export const listTables = contract({
  name: 'listTables',
  method: 'GET',
  path: '/projects/:key/tables',
  permission: 'read',
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
  permission: 'writeCases',
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
  permission: 'read',
  summary: 'A data table with its rows and who holds them',
  params: idParams('data_table'),
  query: none,
  body: none,
  output: tableSheet,
})
export const updateTable = contract({
  name: 'updateTable',
  method: 'PATCH',
  path: '/projects/:key/tables/:id',
  permission: 'writeCases',
  summary: 'Change name, columns or rows; rows without an id are new',
  params: idParams('data_table'),
  query: none,
  body: z
    .object({
      name: line(100),
      columns: z.array(line(40)).max(60),
      usedUp: z.boolean(),
      rows: z.array(z.object({ id: idOf('data_table_row').nullable(), values: tableValues })).max(2000),
    })
    .partial(),
  output: z.object({ version: z.number() }),
  versioned: true,
})
export const fillTable = contract({
  name: 'fillTable',
  method: 'POST',
  path: '/projects/:key/tables/:id/fill',
  permission: 'execute',
  summary:
    'The rows that were used up are there again, in one environment or in each; or, with the instant of a filling, that is taken back',
  params: idParams('data_table'),
  query: none,
  body: z.object({ environment: idOf('environment').nullable().default(null), back: instant.optional() }),
  output: z.object({ rows: z.number(), at: instant }),
})
export const deleteTable = contract({
  name: 'deleteTable',
  method: 'DELETE',
  path: '/projects/:key/tables/:id',
  permission: 'delete',
  summary: 'Delete a data table that no case uses; can be undone',
  params: idParams('data_table'),
  query: orUndo,
  body: none,
  output: done,
})
export const releaseRow = contract({
  name: 'releaseRow',
  method: 'POST',
  path: '/projects/:key/tables/:id/release',
  permission: 'writeCases',
  summary: 'Give a checked-out row back; a lead can for somebody else',
  params: idParams('data_table'),
  query: none,
  body: z.object({ row: idOf('data_table_row') }),
  output: done,
})
export const holdRow = contract({
  name: 'holdRow',
  method: 'POST',
  path: '/projects/:key/tables/:id/hold',
  permission: 'writeCases',
  summary: 'Check a row out by hand',
  params: idParams('data_table'),
  query: none,
  body: z.object({ row: idOf('data_table_row') }),
  output: done,
})
