import { counted, minutesText } from '#core/lib/figures.ts'
import { undoGroups } from '#core/lib/many.ts'
import { changeItems, dealItems } from '#core/runs/contract.ts'
import type { LineAnswer } from '#core/schedule/contract.ts'
import { endOf } from '#core/schedule/finish.ts'
import { freeOn } from '#core/schedule/load.ts'
import { Button } from '#ui/kit/Button.tsx'
import { dayText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { shortName } from '#ui/shell/people.ts'
import { inTurn } from '#ui/shell/undoable.ts'
import css from './CutLine.module.css'
import { byRun } from './line-figures.ts'

/** The simple ways: who does what, without days. */
export function Simply({ of }: { of: LineAnswer }) {
  const { key } = useHere()
  const dealing = useWrite(dealItems)
  const giving = useWrite(changeItems)
  const deal = async (way: 'evenly' | 'knowing') => {
    const back: (() => Promise<unknown>)[] = []
    let dealt = 0
    for (const { ref, ids } of byRun(of, of.ids.slice(0, of.above))) {
      const params = { key, ref }
      const done = await dealing.attempt({ params, body: { way, ids } })
      if (!done) break
      dealt += done.dealt
      for (const { ids: given, set } of undoGroups(done.undo))
        back.push(() => giving.attempt({ params, body: { ids: given, set } }))
    }
    if (dealt > 0)
      notify(`${counted(dealt, 'item')} above the line dealt by minutes; the days are not touched.`, {
        undo: () => void inTurn(back),
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
export function Over({ of }: { of: LineAnswer }) {
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
export function Seats({ of: { seats, hands, days } }: { of: LineAnswer }) {
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
export function Ends({ of }: { of: LineAnswer }) {
  const { half, sure, chance } = endOf(of.minutes.slice(0, of.above), of.hands, of.days)
  if (chance === null || of.days.length === 0) return null
  const when = (day: string | null) => (day === null ? 'never' : dayText(day))
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
