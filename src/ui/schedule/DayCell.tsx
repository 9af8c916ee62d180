import { type DragEvent, useState } from 'react'
import { counted, minutesText, sumOf } from '#core/lib/figures.ts'
import type { Calendar } from '#core/schedule/calendar-contract.ts'
import { freeOn } from '#core/schedule/load.ts'
import { dayText } from '#ui/kit/moment.ts'
import { shortName } from '#ui/shell/people.ts'
import css from './Calendar.module.css'
import type { Carried } from './useCarrying.ts'

type Load = Calendar['loads'][number]
const carriedType = 'application/x-rovant-day'

interface CellProps {
  readonly of: Calendar
  readonly person: Calendar['people'][number]
  readonly column: number
  readonly loads: readonly Load[]
  readonly may: boolean
  readonly current: boolean
  readonly name: string
  readonly onFocus: () => void
  readonly onOpen: () => void
  readonly onDrop: (what: Carried) => void
}

/** One day of somebody: how full it is, and what is on it run by run. */
export function DayCell({ of, person, column, loads, may, current, name, onFocus, onOpen, onDrop }: CellProps) {
  const [aimed, setAimed] = useState(false)
  const { day, working } = of.days[column] ?? { day: '', working: false }
  const [free, planned] = [freeOn(person, column), sumOf(loads, ({ minutes }) => minutes)]
  const left = sumOf(loads, ({ items }) => items)
  const isPast = day < of.today
  const away = working && (person.minutes[column] ?? 0) === 0
  const full = free === 0 ? (planned > 0 ? 101 : 0) : Math.round((100 * planned) / free)
  const drop = (event: DragEvent) => {
    setAimed(false)
    const [whose = '', from = '', run = ''] = event.dataTransfer.getData(carriedType).split(' ')
    if (from === '') return
    event.preventDefault()
    onDrop({ person: whose, day: from, run, words: '' })
  }
  return (
    <div
      role="gridcell"
      data-cell={name}
      tabIndex={current ? 0 : -1}
      className={css['cell']}
      data-state={isPast ? (left > 0 ? 'slipped' : 'past') : away ? 'away' : full > 100 ? 'over' : undefined}
      data-idle={!working || undefined}
      data-today={day === of.today || undefined}
      data-aimed={aimed || undefined}
      aria-label={cellWords({ person, day, loads, free, planned, away, busy: person.busy[column] ?? 0, isPast })}
      onFocus={onFocus}
      onDoubleClick={onOpen}
      {...(may &&
        !isPast && {
          onDragOver: (event: DragEvent) => {
            if (!event.dataTransfer.types.includes(carriedType)) return
            event.preventDefault()
            setAimed(true)
          },
          onDragLeave: () => setAimed(false),
          onDrop: drop,
        })}
    >
      {away && planned === 0 && <span className={css['away']}>away</span>}
      {!isPast && (planned > 0 || free > 0) && (
        <span className={css['bar']} title={`${minutesText(planned)} of ${minutesText(free)}`}>
          {planned > 0 && <i style={{ inlineSize: `${Math.min(100, full)}%` }} />}
          <b>{planned > 0 ? `${minutesText(planned)} · ${full} %` : minutesText(free)}</b>
        </span>
      )}
      {loads.map((load) => (
        <Chip key={load.run} of={load} may={may} onOpen={onOpen} />
      ))}
      {(person.busy[column] ?? 0) > 0 && (
        <span className={css['busy']}>{minutesText(person.busy[column] ?? 0)} elsewhere</span>
      )}
    </div>
  )
}

/** What is on the day of one run: dragged to another day, or opened. */
const Chip = ({ of, may, onOpen }: { of: Load; may: boolean; onOpen: () => void }) => (
  <button
    type="button"
    tabIndex={-1}
    className={css['chip']}
    data-done={of.items === 0 || undefined}
    draggable={may && of.items > 0}
    onDragStart={(event) => event.dataTransfer.setData(carriedType, `${of.person} ${of.day} ${of.run}`)}
    onClick={onOpen}
  >
    <b>{of.run}</b>: {of.items > 0 ? of.items : `${of.done} done`}
  </button>
)

interface Words {
  readonly person: Calendar['people'][number]
  readonly day: string
  readonly loads: readonly Load[]
  readonly free: number
  readonly planned: number
  readonly away: boolean
  readonly busy: number
  readonly isPast: boolean
}

const cellWords = ({ person, day, loads, free, planned, away, busy, isPast }: Words): string =>
  [
    `${shortName(person.name)}, ${dayText(day)}`,
    ...(away ? ['away'] : isPast ? [] : [`${minutesText(planned)} of ${minutesText(free)}`]),
    ...loads.map(({ run, items, pinned, done }) =>
      [
        `${run}: ${counted(items, 'item')}`,
        ...(pinned > 0 ? [`${pinned} pinned`] : []),
        ...(done > 0 ? [`${done} done`] : []),
        ...(isPast && items > 0 ? ['slipped'] : []),
      ].join(', '),
    ),
    ...(busy > 0 ? [`${minutesText(busy)} elsewhere`] : []),
  ].join('; ')
