import { useRef, useState } from 'react'
import css from './EditText.module.css'
import { notify } from './notices.tsx'

interface Props {
  readonly value: string
  readonly label: string
  readonly onStore: (value: string) => void
  readonly className?: string | undefined
  readonly disabled?: boolean
  readonly placeholder?: string
}

/** Text that is edited where it stands: Enter or leaving stores, Esc takes back. */
export function EditText({ value, label, onStore, className, disabled = false, placeholder }: Props) {
  const [draft, setDraft] = useState<string | null>(null)
  const left = useRef(false)
  /** What stood here when one began: somebody else may store another text meanwhile. */
  const begun = useRef(value)
  if (draft === null || disabled)
    return (
      <button
        type="button"
        className={`${css['shown']} ${className ?? ''}`}
        disabled={disabled}
        aria-label={`${label}: ${value || 'empty'}. Edit`}
        onClick={() => {
          left.current = false
          begun.current = value
          setDraft(value)
        }}
      >
        {value || <span className="quiet">{placeholder ?? label}</span>}
      </button>
    )
  const finish = (store: boolean) => {
    if (left.current) return
    left.current = true
    setDraft(null)
    const typed = draft.trim()
    if (!store || typed === value || typed === begun.current) return
    if (value === begun.current) return onStore(typed)
    notify(`Somebody else stored “${value}” while you wrote “${typed}”. Yours is not stored.`, {
      tone: 'problem',
      undo: () => onStore(typed),
      undoLabel: 'Store mine',
    })
  }
  return (
    <input
      className={`${css['edited']} ${className ?? ''}`}
      aria-label={label}
      autoFocus
      value={draft}
      onFocus={(event) => event.target.select()}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={() => finish(true)}
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Enter') finish(true)
        if (event.key === 'Escape') finish(false)
      }}
    />
  )
}
