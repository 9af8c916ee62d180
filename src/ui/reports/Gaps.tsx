import { type GapsAnswer, readGaps } from '#core/reports/contract.ts'
import { scopeIn, scopeSearch, useAddress } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './Reports.module.css'

const kinds = [
  ['requirementsWithoutCase', 'Requirements with no case', 'Open one and write its cases as lines.'],
  ['notRun', 'Cases nobody has run here', 'Put them into a run of this release.'],
  ['failingWithoutDefect', 'Failing results with no defect', 'Open the case, and log or link the defect.'],
  ['suspectLinks', 'Suspect links', 'The requirement changed: confirm the link or change the case.'],
  ['casesWithoutRequirement', 'Cases with no requirement', 'Link them, or retire them.'],
  ['defectsWithoutCase', 'Open defects with no case', 'Write a case, so that the repair can be proven.'],
] as const satisfies readonly (readonly [keyof Omit<GapsAnswer, 'totals'>, string, string])[]

/** What is missing, in both directions, each with what to do about it. */
export function Gaps() {
  const { key } = useHere()
  const { params } = useAddress()
  const { data } = useAnswer(readGaps, { params: { key }, query: scopeIn(params) }, { keep: true })
  if (!data) return <p className={css['wait']}>Looking for gaps…</p>
  return (
    <div className={css['gaps']} tabIndex={0} role="region" aria-label="Gaps">
      {kinds.map(([name, title, act]) => (
        <section key={name}>
          <h2>
            {title} <span>{data.totals[name] ?? 0}</span>
          </h2>
          {data[name].length === 0 ? <p className="quiet">None.</p> : <p className="quiet">{act}</p>}
          <ul>
            {data[name].slice(0, 60).map((row, index) => (
              <li key={`${row.key}${index}`}>
                <a href={`/p/${key}/${row.key}${scopeSearch(params)}`}>
                  <span className="key quiet">{row.key}</span> {row.title}
                </a>
                <span className="quiet">{row.detail}</span>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </div>
  )
}
