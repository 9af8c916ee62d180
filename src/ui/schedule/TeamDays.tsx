import { useState } from 'react'
import { dayAfter } from '#core/lib/days.ts'
import { counted, minutesText } from '#core/lib/figures.ts'
import { finishOf } from '#core/schedule/finish.ts'
import { freeOn } from '#core/schedule/load.ts'
import { type HandShown, type LineAnswer, moveOnDays, restoreOnDays } from '#core/schedule/contract.ts'
import { undoGroups } from '#core/lib/many.ts'
import { changeItems, dealItems } from '#core/runs/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { dayText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { shortName } from '#ui/shell/people.ts'
import css from './CutLine.module.css'
import { itemsType } from './LineRows.tsx'

interface Props {
  readonly of: LineAnswer
  readonly may: boolean
  readonly chosen: readonly number[]
}

/** Moves items to somebody's day and pins them there, with a way back. */
export function useMoving(of: LineAnswer) {
  const { key, project } = useHere()
  const moving = useWrite(moveOnDays)
  const restoring = useWrite(restoreOnDays)
  const params = { key, ref: of.run.key }
  return async (ids: readonly number[], to: { person: string; day: string } | null): Promise<boolean> => {
    const told = await moving.attempt({ params, body: { ids: [...ids], to } })
    if (!told) return false
    const name = shortName(project.people.find(({ id }) => id === to?.person)?.name ?? '')
    const words = to ? `on ${name}’s ${dayText(to.day)}` : 'on nobody’s day any more'
    const over = told.over > 0 ? `; that day is ${minutesText(told.over)} over` : ''
    notify(`${counted(ids.length, 'item')} ${words}${over}.`, {
      undo: () => void restoring.attempt({ params, body: told.before }),
    })
    return true
  }
}

/** What each of the team has on each day against what they can give, seats that are short, and when it ends. */
export function TeamDays({ of, may, chosen }: Props) {
  const move = useMoving(of)
  return (
    <aside className={css['team']} aria-label="The team’s days">
      <div className={css['teamHead']}>
        <h2>The team’s days</h2>
        <span className="quiet">
          worth {of.reached.worth.toFixed(0)} of at most {of.reached.bound.toFixed(0)} in these hours
        </span>
      </div>
      {of.days.length === 0 ? (
        <p className={css['note']}>The days of this run are over; give it a later last day to plan what is left.</p>
      ) : of.hands.length === 0 ? (
        <p className={css['note']}>This run has no team yet: choose testers in the run.</p>
      ) : (
        <Days of={of} may={may} move={move} chosen={chosen} />
      )}
      <Over of={of} />
      {may && of.hands.length > 0 && <Simply of={of} />}
      <Seats of={of} />
      <Ends of={of} />
    </aside>
  )
}

function Days({ of, may, move, chosen }: Props & { move: ReturnType<typeof useMoving> }) {
  return (
    <div className={css['days']} tabIndex={0} role="region" aria-label="Load per person and day">
      <table>
        <thead>
          <tr>
            <th scope="col">
              <span className="hidden">Person</span>
            </th>
            {of.days.map((day) => (
              <th key={day} scope="col">
                {dayText(day)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {of.hands.map((hand) => (
            <tr key={hand.id}>
              <th scope="row">
                {shortName(hand.name)}
                {hand.skills.length > 0 && <small>{hand.skills.join(', ')}</small>}
              </th>
              {of.days.map((day, at) => (
                <Cell key={day} of={of} hand={hand} at={at} may={may} move={move} chosen={chosen} />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

/** How full a day is, in per cent of what is free for this run; `null` where nobody works. */
export const fullOn = (hand: HandShown, at: number): number | null => {
  const free = freeOn(hand, at)
  const placed = hand.placed[at] ?? 0
  return free === 0 ? (placed === 0 ? null : Infinity) : Math.round((100 * placed) / free)
}

function Cell({
  of,
  hand,
  at,
  may,
  move,
  chosen,
}: Props & { hand: HandShown; at: number; move: ReturnType<typeof useMoving> }) {
  const [aimed, setAimed] = useState(false)
  const full = fullOn(hand, at)
  const day = of.days[at] ?? ''
  const [free, placed] = [freeOn(hand, at), hand.placed[at] ?? 0]
  const words =
    full === null
      ? 'no hours'
      : `${minutesText(placed)} of ${minutesText(free)}${(hand.busy[at] ?? 0) > 0 ? `, ${minutesText(hand.busy[at] ?? 0)} busy elsewhere` : ''}`
  const drop = (text: string) => {
    const ids = text.split(',').map(Number).filter(Boolean)
    if (ids.length > 0) void move(ids, { person: hand.id, day })
  }
  return (
    <td
      data-state={full === null ? 'away' : full > 100 ? 'over' : undefined}
      data-aimed={aimed || undefined}
      // The edge of what fills it would run through the figure below.
      data-low={(full !== null && full > 12 && full < 55) || undefined}
      {...(may && {
        onDragOver: (event) => {
          if (!event.dataTransfer.types.includes(itemsType)) return
          event.preventDefault()
          setAimed(true)
        },
        onDragLeave: () => setAimed(false),
        onDrop: (event) => {
          setAimed(false)
          drop(event.dataTransfer.getData(itemsType))
        },
      })}
    >
      <i data-none={placed === 0 || undefined} style={{ blockSize: `${full === null ? 0 : Math.min(100, full)}%` }} />
      <Pop
        title={`${shortName(hand.name)}, ${dayText(day)}`}
        label={
          <span className={css['full']} title={words}>
            {full === null ? 'away' : full === Infinity ? 'over' : `${full} %`}
            <span className="hidden">
              {' '}
              {shortName(hand.name)}, {dayText(day)}: {words}
            </span>
          </span>
        }
      >
        <DayItems of={of} hand={hand} day={day} words={words} may={may} move={move} chosen={chosen} />
      </Pop>
    </td>
  )
}

/** What somebody has on a day, in its order. */
function DayItems({
  of,
  hand,
  day,
  words,
  may,
  move,
  chosen,
}: Props & { hand: HandShown; day: string; words: string; move: ReturnType<typeof useMoving> }) {
  const { key } = useHere()
  const places = of.places.filter((place) => place.person === hand.id && place.day === day)
  const at = new Map(of.ids.map((id, index) => [id, index]))
  return (
    <div className={css['dayItems']}>
      <p>
        <b>
          {hand.name}, {dayText(day)}
        </b>{' '}
        {words}
      </p>
      {places.length === 0 && <p className="quiet">Nothing yet.</p>}
      <ol>
        {places.map((place) => {
          const index = at.get(place.item)
          return (
            <li key={place.item}>
              <span className={css['clock']}>{clock(place.start)}</span>{' '}
              {index === undefined ? (
                <span className="quiet">done since</span>
              ) : (
                <>
                  <a href={`/p/${key}/${of.keys[index] ?? ''}`}>{of.keys[index]}</a> {of.titles[index]}{' '}
                  <span className="quiet">
                    {place.minutes} min{place.pinned ? ', pinned' : ''}
                  </span>
                </>
              )}
              {may && index !== undefined && (
                <button type="button" onClick={() => void move([place.item], null)}>
                  take off
                </button>
              )}
            </li>
          )
        })}
      </ol>
      {may && chosen.length > 0 && (
        <p>
          <button type="button" onClick={() => void move(chosen, { person: hand.id, day })}>
            Put {chosen.length === 1 ? 'the chosen item' : `the ${chosen.length} chosen items`} here
          </button>
        </p>
      )}
    </div>
  )
}

/** Minutes since a day begins, as hours and minutes into it. */
const clock = (minute: number): string => `+${Math.floor(minute / 60)}:${String(minute % 60).padStart(2, '0')}`

/** The simple ways: who does what, without days. */
function Simply({ of }: { of: LineAnswer }) {
  const { key } = useHere()
  const dealing = useWrite(dealItems)
  const giving = useWrite(changeItems)
  const params = { key, ref: of.run.key }
  const back = async (undo: NonNullable<Awaited<ReturnType<typeof dealing.attempt>>>['undo']) => {
    for (const { ids, set } of undoGroups(undo)) await giving.attempt({ params, body: { ids, set } })
  }
  const deal = async (way: 'evenly' | 'knowing') => {
    const done = await dealing.attempt({ params, body: { way, ids: [...of.ids.slice(0, of.above)] } })
    if (done)
      notify(`${counted(done.dealt, 'item')} above the line dealt by minutes; the days are not touched.`, {
        undo: () => void back(done.undo),
      })
  }
  return (
    <p className={css['simply']}>
      Or simply, without days:{' '}
      <Button look="word" onClick={() => void deal('evenly')}>
        deal evenly by minutes
      </Button>
      ,{' '}
      <Button look="word" onClick={() => void deal('knowing')}>
        to who knows it
      </Button>
    </p>
  )
}

/** Days with more on them than they hold, and who could take of it. */
function Over({ of }: { of: LineAnswer }) {
  const over = of.hands.flatMap((hand) =>
    of.days.flatMap((day, at) => {
      const more = (hand.placed[at] ?? 0) - freeOn(hand, at)
      return more > 0 ? [{ hand, day, at, more }] : []
    }),
  )
  const first = over[0]
  if (!first) return null
  const free = of.hands
    .filter(({ id }) => id !== first.hand.id)
    .map((hand) => ({ hand, room: freeOn(hand, first.at) - (hand.placed[first.at] ?? 0) }))
    .sort((a, b) => b.room - a.room)[0]
  return (
    <p className={css['over']} role="status">
      {shortName(first.hand.name)} is {minutesText(first.more)} over on {dayText(first.day)}
      {free && free.room > 0 && `; ${shortName(free.hand.name)} has ${minutesText(free.room)} left that day`}.
      {over.length > 1 && ` ${counted(over.length - 1, 'other day')} over as well.`}
    </p>
  )
}

/** Seats against what is asked of them: short where even all minutes of all days do not hold it. */
function Seats({ of: { seats, hands, days } }: { of: LineAnswer }) {
  if (seats.length === 0) return null
  const longest = days.reduce((sum, _, at) => sum + Math.max(0, ...hands.map(({ minutes }) => minutes[at] ?? 0)), 0)
  return (
    <section aria-label="Seats">
      <h3>Seats</h3>
      <ul className={css['seats']}>
        {seats.map(({ environment, seats: there, minutes }) => {
          const room = there * longest
          return (
            <li key={environment} data-short={minutes > room || undefined}>
              <span>
                {environment}, {counted(there, 'seat')}
              </span>
              <span>
                {minutesText(minutes)} asked of {minutesText(room)}
                {minutes > room && <b>, {minutesText(minutes - room)} short</b>}
              </span>
            </li>
          )
        })}
      </ul>
    </section>
  )
}

/** A first forecast of what is above the line. */
function Ends({ of }: { of: LineAnswer }) {
  const hours = of.days.map((_, at) => of.hands.reduce((sum, hand) => sum + freeOn(hand, at), 0))
  const { half, sure, chance } = finishOf(of.minutes.slice(0, of.above), hours)
  if (chance === null || of.days.length === 0) return null
  const when = (day: number) =>
    of.days[day]
      ? dayText(of.days[day] ?? '')
      : Number.isFinite(day)
        ? dayText(dayAfter(of.days.at(-1) ?? '', day - of.days.length + 1))
        : 'never'
  return (
    <section aria-label="When it ends">
      <h3>When it ends</h3>
      <dl className={css['ends']}>
        <div>
          <dd>{when(sure)}</dd>
          <dt>85 % sure</dt>
        </div>
        <div>
          <dd>{when(half)}</dd>
          <dt>50 %</dt>
        </div>
        <div>
          <dd>{Math.floor(chance * 100)} %</dd>
          <dt>to make the date</dt>
        </div>
      </dl>
    </section>
  )
}
