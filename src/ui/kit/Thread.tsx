import type { ReactNode } from 'react'
import css from './Thread.module.css'

export interface Knot {
  readonly name: string
  readonly own: boolean
  readonly text: ReactNode
  /** What a knot opens in place: rows that lead elsewhere. */
  readonly rows: readonly { readonly href: string; readonly label: ReactNode }[]
}

/** The chain of an object, requirement to defect, as a line with four knots; a knot opens in place. */
export function Thread({ knots }: { knots: readonly Knot[] }) {
  return (
    <nav className={css['thread']} aria-label="Thread">
      {knots.map((knot) => (
        <div key={knot.name} className={css['knot']} data-own={knot.own || undefined}>
          {knot.rows.length === 0 || knot.own ? (
            <div className={css['text']}>{knot.text}</div>
          ) : (
            <details name="thread">
              <summary className={css['text']} aria-label={`${knot.name}, open`}>
                {knot.text}
              </summary>
              <ul>
                {knot.rows.slice(0, 30).map(({ href, label }) => (
                  <li key={href}>
                    <a href={href}>{label}</a>
                  </li>
                ))}
              </ul>
            </details>
          )}
        </div>
      ))}
    </nav>
  )
}
