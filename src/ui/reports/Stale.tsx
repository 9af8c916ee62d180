import { useState } from 'react'
import type { OutputOf } from '#core/lib/contract.ts'
import { readStale } from '#core/reports/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { SaidMark } from '#ui/shell/SaidMark.tsx'
import { scopeIn, useAddress } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { ago } from '#ui/shell/people.ts'
import { useHere, useTo } from '#ui/shell/here.ts'
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
            <Row key={index} of={row} />
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

function Row({ of }: { of: OutputOf<typeof readStale>['rows'][number] }) {
  const to = useTo()
  return (
    <tr>
      <th scope="row">
        <a href={to(of.case)}>
          <span className="key quiet">{of.case}</span> {of.title}
        </a>
      </th>
      <td>{of.environment}</td>
      <td>
        <SaidMark verdict={of.verdict} word={of.word} stale size={13} label={false} /> {of.word ?? of.verdict}
      </td>
      <td>
        <span className="key">{of.build}</span> <span className="quiet">{ago(of.at)}</span>
      </td>
      <td>{of.reasons.join(', ')}</td>
      <td className={css['n']}>{Math.floor(of.confidence * 100)} %</td>
    </tr>
  )
}
