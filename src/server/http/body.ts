import type { Contract } from '#core/lib/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { Incoming } from './asked.ts'
import type { Input } from './route.ts'

const mostBody = 8_000_000

export async function bodyText(contract: Contract, request: Request): Promise<string> {
  if (contract.method === 'GET') return ''
  if (Number(request.headers.get('content-length') ?? 0) > mostBody)
    throw new Refusal(
      'too-large',
      'This is more than 8 MB of text; nothing was stored. Send it in parts, or import it as a file.',
    )
  return request.text()
}

export function json(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    throw new Refusal('invalid', 'The body is not JSON; nothing was stored.')
  }
}

/** What was asked, before any schema has read it. */
export interface Raw {
  readonly params: unknown
  readonly query: unknown
  readonly body: unknown
}

/** Path, query and body as the contract's schemas read them, or a refusal that names every field that does not fit. */
export function inputOf<C extends Contract>(
  contract: C,
  { params, url }: Pick<Incoming, 'params' | 'url'>,
  body: unknown,
): { readonly input: Input<C>; readonly raw: Raw } {
  const raw = { params, query: Object.fromEntries(url.searchParams), body }
  const parts = {
    params: contract.params.safeParse(params),
    query: contract.query.safeParse(raw.query),
    body: contract.raw ? { success: true as const, data: undefined } : contract.body.safeParse(body),
  }
  const fields = Object.entries(parts).flatMap(([part, parsed]) =>
    parsed.success
      ? []
      : parsed.error.issues.map((issue) => ({
          field: part === 'body' ? issue.path.join('.') : `${part}.${issue.path.join('.')}`,
          message: issue.message,
        })),
  )
  if (fields.length > 0)
    throw new Refusal(
      'invalid',
      `Nothing was stored: ${fields
        .map(({ field, message }) => `${field || 'the body'} ${message}`)
        .slice(0, 3)
        .join('; ')}.`,
      { fields },
    )
  // The schemas are the contract's own, which the compiler cannot see through its general type.
  const input = { params: parts.params.data, query: parts.query.data, body: parts.body.data } as Input<C>
  return { input, raw }
}
