import { useState } from 'react'
import { readStale } from '#core/reports/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Mark } from '#ui/kit/Mark.tsx'
import { scopeIn, scopeSearch, useAddress } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { ago } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import css from './Reports.module.css'

/** Every stale standing result with each of its reasons, the least trusted first. */
export function Stale() {
  const { key } = useHere()
  const { params } = useAddress()
  const [limit, setLimit] = useState(100)
  const { data } = useAnswer(readStale, { params: { key }, query: { ...scopeIn(params), limit } }, { keep: true })
  if (!data) return <p className={css['wait']}>Weighing results…</p>
  return (
    <div className={css['scroll']} tabIndex={0} role="region" aria-label="Stale results">
      <p className={css['lead']}>{data.total} standing results are no longer current, the least trusted first.</p>
      <table className={css['table']}>
        <thead>
          <tr>
            <th scope="col">Case</th>
            <th scope="col">Environment</th>
            <th scope="col">Verdict</th>
            <th scope="col">Gained on</th>
            <th scope="col">Reasons</th>
            <th scope="col" className={css['n']}>
              Trust
            </th>
          </tr>
        </thead>
        <tbody>
          {data.rows.map((row, index) => (
            <tr key={index}>
              <th scope="row">
                <a href={`/p/${key}/${row.case}${scopeSearch(params)}`}>
                  <span className="key quiet">{row.case}</span> {row.title}
                </a>
              </th>
              <td>{row.environment}</td>
              <td>
                <Mark verdict={row.verdict} stale size={13} label={false} /> {row.verdict}
              </td>
              <td>
                <span className="key">{row.build}</span> <span className="quiet">{ago(row.at)}</span>
              </td>
              <td>{row.reasons.join(', ')}</td>
              <td className={css['n']}>{Math.floor(row.confidence * 100)} %</td>
            </tr>
          ))}
        </tbody>
      </table>
      {data.total > data.rows.length && limit < 500 && (
        <p className={css['lead']}>
          <Button onClick={() => setLimit(limit + 200)}>Show more</Button>
        </p>
      )}
    </div>
  )
}
