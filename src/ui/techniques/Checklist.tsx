import { type Drafting, tickChecklist, writeChecklist } from '#core/techniques/contract.ts'
import type { BodyOf } from '#core/lib/contract.ts'
import { keyShape } from '#core/lib/shapes.ts'
import { EditText } from '#ui/kit/EditText.tsx'
import { Lines } from '#ui/kit/Lines.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './Drafting.module.css'

type Entry = Drafting['checklist'][number]
type Edit = BodyOf<typeof tickChecklist>

/** What to test that no technique models: free lines, ticked when done, with the case that does it. */
export function Checklist({ of, disabled }: { of: Drafting; disabled: boolean }) {
  const { key } = useHere()
  const ticking = useWrite(tickChecklist)
  const writing = useWrite(writeChecklist)
  const done = of.checklist.filter((entry) => entry.done).length
  return (
    <section className={css['checklist']}>
      <div className={css['partHead']}>
        <h2>Also to test</h2>
        <span className="quiet">{of.checklist.length > 0 && `${done} of ${of.checklist.length} done`}</span>
      </div>
      <ul>
        {of.checklist.map((entry) => (
          <EntryLine
            key={entry.id}
            of={entry}
            disabled={disabled}
            set={(body) => ticking.attempt({ params: { key, id: entry.id }, body })}
          />
        ))}
      </ul>
      {!disabled && (
        <Lines
          label="Add to the checklist"
          place={`checklist.${of.requirement.key}`}
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

function EntryLine({ of, disabled, set }: { of: Entry; disabled: boolean; set: (edit: Edit) => Promise<unknown> }) {
  const setCase = (text: string) => {
    if (text !== '' && !keyShape('case').safeParse(text).success)
      return notify('A case is named by its key, such as TC-12.', { tone: 'problem' })
    void set({ case: text === '' ? null : text })
  }
  const takeAway = async () => {
    if (await set({ deleted: true })) notify('The entry is taken away.', { undo: () => void set({ deleted: false }) })
  }
  return (
    <li data-done={of.done || undefined}>
      <input
        type="checkbox"
        checked={of.done}
        disabled={disabled}
        aria-label={`Done: ${of.text}`}
        onChange={({ target }) => void set({ done: target.checked })}
      />
      <EditText
        label="Text of the entry"
        value={of.text}
        disabled={disabled}
        onStore={(text) => text && void set({ text })}
      />
      <EditText
        label={`Case for ${of.text}`}
        value={of.case ?? ''}
        placeholder="case"
        disabled={disabled}
        onStore={(text) => setCase(text.toUpperCase())}
      />
      {!disabled && (
        <button
          type="button"
          className={css['act']}
          aria-label={`Take away ${of.text}`}
          onClick={() => void takeAway()}
        >
          ×
        </button>
      )}
    </li>
  )
}
