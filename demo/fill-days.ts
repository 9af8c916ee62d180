import { testers } from './story/attempts.ts'
import type { Frame } from './fill.ts'
import { saveProject } from '#db/projects/projects.ts'
import { openWork } from '#db/schedule/worth.ts'
import { handsOf } from '#db/schedule/team.ts'
import { noChanges } from '#core/schedule/what-if-contract.ts'
import { addWhatIf } from '#db/schedule/what-if.ts'
import { putHolidays } from '#db/projects/holidays.ts'
import { putPlaces } from '#db/schedule/places.ts'
import { numberOf } from '#db/installation/samples.ts'
import { findRun } from '#db/runs/runs.ts'
import type { Tx } from '#db/open.ts'
import type { PlacedItem } from '#core/schedule/contract.ts'

/** Time that is short: a holiday, some of it kept for retests, and a plan of days in which one tester has too much. */
export function fillDays(tx: Tx, { projectId, date }: Frame, now: number): void {
  saveProject(tx, projectId, { switchMinutes: 10, reservePercent: 50 })
  putHolidays(tx, projectId, [{ day: date(2), name: 'Harbour day' }])
  const number = numberOf(tx, { kind: 'run', projectId, title: 'Rc2 regression' })
  const runId = number === null ? undefined : findRun(tx, projectId, number)?.id
  if (runId === undefined) return
  const days = [date(0), date(1)]
  const hands = new Map(
    handsOf(tx, { projectId, people: testers, runs: [runId], reservePercent: 50 }, days).map((hand) => [hand.id, hand]),
  )
  const open = openWork(tx, runId)
  const places: PlacedItem[] = []
  for (const person of testers) {
    const own = open.filter(({ assignee }) => assignee === person)
    // Friday ended sooner than Tobin thought.
    for (const { id, minutes } of person === 'tobin' ? own.splice(0, 2) : [])
      places.push({ item: id, person, day: date(-2), start: 0, minutes, pinned: false })
    days.forEach((day, at) => {
      const room = hands.get(person)?.minutes[at] ?? 0
      // Yusra said yes to something more.
      const saysYes = person === 'yusra' && at === 1
      let start = 0
      for (let item = own[0]; item; item = own[0]) {
        const end = start + item.minutes
        if (saysYes ? start > room * 1.1 : end > room * (0.8 + 0.05 * at)) break
        places.push({ item: item.id, person, day, start, minutes: item.minutes, pinned: end > room })
        start = end
        own.shift()
      }
    })
  }
  putPlaces(tx, places)
  addWhatIf(tx, {
    runId,
    name: 'Piet helps, two days more',
    changes: { ...noChanges, join: ['piet'], endOn: date(4) },
    personId: 'mira',
    createdAt: now,
  })
}
