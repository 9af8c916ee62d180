import { useState } from 'react'
import { readShortestWay, type ShortestWayShown } from '#core/plans/criteria-contract.ts'
import type { PlanSheet } from '#core/plans/contract.ts'
import { counted, minutesText } from '#core/lib/figures.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Mark } from '#ui/kit/Mark.tsx'
import { scopeIn, scopeNames, useParams } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './Plan.module.css'

const shownFirst = 8

/** The cheapest items that would meet what testing can still meet, and what it cannot mend. */
export function ShortestWay({ of, onRun }: { of: PlanSheet; onRun: () => void }) {
  const { key, project } = useHere()
  const [all, setAll] = useState(false)
  const query = scopeIn(useParams(...scopeNames))
  const { data, settled } = useAnswer(readShortestWay, { params: { key, ref: of.key }, query }, { keep: true })
  if (!data || (data.total === 0 && data.cannot.length === 0)) return null
  const items = all ? data.items : data.items.slice(0, shownFirst)
  return (
    <div className={css['below']} aria-busy={!settled}>
      <section>
        <h3>Shortest way to go</h3>
        <Told of={data} />
        <ul className={css['items']}>
          {items.map((item) => (
            <li key={`${item.case}:${item.environment}`}>
              <Mark verdict={item.verdict} stale={item.stale} />
              <span className="key quiet">{item.key}</span>
              <a href={`/p/${key}/${item.key}`}>{item.title}</a>
              <span className={css['note']}>{item.environmentName}</span>
              <span className={css['note']}>{item.why}</span>
              <span>{minutesText(item.minutes)}</span>
            </li>
          ))}
        </ul>
        {data.total > 0 && (
          <p className={css['line']}>
            {data.total > items.length && !all && (
              <Button look="word" onClick={() => setAll(true)}>
                and {data.total - items.length} more
              </Button>
            )}
            {project.role === 'lead' && (
              <Button look="word" onClick={onRun}>
                open as a run
              </Button>
            )}
          </p>
        )}
      </section>
      {data.cannot.length > 0 && <Cannot of={data.cannot} />}
    </div>
  )
}

function Cannot({ of }: { of: ShortestWayShown['cannot'] }) {
  const { key } = useHere()
  return (
    <section>
      <h3>Testing cannot mend</h3>
      <ul className={css['cannot']}>
        {of.map(({ id, words, missing }) => (
          <li key={id}>
            <p>{words}</p>
            {missing.first.slice(0, 3).map((row) => (
              <div key={`${row.key}${row.detail}`}>
                <a href={`/p/${key}/${row.key}`}>
                  <span className="key">{row.key}</span>
                </a>{' '}
                {row.title} <span className="quiet">{row.detail}</span>
              </div>
            ))}
            {missing.total > 3 && <div className="quiet">and {missing.total - 3} more</div>}
          </li>
        ))}
      </ul>
    </section>
  )
}

const Told = ({ of }: { of: ShortestWayShown }) =>
  of.total === 0 ? (
    <p className="quiet">No test would meet another criterion.</p>
  ) : (
    <p>
      <b>
        {counted(of.total, 'item')}, {minutesText(of.minutes)}
      </b>{' '}
      meet {counted(of.meets.length, 'more criterion', 'more criteria')}, if they pass
      {of.exact ? '; nothing shorter does' : ''}.
    </p>
  )
