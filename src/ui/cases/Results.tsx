import type { CaseSheet } from '#core/cases/contract.ts'
import { SaidMark } from '#ui/shell/SaidMark.tsx'
import { SharedFailures } from '#ui/shell/SharedFailures.tsx'
import { ago } from '#ui/shell/people.ts'
import { Strip } from './Strip.tsx'
import css from '#ui/shell/sheet.module.css'

export function Results({ of }: { of: CaseSheet }) {
  return (
    <section className={css['part']}>
      <h3>Standing results</h3>
      <ul className={css['rows']}>
        {of.slots.map((slot) => (
          <li key={slot.environment}>
            <SaidMark verdict={slot.verdict} word={slot.word} stale={slot.reasons.length > 0} label={false} />
            <span className="key">{slot.build?.replace(/^.*-/, '') ?? ''}</span>
            <span>
              {slot.environment}: {slot.word ?? slot.verdict}
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
      <Strip of={of} />
      {of.attempts.length > 0 && <SharedFailures of={of.key} />}
    </section>
  )
}
