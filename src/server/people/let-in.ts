import { createHash, randomBytes } from 'node:crypto'
import { linkLasts } from '#core/people/link.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { Db } from '#db/open.ts'
import { addLink } from '#db/people/links.ts'
import { dropFactor, findPersonByName, updatePersonRow } from '#db/people/people.ts'
import { addSecurityEvent } from '#db/people/security.ts'

/**
 * The way in for who stands outside and can reach the machine alone: a one-time link for a new password, with the second factor
 * taken away, and, asked for, the rights of an administrator. Answers the path the link has behind the address of the installation.
 */
export function letIn(db: Db, of: { readonly person: string; readonly administrator: boolean }): string {
  const person = findPersonByName(db, of.person)
  if (!person) throw new Refusal('not-found', `There is nobody called ${of.person} here who has access.`)
  const now = Date.now()
  const secret = randomBytes(24).toString('base64url')
  const hash = createHash('sha256').update(secret).digest('hex')
  db.transaction((tx) => {
    const createdAt = now
    addLink(tx, {
      hash,
      personId: person.id,
      purpose: 'password',
      madeBy: null,
      createdAt,
      endsAt: now + linkLasts.password,
    })
    dropFactor(tx, person.id)
    if (of.administrator) updatePersonRow(tx, person.id, { administrator: true })
    addSecurityEvent(tx, {
      at: now,
      kind: 'password',
      told: `A link for ${person.name} was made${of.administrator ? ', who is an administrator now' : ''}; their second factor was taken away`,
      personId: person.id,
      byId: null,
      projectId: null,
      address: 'command line',
    })
  })
  return `/password#${secret}`
}
