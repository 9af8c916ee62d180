import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react'
import { dayAfter, dayNumber } from '#core/lib/days.ts'
import { counted, minutesText, sumOf } from '#core/lib/figures.ts'
import { updateRun } from '#core/runs/contract.ts'
import { hasEnded } from '#core/runs/state.ts'
import type { Calendar } from '#core/schedule/calendar-contract.ts'
import { freeOn } from '#core/schedule/load.ts'
import { dayText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useEdit } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './Calendar.module.css'
import { MarkOf } from './CalendarHead.tsx'
import { lineAt } from './LineHead.tsx'

type RunRow = Calendar['runs'][number]
const week = 7

/** Weeks × runs: from when to when each goes, what of it is left, and what the weeks are known by. */
export function WeeksOfRuns({ of }: { of: Calendar }) {
  const weeks = of.days.flatMap(({ day }, at) => (at % week === 0 ? [{ day, at }] : []))
  return (
    <div className={css['weeks']} role="table" aria-label="Weeks of runs">
      <div role="row" className={css['weekRow']}>
        <div role="columnheader" className={css['name']}>
          <span className="hidden">Run</span>
        </div>
        {weeks.map(({ day, at }) => {
          const marks = of.marks.filter((mark) => mark.day >= day && mark.day < dayAfter(day, week))
          return (
            <div
              key={day}
              role="columnheader"
              className={css['day']}
              data-today={(of.today >= day && of.today < dayAfter(day, week)) || undefined}
            >
              <span className={css['dayName']}>{dayText(day)}</span>
              {of.days
                .slice(at, at + week)
                .flatMap(({ day: on, holiday }) => (holiday === null ? [] : [{ on, holiday }]))
                .map(({ on, holiday }) => (
                  <span key={on} className={css['holiday']} title={dayText(on)}>
                    {holiday}
                  </span>
                ))}
              {marks.map((mark, index) => (
                <MarkOf key={index} of={mark} />
              ))}
            </div>
          )
        })}
      </div>
      <Hours of={of} weeks={weeks} />
      {of.runs.map((run) => (
        <RunOfWeeks key={run.key} of={of} run={run} />
      ))}
      {of.runs.length === 0 && <p className="quiet">No run lies in these weeks.</p>}
      {of.moreRuns > 0 && <p className="quiet">and {counted(of.moreRuns, 'ended run')} more in these weeks</p>}
    </div>
  )
}

/** What the people give in each week, and what of it is planned. */
function Hours({ of, weeks }: { of: Calendar; weeks: readonly { day: string; at: number }[] }) {
  return (
    <div role="row" className={css['weekRow']}>
      <div role="rowheader" className={css['name']}>
        Hours
        <small>planned of what there is</small>
      </div>
      {weeks.map(({ day, at }) => {
        const days = of.days.slice(at, at + week)
        const there = sumOf([...days.keys()], (n) => sumOf(of.people, (person) => freeOn(person, at + n)))
        const known = new Set(days.map((each) => each.day))
        const planned = sumOf(of.loads, (load) => (known.has(load.day) ? load.minutes : 0))
        return (
          <div key={day} role="cell" className={css['seat']} data-state={planned > there ? 'over' : undefined}>
            {planned > 0 ? `${minutesText(planned)} of ${minutesText(there)}` : minutesText(there)}
          </div>
        )
      })}
    </div>
  )
}

/** What somebody does to the days of a run: all of them move, or the last one does. */
interface Shift {
  readonly days: number
  readonly end: boolean
}

/** One run from its first to its last day; it is moved by dragging it or its end, and by keys. */
function RunOfWeeks({ of, run }: { of: Calendar; run: RunRow }) {
  const { key, project } = useHere()
  const may = project.role === 'lead' && !hasEnded(run.state)
  const edit = useEdit(updateRun, { key, ref: run.key }, run)
  const [shift, setShift] = useState<Shift>({ days: 0, end: false })
  const [from, to] = [shift.end ? run.startOn : dayAfter(run.startOn, shift.days), dayAfter(run.endOn, shift.days)]
  const store = async ({ days, end }: Shift) => {
    const set = { ...(!end && { startOn: dayAfter(run.startOn, days) }), endOn: dayAfter(run.endOn, days) }
    const before = { ...(!end && { startOn: run.startOn }), endOn: run.endOn }
    const stored = days !== 0 && (await edit(set))
    setShift({ days: 0, end: false })
    if (stored)
      notify(
        `${run.key} goes from ${dayText(set.startOn ?? run.startOn)} to ${dayText(set.endOn)}; what is on people’s days stays there.`,
        { undo: () => void edit(before) },
      )
  }
  return (
    <div role="row" className={css['weekRow']}>
      <div role="rowheader" className={css['name']}>
        <a href={lineAt(key, { kind: 'run', ref: run.key })}>{run.title}</a>
        <small>
          {run.key} · {run.state}
        </small>
      </div>
      <div role="cell" className={css['track']}>
        <Edges of={of} />
        <Today of={of} />
        <Bar {...{ of, run, from, to, may }} onShift={setShift} onStore={(to) => void store(to)} />
      </div>
    </div>
  )
}

/** Where each week begins. */
const Edges = ({ of }: { of: Calendar }) =>
  of.days
    .flatMap((_, at) => (at % week === 0 ? [at] : []))
    .map((at) => <i key={at} className={css['edge']} style={{ insetInlineStart: `${(100 * at) / of.days.length}%` }} />)

function Today({ of }: { of: Calendar }) {
  const at = of.days.findIndex(({ day }) => day === of.today)
  return at < 0 ? null : (
    <i className={css['now']} style={{ insetInlineStart: `${(100 * (at + 0.5)) / of.days.length}%` }} />
  )
}

interface BarProps {
  readonly of: Calendar
  readonly run: RunRow
  readonly from: string
  readonly to: string
  readonly may: boolean
  readonly onShift: (shift: Shift) => void
  readonly onStore: (shift: Shift) => void
}

const leftWords = ({ items, minutes, state }: RunRow): string =>
  items === 0 ? 'done' : hasEnded(state) ? `${items} not executed` : `${items} left, ${minutesText(minutes)}`

function Bar({ of, run, from, to, may, onShift, onStore }: BarProps) {
  const first = dayNumber(of.days[0]?.day ?? from)
  const part = (day: number) => (100 * Math.max(0, Math.min(of.days.length, day - first))) / of.days.length
  const [left, right] = [part(dayNumber(from)), part(dayNumber(to) + 1)]
  const drag = useBarDrag(of.days.length, { onShift, onStore })
  const words = `${counted(run.items, 'item')} left of ${run.all}, ${minutesText(run.minutes)}, ${run.placed} on people’s days`
  return (
    <div
      className={css['runBar']}
      style={{ insetInlineStart: `${left}%`, inlineSize: `${right - left}%` }}
      data-state={hasEnded(run.state) ? 'ended' : to < of.today && run.items > 0 ? 'late' : undefined}
      role={may ? 'slider' : 'img'}
      aria-label={`${run.key} ${run.title}, ${words}`}
      title={`${dayText(from)} – ${dayText(to)}: ${words}`}
      {...(may && {
        tabIndex: 0,
        'aria-valuenow': dayNumber(to),
        'aria-valuetext': `${dayText(from)} to ${dayText(to)}`,
        onKeyDown: (event: KeyboardEvent) => {
          const step = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0
          if (step === 0 || event.ctrlKey || event.altKey) return
          event.preventDefault()
          onStore({ days: step, end: event.shiftKey })
        },
        ...drag(false),
      })}
    >
      <span className={css['beside']} data-before={right > 75 || undefined}>
        {leftWords(run)}
      </span>
      {may && <i className={css['end']} title="Drag to change the last day" {...drag(true)} />}
    </div>
  )
}

/** A bar, or its end, follows the pointer by whole days. */
function useBarDrag(days: number, { onShift, onStore }: Pick<BarProps, 'onShift' | 'onStore'>) {
  const going = useRef<{ from: number; wide: number; days: number } | null>(null)
  return (end: boolean) => ({
    onPointerDown: (event: PointerEvent<HTMLElement>) => {
      const track = event.currentTarget.closest('[role="cell"]')
      event.stopPropagation()
      event.currentTarget.setPointerCapture(event.pointerId)
      going.current = { from: event.clientX, wide: track?.getBoundingClientRect().width ?? 0, days: 0 }
    },
    onPointerMove: (event: PointerEvent) => {
      const drag = going.current
      if (!drag || drag.wide === 0) return
      event.stopPropagation()
      const next = Math.round(((event.clientX - drag.from) / drag.wide) * days)
      if (next !== drag.days) onShift({ days: (drag.days = next), end })
    },
    onPointerUp: (event: PointerEvent) => {
      const drag = going.current
      event.stopPropagation()
      going.current = null
      if (drag) onStore({ days: drag.days, end })
    },
    onPointerCancel: () => {
      going.current = null
      onShift({ days: 0, end })
    },
  })
}
