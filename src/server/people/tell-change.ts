import type { Letter } from '#core/integrations/mail.ts'
import { knownPerson } from '#db/people/people.ts'
import type { OpenContext } from '#server/http/route.ts'

interface ChangeOf {
  readonly name: string
  readonly email: string
  readonly what: string
  readonly at: number
  readonly address: string
}

const changeLetter = ({ name, email, what, at, address }: ChangeOf): Letter => ({
  to: { name, address: email },
  subject: 'How you come into Rovant was changed',
  text: [
    `Hello ${name},`,
    `${what}, on ${new Date(at).toISOString().slice(0, 16).replace('T', ' at ')} UTC, from ${address || 'an address that is not known'}.`,
    'If that was you, there is nothing to do. If not, tell an administrator at once, and ask for a new password on the page of sign-in: that ends all your sign-ins.',
  ].join('\n\n'),
})

/** Tells a person by letter that how they come in was changed; not waited for, and where no mail leaves the security events alone tell it. */
export function tellOfChange(
  { services, tx, now, address }: Pick<OpenContext, 'services' | 'tx' | 'now' | 'address'>,
  personId: string,
  what: string,
): void {
  const person = knownPerson(tx, personId)
  if (!services.mail.isSetUp || !person) return
  const letter = changeLetter({ name: person.name, email: person.email, what, at: now, address })
  void services.mail.send(letter).catch(services.logError)
}
