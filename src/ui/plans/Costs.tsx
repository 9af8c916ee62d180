import { useState } from 'react'
import { counted, minutesText } from '#core/lib/figures.ts'
import { dealPlan, type PlanPrice } from '#core/plans/asks-contract.ts'
import type { PlanSheet } from '#core/plans/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Unfold } from '#ui/kit/Unfold.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { wayWords } from '#core/plans/ask-words.ts'
import css from './Matrix.module.css'

/** What is asked of environments, of which part of the plan. */
export type AskOf = Pick<PlanSheet['asks'][number], 'about' | 'id' | 'key' | 'title'>

const wholePlan: AskOf = { about: 'plan', id: 0, key: '', title: '' }

/** What it costs as it is asked now, and how else it could be asked. */
export function Costs({
  of,
  price,
  may,
  onAsk,
}: {
  of: PlanSheet
  price: PlanPrice
  may: boolean
  onAsk: (about: AskOf) => void
}) {
  return (
    <section>
      <h3>What it costs</h3>
      <table className={css['costs']}>
        <tbody>
          <tr data-now>
            <td>as it is asked</td>
            <td>{price.now.slots}</td>
            <td>{minutesText(price.now.minutes)}</td>
          </tr>
          {of.asks.map((ask) => (
            <tr key={`${ask.about}${ask.id}`}>
              <td colSpan={3}>
                <button type="button" disabled={!may} onClick={() => onAsk(ask)}>
                  {ask.about === 'plan' ? 'all' : <span className="key">{ask.key}</span>}
                  {ask.title && ` ${ask.title}`}: <b>{wayWords[ask.way]}</b>
                  {ask.environments && ` of ${ask.environments.length}`}
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {may && (
        <p className={css['acts']}>
          {of.asks.every(({ about }) => about !== 'plan') && (
            <Button look="word" onClick={() => onAsk(wholePlan)}>
              say it of all
            </Button>
          )}
          {of.suiteList.length > 0 && <AskSuite of={of} onAsk={onAsk} />}
        </p>
      )}
      {may && of.asks.some(({ way }) => way === 'spread') && <DealAgain of={of} />}
      <Covered price={price} />
    </section>
  )
}

/** What would be covered if all of it passed, and where requirements are asked nowhere. */
const Covered = ({ price }: { price: PlanPrice }) => (
  <>
    {price.covered.then !== null && (
      <p className="quiet">
        If all of it passed, <b>{share(price.covered.then)}</b> of the risk in scope would pass on current results; now{' '}
        {share(price.covered.now ?? 0)}.
      </p>
    )}
    {price.lackingTotal > 0 && (
      <Unfold summary={`${counted(price.lackingTotal, 'requirement')} not asked in every environment`}>
        <ul>
          {price.lacking.map(({ id, key: ref, title, environments }) => (
            <li key={id}>
              <span className="key">{ref}</span> {title}: <span className="quiet">{environments.join('; ')}</span>
            </li>
          ))}
        </ul>
      </Unfold>
    )}
  </>
)

const share = (of: number): string => `${Math.floor(of * 100)} %`

function AskSuite({ of, onAsk }: { of: PlanSheet; onAsk: (about: AskOf) => void }) {
  return (
    <Choice
      label="Say it of a suite"
      look="word"
      value=""
      options={[
        { value: '', label: 'say it of a suite…' },
        ...of.suiteList.map(({ id, title }) => ({ value: String(id), label: title })),
      ]}
      onChoose={(id) => {
        const suite = of.suiteList.find((each) => String(each.id) === id)
        if (suite) onAsk({ about: 'suite', id: suite.id, key: suite.key, title: suite.title })
      }}
    />
  )
}

/** Deals the spread cases anew, after it is said which results that would unseat. */
function DealAgain({ of }: { of: PlanSheet }) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(dealPlan)
  const params = { key, ref: of.key }
  const [told, setTold] = useState<{ moved: number; unseated: readonly string[]; total: number } | null>(null)
  const ask = async () => {
    const answer = await attempt({ params, body: { only: 'told' } })
    if (answer)
      setTold({
        moved: answer.moved,
        total: answer.unseatedTotal,
        unseated: answer.unseated.map((each) => `${each.key} ${each.verdict} in ${each.from}, then in ${each.to}`),
      })
  }
  const deal = async () => {
    const done = await attempt({ params, body: {} })
    setTold(null)
    if (done)
      notify(`${counted(done.moved, 'case')} dealt to another environment.`, {
        undo: () => void attempt({ params, body: { deals: done.before } }),
      })
  }
  if (!told)
    return (
      <p>
        <Button look="word" disabled={busy} onClick={() => void ask()}>
          deal the spread again…
        </Button>
      </p>
    )
  return (
    <div role="note">
      <p>
        {told.moved === 0
          ? 'Nothing would move.'
          : `${counted(told.moved, 'case')} would move; ${counted(told.total, 'result')} would not count for them any more.`}
      </p>
      {told.unseated.length > 0 && (
        <Unfold summary="which">
          <ul>
            {told.unseated.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </Unfold>
      )}
      <p className={css['acts']}>
        {told.moved > 0 && <Button onClick={() => void deal()}>Deal again</Button>}
        <Button look="word" onClick={() => setTold(null)}>
          leave it
        </Button>
      </p>
    </div>
  )
}

export function Pairs({ price }: { price: PlanPrice }) {
  const open = price.pairs.filter(({ rule }) => rule === null)
  const refused = price.pairs.filter(({ rule }) => rule !== null)
  return (
    <>
      {price.notAllowed.length > 0 && (
        <section>
          <h3>Not allowed</h3>
          <ul>
            {price.notAllowed.map(({ id, name, rule }) => (
              <li key={id}>
                {name}: <span className="quiet">{rule}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {price.pairs.length > 0 && (
        <section>
          <h3>Pairs not met</h3>
          <ul>
            {open.map(({ pair }) => (
              <li key={pair.join()}>{pair.join(' × ')}</li>
            ))}
            {refused.map(({ pair, rule }) => (
              <li key={pair.join()} className="quiet" title={rule ?? ''}>
                {pair.join(' × ')} is not allowed
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  )
}
