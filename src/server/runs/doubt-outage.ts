import type { doubtOutage as contract } from '#core/projects/environments-contract.ts'
import { attemptsInOutage, environmentById, outageById, type OutageStored } from '#db/projects/environments.ts'
import { doubtAttempt, findAttempt } from '#db/runs/attempts.ts'
import { type Context, found } from '#server/http/context.ts'
import { withFollowing } from '#server/http/in-turn.ts'
import type { Answer, Input, OpenContext } from '#server/http/route.ts'
import { refreshStanding } from './refresh-standing.ts'

/** All attempts that ended in an outage are doubted in one act, or believed again; each stays readable with its verdict. */
export async function doubtOutage(
  context: OpenContext,
  { params, body: { doubt } }: Input<typeof contract>,
): Promise<Answer<typeof contract>> {
  const outage = found(outageById(context.tx, context.project.id, params.id), 'That outage')
  const attempts = attemptsInOutage(context.tx, outage.id, !doubt)
  if (attempts.length === 0) return { attempts: 0, stopped: null }
  const doubted = (inside: Context) => {
    const name = environmentById(inside.tx, inside.project.id, outage.environmentId)?.name ?? ''
    inside.change({
      kind: 'environment',
      id: outage.environmentId,
      ref: name,
      action: doubt ? 'outage doubted' : 'outage believed',
      detail: { attempts: [null, attempts.length] },
    })
  }
  const step = (inside: Context, id: number) => say(inside, id, doubt ? outage : null)
  const { stopped } = await withFollowing(context, doubted, { all: attempts, step })
  return { attempts: attempts.length, stopped }
}

function say(inside: Context, id: number, outage: OutageStored | null): void {
  const own = findAttempt(inside.tx, inside.project.id, id)
  if (!own || (own.doubt !== null) === (outage !== null)) return
  const doubt = outage && (outage.reason === '' ? 'made in an outage' : `made in an outage: ${outage.reason}`)
  doubtAttempt(inside.tx, id, doubt)
  refreshStanding(inside.tx, own)
  inside.change({
    kind: 'attempt',
    id,
    ref: String(own.itemId ?? id),
    action: doubt === null ? 'believed again' : 'doubted',
    detail: { doubt: [own.doubt, doubt] },
  })
}
