import { Refusal } from '#core/lib/refusal.ts'
import { passwordOf } from '#db/people/people.ts'
import { isPassword } from '#server/http/sign-in.ts'
import type { OpenContext } from '#server/http/route.ts'

/** The list is large: it is loaded when somebody first chooses a password. */
let listed: Promise<ReadonlySet<string>> | null = null
const commonOnes = (): Promise<ReadonlySet<string>> =>
  (listed ??= import('@zxcvbn-ts/language-common').then(
    ({ dictionary }) => new Set(dictionary['passwords-common'].map((each) => String(each).toLowerCase())),
  ))

/**
 * Refuses a password that many people use: one of the list, or one that is a few of its signs over and over.
 * OWASP ASVS 4.0.3, 2.1.7.
 */
export async function refuseCommon(password: string): Promise<void> {
  const plain = password.toLowerCase()
  const common = await commonOnes()
  if (!common.has(plain) && !isRepeated(plain, common)) return
  throw new Refusal('invalid', 'Many people use this password, so it is the first to be guessed. Choose another one.', {
    fields: [{ field: 'password', message: 'is used by many people' }],
  })
}

/** `abcabcabcabc`, or a common password written twice. */
function isRepeated(password: string, common: ReadonlySet<string>): boolean {
  for (let length = 1; length <= password.length / 2; length++)
    if (password.length % length === 0) {
      const part = password.slice(0, length)
      if (part.repeat(password.length / length) === password && (length <= 4 || common.has(part))) return true
    }
  return false
}

/** Whoever changes how they come in, or makes a key to come in by, types their password again: a page left open is not them. */
export async function askOwnPassword(
  { services, person, address, store }: Pick<OpenContext, 'services' | 'person' | 'address' | 'store'>,
  password: string,
): Promise<void> {
  const stored = passwordOf(services.db, person.id)
  const right = await services.guesses.guess({
    account: person.email,
    address,
    look: async () => stored !== null && (await isPassword(stored, password)),
    right: (is) => is,
  })
  if (right) return
  store((context) => context.secure({ kind: 'sign-in failed', told: `${person.name} typed a wrong password` }))
  throw new Refusal('invalid', 'That is not your password; nothing was changed.', {
    fields: [{ field: 'password', message: 'is not your password' }],
  })
}
