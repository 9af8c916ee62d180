import { keyOf } from '#core/lib/key.ts'
import { waitState } from '#core/runs/waits.ts'
import type { NextBest, readNextBest as contract } from '#core/schedule/contract.ts'
import { openRunsFor } from '#db/schedule/team.ts'
import { waitsOfRun } from '#db/runs/waits.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { worthIn } from './line-over.ts'
import { runNamed } from './team-days.ts'

/** What is worth most for its minutes, of all that somebody may execute now: theirs or nobody's, and waiting for nothing. */
export async function readNextBest(
  context: OpenContext,
  { query }: Input<typeof contract>,
): Promise<Answer<typeof contract>> {
  const { tx, project, person } = context
  let best: NextBest['best'] = null
  let [most, among] = [-1, 0]
  for (const number of openRunsFor(tx, project.id, person.id)) {
    const run = runNamed(tx, project, number)
    const waits = waitsOfRun(tx, run.id)
    for (const item of (await worthIn(context, run)).items) {
      const isTheirs = item.assignee === person.id
      if ((!isTheirs && item.assignee !== null) || item.id === query.not || item.held === 'below') continue
      if (waitState(waits.get(item.id) ?? [], item.verdict) === 'waiting') continue
      among++
      const worth = item.share * item.chance
      const each = worth / Math.max(1, item.minutes)
      if (each <= most) continue
      most = each
      best = {
        item: item.id,
        run: keyOf('run', number),
        case: item.key,
        title: item.title,
        environment: item.environmentName,
        minutes: item.minutes,
        worth,
        why: item.why,
        free: !isTheirs,
      }
    }
  }
  return { best, among }
}
