import type { CaseSheet } from '#core/cases/contract.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { ago, shortName } from '#ui/shell/people.ts'
import css from '#ui/shell/sheet.module.css'

export function Results({ of }: { of: CaseSheet }) {
  return (
    <section className={css['part']}>
      <h3>Standing results</h3>
      <ul className={css['rows']}>
        {of.slots.map((slot) => (
          <li key={slot.environment}>
            <Mark verdict={slot.verdict} stale={slot.reasons.length > 0} />
            <span className="key">{slot.build?.replace(/^.*-/, '') ?? ''}</span>
            <span>
              {slot.environment}: {slot.verdict}
              {slot.defects.length > 0 && `, ${slot.defects.join(', ')}`}
            </span>
            <span className={css['note']}>
              {slot.reasons.join(', ')}
              {slot.reasons.length > 0 && `, trust ${Math.floor(slot.confidence * 100)} %`}
              {slot.reasons.length === 0 && slot.at !== null && `current, ${ago(slot.at)}`}
            </span>
          </li>
        ))}
      </ul>
      {of.attempts.length > 0 && (
        <details>
          <summary className="quiet" style={{ cursor: 'pointer' }}>
            All {of.attempts.length} attempts
          </summary>
          <ul className={css['rows']}>
            {of.attempts.map((attempt) => (
              <li key={attempt.id} id={`attempt-${attempt.id}`}>
                <Mark verdict={attempt.verdict} />
                <span className="key">{attempt.version}</span>
                <span>
                  {attempt.build} · {attempt.environment}
                </span>
                <span className={css['note']}>
                  {shortName(attempt.person)} {attempt.at === null ? '' : ago(attempt.at)}
                </span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  )
}
