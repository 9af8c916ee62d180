import { dayIn } from '#core/lib/days.ts'
import { keyOf } from '#core/lib/key.ts'
import { nobody } from '#db/people/people.ts'
import { findProjectById } from '#db/projects/projects.ts'
import { isExecuted, type RunToClose, runsThatClose } from '#db/runs/closing.ts'
import { owingItems } from '#db/runs/owed.ts'
import { runById, saveRun } from '#db/runs/runs.ts'
import { type Context, contextOf } from '#server/http/context.ts'
import type { Services } from '#server/http/services.ts'

/** A run in which all is executed closes when nothing was said in it for so long, in ms: the last verdict may still be taken back. */
export const quietFor = 10 * 60_000

/** Closes the runs whose policy says that they close by themselves; meant to be called every minute. Answers how many. */
export function closeRuns({ db, events, now }: Pick<Services, 'db' | 'events' | 'now'>): number {
  let closed = 0
  for (const due of runsThatClose(db)) {
    const project = findProjectById(db, due.projectId)
    const at = now()
    if (!project || !isDue(due, dayIn(project.timeZone, at))) continue
    const changes = db.transaction(
      (tx) => {
        const made = contextOf({ tx, now: at, person: nobody, project, role: 'lead', expected: 0, limit: null })
        close(made.context, due)
        return made.changes
      },
      { behavior: 'immediate' },
    )
    if (changes.length === 0) continue
    closed += 1
    events.publish(project.id, changes)
  }
  return closed
}

const isDue = ({ closes, endOn }: RunToClose, today: string): boolean =>
  closes === 'when all is executed' || endOn < today

function close({ tx, now, change }: Context, { id, closes }: RunToClose): void {
  const run = runById(tx, id)
  if (run?.state !== 'Open') return
  if (closes === 'when all is executed' && (!isExecuted(tx, id, now - quietFor) || owingItems(tx, id, null).length > 0))
    return
  const reason = closes === 'at its end' ? 'its last day is over' : 'all is executed'
  saveRun(tx, id, {
    state: 'Closed',
    closedAt: now,
    endedReason: `By its policy: ${reason}.`,
    version: run.version + 1,
    updatedAt: now,
  })
  change({
    kind: 'run',
    id,
    ref: keyOf('run', run.number),
    action: 'closed',
    detail: { reason: [null, reason] },
  })
}
