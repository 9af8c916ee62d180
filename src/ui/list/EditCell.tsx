import { useRef, useState } from 'react'
import type { CellEdit } from './columns.ts'
import css from './List.module.css'

/** A cell being edited: Enter or leaving stores, Esc takes back. */
export function EditCell<T>({
  row,
  edit,
  label,
  onDone,
}: {
  row: T
  edit: CellEdit<T>
  label: string
  onDone: () => void
}) {
  const before = edit.value(row)
  const [draft, setDraft] = useState(before)
  const ended = useRef(false)
  const end = (store: boolean, value = draft) => {
    if (ended.current) return
    ended.current = true
    onDone()
    if (store && value !== before) edit.store(row, value)
  }
  const keys = (event: { key: string; stopPropagation: () => void; preventDefault: () => void }) => {
    event.stopPropagation()
    if (event.key === 'Escape') end(false)
    if (event.key === 'Enter') {
      event.preventDefault()
      end(true)
    }
  }
  if (edit.kind === 'choice')
    return (
      <select
        className={css['edit']}
        aria-label={label}
        autoFocus
        value={draft}
        onChange={(event) => {
          setDraft(event.target.value)
          end(true, event.target.value)
        }}
        onBlur={() => end(true)}
        onKeyDown={keys}
      >
        {edit.options.map((option) =>
          typeof option === 'string' ? (
            <option key={option}>{option}</option>
          ) : (
            <option key={option.value} value={option.value}>
              {option.label}
            </option>
          ),
        )}
      </select>
    )
  return (
    <input
      className={css['edit']}
      aria-label={label}
      autoFocus
      inputMode={edit.kind === 'number' ? 'numeric' : 'text'}
      value={draft}
      onFocus={(event) => event.target.select()}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={() => end(true)}
      onKeyDown={keys}
    />
  )
}
