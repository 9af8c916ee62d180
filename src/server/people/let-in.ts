import type { Db } from '#db/open.ts'
import { dropFactor, type PersonRow, updatePersonRow } from '#db/people/people.ts'
import { byCommand } from './by-command.ts'
import { makeLinkFor } from './password-links.ts'

/**
 * The way in for who stands outside and can reach the machine alone: a one-time link for a new password, with the second factor
 * taken away, and, asked for, the rights of an administrator. Answers the path the link has behind the address of the installation.
 */
export function letIn(db: Db, of: { readonly person: string; readonly administrator: boolean }): string {
  const told = ({ name }: PersonRow) =>
    `A link for ${name} was made${of.administrator ? ', who is an administrator now' : ''}; their second factor was taken away`
  return byCommand(db, of.person, { kind: 'password', told, who: ' who has access' }, (tx, { id }, now) => {
    dropFactor(tx, id)
    if (of.administrator) updatePersonRow(tx, id, { administrator: true })
    return makeLinkFor({ tx, by: { now, personId: null } }, id, 'password')
  })
}
