import type { Contract } from '#core/lib/contract.ts'

/** What a token may be used for: to read, to send results of automated tests, or for all that its person may do. */
export const tokenScopes = ['read', 'results', 'write'] as const
export type TokenScope = (typeof tokenScopes)[number]

/** What a token narrows its person's rights to. */
export interface TokenLimit {
  readonly scope: TokenScope
  /** The one project it works for; `null`: all of its person's. */
  readonly projectId: number | null
}

/** Why a token of this scope may not ask this, as a sentence; `null` when it may. */
export function scopeRefusal(scope: TokenScope, { method, takesResults, permission }: AskedOf): string | null {
  if (permission === 'open' || scope === 'write') return null
  if (scope === 'read') return method === 'GET' ? null : 'This token is for reading only; nothing was stored.'
  return takesResults === true || permission === 'person'
    ? null
    : 'This token is for sending results only; nothing was answered and nothing stored.'
}
type AskedOf = Pick<Contract, 'method' | 'permission' | 'takesResults'>
