import type { readToday as contract, Today } from '#core/projects/contract.ts'
import { dayIn, startOfDay } from '#core/lib/days.ts'
import { isSample } from '#db/installation/samples.ts'
import type { Tx } from '#db/open.ts'
import { versionsAskedOf } from '#db/plans/versions.ts'
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
    ...todayLoad(tx, project.id, person.id, {
      dayStart: startOfDay(project.timeZone, now),
      today: dayIn(project.timeZone, now),
    }),
    retests: retestsFor(tx, project.id, person.id),
    reviews: [
      ...versionsAskedOf(tx, project.id, person.id).map((each) => ({ ...each, version: String(each.version) })),
      ...reviewsWaiting(tx, project.id, person.id),
    ],
    changes: recentChanges(tx, project.id, now - day, 14),
    since: sinceYesterday(tx, project.id, now - day),
    sample: isSample(tx, project.id),
  }
}
