import { useState } from 'react'
import { listModelRevisions, type ModelSheet } from '#core/techniques/contract.ts'
import { linesOf } from '#core/techniques/lines.ts'
import { Button } from '#ui/kit/Button.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { ago } from '#ui/shell/people.ts'
import css from './Drafting.module.css'
import type { OwnModel } from './useModel.ts'

/** Earlier revisions of the model, each of which can be put back; that makes a new revision. */
export function Revisions({
  sheet,
  onPutBack,
  disabled,
}: {
  sheet: ModelSheet
  onPutBack: OwnModel['putBack']
  disabled: boolean
}) {
  const [open, setOpen] = useState(false)
  const { key } = useHere()
  const { data } = useAnswer(listModelRevisions, { params: { key, id: sheet.id }, query: {} }, { enabled: open })
  return (
    <Pop title="Revisions" label="revisions" open={open} onOpen={setOpen}>
      <ul className={css['revisions']}>
        {data?.rows.map(({ revision, model, at, by }, index) => {
          const now = new Set(Object.values(linesOf(data.rows[index - 1]?.model ?? model)).flat())
          const then = Object.values(linesOf(model)).flat()
          const gone = then.filter((line) => !now.has(line))
          const added = [...now].filter((line) => !then.includes(line))
          return (
            <li key={revision}>
              <p>
                <b>{revision}</b> {by ?? 'somebody'}, {ago(at)}{' '}
                {index > 0 && !disabled && (
                  <Button
                    look="word"
                    onClick={() => {
                      onPutBack(model)
                      setOpen(false)
                      notify(`Revision ${revision} is put back as a new one.`)
                    }}
                  >
                    put back
                  </Button>
                )}
              </p>
              {index > 0 && (
                <p className="quiet">
                  {[...gone.map((line) => `− ${line.trim()}`), ...added.map((line) => `+ ${line.trim()}`)]
                    .slice(0, 6)
                    .join(' · ') || 'no line differs'}
                </p>
              )}
            </li>
          )
        })}
      </ul>
    </Pop>
  )
}
