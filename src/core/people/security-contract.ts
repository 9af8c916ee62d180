import { z } from 'zod'
import { contract } from '#core/lib/contract.ts'
import { instant, none } from '#core/lib/shapes.ts'

/** Every kind of security event there is. */
export const securityKindNames = [
  'sign-in',
  'sign-in failed',
  'sign-in ended',
  'password',
  'second factor',
  'person',
  'role',
  'token',
  'export',
  'backup',
  'purge',
  'setting',
] as const
export type SecurityKind = (typeof securityKindNames)[number]

const event = z.object({
  id: z.number(),
  at: instant,
  kind: z.string(),
  /** Whom it is about, and who did it; `null`: nobody known, or a command. */
  person: z.string().nullable(),
  by: z.string().nullable(),
  project: z.string().nullable(),
  address: z.string(),
  told: z.string(),
})
export type SecurityEvent = z.infer<typeof event>

const filter = {
  person: z.string().max(60).optional(),
  kind: z.enum(securityKindNames).optional(),
  from: z.coerce.number().int().optional(),
  to: z.coerce.number().int().optional(),
}
export const listSecurityEvents = contract({
  name: 'listSecurityEvents',
  method: 'GET',
  path: '/security-events',
  permission: 'keepInstallation',
  summary: 'What happened to the safety of this installation, newest first',
  params: none,
  query: z.object({
    ...filter,
    before: z.coerce.number().int().optional(),
    limit: z.coerce.number().int().min(1).max(500).default(100),
  }),
  body: none,
  output: z.object({ rows: z.array(event), next: z.number().nullable() }),
})
export const securityEventsCsv = contract({
  name: 'securityEventsCsv',
  method: 'GET',
  path: '/security-events.csv',
  permission: 'keepInstallation',
  summary: 'The same as CSV, at most 100,000',
  params: none,
  query: z.object(filter),
  body: none,
  output: z.unknown(),
  raw: true,
})
