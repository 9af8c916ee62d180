import { type KeyboardEvent, useRef, useState } from 'react'
import type { CellEdit } from './columns.ts'
import css from './List.module.css'

interface Props<T> {
  readonly row: T
  readonly edit: CellEdit<T>
  readonly label: string
  readonly onDone: () => void
}

/** A cell being edited: Enter or leaving stores, Esc takes back. */
export function EditCell<T>({ row, edit, label, onDone }: Props<T>) {
  const before = edit.value(row)
  const [draft, setDraft] = useState(before)
  const ended = useRef(false)
  const end = (store: boolean, value = draft) => {
    if (ended.current) return
    ended.current = true
    onDone()
    if (store && value !== before) edit.store(row, value)
  }
  const editor = {
    className: css['edit'],
    'aria-label': label,
    autoFocus: true,
    value: draft,
    onBlur: () => end(true),
    onKeyDown: (event: KeyboardEvent) => {
      event.stopPropagation()
      if (event.key === 'Escape') end(false)
      if (event.key !== 'Enter') return
      event.preventDefault()
      end(true)
    },
  }
  if (edit.kind === 'choice')
    return (
      <select
        {...editor}
        onChange={({ target }) => {
          setDraft(target.value)
          end(true, target.value)
        }}
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
    <input {...editor} onFocus={(event) => event.target.select()} onChange={(event) => setDraft(event.target.value)} />
  )
}
