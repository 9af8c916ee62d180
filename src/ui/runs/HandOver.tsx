import type { RunSheet } from '#core/runs/contract.ts'
import { isFinal, verdicts } from '#core/lib/verdict.ts'
import { sentenceOf } from '#ui/call.ts'
import { notify } from '#ui/kit/notices.tsx'
import { SetTo } from '#ui/list/SetTo.tsx'
import { useHere } from '#ui/shell/here.ts'
import { peopleOptions } from '#ui/shell/people.ts'
import type { Items } from './items.tsx'
import { itemsOfRun } from './slots-of-run.ts'

const open = verdicts.filter((verdict) => !isFinal(verdict))

/** Gives all that somebody has left in the run to somebody else, or leaves it free to take. */
export function HandOver({ of, from, items }: { of: RunSheet; from: RunSheet['team'][number]; items: Items }) {
  const { key, project } = useHere()
  const give = async (to: string) => {
    const filter = JSON.stringify({
      all: [
        { field: 'assignee', op: 'is', values: [from.name] },
        { field: 'verdict', op: 'is', values: open },
      ],
    })
    try {
      // By who it is: two may have the same name.
      const rows = (await itemsOfRun(key, of.key, filter)).filter(({ assigneeId }) => assigneeId === from.id)
      const ids = rows.map(({ id }) => id)
      if (ids.length > 0) await items.set(ids, { assigneeId: to || null })
    } catch (error) {
      notify(sentenceOf(error), { tone: 'problem' })
    }
  }
  if (project.role !== 'lead') return null
  return (
    <SetTo
      label={`Hand over what ${from.name} has left`}
      words="hand over"
      options={peopleOptions(project).filter(({ value }) => value !== from.id)}
      onSet={(to) => void give(to)}
    />
  )
}
