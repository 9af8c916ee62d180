import { counted, minutesText } from '#core/lib/figures.ts'
import type { RunSheet } from '#core/runs/contract.ts'
import { watchRun } from '#core/runs/watch-contract.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { ago, shortName } from '#ui/shell/people.ts'
import css from './RunSheet.module.css'

/** Who is on what now, and how the work stands to what was planned. */
export function RunWatch({ of }: { of: RunSheet }) {
  const { key } = useHere()
  const { data } = useAnswer(watchRun, { params: { key, ref: of.key } })
  if (!data) return null
  const { now, nowCount, due, minutes } = data
  const over = minutes.planned === 0 ? 0 : Math.round((100 * minutes.spent) / minutes.planned - 100)
  return (
    <section aria-label="Now">
      {due.of > 0 && of.state === 'Open' && (
        <p>
          {due.done} of the {counted(due.of, 'item')} due by today {due.done === 1 ? 'has' : 'have'} a result.
        </p>
      )}
      {minutes.timed > 0 && (
        <p>
          {counted(minutes.timed, 'timed result')} took{' '}
          <span className={css['whole']}>{minutesText(minutes.spent)}</span> of{' '}
          <span className={css['whole']}>{minutesText(minutes.planned)}</span> planned
          {over !== 0 && `, ${Math.abs(over)} % ${over > 0 ? 'more' : 'less'}`}
          {minutes.shared > 0 && `; ${minutesText(minutes.shared)} of it shared out`}.
        </p>
      )}
      {nowCount > 0 && (
        <>
          <h2>At work</h2>
          <ul className={css['after']}>
            {now.map((each) => (
              <li key={each.item}>
                <b>{shortName(each.person)}</b> on{' '}
                <a href={`/p/${key}/desk/${each.item}?mine=no`} title={each.title}>
                  {each.case}
                </a>{' '}
                in {each.environment}{' '}
                {each.stalled ? (
                  <b>quiet since {ago(each.last)}</b>
                ) : (
                  <span className="quiet">last heard of {ago(each.last)}</span>
                )}
              </li>
            ))}
            {nowCount > now.length && <li className="quiet">and {nowCount - now.length} more</li>}
          </ul>
        </>
      )}
    </section>
  )
}
