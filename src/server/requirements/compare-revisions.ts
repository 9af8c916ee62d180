import { keyOf } from '#core/lib/key.ts'
import type { compareRevisions as compareContract, listRevisions as listContract } from '#core/requirements/contract.ts'
import { plainText } from '#core/lib/plain-text.ts'
import { wordDiff } from '#core/lib/word-diff.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { findRequirement, revisionsOf } from '#db/requirements/requirements.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

const revisions = (context: Context, number: number) =>
  revisionsOf(
    context.tx,
    found(findRequirement(context.tx, context.project.id, number), keyOf('requirement', number)).id,
  )

export const listRevisions = (
  context: Context,
  { params }: Input<typeof listContract>,
): Answer<typeof listContract> => ({
  rows: revisions(context, params.ref).map(({ revision, title, at, by }) => ({ revision, title, at, by })),
})

export function compareRevisions(
  context: Context,
  { params, query }: Input<typeof compareContract>,
): Answer<typeof compareContract> {
  const all = revisions(context, params.ref)
  const [from, to] = [query.from, query.to].map((wanted) => {
    const there = all.find(({ revision }) => revision === wanted)
    if (!there)
      throw new Refusal(
        'not-found',
        `${keyOf('requirement', params.ref)} has no revision ${wanted}; it has ${all.length}.`,
      )
    return there
  })
  if (!from || !to) throw new Refusal('invalid', 'Two revisions are compared.')
  const side = ({ revision, at, by }: typeof from) => ({ revision, at, by })
  return {
    from: side(from),
    to: side(to),
    title: wordDiff(from.title, to.title),
    text: wordDiff(plainText(from.text), plainText(to.text)),
  }
}
