import type {
  listSecurityEvents as listContract,
  securityEventsCsv as csvContract,
} from '#core/people/security-contract.ts'
import { securityEvents } from '#db/people/security.ts'
import type { Context } from '#server/http/context.ts'
import { csvAnswer } from '#server/http/csv-text.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'

export function listSecurityEvents(
  { tx }: Context,
  { query }: Input<typeof listContract>,
): Answer<typeof listContract> {
  const rows = securityEvents(tx, query)
  return { rows, next: rows.length === query.limit ? (rows.at(-1)?.id ?? null) : null }
}

const most = 100_000

export async function securityEventsCsv(context: OpenContext, { query }: Input<typeof csvContract>): Promise<Response> {
  context.store((inside) => inside.secure({ kind: 'export', told: 'The security events were exported' }))
  const rows = securityEvents(context.tx, { ...query, limit: most })
  return csvAnswer('security-events', [
    ['When', 'Kind', 'Person', 'By', 'Project', 'From', 'What'],
    ...rows.map(({ at, kind, person, by, project, address, told }) => [
      new Date(at).toISOString(),
      kind,
      person ?? '',
      by ?? '',
      project ?? '',
      address,
      told,
    ]),
  ])
}
