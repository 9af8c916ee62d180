import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { done, id, idParams, instant, line, none, orUndo, projectParams } from '#core/lib/shapes.ts'

const templateShape = z.object({
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
  permission: 'read',
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
  permission: 'writeCases',
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
  permission: 'writeCases',
  summary: 'Take a template away; can be undone',
  params: idParams('case_template'),
  query: orUndo,
  body: none,
  output: done,
})
