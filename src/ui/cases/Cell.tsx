import { type ClipboardEvent, type KeyboardEvent, lazy, Suspense, useState } from 'react'
import { escapeText, plainText } from '#core/lib/plain-text.ts'
import css from './Steps.module.css'

const loadEditor = async () => ({ default: (await import('#ui/kit/RichEditor.tsx')).RichEditor })
const RichEditor = lazy(loadEditor)

interface CellProps {
  readonly label: string
  readonly value: string
  readonly mark?: string
  readonly placeholder?: string
  readonly onChange: (value: string) => void
  readonly onKeyDown: (event: KeyboardEvent<HTMLElement>) => void
  readonly onPaste?: (event: ClipboardEvent<HTMLTextAreaElement>) => void
}

/** A cell is typed as plain text; Ctrl+B, Ctrl+I or what it holds already make it rich text, written where it stands. */
export function Cell({ label, value, mark, placeholder, onChange, onKeyDown, onPaste }: CellProps) {
  const [rich, setRich] = useState(false)
  const marked = /<[a-z]/i.test(value)
  const finish = (html: string | null) => {
    setRich(false)
    if (html !== null) onChange(plainIfPlain(html))
  }
  if (rich)
    return (
      <div className={css['richCell']}>
        <Suspense fallback={<span className="quiet">…</span>}>
          <RichEditor html={value} label={label} onDone={finish} />
        </Suspense>
      </div>
    )
  const open = (event: KeyboardEvent<HTMLElement>) => {
    const emphasis = (event.ctrlKey || event.metaKey) && /^[bi]$/i.test(event.key)
    if (!emphasis && !(marked && event.key === 'Enter')) return onKeyDown(event)
    event.preventDefault()
    event.stopPropagation()
    setRich(true)
  }
  if (marked)
    return (
      <div
        className={css['rich']}
        role="button"
        tabIndex={0}
        data-step-cell={mark}
        aria-label={`Edit ${label}`}
        dangerouslySetInnerHTML={{ __html: value }}
        onFocus={fetchEditor}
        onClick={() => setRich(true)}
        onKeyDown={open}
      />
    )
  return (
    <textarea
      className={css['cell']}
      aria-label={label}
      data-step-cell={mark}
      rows={1}
      spellCheck
      placeholder={placeholder}
      value={plainText(value)}
      onChange={(event) => onChange(escapeText(event.target.value))}
      onFocus={fetchEditor}
      onKeyDown={open}
      onPaste={onPaste}
    />
  )
}

/** Whoever is in a cell may want the editor at the next key: it is fetched then, and not waited for. */
const fetchEditor = (): void => void loadEditor()

/** One paragraph without marks is stored as the plain text it is. */
function plainIfPlain(html: string): string {
  const only = /^<p>([^<]*)<\/p>$/.exec(html)
  if (only) return only[1] ?? ''
  return /^(<p>[^<]*<\/p>)+$/.test(html)
    ? escapeText(plainText(html))
    : html.replace(/^<p>((?:(?!<\/?p>).)*)<\/p>$/s, '$1')
}
