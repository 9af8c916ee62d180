import { actWords } from '#core/history/acts.ts'
import type { historyCsv as csvContract, listHistory as contract } from '#core/history/contract.ts'
import { listChanges } from '#db/history/changes.ts'
import type { Context } from '#server/http/context.ts'
import { csvAnswer } from '#server/http/csv-text.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'

export function listHistory({ tx, project }: Context, { query }: Input<typeof contract>): Answer<typeof contract> {
  const rows = listChanges(tx, project.id, query)
  return {
    rows: rows.map((row) => ({ ...row, detail: row.detail && { ...row.detail } })),
    next: rows.length === query.limit ? (rows.at(-1)?.id ?? null) : null,
  }
}

const most = 100_000

/** The same as a file; who took it away is among the security events. */
export async function historyCsv(context: OpenContext, { query }: Input<typeof csvContract>): Promise<Response> {
  const { tx, project } = context
  context.store((inside) => inside.secure({ kind: 'export', told: `The history of ${project.key} was exported` }))
  const rows = listChanges(tx, project.id, { ...query, limit: most })
  return csvAnswer(`${project.key}-history`, [
    ['When', 'Person', 'What', 'Object', 'Act', 'From and to'],
    ...rows.map(({ at, person, kind, ref, action, detail }) => [
      new Date(at).toISOString(),
      person ?? '',
      kind,
      ref,
      actWords(kind, action),
      Object.entries(detail ?? {})
        .map(([field, [before, after]]) => `${field}: ${told(before)} → ${told(after)}`)
        .join('; '),
    ]),
  ])
}

const told = (value: unknown): string =>
  value === null || value === undefined ? '' : typeof value === 'string' ? value : JSON.stringify(value)
