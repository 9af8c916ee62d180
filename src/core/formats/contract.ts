import { stopped } from '#core/lib/many.ts'
import { z } from 'zod'
import { replaceFields } from '#core/cases/replace.ts'
import { contract } from '#core/lib/contract.ts'
import { chosen, idInPath, idOf } from '#core/lib/owned.ts'
import { done, id, idParams, instant, line, none, orUndo, projectParams } from '#core/lib/shapes.ts'
import { mappingShape } from './mapping.ts'

export const importFormats = ['csv', 'xlsx', 'ods', 'gherkin', 'markdown', 'reqif'] as const
export const exportFormats = ['csv', 'xlsx', 'gherkin', 'markdown', 'reqif', 'reqifz', 'pdf'] as const
const placed = z.object({ at: z.string(), message: z.string() })
const counts = z.object({ new: z.number(), changed: z.number(), unchanged: z.number(), gone: z.number() })
const sheet = z.object({
  name: z.string(),
  rows: z.number(),
  columns: z.number(),
  top: z.array(z.object({ line: z.number(), cells: z.array(z.string()) })),
})

const previewStep = z.object({ action: z.string(), expected: z.string(), data: z.string() })
const preview = z.object({
  place: z.string(),
  id: z.string(),
  title: z.string(),
  status: z.enum(['new', 'changed', 'unchanged']),
  key: z.string().nullable(),
  changes: z.array(z.string()),
  about: z.array(z.string()),
  steps: z.array(previewStep),
  rows: z.number(),
})
export type Preview = z.infer<typeof preview>
const unknownWord = z.object({
  field: z.string(),
  word: z.string(),
  rows: z.number(),
  first: z.string(),
  usual: z.string(),
})
const unreadColumn = z.object({
  sheet: z.string(),
  column: z.string(),
  header: z.string(),
  cells: z.number(),
  values: z.array(z.string()),
})
const importAnswer = z.object({
  format: z.enum(importFormats),
  told: z.string(),
  what: z.enum(['requirements', 'cases']),
  mapping: mappingShape.nullable(),
  sheets: z.array(sheet),
  fields: z.array(z.string()),
  requirements: z.number(),
  cases: z.number(),
  steps: z.number(),
  counts,
  gone: z.array(z.object({ key: z.string(), title: z.string() })),
  problems: z.array(placed),
  problemCount: z.number(),
  notices: z.array(placed),
  /** Words of fields with fixed values that stand for none of them yet. */
  unknown: z.array(unknownWord),
  /** Columns that hold something and are not read. */
  unread: z.array(unreadColumn),
  /** A kept mapping that was made for a file like this one. */
  fits: z.string().nullable(),
  preview: z.array(preview),
  stored: z.boolean(),
  act: id.nullable(),
})
export type ImportAnswer = z.infer<typeof importAnswer>

const mappingText = z
  .string()
  .max(12_000)
  .transform((text, context) => {
    try {
      const parsed = mappingShape.safeParse(JSON.parse(text))
      if (parsed.success) return parsed.data
      context.addIssue({
        code: 'custom',
        message: `is no mapping: ${parsed.error.issues[0]?.path.join('.') ?? ''} ${parsed.error.issues[0]?.message ?? ''}`,
      })
    } catch {
      context.addIssue({ code: 'custom', message: 'is no JSON' })
    }
    return z.NEVER
  })
export const importFile = contract({
  name: 'importFile',
  method: 'POST',
  path: '/projects/:key/imports',
  permission: 'bringIn',
  summary: 'Import a file of any format (the body), or with `dry=yes` say what it would make; all or nothing',
  params: projectParams,
  query: z.object({
    what: z.enum(['requirements', 'cases']).optional(),
    dry: z.enum(['yes', 'no']).default('yes'),
    release: idInPath('release').optional(),
    format: z.enum(importFormats).optional(),
    /** A mapping as JSON, or the name of one that is kept. */
    mapping: mappingText.optional(),
    named: z.string().max(80).optional(),
    source: z.string().max(120).optional(),
  }),
  body: z.unknown(),
  output: importAnswer,
  raw: true,
})
export const listImports = contract({
  name: 'listImports',
  method: 'GET',
  path: '/projects/:key/imports',
  permission: 'read',
  summary: 'The last imports, newest first',
  params: projectParams,
  query: none,
  body: none,
  output: z.object({
    rows: z.array(
      z.object({
        id,
        at: instant,
        by: z.string().nullable(),
        source: z.string(),
        what: z.string(),
        made: z.number(),
        changed: z.number(),
        undoneAt: instant.nullable(),
      }),
    ),
  }),
})
export const undoImport = contract({
  name: 'undoImport',
  method: 'POST',
  path: '/projects/:key/imports/:id/undo',
  permission: 'bringIn',
  summary: 'Take a whole import back; what was changed since is left and named',
  params: idParams('import_act'),
  query: none,
  body: none,
  output: z.object({ deleted: z.number(), kept: z.array(z.string()), stopped }),
})
export const listMappings = contract({
  name: 'listMappings',
  method: 'GET',
  path: '/projects/:key/mappings',
  permission: 'read',
  summary: 'Mappings kept for imports',
  params: projectParams,
  query: none,
  body: none,
  output: z.object({ rows: z.array(z.object({ id, name: z.string(), mapping: mappingShape })) }),
})
export const keepMapping = contract({
  name: 'keepMapping',
  method: 'PUT',
  path: '/projects/:key/mappings',
  permission: 'bringIn',
  summary: 'Keep a mapping under a name for everybody; one of that name is replaced',
  params: projectParams,
  query: none,
  body: z.object({ name: line(80), mapping: mappingShape }),
  output: z.object({ id }),
})
export const dropMapping = contract({
  name: 'dropMapping',
  method: 'DELETE',
  path: '/projects/:key/mappings/:id',
  permission: 'bringIn',
  summary: 'Drop a kept mapping',
  params: idParams('import_mapping'),
  query: none,
  body: none,
  output: done,
})
export const exportFile = contract({
  name: 'exportFile',
  method: 'GET',
  path: '/projects/:key/export',
  permission: 'read',
  summary: 'Requirements or cases as a file; ids narrow it to some',
  params: projectParams,
  query: z.object({
    format: z.enum(exportFormats),
    what: z.enum(['requirements', 'cases']),
    ids: z
      .string()
      .regex(/^\d+(,\d+){0,4999}$/)
      .transform((ids) => ids.split(',').map(Number))
      .optional(),
  }),
  body: none,
  output: z.unknown(),
  raw: true,
})
/** The same for more than an address can name. */
export const exportChosen = contract({
  name: 'exportChosen',
  method: 'POST',
  path: '/projects/:key/export',
  permission: 'read',
  summary: 'Chosen requirements or cases as a file',
  params: projectParams,
  query: none,
  body: z.object({
    format: z.enum(exportFormats),
    what: z.enum(['requirements', 'cases']),
    ids: chosen(id, 50_000),
  }),
  output: z.unknown(),
})
const standingShape = z.object({
  id,
  name: z.string(),
  file: z.string(),
  what: z.enum(['requirements', 'cases']),
  everyMinutes: z.number().nullable(),
  by: z.string().nullable(),
  lastAt: instant.nullable(),
  lastTold: z.string(),
})
export const listStanding = contract({
  name: 'listStanding',
  method: 'GET',
  path: '/projects/:key/standing-imports',
  permission: 'read',
  summary: 'Files that are imported again and again, and what came of the last time',
  params: projectParams,
  query: none,
  body: none,
  output: z.object({ rows: z.array(standingShape) }),
})
export const keepStanding = contract({
  name: 'keepStanding',
  method: 'POST',
  path: '/projects/:key/standing-imports',
  permission: 'setUp',
  summary: 'Import a file of the folder of incoming files by one key, or every so many minutes',
  params: projectParams,
  query: none,
  body: z.object({
    name: line(80),
    file: line(200),
    what: z.enum(['requirements', 'cases']),
    mapping: mappingShape.optional(),
    everyMinutes: z.number().int().min(5, 'is at least 5 minutes').max(43_200).nullable().default(null),
  }),
  output: z.object({ id }),
})
export const runStanding = contract({
  name: 'runStanding',
  method: 'POST',
  path: '/projects/:key/standing-imports/:id',
  permission: 'bringIn',
  summary: 'Import it now; a file that has not changed is left alone',
  params: idParams('standing_import'),
  query: none,
  body: none,
  output: z.object({ told: z.string(), act: id.nullable() }),
})
export const dropStanding = contract({
  name: 'dropStanding',
  method: 'DELETE',
  path: '/projects/:key/standing-imports/:id',
  permission: 'setUp',
  summary: 'End a standing import, what it brought stays; can be undone',
  params: idParams('standing_import'),
  query: orUndo,
  body: none,
  output: done,
})
const replaceField = z.enum(replaceFields)
export const replaceText = contract({
  name: 'replaceText',
  method: 'POST',
  path: '/projects/:key/cases/replace',
  permission: 'bringIn',
  summary:
    'Find a text in many cases and, unless `dry`, replace it everywhere; `seen` is how many places were shown. Taken back like an import',
  params: projectParams,
  query: none,
  body: z.object({
    find: z.string().min(1, 'may not be empty').max(500),
    put: z.string().max(2000),
    matchCase: z.boolean().default(false),
    wholeWords: z.boolean().default(false),
    fields: z.array(replaceField).min(1),
    ids: z.array(idOf('test_case')).max(20_000).default([]),
    dry: z.boolean().default(true),
    seen: z.number().int().min(0).default(0),
  }),
  output: z.object({
    cases: z.number(),
    places: z.number(),
    found: z.array(
      z.object({
        key: z.string(),
        title: z.string(),
        places: z.array(
          z.object({ field: replaceField, step: z.number().nullable(), before: z.string(), after: z.string() }),
        ),
      }),
    ),
    act: id.nullable(),
    /** Cases somebody changed while it went on; they were left alone. */
    left: z.array(z.string()),
    stopped,
  }),
})
