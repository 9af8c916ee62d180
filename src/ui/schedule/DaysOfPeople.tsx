import { type KeyboardEvent, useRef, useState } from 'react'
import { counted, minutesText } from '#core/lib/figures.ts'
import { groupBy } from '#core/lib/group.ts'
import { hasEnded } from '#core/runs/state.ts'
import type { Calendar } from '#core/schedule/calendar-contract.ts'
import { useKeys } from '#ui/kit/keys.ts'
import { useHere } from '#ui/shell/here.ts'
import { shortName } from '#ui/shell/people.ts'
import css from './Calendar.module.css'
import { CalendarHead } from './CalendarHead.tsx'
import { DayCell } from './DayCell.tsx'
import { DayDialog } from './DayDialog.tsx'
import { lineAt } from './LineHead.tsx'
import { useCarrying } from './useCarrying.ts'

interface At {
  readonly row: number
  readonly column: number
}

/** The cell the keys act on, what is carried from it, and the day that is open. */
function useDays(of: Calendar, may: boolean) {
  const today = of.days.findIndex(({ day }) => day === of.today)
  const [at, setAt] = useState<At>({ row: 0, column: Math.max(0, today) })
  const [open, setOpen] = useState<At | null>(null)
  const carrying = useCarrying()
  const { carried, pick, put, drop } = carrying
  const box = useRef<HTMLDivElement>(null)
  const loads = groupBy(of.loads, ({ person, day }) => `${person} ${day}`)
  const cell = ({ row, column }: At) => ({ person: of.people[row]?.id ?? '', day: of.days[column]?.day ?? '' })
  const own = ({ person, day }: ReturnType<typeof cell>) => loads.get(`${person} ${day}`) ?? []
  const focus = (next: At) => {
    setAt(next)
    box.current?.querySelector<HTMLElement>(`[data-cell="${next.row} ${next.column}"]`)?.focus()
  }
  const toggle = () => (carried ? void put(cell(at)) : pick(cell(at), own(cell(at))))
  useKeys([
    { id: 'calendar-open', keys: 'Enter', label: 'what is on the day', run: () => setOpen(at) },
    ...(may
      ? [{ id: 'calendar-carry', keys: 'm', label: carried ? 'put down here' : 'move the day', run: toggle }]
      : []),
    ...(carried ? [{ id: 'calendar-drop', keys: 'Escape', label: 'leave it where it was', run: drop }] : []),
  ])
  return { ...carrying, at, setAt, open, setOpen, box, cell, own, focus }
}

/** Days × testers: what is on whose day, moved by dragging or carried by key. */
export function DaysOfPeople({ of }: { of: Calendar }) {
  const { project } = useHere()
  const may = project.role === 'lead'
  const { at, setAt, open, setOpen, box, cell, own, focus, carried, pick, put } = useDays(of, may)
  const marked = new Set(of.marks.map(({ day }) => day))
  const wide = ({ working, holiday, day }: Calendar['days'][number]) =>
    working ? 'minmax(84px, 1fr)' : holiday !== null || marked.has(day) ? '72px' : '28px'
  return (
    <>
      <p className={css['carried']} role="status">
        {carried && `Carrying ${carried.words}: arrows choose a day, m puts it down, Esc leaves it.`}
      </p>
      <div
        ref={box}
        className={css['days']}
        role="grid"
        aria-label="Days of people"
        style={{ gridTemplateColumns: `minmax(112px, 140px) ${of.days.map(wide).join(' ')}` }}
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
                loads={own({ person: person.id, day })}
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
      <Unplaced of={of} />
      {open && <DayDialog of={of} {...cell(open)} may={may} onClose={() => setOpen(null)} onPick={pick} />}
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
