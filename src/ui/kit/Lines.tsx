import { useRef, useState } from 'react'
import { flushSync } from 'react-dom'
import css from './Lines.module.css'
import { Button } from './Button.tsx'

interface Props {
  readonly label: string
  readonly placeholder: string
  readonly action: string
  readonly onStore: (lines: string) => Promise<boolean>
  readonly autoFocus?: boolean
  readonly rows?: number
}

/** A box of lines: Tab indents, Shift+Tab takes back, Ctrl+Enter stores; Esc then Tab leaves. What was typed stays until it is stored. */
export function Lines({ label, placeholder, action, onStore, autoFocus = false, rows = 3 }: Props) {
  const [text, setText] = useState('')
  const [busy, setBusy] = useState(false)
  const leaving = useRef(false)
  const lines = text.split('\n').filter((line) => line.trim() !== '').length
  const store = async () => {
    if (lines === 0 || busy) return
    setBusy(true)
    if (await onStore(text)) setText('')
    setBusy(false)
  }
  return (
    <div className={css['lines']}>
      <textarea
        aria-label={label}
        placeholder={placeholder}
        value={text}
        rows={Math.min(14, Math.max(rows, text.split('\n').length))}
        autoFocus={autoFocus}
        spellCheck
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          const area = event.currentTarget
          if (event.key === 'Escape') {
            leaving.current = true
            event.stopPropagation()
            return
          }
          if (event.key === 'Tab' && !leaving.current) {
            event.preventDefault()
            indent(area, event.shiftKey, setText)
          }
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) void store()
          leaving.current = false
        }}
      />
      <div className={css['foot']}>
        <span className="quiet">
          <kbd>Tab</kbd> indents · <kbd>Ctrl</kbd> <kbd>Enter</kbd> stores
        </span>
        <Button look="main" disabled={lines === 0 || busy} onClick={() => void store()}>
          {busy ? 'Storing…' : lines > 1 ? `${action}, ${lines} lines` : action}
        </Button>
      </div>
    </div>
  )
}

function indent(area: HTMLTextAreaElement, back: boolean, setText: (text: string) => void): void {
  const { value, selectionStart, selectionEnd } = area
  const from = value.lastIndexOf('\n', selectionStart - 1) + 1
  const block = value.slice(from, selectionEnd)
  const changed = back ? block.replace(/^(\t| {1,4})/gm, '') : block.replace(/^/gm, '\t')
  flushSync(() => setText(value.slice(0, from) + changed + value.slice(selectionEnd)))
  const shift = changed.length - block.length
  area.setSelectionRange(Math.max(from, selectionStart + (back ? Math.max(shift, -1) : 1)), selectionEnd + shift)
}
