import type { ReactNode } from 'react'
import css from './Thread.module.css'

interface KnotRow {
  readonly href: string
  readonly label: ReactNode
}

export interface Knot {
  readonly name: string
  readonly text: ReactNode
  /** What a knot opens in place: rows that lead elsewhere. The object itself has none. */
  readonly rows?: readonly KnotRow[]
}

/** A row of a knot that names an object. */
export const namedRow = (href: string, key: string | null, title: string | null): KnotRow => ({
  href,
  label: (
    <>
      <span className="key">{key}</span> {title}
    </>
  ),
})

/** `3 cases`: how many, in one word for one and another for more. */
export const Counted = ({ n, one, more = `${one}s` }: { n: number; one: string; more?: string }) => (
  <>
    <b>{n}</b> {n === 1 ? one : more}
  </>
)

/** What a sheet is about, in its own thread. */
export const ownKnot = (name: string, key: string, text: ReactNode): Knot => ({
  name,
  text: (
    <>
      <b className="key">{key}</b> {text}
    </>
  ),
})

/** The chain of an object, requirement to defect, as a line with four knots; a knot opens in place. */
export const Thread = ({ knots }: { knots: readonly Knot[] }) => (
  <nav className={css['thread']} aria-label="Thread">
    {knots.map((knot) => (
      <div key={knot.name} className={css['knot']} data-own={knot.rows === undefined || undefined}>
        <KnotText of={knot} />
      </div>
    ))}
  </nav>
)

function KnotText({ of: { name, text, rows = [] } }: { of: Knot }) {
  if (rows.length === 0) return <div className={css['text']}>{text}</div>
  return (
    <details name="thread">
      <summary className={css['text']} aria-label={`${name}, open`}>
        {text}
      </summary>
      <ul>
        {rows.slice(0, 30).map(({ href, label }) => (
          <li key={href}>
            <a href={href}>{label}</a>
          </li>
        ))}
      </ul>
    </details>
  )
}
