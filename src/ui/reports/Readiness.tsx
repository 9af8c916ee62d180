import { type PlanCriteria, readReadiness, tallyWords } from '#core/plans/criteria-contract.ts'
import { OutcomeMark } from '#ui/kit/OutcomeMark.tsx'
import { dayText } from '#ui/kit/moment.ts'
import { scopeIn, scopeNames, useParams } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './Reports.module.css'

/** The criteria of the scope's plans, each with its figure. */
export function Readiness() {
  const { key } = useHere()
  const query = scopeIn(useParams(...scopeNames))
  const { data } = useAnswer(readReadiness, { params: { key }, query }, { keep: true })
  if (!data) return null
  if (data.plans.every(({ criteria }) => criteria.length === 0))
    return (
      <p className={css['wait']}>
        No plan of this scope says when it is enough. Open a <a href={`/p/${key}/plans`}>plan</a> and add criteria to
        it.
      </p>
    )
  return (
    <div className={css['readiness']}>
      <p>
        <b>Exit {tallyWords(data.exit)}</b>
        {data.entry.of > 0 && <>; entry {tallyWords(data.entry)}</>}.
      </p>
      {data.plans
        .filter(({ criteria }) => criteria.length > 0)
        .map(({ plan, criteria }) => (
          <PlanTable key={plan.id} plan={plan} criteria={criteria} />
        ))}
    </div>
  )
}

function PlanTable({ plan, criteria }: Pick<PlanCriteria, 'plan' | 'criteria'>) {
  const { key } = useHere()
  return (
    <section>
      <h2>
        <a href={`/p/${key}/${plan.key}?part=enough`}>
          <span className="key">{plan.key}</span> {plan.title}
        </a>
      </h2>
      <table>
        <thead>
          <tr>
            <td />
            <th scope="col">Criterion</th>
            <th scope="col" data-end>
              Figure
            </th>
            <th scope="col">Asked</th>
            <th scope="col">Missing</th>
          </tr>
        </thead>
        <tbody>
          {criteria.map((own) => (
            <tr key={own.id}>
              <td>
                <OutcomeMark of={own.outcome} />
              </td>
              <td>
                {own.side === 'entry' && <span className="quiet">entry: </span>}
                {own.words}
              </td>
              <td data-end>{own.figureText}</td>
              <td className="quiet">{own.wanted}</td>
              <td className="quiet">
                {own.outcome === 'waived' && own.waiver
                  ? `waived by ${own.waiver.by ?? 'somebody'} until ${dayText(own.waiver.until)}: ${own.waiver.reason}`
                  : own.missing.first.map((row) => row.key).join(', ')}
                {own.outcome !== 'waived' && own.missing.total > own.missing.first.length
                  ? ` and ${own.missing.total - own.missing.first.length} more`
                  : ''}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
