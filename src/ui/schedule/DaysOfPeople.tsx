import { type DragEvent, type KeyboardEvent, useRef, useState } from 'react'
import { counted, minutesText, sumOf } from '#core/lib/figures.ts'
import { groupBy } from '#core/lib/group.ts'
import type { Calendar } from '#core/schedule/calendar-contract.ts'
import { hasEnded } from '#core/runs/state.ts'
import { freeOn } from '#core/schedule/load.ts'
import { useKeys } from '#ui/kit/keys.ts'
import { dayText } from '#ui/kit/moment.ts'
import { useHere } from '#ui/shell/here.ts'
import { shortName } from '#ui/shell/people.ts'
import css from './Calendar.module.css'
import { CalendarHead } from './CalendarHead.tsx'
import { DayDialog } from './DayDialog.tsx'
import { lineAt } from './LineHead.tsx'
import { type Carried, useCarrying } from './useCarrying.ts'

type Load = Calendar['loads'][number]
const carriedType = 'application/x-rovant-day'

interface At {
  readonly row: number
  readonly column: number
}

/** Days × testers: what is on whose day, moved by dragging or carried by key. */
export function DaysOfPeople({ of }: { of: Calendar }) {
  const { project } = useHere()
  const may = project.role === 'lead'
  const [at, setAt] = useState<At>({
    row: 0,
    column: Math.max(
      0,
      of.days.findIndex(({ day }) => day === of.today),
    ),
  })
  const [open, setOpen] = useState<At | null>(null)
  const { carried, pick, put, drop } = useCarrying()
  const box = useRef<HTMLDivElement>(null)
  const loads = groupBy(of.loads, ({ person, day }) => `${person} ${day}`)
  const cell = ({ row, column }: At) => ({
    person: of.people[row]?.id ?? '',
    day: of.days[column]?.day ?? '',
  })
  const own = (where: At) => {
    const { person, day } = cell(where)
    return loads.get(`${person} ${day}`) ?? []
  }
  const focus = (next: At) => {
    setAt(next)
    box.current?.querySelector<HTMLElement>(`[data-cell="${next.row} ${next.column}"]`)?.focus()
  }
  const toggle = () => {
    if (carried) void put(cell(at))
    else void pick(cell(at), own(at))
  }
  useKeys([
    { id: 'calendar-open', keys: 'Enter', label: 'what is on the day', run: () => setOpen(at) },
    ...(may
      ? [{ id: 'calendar-carry', keys: ' ', label: carried ? 'put down here' : 'pick up the day', run: toggle }]
      : []),
    ...(carried ? [{ id: 'calendar-drop', keys: 'Escape', label: 'leave it where it was', run: drop }] : []),
  ])
  const marked = new Set(of.marks.map(({ day }) => day))
  const wide = ({ working, holiday, day }: Calendar['days'][number]) =>
    working ? 'minmax(84px, 1fr)' : holiday !== null || marked.has(day) ? '72px' : '28px'
  const columns = `minmax(112px, 140px) ${of.days.map(wide).join(' ')}`
  return (
    <>
      <p className={css['carried']} role="status">
        {carried && `Carrying ${carried.words}: arrows choose a day, Space puts it down, Esc leaves it.`}
      </p>
      <div
        ref={box}
        className={css['days']}
        role="grid"
        aria-label="Days of people"
        style={{ gridTemplateColumns: columns }}
        onKeyDown={(event) => moved(event, at, { rows: of.people.length, columns: of.days.length }, focus)}
      >
        <CalendarHead of={of} />
        {of.people.map((person, row) => (
          <div key={person.id} role="row" className={css['row']}>
            <div role="rowheader" className={css['name']}>
              {shortName(person.name)}
              {person.skills.length > 0 && <small>{person.skills.join(', ')}</small>}
            </div>
            {of.days.map(({ day }, column) => (
              <DayCell
                key={day}
                {...{ of, person, column, may }}
                loads={loads.get(`${person.id} ${day}`) ?? []}
                current={at.row === row && at.column === column}
                name={`${row} ${column}`}
                onFocus={() => setAt({ row, column })}
                onOpen={() => setOpen({ row, column })}
                onDrop={(what) => void put({ person: person.id, day }, what)}
              />
            ))}
          </div>
        ))}
        <Seats of={of} />
      </div>
      {open && (
        <DayDialog of={of} {...cell(open)} may={may} onClose={() => setOpen(null)} onPick={(what) => pick(what)} />
      )}
    </>
  )
}

function moved(
  event: KeyboardEvent,
  { row, column }: At,
  size: { rows: number; columns: number },
  to: (at: At) => void,
) {
  if (event.ctrlKey || event.altKey || event.metaKey || event.shiftKey) return
  const [down, right] =
    event.key === 'ArrowDown'
      ? [1, 0]
      : event.key === 'ArrowUp'
        ? [-1, 0]
        : event.key === 'ArrowRight'
          ? [0, 1]
          : event.key === 'ArrowLeft'
            ? [0, -1]
            : [0, 0]
  if (down === 0 && right === 0) return
  event.preventDefault()
  to({
    row: Math.max(0, Math.min(size.rows - 1, row + down)),
    column: Math.max(0, Math.min(size.columns - 1, column + right)),
  })
}

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

function DayCell({ of, person, column, loads, may, current, name, onFocus, onOpen, onDrop }: CellProps) {
  const [aimed, setAimed] = useState(false)
  const { day, working } = of.days[column] ?? { day: '', working: false }
  const [free, planned] = [freeOn(person, column), sumOf(loads, ({ minutes }) => minutes)]
  const left = sumOf(loads, ({ items }) => items)
  const isPast = day < of.today
  const away = working && (person.minutes[column] ?? 0) === 0
  const full = free === 0 ? (planned > 0 ? 101 : 0) : Math.round((100 * planned) / free)
  const drop = (event: DragEvent) => {
    setAimed(false)
    const [whose = '', from = '', run = '', item = ''] = event.dataTransfer.getData(carriedType).split(' ')
    if (from === '') return
    event.preventDefault()
    onDrop({ person: whose, day: from, run, ...(item !== '' && { item: Number(item) }), words: '' })
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
        <button
          key={load.run}
          type="button"
          tabIndex={-1}
          className={css['chip']}
          data-done={load.items === 0 || undefined}
          draggable={may && load.items > 0}
          onDragStart={(event) => event.dataTransfer.setData(carriedType, `${person.id} ${day} ${load.run}`)}
          onClick={onOpen}
        >
          <b>{load.run}</b> {load.items > 0 ? counted(load.items, 'item') : `${load.done} done`}
        </button>
      ))}
      {(person.busy[column] ?? 0) > 0 && (
        <span className={css['busy']}>{minutesText(person.busy[column] ?? 0)} elsewhere</span>
      )}
    </div>
  )
}

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

/** Runs with items that are on nobody's day yet. */
function Unplaced({ of }: { of: Calendar }) {
  const { key } = useHere()
  const open = of.runs.filter(({ state, items, placed }) => !hasEnded(state) && items > placed)
  if (open.length === 0) return null
  return (
    <p className={css['unplaced']}>
      On nobody’s day yet:{' '}
      {open.map(({ key: ref, title, items, placed }, at) => (
        <span key={ref}>
          {at > 0 && ', '}
          {items - placed} of {counted(items, 'item')} of{' '}
          <a href={lineAt(key, { kind: 'run', ref })}>
            {ref} {title}
          </a>
        </span>
      ))}
      . At its cut line they are levelled over the team, or given by hand.
    </p>
  )
}

/** Seats against what is planned in them, by the minutes of the longest day anybody has. */
function Seats({ of }: { of: Calendar }) {
  return of.seats.map(({ environment, seats, minutes }) => (
    <div key={environment} role="row" className={css['row']}>
      <div role="rowheader" className={css['name']}>
        {environment}
        <small>{counted(seats, 'seat')}</small>
      </div>
      {of.days.map(({ day, working }, at) => {
        const there = seats * Math.max(0, ...of.people.map((person) => person.minutes[at] ?? 0))
        const asked = minutes[at] ?? 0
        return (
          <div
            key={day}
            role="gridcell"
            className={css['seat']}
            data-idle={!working || undefined}
            data-state={asked > there && day >= of.today ? 'over' : undefined}
          >
            {asked > 0 && `${minutesText(asked)} of ${minutesText(there)}`}
          </div>
        )
      })}
    </div>
  ))
}
