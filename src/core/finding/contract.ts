import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { done, id, idParams, line, none, projectParams } from '#core/lib/shapes.ts'

export const findAnything = contract({
  name: 'findAnything',
  method: 'GET',
  path: '/projects/:key/find',
  permission: 'read',
  summary: 'Objects by key or words',
  params: projectParams,
  query: z.object({ q: z.string().max(200), limit: z.coerce.number().int().min(1).max(50).default(12) }),
  body: none,
  output: z.object({ rows: z.array(z.object({ ref: z.string(), kind: z.string(), title: z.string() })) }),
})
const viewShape = z.object({ id, name: z.string(), shared: z.boolean(), mine: z.boolean(), query: z.string() })
export const listViews = contract({
  name: 'listViews',
  method: 'GET',
  path: '/projects/:key/views',
  permission: 'read',
  summary: 'Saved views of a list: own and shared',
  params: projectParams,
  query: z.object({ list: z.string().max(40) }),
  body: none,
  output: z.object({ rows: z.array(viewShape) }),
})
export const saveView = contract({
  name: 'saveView',
  method: 'POST',
  path: '/projects/:key/views',
  permission: 'keepViews',
  summary: 'Save a view of a list',
  params: projectParams,
  query: none,
  body: z.object({ list: line(40), name: line(80), shared: z.boolean().default(false), query: z.string().max(8000) }),
  output: z.object({ id }),
})
export const deleteView = contract({
  name: 'deleteView',
  method: 'DELETE',
  path: '/projects/:key/views/:id',
  permission: 'keepViews',
  summary: 'Delete a saved view of your own',
  params: idParams('saved_view'),
  query: none,
  body: none,
  output: done,
})
