import { groupBy } from '#core/lib/group.ts'
import type { Calendar } from '#core/schedule/calendar-contract.ts'
import { useHere } from '#ui/shell/here.ts'
import css from './Calendar.module.css'
import { dayNameOf } from './day-names.ts'

export type Mark = Calendar['marks'][number]
/** The days, and what each is known by. */
export function CalendarHead({ of }: { of: Calendar }) {
  const marks = groupBy(of.marks, ({ day }) => day)
  return (
    <div role="row" className={css['row']}>
      <div role="columnheader" className={css['corner']}>
        <span className="hidden">Person</span>
      </div>
      {of.days.map(({ day, working, holiday }) => (
        <div
          key={day}
          role="columnheader"
          className={css['day']}
          data-idle={!working || undefined}
          data-today={day === of.today || undefined}
        >
          <span className={css['dayName']}>{dayNameOf(day, working || holiday !== null || marks.has(day))}</span>
          {holiday !== null && <span className={css['holiday']}>{holiday}</span>}
          {(marks.get(day) ?? []).map((mark, at) => (
            <MarkOf key={at} of={mark} />
          ))}
        </div>
      ))}
    </div>
  )
}

export function MarkOf({ of }: { of: Mark }) {
  const { key } = useHere()
  const words = of.kind === 'due' && of.key ? `${of.key}: ${of.words}` : of.words
  const title = of.kind === 'build' ? `Build ${of.words} offered` : `${words} (${of.kind})`
  const shown = of.kind === 'build' ? `▸ ${words}` : words
  return of.key === null ? (
    <span className={css['mark']} data-kind={of.kind} title={title}>
      {shown}
    </span>
  ) : (
    <a className={css['mark']} data-kind={of.kind} title={title} href={`/p/${key}/${of.key}`}>
      {shown}
    </a>
  )
}
