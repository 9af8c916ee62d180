import { type Drafting, tickChecklist, writeChecklist } from '#core/techniques/contract.ts'
import { keyShape } from '#core/lib/shapes.ts'
import { EditText } from '#ui/kit/EditText.tsx'
import { Lines } from '#ui/kit/Lines.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './Drafting.module.css'

/** What to test that no technique models: free lines, ticked when done, with the case that does it. */
export function Checklist({ of, disabled }: { of: Drafting; disabled: boolean }) {
  const { key } = useHere()
  const ticking = useWrite(tickChecklist)
  const writing = useWrite(writeChecklist)
  const set = (id: number, body: { text?: string; done?: boolean; case?: string | null; deleted?: boolean }) =>
    ticking.attempt({ params: { key, id }, body })
  const setCase = async (id: number, text: string) => {
    if (text !== '' && !keyShape('case').safeParse(text).success)
      return notify('A case is named by its key, such as TC-12.', { tone: 'problem' })
    await set(id, { case: text === '' ? null : text })
  }
  return (
    <section className={css['checklist']}>
      <div className={css['partHead']}>
        <h2>Also to test</h2>
        <span className="quiet">
          {of.checklist.length > 0 &&
            `${of.checklist.filter(({ done }) => done).length} of ${of.checklist.length} done`}
        </span>
      </div>
      <ul>
        {of.checklist.map((entry) => (
          <li key={entry.id} data-done={entry.done || undefined}>
            <input
              type="checkbox"
              checked={entry.done}
              disabled={disabled}
              aria-label={`Done: ${entry.text}`}
              onChange={({ target }) => void set(entry.id, { done: target.checked })}
            />
            <EditText
              label="Text of the entry"
              value={entry.text}
              disabled={disabled}
              onStore={(text) => text && void set(entry.id, { text })}
            />
            <EditText
              label={`Case for ${entry.text}`}
              value={entry.case ?? ''}
              placeholder="case"
              disabled={disabled}
              onStore={(text) => void setCase(entry.id, text.toUpperCase())}
            />
            {!disabled && (
              <button
                type="button"
                className={css['act']}
                aria-label={`Take away ${entry.text}`}
                onClick={async () => {
                  if (await set(entry.id, { deleted: true }))
                    notify('The entry is taken away.', { undo: () => void set(entry.id, { deleted: false }) })
                }}
              >
                ×
              </button>
            )}
          </li>
        ))}
      </ul>
      {!disabled && (
        <Lines
          label="Add to the checklist"
          placeholder="What else to test, a line each"
          action="Add"
          rows={2}
          onStore={async (lines) =>
            (await writing.attempt({ params: { key, ref: of.requirement.key }, body: { lines } })) !== null
          }
        />
      )}
    </section>
  )
}
