import type { Tx } from '#db/open.ts'
import { itemsToExecute } from '#db/installation/sample-runs.ts'
import { setTags } from '#db/projects/fields.ts'
import { saveTable, tableNamed } from '#db/reuse/data-tables.ts'
import { saveItem } from '#db/runs/items.ts'
import { addQuarantine } from '#db/runs/quarantine.ts'
import { findRun, saveRun } from '#db/runs/runs.ts'
import { addWait } from '#db/runs/waits.ts'
import { tell } from '#db/talk/inbox.ts'
import { keyOf } from '#core/lib/key.ts'
import { isOpen, isRepaired, defectStates } from '#core/defects/state.ts'
import { day, hour } from '../standins/crossing-desk/clock.ts'
import type { Frame } from './fill.ts'

const tags: Readonly<Record<number, readonly string[]>> = {
  1: ['regression', 'summer'],
  2: ['regression', 'summer'],
  3: ['regression'],
  4: ['regression'],
  5: ['regression', 'release'],
  6: ['smoke'],
}

const aims: Readonly<Record<number, string>> = {
  3: 'Find out whether the new fares hold before they are announced.',
  4: 'All of it once on what may be shipped, the phones included.',
  5: 'Whatever failed or was changed since rc1, and all that carries much risk.',
  6: 'Can one book, pay and board on Gecko at all?',
}

/** What waits for what in the run that is open, what does not count, and what two have to agree about. */
export function fillOrder(tx: Tx, { projectId }: Frame, now: number): void {
  const runId = (number: number) => findRun(tx, projectId, number)?.id ?? 0
  for (const [number, words] of Object.entries(tags)) setTags(tx, projectId, 'run', runId(Number(number)), words)
  for (const [number, aim] of Object.entries(aims)) saveRun(tx, runId(Number(number)), { aim })
  const repaired = defectStates.filter(isRepaired)
  const open = defectStates.filter((state) => isOpen(state) && !isRepaired(state))
  const regression = runId(5)
  const freed = waits(tx, regression, { states: repaired, most: 3, at: now - 2 * day })
  waits(tx, regression, { states: open, most: 2, at: now - day })
  for (const { person } of freed)
    if (person !== null)
      tell(tx, {
        projectId,
        personId: person,
        kind: 'freed',
        ref: keyOf('run', 5),
        text: 'An item of yours waits no more: its defect is ready to retest.',
        fromId: 'ilo',
        at: now - 3 * hour,
      })
  const [judged, flickers] = itemsToExecute(tx, regression, []).slice(-2)
  if (!judged || !flickers) throw new Error('the demo has nothing left to execute')
  saveItem(tx, judged.item, { people: 3, passes: 2 })
  addQuarantine(
    tx,
    { case: flickers.case, environment: flickers.environment, reason: 'The bench answers late after midnight' },
    { personId: 'mira', at: now - day },
  )
  const cards = tableNamed(tx, projectId, 'Cards the bank accepts')
  if (cards) saveTable(tx, cards.id, { usedUp: true })
}

/** Items wait for a defect of their case in one of these states. */
function waits(tx: Tx, runId: number, of: { states: readonly string[]; most: number; at: number }) {
  const items = itemsToExecute(tx, runId, of.states)
    .filter(({ defect }) => defect !== null)
    .slice(0, of.most)
  for (const { item, defect } of items) addWait(tx, { item, defect, other: null }, { personId: 'ansa', at: of.at })
  return items
}
