import type { Served } from '#core/lib/question.ts'
import { Refusal } from '#core/lib/refusal.ts'

/** An answer with the question it answers, or `null` where a rule refuses it: the page then asks again and says why in its place. */
export async function servedUnlessRefused<Answer>(
  asked: Served<Answer>['asked'],
  work: () => Answer | Promise<Answer>,
): Promise<Served<Answer> | null> {
  try {
    return { asked, answer: await work() }
  } catch (error) {
    if (error instanceof Refusal) return null
    throw error
  }
}
