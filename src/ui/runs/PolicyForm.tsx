import type { ReactNode } from 'react'
import {
  type Askable,
  askables,
  type AskingVerdict,
  askingVerdicts,
  differing,
  type Policy,
  policySentences,
} from '#core/projects/policy.ts'
import { Choice } from '#ui/kit/Choice.tsx'
import css from './PolicyForm.module.css'

interface Props {
  readonly of: Policy
  /** What differs from it is marked. */
  readonly from?: Policy
  readonly disabled?: boolean
  readonly onChange: (to: Policy) => void
}

/** The rules of a run as four sentences with choices in them. */
export function PolicyForm({ of, from = of, disabled = false, onChange }: Props) {
  const differs = new Set(differing(of, from))
  const set = (to: Partial<Policy>) => onChange({ ...of, ...to })
  const marked = (rule: keyof Policy, choice: ReactNode) => (
    <span className={differs.has(rule) ? css['differs'] : undefined}>
      {choice}
      {differs.has(rule) && <span className="hidden"> (not as in the project)</span>}
    </span>
  )
  const parts = { of, set, marked, disabled }
  return (
    <ul className={css['sentences']}>
      <Decides {...parts} />
      <Records {...parts} />
      <li>
        {marked('asked', 'Asked for beside a verdict')}, and nothing on Passed:
        <AskedTable of={of.asked} disabled={disabled} onChange={(asked) => set({ asked })} />
      </li>
      <Closes {...parts} />
    </ul>
  )
}

interface PartsOf {
  readonly of: Policy
  readonly set: (to: Partial<Policy>) => void
  readonly marked: (rule: keyof Policy, choice: ReactNode) => ReactNode
  readonly disabled: boolean
}

const Decides = ({ of, set, marked, disabled }: PartsOf) => (
  <li>
    {marked(
      'decides',
      <Choice
        label="Who decides"
        disabled={disabled}
        value={of.decides}
        options={[
          { value: 'steps', label: 'The steps decide' },
          { value: 'tester', label: 'The tester decides' },
        ]}
        onChoose={(decides) => set({ decides })}
      />,
    )}
    :{' '}
    {of.decides === 'steps'
      ? 'a failed one fails the item, and all passed pass it, at once.'
      : 'what is said of steps is a note, until the whole item has its verdict.'}
  </li>
)

const Records = ({ of, set, marked, disabled }: PartsOf) => (
  <li>
    {marked(
      'records',
      <Choice
        label="Who records"
        disabled={disabled}
        value={of.records}
        options={[
          { value: 'anyone', label: 'Anyone who executes' },
          { value: 'named', label: 'Only the named person' },
        ]}
        onChoose={(records) => set({ records })}
      />,
    )}{' '}
    records; a free item{' '}
    {marked(
      'opens',
      <Choice
        label="What becomes of a free item"
        disabled={disabled}
        value={of.opens}
        options={[
          { value: 'taken', label: 'becomes that of whoever begins it' },
          { value: 'free', label: 'stays nobody’s when it is begun' },
        ]}
        onChoose={(opens) => set({ opens })}
      />,
    )}
    .
    {of.records === 'named' && of.opens === 'free' && (
      <span className="quiet"> So a lead gives every item to somebody before it can be executed.</span>
    )}
  </li>
)

function AskedTable({
  of,
  disabled,
  onChange,
}: {
  of: Policy['asked']
  disabled: boolean
  onChange: (to: Policy['asked']) => void
}) {
  const toggle = (verdict: AskingVerdict, what: Askable) => {
    const own = of[verdict] ?? []
    onChange({ ...of, [verdict]: own.includes(what) ? own.filter((each) => each !== what) : [...own, what] })
  }
  return (
    <table className={css['asked']}>
      <tbody>
        {askingVerdicts.map((verdict) => (
          <tr key={verdict}>
            <th scope="row">on {verdict}</th>
            {askables.map((what) => (
              <td key={what}>
                <label>
                  <input
                    type="checkbox"
                    aria-label={`On ${verdict}: ${what}`}
                    disabled={disabled}
                    checked={of[verdict]?.includes(what) ?? false}
                    onChange={() => toggle(verdict, what)}
                  />{' '}
                  {what}
                </label>
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  )
}

const Closes = ({ of, set, marked, disabled }: PartsOf) => (
  <li>
    The run closes{' '}
    {marked(
      'closes',
      <Choice
        label="When the run closes"
        disabled={disabled}
        value={of.closes}
        options={['by hand', 'when all is executed', { value: 'at its end', label: 'at the end of its last day' }]}
        onChoose={(closes) => set({ closes })}
      />,
    )}
    ; afterwards{' '}
    {marked(
      'amends',
      <Choice
        label="What may be done to results afterwards"
        disabled={disabled}
        value={of.amends}
        options={[
          { value: 'nobody', label: 'results stay' },
          { value: 'leads', label: 'leads may amend results' },
          { value: 'everybody', label: 'everybody who executes may amend results' },
        ]}
        onChoose={(amends) => set({ amends })}
      />,
    )}
    {of.amends !== 'nobody' && (
      <>
        {' '}
        for{' '}
        {marked(
          'amendDays',
          <input
            type="number"
            className={css['days']}
            aria-label="Days in which results may be amended"
            min={1}
            max={365}
            disabled={disabled}
            value={of.amendDays}
            onChange={({ target }) => {
              const days = target.valueAsNumber
              if (Number.isInteger(days) && days >= 1 && days <= 365) set({ amendDays: days })
            }}
          />,
        )}{' '}
        {of.amendDays === 1 ? 'day' : 'days'}
      </>
    )}
    . <Executed of={of} set={set} marked={marked} disabled={disabled} />
  </li>
)

const Executed = ({ of, set, marked, disabled }: PartsOf) => (
  <>
    {marked(
      'approvedOnly',
      <Choice
        label="Which versions are executed"
        disabled={disabled}
        value={of.approvedOnly ? 'approved' : 'newest'}
        options={[
          { value: 'newest', label: 'The newest version the project allows' },
          { value: 'approved', label: 'Only an approved version' },
        ]}
        onChoose={(which) => set({ approvedOnly: which === 'approved' })}
      />,
    )}{' '}
    is executed; a result is spoiled by{' '}
    {(['spoiledByCase', 'spoiledByBuild'] as const).map((rule) => (
      <span key={rule}>
        {marked(
          rule,
          <label>
            <input
              type="checkbox"
              disabled={disabled}
              checked={of[rule]}
              onChange={({ target }) => set({ [rule]: target.checked })}
            />{' '}
            {rule === 'spoiledByCase' ? 'a change of its case' : 'another build of the run'}
          </label>,
        )}{' '}
      </span>
    ))}
    {!of.spoiledByCase && !of.spoiledByBuild && <span className="quiet">(by nothing)</span>}
  </>
)

/** The same to be read; what differs from the project is marked. */
export function PolicyWords({ of, from }: { of: Policy; from: Policy }) {
  const [own, usual] = [policySentences(of), policySentences(from)]
  return (
    <ul className={css['short']}>
      {own.map((sentence, at) => (
        <li key={at} className={sentence === usual[at] ? undefined : css['own']}>
          {sentence}
        </li>
      ))}
    </ul>
  )
}
