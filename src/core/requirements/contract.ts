import { deletedAnswer, manyAnswer, manyBody, tagsOfMany } from '#core/lib/many.ts'
import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { idOf, idsOf, memberId } from '#core/lib/owned.ts'
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
  scopeQuery,
  text,
} from '#core/lib/shapes.ts'
import { stretches, slotShape } from '#core/cases/contract.ts'
import { customFieldShape, customValues } from '#core/projects/custom.ts'
import { requirementKinds, requirementState } from './requirement.ts'

const grade = z.number().int().min(1).max(5).nullable()
const requirementRow = z.object({
  id,
  key: z.string(),
  number: z.number(),
  parent: id.nullable(),
  position: z.number(),
  depth: z.number(),
  hasChildren: z.boolean(),
  title: z.string(),
  kind: z.string(),
  component: z.string(),
  state: requirementState,
  likelihood: grade,
  impact: grade,
  priority: grade,
  risk: z.number().nullable(),
  release: z.string().nullable(),
  iteration: z.string().nullable(),
  owner: z.string().nullable(),
  outside: z.string(),
  revision: z.number(),
  cases: z.number(),
  suspect: z.number(),
  version: z.number(),
  tags: z.array(z.string()),
  custom: customValues,
})
export type RequirementRow = z.infer<typeof requirementRow>

const linkedCase = z.object({
  link: id,
  id,
  key: z.string(),
  title: z.string(),
  importance: z.string(),
  state: z.string(),
  steps: z.number(),
  retired: z.boolean(),
  suspect: z.boolean(),
  confirmedRevision: z.number(),
  slots: z.array(slotShape),
})
export type LinkedCase = z.infer<typeof linkedCase>
const requirementSheet = requirementRow.extend({
  text: z.string(),
  ownerId: z.string().nullable(),
  outsideUrl: z.string(),
  createdAt: instant,
  updatedAt: instant,
  targets: z.array(
    z.object({ release: id, releaseName: z.string(), iteration: id.nullable(), iterationName: z.string().nullable() }),
  ),
  path: z.array(z.object({ key: z.string(), title: z.string() })),
  children: z.array(z.object({ key: z.string(), title: z.string() })),
  linked: z.array(linkedCase),
  defects: z.array(
    z.object({ key: z.string(), title: z.string(), state: z.string(), severity: z.string(), open: z.boolean() }),
  ),
  relations: z.array(z.object({ key: z.string(), title: z.string(), kind: z.string(), towards: z.boolean() })),
  fields: z.array(customFieldShape),
})
export type RequirementSheet = z.infer<typeof requirementSheet>

const base = '/projects/:key/requirements'
const one = refParams('requirement')
export const listRequirements = contract({
  name: 'listRequirements',
  method: 'GET',
  path: base,
  permission: 'read',
  summary: 'Requirements, in outline order unless sorted',
  params: projectParams,
  query: listQuery.extend(scopeQuery.shape),
  body: none,
  output: pageOf(requirementRow),
})
export const orderRequirements = contract({
  name: 'orderRequirements',
  method: 'GET',
  path: `${base}/order`,
  permission: 'read',
  summary: 'Ids of the list in their order',
  params: projectParams,
  query: listQuery.extend(scopeQuery.shape),
  body: none,
  output: orderAnswer,
})
export const writeRequirementLines = contract({
  name: 'writeRequirementLines',
  method: 'POST',
  path: `${base}/lines`,
  permission: 'writeRequirements',
  summary: 'Add requirements from an outline of lines; Tab indents',
  params: projectParams,
  query: none,
  body: z.object({
    lines: text(2_000_000),
    under: idOf('requirement').nullable().default(null),
    release: idOf('release').nullable().default(null),
    iteration: idOf('iteration').nullable().default(null),
  }),
  output: z.object({ keys: z.array(z.string()) }),
})
export const readRequirement = contract({
  name: 'readRequirement',
  method: 'GET',
  path: `${base}/:ref`,
  permission: 'read',
  summary: 'A requirement with its cases, their standing results and its defects',
  params: one,
  query: scopeQuery,
  body: none,
  output: requirementSheet,
})
const requirementFieldsBody = z
  .object({
    title: line(300),
    text: richText(100_000),
    kind: z.enum(requirementKinds),
    component: z.string().trim().max(80),
    state: requirementState,
    likelihood: grade,
    impact: grade,
    priority: grade,
    ownerId: memberId.nullable(),
    outsideRef: z.string().trim().max(80),
    outsideUrl: z.union([
      z.literal(''),
      z.url({ protocol: /^https?$/, error: 'an address begins with http:// or https://' }),
    ]),
    targets: z.array(z.object({ release: idOf('release'), iteration: idOf('iteration').nullable() })).max(50),
    tags: z.array(line(40)).max(50),
    custom: customValues,
  })
  .partial()
export const updateRequirement = contract({
  name: 'updateRequirement',
  method: 'PATCH',
  path: `${base}/:ref`,
  permission: 'writeRequirements',
  summary: 'Change fields; title or text make a new revision',
  params: one,
  query: none,
  body: requirementFieldsBody,
  output: z.object({ version: z.number(), revision: z.number() }),
  versioned: true,
})
export const moveRequirement = contract({
  name: 'moveRequirement',
  method: 'POST',
  path: `${base}/:ref/move`,
  permission: 'writeRequirements',
  summary: 'Move a branch: under a parent, before a sibling',
  params: one,
  query: none,
  body: z.object({ under: idOf('requirement').nullable(), before: idOf('requirement').nullable().default(null) }),
  output: done,
})
/** What may be set on many requirements at once. */
const requirementSet = requirementFieldsBody.omit({ title: true, text: true })
export type RequirementSet = z.infer<typeof requirementSet>

export const changeRequirements = contract({
  name: 'changeRequirements',
  method: 'PATCH',
  path: base,
  permission: 'writeRequirements',
  summary: 'Change the same fields of many; undo with the values answered',
  params: projectParams,
  query: none,
  body: manyBody('requirement', requirementSet).extend({ tags: tagsOfMany }),
  output: manyAnswer(requirementSet),
})
export const deleteRequirements = contract({
  name: 'deleteRequirements',
  method: 'POST',
  path: `${base}/delete`,
  permission: 'delete',
  summary: 'Delete requirements and what is below them; can be undone',
  params: projectParams,
  query: none,
  body: z.object({ ids: idsOf('requirement', 5000) }),
  output: deletedAnswer,
})
export const listRevisions = contract({
  name: 'listRevisions',
  method: 'GET',
  path: `${base}/:ref/revisions`,
  permission: 'read',
  summary: 'Revisions of a requirement, newest first: each change of its title or text',
  params: one,
  query: none,
  body: none,
  output: z.object({
    rows: z.array(z.object({ revision: z.number(), title: z.string(), at: instant, by: z.string().nullable() })),
  }),
})
const revisionSide = z.object({ revision: z.number(), at: instant, by: z.string().nullable() })
export const compareRevisions = contract({
  name: 'compareRevisions',
  method: 'GET',
  path: `${base}/:ref/compare`,
  permission: 'read',
  summary: 'Two revisions of a requirement, word by word',
  params: one,
  query: z.object({ from: z.coerce.number().int().min(1), to: z.coerce.number().int().min(1) }),
  body: none,
  output: z.object({ from: revisionSide, to: revisionSide, title: stretches, text: stretches }),
})

export const splitRequirement = contract({
  name: 'splitRequirement',
  method: 'POST',
  path: `${base}/:ref/split`,
  permission: 'writeRequirements',
  summary: 'Let sentences of the text be a requirement of their own beside it, with the same cases',
  params: one,
  query: none,
  body: z.object({
    title: line(300),
    sentences: z.array(z.number().int().min(0)).max(500),
    links: z.boolean().default(true),
  }),
  output: z.object({ key: z.string() }),
})
export const mergeRequirements = contract({
  name: 'mergeRequirements',
  method: 'POST',
  path: `${base}/:ref/merge`,
  permission: 'writeRequirements',
  summary: 'Take other requirements into this one: their text, cases and what is below them; their keys lead here',
  params: one,
  query: none,
  body: z.object({ take: z.array(z.string()).min(1).max(50) }),
  output: z.object({ links: z.number(), taken: z.array(z.string()) }),
})
const outsideIssue = z.object({
  ref: z.string(),
  title: z.string(),
  state: z.string(),
  who: z.string(),
  text: z.string(),
  url: z.string(),
  changedAt: instant.nullable(),
  fetchedAt: instant,
})
export type OutsideIssue = z.infer<typeof outsideIssue>
export const readOutside = contract({
  name: 'readOutside',
  method: 'GET',
  path: `${base}/:ref/outside`,
  permission: 'read',
  summary: 'The tracker’s copy of what the requirement refers to, as last fetched',
  params: one,
  query: none,
  body: none,
  output: z.object({ tracker: z.string().nullable(), copy: outsideIssue.nullable() }),
})
export const fetchOutside = contract({
  name: 'fetchOutside',
  method: 'POST',
  path: `${base}/:ref/outside`,
  permission: 'writeRequirements',
  summary: 'Ask the tracker again; answers what differs from the copy before and from the requirement',
  params: one,
  query: none,
  body: none,
  output: z.object({
    copy: outsideIssue,
    first: z.boolean(),
    changed: z.array(z.object({ field: z.string(), words: stretches })),
    differs: z.object({ title: stretches, text: stretches, same: z.boolean() }),
  }),
})
export const fetchRequirements = contract({
  name: 'fetchRequirements',
  method: 'POST',
  path: `${base}/fetch`,
  permission: 'writeRequirements',
  summary: 'Bring issues of the tracker in as requirements, those that are not here yet',
  params: projectParams,
  query: none,
  body: z.object({ query: z.string().trim().max(200).default(''), dry: z.boolean().default(false) }),
  output: z.object({
    found: z.number(),
    rows: z.array(z.object({ ref: z.string(), title: z.string(), here: z.string().nullable() })),
    made: z.array(z.string()),
  }),
})
