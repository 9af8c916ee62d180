import type { ReactNode } from 'react'
import css from './Settings.module.css'

/** What a page of settings is about, in a sentence under its title. */
export const PartHead = ({ title, explains, children }: { title: string; explains: string; children?: ReactNode }) => (
  <header className={css['head']}>
    <h1>{title}</h1>
    <p>{explains}</p>
    {children}
  </header>
)

/** One setting: what it is, what it does, and beside it what it is set to. */
export const Setting = ({ name, explains, children }: { name: string; explains: ReactNode; children: ReactNode }) => (
  <div className={css['setting']}>
    <div>
      <strong className={css['name']}>{name}</strong>
      <p className="quiet">{explains}</p>
    </div>
    <div className={css['set']}>{children}</div>
  </div>
)

/** A table of few rows, in which each cell may be edited where it stands. */
export const Table = ({
  label,
  head,
  settled = true,
  children,
}: {
  label: string
  head: readonly ReactNode[]
  /** What stands in it answers what is asked now, and not what was asked before. */
  settled?: boolean
  children: ReactNode
}) => (
  <div className={css['scroll']} tabIndex={0} role="region" aria-label={label} aria-busy={!settled}>
    <table className={css['table']}>
      <thead>
        <tr>
          {head.map((each, index) =>
            // What has no head is no head.
            each === '' ? (
              <td key={index} />
            ) : (
              <th key={index} scope="col">
                {each}
              </th>
            ),
          )}
        </tr>
      </thead>
      <tbody>{children}</tbody>
    </table>
  </div>
)

/** Acts on a row, at its end. */
export const RowActs = ({ children }: { children: ReactNode }) => <span className={css['acts']}>{children}</span>

/** Something that is told once: a link, a token, codes. */
export const ToldOnce = ({ label, children }: { label: string; children: string }) => (
  <output className={css['once']} aria-label={label}>
    {children}
  </output>
)
