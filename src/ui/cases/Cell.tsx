import { type ClipboardEvent, type KeyboardEvent, lazy, Suspense, useState } from 'react'
import { escapeText, plainText } from '#core/lib/plain-text.ts'
import { safeHtml } from '#core/lib/safe-html.ts'
import { SafeText } from '#ui/kit/SafeText.tsx'
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
  /** What stood here when the editor was opened; `null` while it is not. */
  const [rich, setRich] = useState<string | null>(null)
  const marked = /<[a-z]/i.test(value)
  const finish = (html: string | null) => {
    onChange(html === null ? (rich ?? value) : plainIfPlain(html))
    setRich(null)
  }
  if (rich !== null)
    return (
      <div className={css['richCell']}>
        <Suspense fallback={<span className="quiet">…</span>}>
          <RichEditor html={rich} label={label} onType={(html) => onChange(plainIfPlain(html))} onDone={finish} />
        </Suspense>
      </div>
    )
  const open = (event: KeyboardEvent<HTMLElement>) => {
    const emphasis = (event.ctrlKey || event.metaKey) && /^[bi]$/i.test(event.key)
    if (!emphasis && !(marked && event.key === 'Enter')) return onKeyDown(event)
    event.preventDefault()
    event.stopPropagation()
    setRich(value)
  }
  if (marked)
    return (
      <SafeText
        html={safeHtml(value)}
        className={css['rich']}
        role="button"
        tabIndex={0}
        data-step-cell={mark}
        aria-label={`Edit ${label}`}
        onFocus={fetchEditor}
        onClick={() => setRich(value)}
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
