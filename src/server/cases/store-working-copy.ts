import { keyOf } from '#core/lib/key.ts'
import type { storeWorkingCopy as contract } from '#core/cases/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { findCase, saveCase } from '#db/cases/cases.ts'
import { readContent, workingCopy, writeContent } from '#db/cases/versions.ts'
import { ownStepIds } from '#db/cases/uses.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { cleanedContent, contentAnswer } from './content.ts'
import { stampOf } from './rewrite-case.ts'

/** Stores the working copy as it is typed. It is refused when somebody else's typing came between: theirs is answered. */
export function storeWorkingCopy(context: Context, { params, body }: Input<typeof contract>): Answer<typeof contract> {
  const { tx, project, now } = context
  const stored = found(findCase(tx, project.id, params.ref), keyOf('case', params.ref))
  const working = workingCopy(tx, stored.id)
  if (working.fingerprint !== body.stamp)
    throw new Refusal(
      'conflict',
      `Somebody changed the steps of ${keyOf('case', params.ref)} while you were writing. Yours are kept here; look at theirs, then store again.`,
      { current: { content: contentAnswer(readContent(tx, working)), stamp: working.fingerprint } },
    )
  const known = ownStepIds(tx, stored.id)
  for (const { id } of body.content.steps)
    if (id !== null && !known.delete(id))
      throw new Refusal('invalid', 'A step belongs to another case, or stands here twice; nothing was stored.')
  const content = cleanedContent(context, { ref: keyOf('case', params.ref), id: stored.id }, body.content)
  const stamp = stampOf(content)
  if (stamp !== working.fingerprint || content.steps.some(({ id }) => id === null)) {
    writeContent(tx, { id: working.id, caseId: stored.id }, content, stamp)
    saveCase(tx, stored.id, { steps: content.steps.length, updatedAt: now })
    context.change({ kind: 'case', id: stored.id, ref: keyOf('case', stored.number), action: 'written' })
  }
  return { content: contentAnswer(readContent(tx, workingCopy(tx, stored.id))), stamp, at: now }
}
