import { dayAfter, weekdayOf } from '#core/lib/days.ts'
import { type Calendar, readCalendar } from '#core/schedule/calendar-contract.ts'
import { sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { dayText, todayIn } from '#ui/kit/moment.ts'
import { Pop } from '#ui/kit/Pop.tsx'
import { go, useParams } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import css from './Calendar.module.css'
import { CalendarAddresses } from './CalendarAddresses.tsx'
import { DaysOfPeople } from './DaysOfPeople.tsx'
import { WeeksOfRuns } from './WeeksOfRuns.tsx'

export const CalendarPage = (shell: ShellProps) => (
  <Shell {...shell}>
    <CalendarIn />
  </Shell>
)

const views = { days: { days: 14, step: 7 }, weeks: { days: 56, step: 28 } } as const
type View = keyof typeof views

const mondayOf = (day: string): string => dayAfter(day, 1 - weekdayOf(day))

/** Days of people, or weeks of runs, with what they are known by. */
function CalendarIn() {
  const { key, project } = useHere()
  const params = useParams('by', 'from')
  const view: View = params.get('by') === 'weeks' ? 'weeks' : 'days'
  const today = todayIn(project)
  const typed = params.get('from') ?? ''
  const from = /^\d{4}-\d\d-\d\d$/.test(typed) ? typed : mondayOf(today)
  const { days, step } = views[view]
  const { data, error, settled } = useAnswer(readCalendar, { params: { key }, query: { from, days } }, { keep: true })
  const to = (day: string) => go({ params: { from: day === mondayOf(today) ? null : day } })
  const show = (next: View) => go({ params: { by: next === 'days' ? null : next } })
  const moves = { from, step, view, today, to, show }
  useCalendarKeys(moves)
  return (
    <div className={css['page']} aria-busy={!settled}>
      <Head {...moves} runs={data?.runs ?? []} />
      {error && !data && <p role="alert">{sentenceOf(error)}</p>}
      {!data && !error && <p>Reading what is planned…</p>}
      {data && <Shown of={data} view={data.days.length > views.days.days ? 'weeks' : view} />}
    </div>
  )
}

interface Moves {
  readonly from: string
  readonly step: number
  readonly view: View
  readonly today: string
  readonly to: (day: string) => void
  readonly show: (view: View) => void
}

/** What is shown, other days, and ways out of the browser. */
function Head({ from, step, view, today, to, show, runs }: Moves & { runs: Calendar['runs'] }) {
  const range = `${dayText(from)} to ${dayText(dayAfter(from, views[view].days - 1))}`
  return (
    <header className={css['head']}>
      <h1>Calendar</h1>
      <p className={css['paper']}>
        {view === 'days' ? 'Days of people' : 'Weeks of runs'}, {range}
      </p>
      <p className={css['ways']}>
        <Button look="word" aria-current={view === 'days' || undefined} onClick={() => show('days')}>
          Days of people
        </Button>{' '}
        or{' '}
        <Button look="word" aria-current={view === 'weeks' || undefined} onClick={() => show('weeks')}>
          weeks of runs
        </Button>
        , {range}:{' '}
        <Button look="word" onClick={() => to(dayAfter(from, -step))}>
          earlier
        </Button>
        ,{' '}
        <Button look="word" onClick={() => to(mondayOf(today))}>
          this week
        </Button>
        ,{' '}
        <Button look="word" onClick={() => to(dayAfter(from, step))}>
          later
        </Button>
      </p>
      <p className={css['out']}>
        <Button look="word" onClick={() => window.print()}>
          Print
        </Button>
        <Pop label="Calendar address" title="Read it in a calendar program">
          <CalendarAddresses runs={runs} />
        </Pop>
      </p>
    </header>
  )
}

function useCalendarKeys({ from, step, view, today, to, show }: Moves): void {
  useKeys([
    { id: 'calendar-back', keys: 'PageUp', label: 'earlier', run: () => to(dayAfter(from, -step)) },
    { id: 'calendar-on', keys: 'PageDown', label: 'later', run: () => to(dayAfter(from, step)) },
    { id: 'calendar-today', keys: 'Home', label: 'this week', run: () => to(mondayOf(today)) },
    {
      id: 'calendar-view',
      keys: 'w',
      label: view === 'days' ? 'weeks of runs' : 'days of people',
      run: () => show(view === 'days' ? 'weeks' : 'days'),
    },
  ])
}

function Shown({ of, view }: { of: Calendar; view: View }) {
  if (view === 'weeks') return <WeeksOfRuns of={of} />
  if (of.people.length === 0)
    return (
      <p className="quiet">
        Nobody has any hours on these days. Hours, holidays and absences are said in the set-up and on each person’s
        page.
      </p>
    )
  return <DaysOfPeople of={of} />
}
