import { type KeyboardEvent, useRef, useState } from 'react'
import { flushSync } from 'react-dom'
import { counted } from '#core/lib/figures.ts'
import css from './Lines.module.css'
import { Button } from './Button.tsx'
import { KeptNote, useKept } from './kept.tsx'

interface Props {
  readonly label: string
  /** Tells it from other boxes, so that what is typed is kept. */
  readonly place: string
  readonly placeholder: string
  readonly action: string
  /** What the lines will make: `3 cases, 5 steps`. */
  readonly says?: (lines: string) => string
  readonly onStore: (lines: string) => Promise<boolean>
  readonly autoFocus?: boolean
  readonly rows?: number
}

/**
 * A box of lines: Tab indents, Shift+Tab takes back, Enter keeps the indent, Ctrl+Enter stores; Esc then Tab leaves. What was
 * typed stays until it is stored.
 */
export function Lines(props: Props) {
  const { label, place, placeholder, action, onStore, says = linesSaid, autoFocus = false, rows = 3 } = props
  const [text, setText, keeping] = useKept(`lines.${place}`, '')
  const [busy, setBusy] = useState(false)
  const leaving = useRef(false)
  const area = useRef<HTMLTextAreaElement>(null)
  const lines = text.split('\n').filter((line) => line.trim() !== '').length
  const store = async () => {
    if (lines === 0 || busy) return
    setBusy(true)
    const stored = await onStore(text)
    setBusy(false)
    if (!stored) return
    keeping.done()
    area.current?.focus()
  }
  return (
    <div className={css['lines']}>
      <KeptNote of={keeping} />
      <textarea
        ref={area}
        aria-label={label}
        placeholder={placeholder}
        value={text}
        // What would be typed on while it is stored would go with it.
        readOnly={busy}
        rows={Math.min(14, Math.max(rows, text.split('\n').length))}
        autoFocus={autoFocus}
        spellCheck
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Escape') {
            leaving.current = true
            event.stopPropagation()
            return
          }
          if (event.key === 'Tab' && !leaving.current) {
            event.preventDefault()
            indent(event.currentTarget, event.shiftKey, setText)
          }
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) void store()
          else if (event.key === 'Enter') keepIndent(event, setText)
          leaving.current = false
        }}
      />
      <div className={css['foot']}>
        <span className="quiet">
          <kbd>Tab</kbd> indents · <kbd>Ctrl</kbd> <kbd>Enter</kbd> stores
        </span>
        <Button look="main" disabled={lines === 0 || busy} onClick={() => void store()}>
          {busy ? 'Storing…' : lines > 0 ? `${action} ${says(text)}` : action}
        </Button>
      </div>
    </div>
  )
}

const linesSaid = (text: string): string =>
  counted(text.split('\n').filter((line) => line.trim() !== '').length, 'line')

/** Another line begins as far in as the one it follows. */
function keepIndent(event: KeyboardEvent<HTMLTextAreaElement>, setText: (text: string) => void): void {
  const { currentTarget: area } = event
  const { value, selectionStart, selectionEnd } = area
  const lead = /^[\t ]*/.exec(value.slice(value.lastIndexOf('\n', selectionStart - 1) + 1, selectionStart))?.[0] ?? ''
  if (lead === '' || event.nativeEvent.isComposing) return
  event.preventDefault()
  flushSync(() => setText(`${value.slice(0, selectionStart)}\n${lead}${value.slice(selectionEnd)}`))
  const at = selectionStart + 1 + lead.length
  area.setSelectionRange(at, at)
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
