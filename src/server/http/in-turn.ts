import { Refusal } from '#core/lib/refusal.ts'
import type { Context } from './context.ts'
import { atOnce, goingFor, inSlices } from './going.ts'
import type { OpenContext } from './route.ts'

/** What follows from an act for many things: whom it goes for, and what is done to each, which has to bear being done a second time. */
interface Following<T> {
  readonly all: readonly T[]
  readonly step: (inside: Context, each: T) => void
}

/**
 * An act and what follows from it. A few are done in one transaction with the act; more one after the other once it is stored, so
 * that nobody waits for them and whoever asked may stop them. `stopped` says why it ended before all were done; what is done stays.
 */
export async function withFollowing<A, T>(
  context: OpenContext,
  act: (inside: Context) => A,
  following: Following<T>,
): Promise<{ readonly made: A; readonly stopped: string | null }> {
  const few = following.all.length <= atOnce
  const made = context.store((inside) => {
    const answer = act(inside)
    if (few) for (const each of following.all) following.step(inside, each)
    return answer
  })
  return { made, stopped: few ? null : await inTurn(context, following) }
}

async function inTurn<T>(context: OpenContext, { all, step }: Following<T>): Promise<string | null> {
  const going = goingFor(context, context.project.id)
  let done = 0
  try {
    await inSlices(
      all.length,
      context.store,
      (inside, at) => {
        const each = all[at]
        if (each !== undefined) step(inside, each)
      },
      {
        before: () => {
          if (going.stopped()) throw new Refusal('refused', 'It was stopped.')
        },
        after: (n) => {
          done = n
          going.report(n, all.length)
        },
      },
    )
    return null
  } catch (error) {
    if (!(error instanceof Refusal)) context.services.logError(error)
    return `It ended after ${done} of ${all.length}; do it again for the rest.`
  } finally {
    going.end()
  }
}
