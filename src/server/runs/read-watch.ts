import { dayIn } from '#core/lib/days.ts'
import { keyOf } from '#core/lib/key.ts'
import { isStalled } from '#core/runs/watch.ts'
import type { watchRun as contract } from '#core/runs/watch-contract.ts'
import { findRun } from '#db/runs/runs.ts'
import { attemptsGoing, workOf } from '#db/runs/watching.ts'
import { type Context, found } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'

/** So many who are at work are named; of more one is told how many. */
const mostNamed = 20

export function watchRun({ tx, project, now }: Context, { params }: Input<typeof contract>): Answer<typeof contract> {
  const run = found(findRun(tx, project.id, params.ref), keyOf('run', params.ref))
  const going = attemptsGoing(tx, run.id)
  const { of, done, ...minutes } = workOf(tx, run.id, dayIn(project.timeZone, now))
  return {
    now: going.slice(0, mostNamed).map(({ planned, ...each }) => ({
      ...each,
      stalled: isStalled(each.last, planned, now),
    })),
    nowCount: going.length,
    due: { of, done },
    minutes,
  }
}
