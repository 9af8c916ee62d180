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

/** A writing request in one transaction; with an Idempotency-Key the answer is kept, and given again to the same request. */
export function storeOnce(
  asked: Asked,
  { contract, text }: { readonly contract: Contract; readonly text: string },
  work: (context: Context) => unknown,
): Response {
  const key = asked.request.headers.get('idempotency-key')
  if (key === null) return replyText(transact(asked, (context) => answerText(contract, work(context))))
  if (key.length > 200) throw new Refusal('invalid', 'An Idempotency-Key has at most 200 characters.')
  const request = `${contract.method} ${asked.url.pathname}${asked.url.search}`
  const bodyHash = createHash('sha256').update(text).digest('hex')
  const answer = transact(asked, (context) => {
    const before = findIdempotent(context.tx, asked.person.id, key)
    if (before && (before.request !== request || before.bodyHash !== bodyHash))
      throw new Refusal(
        'key-reused',
        'This Idempotency-Key was used for another request; nothing was stored. Use a new key.',
      )
    if (before) return before.answer
    const made = answerText(contract, work(context))
    addIdempotent(context.tx, {
      personId: asked.person.id,
      key,
      request,
      bodyHash,
      status: 200,
      answer: made,
      at: context.now,
    })
    return made
  })
  return replyText(answer)
}
