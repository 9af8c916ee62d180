import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idOf } from '#core/lib/owned.ts'
import { done, id, idParams, instant, keyShape, line, none, projectParams, refParams, text } from '#core/lib/shapes.ts'
import { draftModel } from './draft-row.ts'
import { techniques } from './models.ts'

const row = z
  .record(z.string().min(1).max(120), z.string().max(100_000))
  .refine((cells) => Object.keys(cells).length <= 200, 'a row has at most 200 cells')
const source = z.record(z.string().max(40), z.array(z.string().max(20_000)).max(20_000))
const pattern = z.string().trim().max(300)

const decidedRow = z.object({
  id,
  row,
  decision: z.enum(['accepted', 'kept', 'left out']),
  case: z.object({ key: z.string(), title: z.string(), live: z.boolean() }).nullable(),
  revision: z.number(),
  at: instant,
  /** What its case said when it was accepted, as the model was then; where that can turn. */
  said: z.string().nullable(),
})
export type DecidedRow = z.infer<typeof decidedRow>
const modelSheet = z.object({
  id,
  technique: z.enum(techniques),
  name: z.string(),
  model: draftModel,
  source,
  pattern,
  revision: z.number(),
  requirementRevision: z.number(),
  version: z.number(),
  updatedAt: instant,
  by: z.string().nullable(),
  rows: z.array(decidedRow),
})
export type ModelSheet = z.infer<typeof modelSheet>
const checklistRow = z.object({
  id,
  text: z.string(),
  done: z.boolean(),
  by: z.string().nullable(),
  case: z.string().nullable(),
})
const drafting = z.object({
  requirement: z.object({ id, key: z.string(), title: z.string(), revision: z.number(), text: z.string() }),
  models: z.array(modelSheet),
  checklist: z.array(checklistRow),
})
export type Drafting = z.infer<typeof drafting>

const designedPart = z.object({
  model: id,
  technique: z.enum(techniques),
  name: z.string(),
  targets: z.number().nullable(),
  answered: z.number().nullable(),
  unit: z.string(),
})
const designedRow = z.object({
  id,
  key: z.string(),
  parts: z.array(designedPart),
  targets: z.number(),
  answered: z.number(),
  checklist: z.object({ all: z.number(), done: z.number() }),
})
export type DesignedRow = z.infer<typeof designedRow>

const requirement = refParams('requirement')
const models = '/projects/:key/models'
export const readDrafting = contract({
  name: 'readDrafting',
  method: 'GET',
  path: '/projects/:key/requirements/:ref/drafting',
  permission: 'read',
  summary: 'The models of a requirement with what was decided about their rows, and its checklist',
  params: requirement,
  query: none,
  body: none,
  output: drafting,
})
export const createModel = contract({
  name: 'createModel',
  method: 'POST',
  path: '/projects/:key/requirements/:ref/models',
  permission: 'writeCases',
  summary: 'Add a model; `model.body` is as in the model files of the commands',
  params: requirement,
  query: none,
  body: z.object({ name: line(120), model: draftModel, source: source.default({}), pattern: pattern.default('') }),
  output: z.object({ id }),
})
export const updateModel = contract({
  name: 'updateModel',
  method: 'PATCH',
  path: `${models}/:id`,
  permission: 'writeCases',
  summary: 'Change a model; another body makes a new revision. `fits` holds it against the requirement as it is now',
  params: idParams('draft_model'),
  query: none,
  body: z.object({ name: line(120), model: draftModel, source, pattern, fits: z.literal(true) }).partial(),
  output: z.object({ version: z.number(), revision: z.number() }),
  versioned: true,
})
export const deleteModel = contract({
  name: 'deleteModel',
  method: 'DELETE',
  path: `${models}/:id`,
  permission: 'writeCases',
  summary: 'Take a model away; its cases stay. Can be brought back',
  params: idParams('draft_model'),
  query: none,
  body: none,
  output: done,
})
export const restoreModel = contract({
  name: 'restoreModel',
  method: 'POST',
  path: `${models}/:id/restore`,
  permission: 'writeCases',
  summary: 'Bring a model back',
  params: idParams('draft_model'),
  query: none,
  body: none,
  output: done,
})
export const listModelRevisions = contract({
  name: 'listModelRevisions',
  method: 'GET',
  path: `${models}/:id/revisions`,
  permission: 'read',
  summary: 'Every revision of a model, the newest first',
  params: idParams('draft_model'),
  query: z.object({
    cursor: z.coerce.number().int().min(0).default(0),
    limit: z.coerce.number().int().min(1).max(100).default(20),
  }),
  body: none,
  output: z.object({
    rows: z.array(z.object({ revision: z.number(), model: draftModel, at: instant, by: z.string().nullable() })),
    total: z.number(),
    next: z.number().nullable(),
  }),
})
export const exportModel = contract({
  name: 'exportModel',
  method: 'GET',
  path: `${models}/:id/file`,
  permission: 'read',
  summary: 'The model as the JSON file the commands read',
  params: idParams('draft_model'),
  query: none,
  body: none,
  output: z.record(z.string(), z.unknown()),
})

const accepted = z.object({
  row,
  title: line(300),
  steps: z.array(z.object({ action: z.string().max(20_000), expected: z.string().max(20_000) })).max(1000),
})
export const acceptRows = contract({
  name: 'acceptRows',
  method: 'POST',
  path: `${models}/:id/accept`,
  permission: 'writeCases',
  summary:
    'Make cases of proposed rows, or one case with a data row for each; they are linked to the requirement. `existing`: rows that the case `into` has already',
  params: idParams('draft_model'),
  query: none,
  body: z.object({
    as: z.enum(['cases', 'data rows', 'existing']),
    rows: z.array(accepted).min(1).max(2000),
    title: line(300).optional(),
    into: keyShape('case').optional(),
    revision: z.number().int(),
  }),
  output: z.object({ keys: z.array(z.string()), rows: z.array(id), cases: z.array(id) }),
})
export const decideRows = contract({
  name: 'decideRows',
  method: 'POST',
  path: `${models}/:id/decide`,
  permission: 'writeCases',
  summary:
    'Decide about rows: leave proposed ones out, let accepted ones stay or go (with `retire` their cases are retired)',
  params: idParams('draft_model'),
  query: none,
  body: z.object({
    leaveOut: z.array(row).max(2000).default([]),
    keep: z.array(idOf('draft_row')).max(2000).default([]),
    end: z.array(idOf('draft_row')).max(2000).default([]),
    retire: z.boolean().default(false),
    again: z.array(idOf('draft_row')).max(2000).default([]),
  }),
  output: z.object({ rows: z.array(id), retired: z.array(z.string()) }),
})
export const writeChecklist = contract({
  name: 'writeChecklist',
  method: 'POST',
  path: '/projects/:key/requirements/:ref/checklist',
  permission: 'writeCases',
  summary: 'Add what to test beside the models, a line each',
  params: requirement,
  query: none,
  body: z.object({ lines: text(200_000) }),
  output: z.object({ ids: z.array(id) }),
})
export const tickChecklist = contract({
  name: 'tickChecklist',
  method: 'PATCH',
  path: '/projects/:key/checklist/:id',
  permission: 'writeCases',
  summary: 'Change an entry of a checklist: its text, whether it is done, the case that does it, or take it away',
  params: idParams('checklist_item'),
  query: none,
  body: z
    .object({ text: line(500), done: z.boolean(), case: keyShape('case').nullable(), deleted: z.boolean() })
    .partial(),
  output: done,
})
export const readDesigned = contract({
  name: 'readDesigned',
  method: 'GET',
  path: '/projects/:key/designed',
  permission: 'read',
  summary:
    'What is designed by technique: targets of the models of each requirement, and how many accepted cases answer',
  params: projectParams,
  query: z.object({
    ref: z.string().max(20).optional(),
    cursor: z.coerce.number().int().min(0).default(0),
    limit: z.coerce.number().int().min(1).max(500).default(500),
  }),
  body: none,
  output: z.object({
    rows: z.array(designedRow),
    targets: z.number(),
    answered: z.number(),
    total: z.number(),
    next: z.number().nullable(),
  }),
})
