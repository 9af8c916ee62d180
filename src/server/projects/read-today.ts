import type { readToday as contract, Today } from '#core/projects/contract.ts'
import type { Tx } from '#db/open.ts'
import type { PersonRow } from '#db/people/people.ts'
import type { ProjectRow } from '#db/projects/projects.ts'
import { recentChanges, retestsFor, reviewsWaiting, sinceYesterday, todayLoad } from '#db/reports/counts.ts'
import { openItemsOf } from '#db/runs/items.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer } from '#server/http/route.ts'

export const readToday = ({ tx, project, person, now }: Context): Answer<typeof contract> =>
  todayOf(tx, project, person, now)

const day = 86_400_000
const shown = 30

export function todayOf(tx: Tx, project: ProjectRow, person: PersonRow, now: number): Today {
  const queue = openItemsOf(tx, project.id, person.id)
  return {
    queue: queue.slice(0, shown),
    queueTotal: queue.length,
    queueMinutes: queue.reduce((sum, { minutes }) => sum + minutes, 0),
    ...todayLoad(tx, project.id, person.id, startOfDay(now, project.timeZone)),
    retests: retestsFor(tx, project.id, person.id),
    reviews: reviewsWaiting(tx, project.id, person.id),
    changes: recentChanges(tx, project.id, now - day, 14),
    since: sinceYesterday(tx, project.id, now - day),
  }
}

/** The instant a day began in the project's time zone. */
function startOfDay(now: number, timeZone: string): number {
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone,
    hour: 'numeric',
    minute: 'numeric',
    second: 'numeric',
    hourCycle: 'h23',
  }).formatToParts(now)
  const at = (type: string) => Number(parts.find((part) => part.type === type)?.value ?? 0)
  return now - ((at('hour') * 60 + at('minute')) * 60 + at('second')) * 1000 - (now % 1000)
}
