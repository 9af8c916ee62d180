import { dayAfter, dayNumber } from '#core/lib/days.ts'
import { todayIn } from '#ui/kit/moment.ts'
import { counted } from '#core/lib/figures.ts'
import { createRun, listRuns, readRun } from '#core/runs/contract.ts'
import { deleteRuns } from '#core/runs/shape-contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useGoing } from '#ui/shell/going.ts'
import { useHere } from '#ui/shell/here.ts'
import { slotsOfRun } from './slots-of-run.ts'

/** Opens a run like each of these, planned from today for as long: the same items, people and rules, and nothing executed. */
export function useCopying(): (ids: readonly number[]) => Promise<void> {
  const { key, project } = useHere()
  const making = useWrite(createRun)
  const deleting = useWrite(deleteRuns)
  const going = useGoing()
  const copy = async (ref: string): Promise<number | null> => {
    const of = await call(readRun, { params: { key, ref } })
    const length = dayNumber(of.endOn) - dayNumber(of.startOn)
    const made = await making.attempt({
      params: { key },
      body: {
        title: `${of.title}, again`.slice(0, 200),
        aim: of.aim,
        dataRows: of.dataRows,
        build: of.buildId,
        items: await slotsOfRun(key, ref),
        people: of.team.map(({ id }) => id),
        startOn: todayIn(project),
        endOn: dayAfter(todayIn(project), length),
        state: 'Planned',
        policy: of.ownPolicy ? of.policy : null,
      },
    })
    return made?.id ?? null
  }
  return async (ids) => {
    const filter = JSON.stringify({ field: 'id', op: 'is', values: ids })
    const made: number[] = []
    try {
      await going(`Copying ${counted(ids.length, 'run')} …`, async () => {
        const { rows } = await call(listRuns, { params: { key }, query: { filter, limit: 200 } })
        for (const run of rows) {
          const id = await copy(run.key)
          if (id !== null) made.push(id)
        }
      })
    } catch (error) {
      notify(sentenceOf(error), { tone: 'problem' })
    }
    if (made.length > 0)
      notify(`${counted(made.length, 'run')} planned like ${made.length === 1 ? 'it' : 'them'}.`, {
        undo: () => void deleting.attempt({ params: { key }, body: { ids: made } }),
      })
  }
}
