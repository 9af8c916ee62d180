import { createHash } from 'node:crypto'
import type { Contract } from '#core/lib/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { addIdempotent, findIdempotent } from '#db/installation/answers.ts'
import type { Asked } from './asked.ts'
import { type Context, contextOf } from './context.ts'
import { answerText, replyText } from './reply.ts'

/** One transaction; who listens to the project is told of its changes once it is committed. */
export function transact<T>(asked: Pick<Asked, 'services' | 'parts'>, work: (context: Context) => T): T {
  const { services } = asked
  const [made, result] = services.db.transaction(
    (tx) => {
      const begun = contextOf(asked.parts(tx))
      const value = work(begun.context)
      return [begun, value] as const
    },
    { behavior: 'immediate' },
  )
  const here = { projectId: made.context.project.id, changes: made.changes }
  for (const { projectId, changes } of [here, ...made.elsewhere])
    if (changes.length > 0) services.events.publish(projectId, changes)
  made.secured.forEach(services.logSecurity)
  return result
}

interface OnceOf {
  readonly contract: Contract
  readonly text: string
}

/** A writing request in one transaction; with an Idempotency-Key the answer is kept, and given again to the same request. */
export function storeOnce(asked: Asked, of: OnceOf, work: (context: Context) => unknown): Response {
  const once = onceOf(asked, of)
  return replyText(
    transact(asked, (context) => {
      const before = once.before(context)
      if (before !== null) return before
      const made = answerText(of.contract, work(context))
      once.keep(context, made)
      return made
    }),
  )
}

/** The same for what takes many transactions: its answer is kept with the last. */
export async function storeOnceInParts(asked: Asked, of: OnceOf, work: () => Promise<unknown>): Promise<Response> {
  const once = onceOf(asked, of)
  const before = transact(asked, once.before)
  if (before !== null) return replyText(before)
  const made = answerText(of.contract, await work())
  transact(asked, (context) => once.keep(context, made))
  return replyText(made)
}

/** What was answered to this very request before, and a way to keep what is answered now. */
function onceOf(asked: Asked, { contract, text }: OnceOf) {
  const key = asked.request.headers.get('idempotency-key')
  if (key === null) return { before: () => null, keep: () => undefined }
  if (key.length > 200) throw new Refusal('invalid', 'An Idempotency-Key has at most 200 characters.')
  const request = `${contract.method} ${asked.url.pathname}${asked.url.search}`
  const bodyHash = createHash('sha256').update(text).digest('hex')
  return {
    before: ({ tx }: Context): string | null => {
      const before = findIdempotent(tx, asked.person.id, key)
      if (before && (before.request !== request || before.bodyHash !== bodyHash))
        throw new Refusal(
          'key-reused',
          'This Idempotency-Key was used for another request; nothing was stored. Use a new key.',
        )
      return before?.answer ?? null
    },
    keep: ({ tx, now }: Context, answer: string): void =>
      addIdempotent(tx, { personId: asked.person.id, key, request, bodyHash, status: 200, answer, at: now }),
  }
}
