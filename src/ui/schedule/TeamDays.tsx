import { useState } from 'react'
import { minutesText } from '#core/lib/figures.ts'
import type { HandShown, LineAnswer, PlacedItem } from '#core/schedule/contract.ts'
import { hasEnded } from '#core/runs/state.ts'
import { freeOn } from '#core/schedule/load.ts'
import { dayText } from '#ui/kit/moment.ts'
import { Pop } from '#ui/kit/Pop.tsx'
import { useHere } from '#ui/shell/here.ts'
import { shortName } from '#ui/shell/people.ts'
import css from './CutLine.module.css'
import { itemsType } from './LineRows.tsx'
import { Ends, Over, Seats, Simply } from './TeamFacts.tsx'
import { TeamEdit } from './TeamEdit.tsx'
import { type Moving, useMoving } from './useMoving.ts'

interface Props {
  readonly of: LineAnswer
  readonly may: boolean
  readonly chosen: readonly number[]
  /** Opens the keyboard's way of moving items to a day. */
  readonly onGive: (ids: readonly number[]) => void
}

/** What each of the team has on each day against what they can give, seats that are short, and when it ends. */
export function TeamDays({ of, may, chosen, onGive }: Props) {
  const move = useMoving(of)
  const title = of.about.kind === 'day' ? 'My days' : 'The team’s days'
  return (
    <aside className={css['team']} aria-label={title}>
      <div className={css['teamHead']}>
        <h2>{title}</h2>
        <span className="quiet">
          worth {of.reached.worth.toFixed(0)} of at most {of.reached.bound.toFixed(0)} in these hours
        </span>
      </div>
      {of.days.length === 0 ? (
        <NoDays of={of} />
      ) : of.hands.length === 0 ? (
        <p className={css['note']}>This run has no team yet: choose testers below.</p>
      ) : (
        <Days of={of} may={may} move={move} chosen={chosen} onGive={onGive} />
      )}
      <Over of={of} />
      {may && <TeamEdit of={of} />}
      {may && of.hands.length > 0 && <Simply of={of} />}
      {of.about.kind !== 'day' && of.days.length > 0 && <Seats of={of} />}
      {of.about.kind !== 'day' && <Ends of={of} />}
    </aside>
  )
}

function NoDays({ of }: { of: LineAnswer }) {
  const { key } = useHere()
  const [run] = of.runs
  return (
    <p className={css['note']}>
      {run === undefined ? (
        'There is nothing to plan.'
      ) : hasEnded(run.state) ? (
        <>
          {run.key} is {run.state.toLowerCase()}.{' '}
          <a href={`/p/${key}/runs/again?runs=${run.key}`}>Compose a run of what it left</a>
        </>
      ) : (
        'The days of this run are over; give it a later last day to plan what is left.'
      )}
    </p>
  )
}

function Days(props: Props & { move: Moving }) {
  const { of } = props
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
                <Cell key={day} {...props} hand={hand} at={at} />
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

interface CellProps extends Props {
  readonly hand: HandShown
  readonly at: number
  readonly move: Moving
}

function Cell(props: CellProps) {
  const { of, hand, at, may, move } = props
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
            {full === null
              ? of.hands.some((each) => freeOn(each, at) > 0)
                ? 'away'
                : 'no hours'
              : full === Infinity
                ? 'over'
                : `${full} %`}
            {full !== null && free !== placed && (
              <small aria-hidden="true">
                {placed > free ? `${minutesText(placed - free)} over` : `${minutesText(free - placed)} left`}
              </small>
            )}
            <span className="hidden">
              {' '}
              {shortName(hand.name)}, {dayText(day)}: {words}
            </span>
          </span>
        }
      >
        <DayItems {...props} day={day} words={words} />
      </Pop>
    </td>
  )
}

interface DayProps extends CellProps {
  readonly day: string
  readonly words: string
}

/** What somebody has on a day, in its order. */
function DayItems(props: DayProps) {
  const { of, hand, day, words, may, move, chosen } = props
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
        {places.map((place) => (
          <DayItem key={place.item} {...props} place={place} index={at.get(place.item)} />
        ))}
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

/** One item of a day; `index` is its place on the line, where it is still to be executed. */
function DayItem({ of, place, index, may, move, onGive }: DayProps & { place: PlacedItem; index: number | undefined }) {
  const { key } = useHere()
  if (index === undefined)
    return (
      <li>
        <span className={css['clock']}>{clock(place.start)}</span> <span className="quiet">done since</span>
      </li>
    )
  return (
    <li draggable={may} onDragStart={(event) => event.dataTransfer.setData(itemsType, String(place.item))}>
      <span className={css['clock']}>{clock(place.start)}</span>{' '}
      <a href={`/p/${key}/${of.keys[index] ?? ''}`} draggable={false}>
        {of.keys[index]}
      </a>{' '}
      {of.titles[index]}{' '}
      <span className="quiet">
        {place.minutes} min{place.pinned ? ', pinned' : ''}
      </span>
      {may && (
        <>
          <button type="button" onClick={() => onGive([place.item])}>
            move
          </button>
          <button type="button" onClick={() => void move([place.item], null)}>
            take off
          </button>
        </>
      )}
    </li>
  )
}

/** Minutes since a day begins, as hours and minutes into it. */
const clock = (minute: number): string => `+${Math.floor(minute / 60)}:${String(minute % 60).padStart(2, '0')}`
