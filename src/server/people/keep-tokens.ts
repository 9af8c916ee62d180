import { createHash, randomBytes } from 'node:crypto'
import { Refusal } from '#core/lib/refusal.ts'
import type { TokenScope } from '#core/people/token.ts'
import { addToken, revokeToken } from '#db/people/tokens.ts'
import { findPersonByName } from '#db/people/people.ts'
import { findProject } from '#db/projects/projects.ts'
import type { Db } from '#db/open.ts'

const day = 86_400_000

function personNamed(db: Db, name: string) {
  const person = findPersonByName(db, name)
  if (!person) throw new Refusal('not-found', `There is nobody called ${name} here.`)
  return person
}

interface TokenAsked {
  readonly person: string
  readonly name: string
  readonly project?: string
  readonly scope?: TokenScope
  /** After so many days it ends; left out: it does not. */
  readonly days?: number
}

/** A new token of a person; only its hash is kept. */
export function createToken(db: Db, of: TokenAsked): string {
  const person = personNamed(db, of.person)
  const project = of.project === undefined ? undefined : findProject(db, of.project)
  if (of.project !== undefined && !project)
    throw new Refusal('not-found', `There is no project ${of.project} in this data directory.`)
  const now = Date.now()
  const token = `rvt_${randomBytes(24).toString('base64url')}`
  addToken(db, {
    personId: person.id,
    projectId: project?.id ?? null,
    name: of.name,
    hash: createHash('sha256').update(token).digest('hex'),
    scope: of.scope ?? 'write',
    createdAt: now,
    endsAt: of.days === undefined ? null : now + of.days * day,
  })
  return token
}

export function dropToken(db: Db, of: { person: string; name: string }): void {
  if (revokeToken(db, personNamed(db, of.person).id, of.name, Date.now()) === 0)
    throw new Refusal('not-found', `${of.person} has no token called “${of.name}”.`)
}
