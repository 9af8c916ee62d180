import { Refusal } from '#core/lib/refusal.ts'
import type { TokenScope } from '#core/people/token.ts'
import { addToken, revokeToken, tokensOf } from '#db/people/tokens.ts'
import { findProject } from '#db/projects/projects.ts'
import type { Db, Tx } from '#db/open.ts'
import { hashOf, newSecret } from '#server/http/secret.ts'
import { byCommand } from './by-command.ts'

const day = 86_400_000

interface Owner {
  readonly id: string
  readonly name: string
}
interface TokenOf {
  readonly name: string
  readonly scope: TokenScope
  readonly projectId: number | null
  /** After so many days it ends; `null`: it does not. */
  readonly days: number | null
}

/** A new token of a person; only its hash is kept. */
export function newToken(tx: Tx, owner: Owner, now: number, of: TokenOf): string {
  if (tokensOf(tx, owner.id, now).some(({ name }) => name === of.name))
    throw new Refusal('refused', `${owner.name} has a token called “${of.name}” already; choose another name.`, {
      fields: [{ field: 'name', message: 'is taken' }],
    })
  const token = `rvt_${newSecret()}`
  addToken(tx, {
    personId: owner.id,
    projectId: of.projectId,
    name: of.name,
    hash: hashOf(token),
    scope: of.scope,
    createdAt: now,
    endsAt: of.days === null ? null : now + of.days * day,
  })
  return token
}

interface TokenAsked {
  readonly person: string
  readonly name: string
  readonly project?: string
  readonly scope?: TokenScope
  readonly days?: number
}

/** The same by a command, for anybody. */
export function createToken(db: Db, of: TokenAsked): string {
  const project = of.project === undefined ? undefined : findProject(db, of.project)
  if (of.project !== undefined && !project)
    throw new Refusal('not-found', `There is no project ${of.project} in this data directory.`)
  const { scope = 'write', days = null, name } = of
  const told = () => `The token “${name}” was made for ${scope}`
  return byCommand(db, of.person, { kind: 'token', told }, (tx, owner, now) =>
    newToken(tx, owner, now, { name, scope, days, projectId: project?.id ?? null }),
  )
}

export function dropToken(db: Db, of: { readonly person: string; readonly name: string }): void {
  const told = () => `The token “${of.name}” was revoked`
  byCommand(db, of.person, { kind: 'token', told }, (tx, owner, now) => {
    if (revokeToken(tx, owner.id, of.name, now) === 0)
      throw new Refusal('not-found', `${of.person} has no token called “${of.name}”.`)
  })
}
