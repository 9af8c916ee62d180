import type { Desk } from '#core/runs/desk-contract.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { Shown } from '#ui/kit/RichText.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './Desk.module.css'
import { outageWords } from './items.tsx'
import { waitWords } from '#core/runs/waits.ts'

/** All that is to be known and done before the first step. */
export const BeforeSteps = ({ desk, preconditions }: { desk: Desk; preconditions: string }) => (
  <>
    {desk.item.outage !== null && (
      <div className={css['before']} role="note">
        <span className="quiet">{desk.item.environment}</span> <b>{outageWords(desk.item)}</b>
      </div>
    )}
    <Waits of={desk.item} />
    <Needs desk={desk} />
    {preconditions !== '' && (
      <div className={css['before']}>
        <span className="quiet">before</span> <Shown inline html={preconditions} />
      </div>
    )}
  </>
)

/** What somebody said that the item waits for; cases that run before are told with what is needed. */
function Waits({ of }: { of: Desk['item'] }) {
  const words = waitWords(
    of.waits.filter(({ kind }) => kind !== 'case'),
    of.verdict,
  )
  return words === '' ? null : (
    <div className={css['before']} role="note">
      <span className="quiet">order</span> <b>{words}</b>
    </div>
  )
}

/** What should be so before the first step: cases that ran before, the environment the case needs. */
function Needs({ desk }: { desk: Desk }) {
  const { key } = useHere()
  const elsewhere = desk.wants !== '' && desk.wants !== desk.item.environment
  if (desk.needs.length === 0 && !elsewhere) return null
  return (
    <div className={css['before']}>
      <span className="quiet">first</span>{' '}
      <span>
        {desk.needs.map((need, index) => (
          <span key={need.key}>
            {index > 0 && ', '}
            <Mark verdict={need.verdict ?? 'Not run'} size={12} label={need.verdict ?? 'not part of this run'} />{' '}
            <a href={`/p/${key}/${need.key}`} title={need.title}>
              {need.key}
            </a>
          </span>
        ))}
        {desk.needs.some(({ verdict }) => verdict !== 'Passed') && ' should have passed before'}
        {elsewhere &&
          `${desk.needs.length > 0 ? '; ' : ''}it is meant for ${desk.wants}, and this is ${desk.item.environment}`}
      </span>
    </div>
  )
}
