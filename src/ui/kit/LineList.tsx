import { type ClipboardEvent, type KeyboardEvent, type ReactNode, useRef } from 'react'
import { flushSync } from 'react-dom'
import { indented, type LineEdit, pasted, split, swapped, without } from './line-edits.ts'
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
export function LineList(props: Props) {
  const { label, lines, onChange, indents = false, disabled = false } = props
  const own = useRef<HTMLOListElement>(null)
  const inputs = () => [...(own.current?.querySelectorAll('input') ?? [])]
  // The next letter may come before the browser draws again, so the focus moves within the key's own event.
  const apply = ({ lines: next, line, at }: LineEdit) => {
    flushSync(() => onChange([...next]))
    const input = inputs()[Math.max(0, Math.min(line, next.length))]
    input?.focus()
    if (input) input.setSelectionRange(at ?? input.value.length, at ?? input.value.length)
  }
  const onKey = useLineKeys(lines, indents, { apply, focus: (line) => inputs()[line]?.focus() })
  const type = (line: number, text: string) =>
    onChange(line === lines.length ? [...lines, text] : lines.with(line, text))
  const shown = disabled ? lines : [...lines, '']
  return (
    <ol ref={own} className={css['list']} aria-label={label} data-indents={indents || undefined}>
      {shown.map((text, at) => (
        <Line
          key={at}
          {...props}
          text={text}
          at={at}
          onType={(typed) => type(at, typed)}
          onKeyDown={(event) => onKey(event, at)}
          onPaste={(event) => {
            const edit = pasted(lines, at, event.clipboardData.getData('text/plain'))
            if (!edit) return
            event.preventDefault()
            apply(edit)
          }}
        />
      ))}
    </ol>
  )
}

/** What keys do in a line that its own text would not. */
function useLineKeys(
  lines: readonly string[],
  indents: boolean,
  { apply, focus }: { apply: (edit: LineEdit) => void; focus: (line: number) => void },
) {
  const leaving = useRef(false)
  const actOf = (event: KeyboardEvent<HTMLInputElement>, line: number): (() => void) | null => {
    const { key, altKey, shiftKey, currentTarget } = event
    const by = key === 'ArrowUp' ? -1 : key === 'ArrowDown' ? 1 : null
    const there = line < lines.length
    const doing = (edit: LineEdit | null) => edit && (() => apply(edit))
    if (key === 'Enter') return doing(split(lines, line, currentTarget))
    if (key === 'Backspace' && currentTarget.value === '' && there) return doing(without(lines, line))
    if (by !== null) return altKey ? doing(swapped(lines, line, by)) : () => focus(line + by)
    if (key === 'Tab' && indents && there && !leaving.current) return doing(indented(lines, line, shiftKey))
    return null
  }
  return (event: KeyboardEvent<HTMLInputElement>, line: number) => {
    if (event.key === 'Escape') {
      leaving.current = true
      return event.currentTarget.blur()
    }
    const act = actOf(event, line)
    leaving.current = false
    if (!act) return
    event.preventDefault()
    act()
  }
}

interface LineProps extends Props {
  readonly text: string
  readonly at: number
  readonly onType: (text: string) => void
  readonly onKeyDown: (event: KeyboardEvent<HTMLInputElement>) => void
  readonly onPaste: (event: ClipboardEvent<HTMLInputElement>) => void
}

function Line(of: LineProps) {
  const { label, lines, at, text, shown } = of
  const last = at === lines.length
  const problem = of.problems?.get(at)
  const told = `${label}-${at}`.replaceAll(' ', '-')
  const note = of.notes?.get(at)
  return (
    <li data-problem={problem ? true : undefined}>
      <div className={css['line']}>
        <input
          value={text}
          placeholder={last ? of.placeholder : ''}
          disabled={of.disabled}
          aria-label={last ? `New line of ${label}` : `${label}, line ${at + 1}`}
          aria-invalid={problem ? true : undefined}
          aria-describedby={problem ? told : undefined}
          spellCheck={false}
          autoComplete="off"
          onChange={({ target }) => of.onType(target.value)}
          onKeyDown={of.onKeyDown}
          onPaste={of.onPaste}
        />
        {text !== '' && shown && !problem && (
          <span className={css['shown']} aria-hidden="true">
            {shown(text)}
          </span>
        )}
        {note && <span className={css['note']}>{note}</span>}
      </div>
      {problem && (
        <p className={css['problem']} id={told}>
          {problem}
        </p>
      )}
    </li>
  )
}
