import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idOf } from '#core/lib/owned.ts'
import { done, id, idParams, line, none, projectParams } from '#core/lib/shapes.ts'

const folderShape = z.object({
  id,
  parent: id.nullable(),
  name: z.string(),
  position: z.number(),
  cases: z.number(),
})
export const listFolders = contract({
  name: 'listFolders',
  method: 'GET',
  path: '/projects/:key/folders',
  permission: 'read',
  summary: 'The folder tree',
  params: projectParams,
  query: none,
  body: none,
  output: z.object({ rows: z.array(folderShape) }),
})
export const updateFolder = contract({
  name: 'updateFolder',
  method: 'PATCH',
  path: '/projects/:key/folders/:id',
  permission: 'writeCases',
  summary: 'Rename a folder or move it: under a parent, before a sibling',
  params: idParams('folder'),
  query: none,
  body: z.object({ name: line(100), parent: idOf('folder').nullable(), before: idOf('folder').nullable() }).partial(),
  output: done,
})
export const deleteFolder = contract({
  name: 'deleteFolder',
  method: 'DELETE',
  path: '/projects/:key/folders/:id',
  permission: 'writeCases',
  summary: 'Take a folder away; its cases and folders go to the one above it',
  params: idParams('folder'),
  query: none,
  body: none,
  output: z.object({ cases: z.array(id), folders: z.array(id) }),
})
export const mirrorFolders = contract({
  name: 'mirrorFolders',
  method: 'POST',
  path: '/projects/:key/folders/mirror',
  permission: 'rearrange',
  summary: 'Make a folder for each branch of the requirements and put the cases that prove them there',
  params: projectParams,
  query: none,
  body: z.object({ under: idOf('requirement').nullable().default(null), dry: z.boolean().default(false) }),
  output: z.object({
    folders: z.number(),
    cases: z.number(),
    undo: z.array(z.object({ id, set: z.object({ folderId: id.nullable() }).partial() })),
  }),
})
export const createFolder = contract({
  name: 'createFolder',
  method: 'POST',
  path: '/projects/:key/folders',
  permission: 'writeCases',
  summary: 'Add a folder',
  params: projectParams,
  query: none,
  body: z.object({ name: line(100), parent: idOf('folder').nullable().default(null) }),
  output: z.object({ id }),
})
