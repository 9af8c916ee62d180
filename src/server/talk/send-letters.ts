import type { chooseLetters as chooseContract, readLetters as readContract } from '#core/talk/contract.ts'
import { noticeLetter } from '#core/talk/notice.ts'
import { type LetterDue, lettersDue, lettersWanted, noteLetter, wantLetters } from '#db/talk/letters.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import type { Services } from '#server/http/services.ts'

// Open, as it asks the services whether letters can leave at all.
export const readLetters = async ({ tx, person, services }: OpenContext): Promise<Answer<typeof readContract>> => ({
  kinds: lettersWanted(tx, person.id),
  mail: services.mail.isSetUp,
})

export function chooseLetters(
  { tx, person }: Context,
  { body }: Input<typeof chooseContract>,
): Answer<typeof chooseContract> {
  wantLetters(tx, person.id, body.kinds)
  return { ok: true }
}

const minute = 60_000
/** Later than this nobody wants it any more, in ms. */
const tooOld = 3 * 24 * 60 * minute
const atOneGo = 50

/** Sends the letters that are due; one that does not leave is tried again after 1, 2, 4 … minutes, for three days. Answers how many left. */
export async function sendLetters(
  services: Pick<Services, 'db' | 'mail' | 'now' | 'baseAddress' | 'logError'>,
): Promise<number> {
  let sent = 0
  for (const due of lettersDue(services.db, services.now(), atOneGo)) {
    if (due.idle || services.now() - due.at > tooOld) noteLetter(services.db, due.id, { dueAt: null })
    else if (services.mail.isSetUp && (await send(services, due))) sent += 1
  }
  return sent
}

async function send(
  { db, mail, now, baseAddress, logError }: Parameters<typeof sendLetters>[0],
  due: LetterDue,
): Promise<boolean> {
  try {
    await mail.send(noticeLetter(due, baseAddress))
    noteLetter(db, due.id, { dueAt: null, sentAt: now(), problem: '' })
    return true
  } catch (error) {
    logError(error)
    const problem = error instanceof Error ? error.message.slice(0, 300) : String(error)
    noteLetter(db, due.id, { dueAt: now() + 2 ** Math.min(due.tries, 8) * minute, tries: due.tries + 1, problem })
    return false
  }
}
