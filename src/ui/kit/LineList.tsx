import { type KeyboardEvent, type ReactNode, useRef } from 'react'
import { flushSync } from 'react-dom'
import css from './LineList.module.css'

interface Props {
  readonly label: string
  readonly lines: readonly string[]
  readonly onChange: (lines: string[]) => void
  readonly placeholder: string
  readonly problems?: ReadonlyMap<number, string>
  /** What is told beside a line, such as what it rules out. */
  readonly notes?: ReadonlyMap<number, ReactNode>
  /** A line as it is shown while nobody types in it. */
  readonly shown?: (line: string) => ReactNode
  /** Tab indents lines; Esc then Tab leaves. */
  readonly indents?: boolean
  readonly disabled?: boolean
}

/** Lines edited where they stand: Enter begins another, Backspace in an empty one takes it away, Alt with an arrow moves it. */
export function LineList({
  label,
  lines,
  onChange,
  placeholder,
  problems,
  notes,
  shown,
  indents = false,
  disabled = false,
}: Props) {
  const own = useRef<HTMLOListElement>(null)
  const leaving = useRef(false)
  const inputs = () => [...(own.current?.querySelectorAll('input') ?? [])]
  // The next letter may come before the browser draws again, so the focus moves within the key's own event.
  const apply = (next: string[], focus: number, at?: number) => {
    flushSync(() => onChange(next))
    const input = inputs()[Math.max(0, Math.min(focus, next.length))]
    input?.focus()
    if (input) input.setSelectionRange(at ?? input.value.length, at ?? input.value.length)
  }
  const onKey = (event: KeyboardEvent<HTMLInputElement>, line: number) => {
    const { selectionStart, selectionEnd, value } = event.currentTarget
    const step = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : 0
    if (event.key === 'Escape') {
      leaving.current = true
      event.currentTarget.blur()
      return
    }
    if (event.key === 'Enter') {
      event.preventDefault()
      const indent = /^\s*/.exec(value)?.[0] ?? ''
      apply(
        [
          ...lines.slice(0, line),
          value.slice(0, selectionStart ?? value.length),
          indent + value.slice(selectionEnd ?? value.length),
          ...lines.slice(line + 1),
        ],
        line + 1,
        indent.length,
      )
    } else if (event.key === 'Backspace' && value === '' && line < lines.length) {
      event.preventDefault()
      apply(
        lines.filter((_, at) => at !== line),
        line - 1,
      )
    } else if (step !== 0 && event.altKey && line < lines.length && lines[line + step] !== undefined) {
      event.preventDefault()
      const next = [...lines]
      next.splice(line + step, 0, ...next.splice(line, 1))
      apply(next, line + step)
    } else if (step !== 0 && !event.altKey) {
      event.preventDefault()
      inputs()[line + step]?.focus()
    } else if (event.key === 'Tab' && indents && !leaving.current && line < lines.length) {
      event.preventDefault()
      apply(
        lines.map((each, at) => (at !== line ? each : event.shiftKey ? each.replace(/^\s{1,2}/, '') : `  ${each}`)),
        line,
      )
    }
    leaving.current = false
  }
  return (
    <ol ref={own} className={css['list']} aria-label={label} data-indents={indents || undefined}>
      {[...lines, ''].map((line, at) => {
        const last = at === lines.length
        if (last && disabled) return null
        const problem = problems?.get(at)
        return (
          <li key={at} data-problem={problem ? true : undefined}>
            <div className={css['line']}>
              <input
                value={line}
                placeholder={last ? placeholder : ''}
                disabled={disabled}
                aria-label={last ? `New line of ${label}` : `${label}, line ${at + 1}`}
                aria-invalid={problem ? true : undefined}
                aria-describedby={problem ? `${label}-${at}`.replaceAll(' ', '-') : undefined}
                spellCheck={false}
                autoComplete="off"
                onChange={({ target }) =>
                  onChange(
                    last ? [...lines, target.value] : lines.map((each, other) => (other === at ? target.value : each)),
                  )
                }
                onKeyDown={(event) => onKey(event, at)}
                onPaste={(event) => {
                  const pasted = event.clipboardData
                    .getData('text/plain')
                    .split(/\r?\n/)
                    .filter((each) => each.trim() !== '')
                  if (pasted.length < 2) return
                  event.preventDefault()
                  apply(
                    [...lines.slice(0, at), ...(line.trim() === '' ? [] : [line]), ...pasted, ...lines.slice(at + 1)],
                    at + pasted.length - 1,
                  )
                }}
              />
              {line !== '' && shown && !problem && (
                <span className={css['shown']} aria-hidden="true">
                  {shown(line)}
                </span>
              )}
              {notes?.get(at) && <span className={css['note']}>{notes.get(at)}</span>}
            </div>
            {problem && (
              <p className={css['problem']} id={`${label}-${at}`.replaceAll(' ', '-')}>
                {problem}
              </p>
            )}
          </li>
        )
      })}
    </ol>
  )
}
