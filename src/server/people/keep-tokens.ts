import { createHash, randomBytes } from 'node:crypto'
import { Refusal } from '#core/lib/refusal.ts'
import type { TokenScope } from '#core/people/token.ts'
import { addSecurityEvent } from '#db/people/security.ts'
import { addToken, revokeToken, tokensOf } from '#db/people/tokens.ts'
import { findPersonByName } from '#db/people/people.ts'
import { findProject } from '#db/projects/projects.ts'
import type { Db, Tx } from '#db/open.ts'

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
  const token = `rvt_${randomBytes(24).toString('base64url')}`
  addToken(tx, {
    personId: owner.id,
    projectId: of.projectId,
    name: of.name,
    hash: createHash('sha256').update(token).digest('hex'),
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
  return byCommand(db, of.person, `The token “${name}” was made for ${scope}`, (owner, now) =>
    newToken(db, owner, now, { name, scope, days, projectId: project?.id ?? null }),
  )
}

export function dropToken(db: Db, of: { readonly person: string; readonly name: string }): void {
  byCommand(db, of.person, `The token “${of.name}” was revoked`, (owner, now) => {
    if (revokeToken(db, owner.id, of.name, now) === 0)
      throw new Refusal('not-found', `${of.person} has no token called “${of.name}”.`)
  })
}

/** Does something to somebody named on the command line, and writes it down. */
function byCommand<T>(db: Db, named: string, told: string, work: (owner: Owner, now: number) => T): T {
  const owner = findPersonByName(db, named)
  if (!owner) throw new Refusal('not-found', `There is nobody called ${named} here.`)
  const at = Date.now()
  return db.transaction((tx) => {
    const value = work(owner, at)
    const about = { personId: owner.id, byId: null, projectId: null, address: 'command line' }
    addSecurityEvent(tx, { ...about, at, kind: 'token', told })
    return value
  })
}
