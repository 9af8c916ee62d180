import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { id, none, projectParams, scopeQuery } from '#core/lib/shapes.ts'

const share = z.number().nullable()
const threeShape = z.object({ recorded: share, current: share, confident: share })
const figure = z.object({ plain: threeShape, byRisk: threeShape })
const figuresShape = z.object({
  leaves: z.number(),
  uncovered: z.number(),
  cases: z.number(),
  drafted: z.number(),
  slots: z.number(),
  risk: z.number(),
  verdicts: z.record(z.string(), z.number()),
  stale: z.record(z.string(), z.number()),
  /** Of them, how many are in which of the project's own words. */
  words: z.record(z.string(), z.number()),
  reasons: z.record(z.string(), z.number()),
  designed: z.object({ plain: share, byRisk: share }),
  executed: figure,
  passing: figure,
  fullyPassing: figure,
})
const coverageNode = z.object({
  id: z.number(),
  risk: z.number(),
  riskGiven: z.boolean(),
  state: z.string(),
  figures: figuresShape,
})
const coverageAnswer = z.object({
  scope: z.object({
    release: z.string().nullable(),
    iteration: z.string().nullable(),
    build: z.string().nullable(),
    environment: z.string().nullable(),
    asOf: z.number(),
  }),
  total: coverageNode,
  nodes: z.array(
    coverageNode.extend({ key: z.string(), title: z.string(), parent: z.number().nullable(), depth: z.number() }),
  ),
  attention: z.array(id),
  uncovered: z.array(id),
  casesWithoutRequirement: z.number(),
  evidenceOldest: z.number().nullable(),
  evidenceNewest: z.number().nullable(),
})
export type CoverageAnswer = z.infer<typeof coverageAnswer>
export const readCoverage = contract({
  name: 'readCoverage',
  method: 'GET',
  path: '/projects/:key/reports/coverage',
  permission: 'read',
  summary: 'Coverage in a scope: the whole, and the requirements named by `ids` (or `all`, at most 5,000)',
  params: projectParams,
  query: scopeQuery.extend({
    ids: z
      .string()
      .regex(/^(all|\d+(,\d+){0,499})$/)
      .optional(),
  }),
  body: none,
  output: coverageAnswer,
})
export const coverageCsv = contract({
  name: 'coverageCsv',
  method: 'GET',
  path: '/projects/:key/reports/coverage.csv',
  permission: 'read',
  summary: 'Coverage as CSV',
  params: projectParams,
  query: scopeQuery,
  body: none,
  output: z.unknown(),
  raw: true,
})
const gapRow = z.object({ key: z.string(), title: z.string(), detail: z.string() })
const gapsAnswer = z.object({
  requirementsWithoutCase: z.array(gapRow),
  casesWithoutRequirement: z.array(gapRow),
  failingWithoutDefect: z.array(gapRow),
  defectsWithoutCase: z.array(gapRow),
  suspectLinks: z.array(gapRow),
  notRun: z.array(gapRow),
  totals: z.record(z.string(), z.number()),
})
export type GapsAnswer = z.infer<typeof gapsAnswer>
export const readGaps = contract({
  name: 'readGaps',
  method: 'GET',
  path: '/projects/:key/reports/gaps',
  permission: 'read',
  summary: 'Gaps in both directions, the first 200 of each kind with totals',
  params: projectParams,
  query: scopeQuery,
  body: none,
  output: gapsAnswer,
})
const staleRow = z.object({
  case: z.string(),
  title: z.string(),
  requirement: z.string().nullable(),
  environment: z.string(),
  verdict: z.string(),
  word: z.string().nullable(),
  build: z.string(),
  at: z.number(),
  reasons: z.array(z.string()),
  confidence: z.number(),
})
export type StaleRow = z.infer<typeof staleRow>
export const readStale = contract({
  name: 'readStale',
  method: 'GET',
  path: '/projects/:key/reports/stale',
  permission: 'read',
  summary: 'Stale standing results with the reasons of each',
  params: projectParams,
  query: scopeQuery.extend({
    requirement: z.string().optional(),
    cursor: z.coerce.number().int().min(0).default(0),
    limit: z.coerce.number().int().min(1).max(500).default(100),
  }),
  body: none,
  output: z.object({ rows: z.array(staleRow), total: z.number(), next: z.number().nullable() }),
})
const boardAnswer = z.object({
  requirements: z.array(z.object({ id, key: z.string(), title: z.string(), gap: z.array(z.string()) })),
  cases: z.array(z.object({ id, key: z.string(), title: z.string(), gap: z.array(z.string()) })),
  results: z.array(
    z.object({
      id: z.string(),
      case: id,
      environment: z.string(),
      verdict: z.string(),
      word: z.string().nullable(),
      stale: z.boolean(),
      gap: z.array(z.string()),
    }),
  ),
  defects: z.array(z.object({ id, key: z.string(), title: z.string(), state: z.string(), gap: z.array(z.string()) })),
  links: z.array(z.tuple([id, id])),
  defectCases: z.array(z.tuple([id, id])),
  defectRequirements: z.array(z.tuple([id, id])),
  cut: z.boolean(),
})
export type BoardAnswer = z.infer<typeof boardAnswer>
export const readBoard = contract({
  name: 'readBoard',
  method: 'GET',
  path: '/projects/:key/reports/board',
  permission: 'read',
  summary: 'The thread board: four lanes and what links them, at most 400 requirements',
  params: projectParams,
  query: scopeQuery,
  body: none,
  output: boardAnswer,
})
