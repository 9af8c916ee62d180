import { minutesText, sumOf } from '#core/lib/figures.ts'
import { isFinal } from '#core/lib/verdict.ts'
import { type Calendar, listDayItems } from '#core/schedule/calendar-contract.ts'
import { freeOn } from '#core/schedule/load.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Mark } from '#ui/kit/Mark.tsx'
import { dayText } from '#ui/kit/moment.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './Calendar.module.css'
import { lineAt } from './LineHead.tsx'
import type { Carried } from './useCarrying.ts'
import { useMovingIn } from './useMoving.ts'

interface Props {
  readonly of: Calendar
  readonly person: string
  readonly day: string
  readonly may: boolean
  readonly onClose: () => void
  readonly onPick: (what: Carried) => void
}

/** What somebody has on a day, in its order: picked up one by one, or taken off. */
export function DayDialog({ of, person, day, may, onClose, onPick }: Props) {
  const { key } = useHere()
  const move = useMovingIn()
  const { data } = useAnswer(listDayItems, { params: { key }, query: { person, day } }, { keep: true })
  const hand = of.people.find(({ id }) => id === person)
  const at = of.days.findIndex((each) => each.day === day)
  const rows = data?.rows ?? []
  const planned = sumOf(
    rows.filter(({ verdict }) => !isFinal(verdict)),
    ({ minutes }) => minutes,
  )
  const free = hand ? freeOn(hand, at) : 0
  return (
    <Dialog title={`${hand?.name ?? ''}, ${dayText(day)}`} onClose={onClose} wide>
      <p>
        {minutesText(planned)} planned of {minutesText(free)}
        {planned > free && <b className={css['over']}>, {minutesText(planned - free)} over</b>}
      </p>
      {data && rows.length === 0 && <p className="quiet">Nothing is on this day.</p>}
      <ol className={css['items']}>
        {rows.map((item) => (
          <li key={item.id}>
            <Mark verdict={item.verdict} />
            <a className="key" href={`/p/${key}/desk/${item.id}`}>
              {item.case}
            </a>
            <span className={css['what']}>
              {item.title} <small>{[item.pinned && 'pinned', dueWords(item.dueOn)].filter(Boolean).join(', ')}</small>
            </span>
            <small>{item.environment}</small>
            <span className={css['minutes']}>{minutesText(item.minutes)}</span>
            <a href={lineAt(key, { kind: 'run', ref: item.run })} title={item.runTitle}>
              {item.run}
            </a>
            <span className={css['acts']}>
              {may && !isFinal(item.verdict) && (
                <>
                  <Button
                    look="word"
                    onClick={() => {
                      onPick({ person, day, run: item.run, item: item.id, words: item.case })
                      onClose()
                    }}
                  >
                    pick up
                  </Button>
                  <Button look="word" onClick={() => void move([{ ref: item.run, ids: [item.id] }], null)}>
                    take off
                  </Button>
                </>
              )}
            </span>
          </li>
        ))}
      </ol>
      {data && data.next !== null && <p className="quiet">and {data.total - rows.length} more</p>}
    </Dialog>
  )
}

const dueWords = (day: string | null): string | false => day !== null && `due ${dayText(day)}`
