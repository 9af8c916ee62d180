import { useState } from 'react'
import {
  type Calendar,
  createCalendarAddress,
  listCalendarAddresses,
  revokeCalendarAddress,
} from '#core/schedule/calendar-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { momentText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { ToldOnce } from '#ui/kit/Settings.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './Calendar.module.css'

/** One's own addresses for calendar programs: made, told once, revoked. */
export function CalendarAddresses({ runs }: { runs: Calendar['runs'] }) {
  const { key } = useHere()
  const [run, setRun] = useState('')
  const [made, setMade] = useState<string | null>(null)
  const { data } = useAnswer(listCalendarAddresses, { params: { key } })
  const making = useWrite(createCalendarAddress)
  const revoking = useWrite(revokeCalendarAddress)
  const make = async () => {
    const told = await making.attempt({ params: { key }, body: { run: run === '' ? null : run } })
    if (told) setMade(`${location.origin}${told.path}`)
  }
  const revoke = async (id: number) => {
    if (await revoking.attempt({ params: { key, id } })) {
      setMade(null)
      notify('Revoked: nothing is read at that address any more.')
    }
  }
  return (
    <div className={css['addresses']}>
      <p>A calendar program (iCalendar) reads the days at an address nobody can guess, without signing in.</p>
      <p>
        <Choice
          label="Whose days"
          look="box"
          value={run}
          options={[
            { value: '', label: 'my days in this project' },
            ...runs.map(({ key: ref, title }) => ({ value: ref, label: `${ref} ${title}` })),
          ]}
          onChoose={setRun}
        />{' '}
        <Button onClick={() => void make()} disabled={making.busy}>
          Make an address
        </Button>
      </p>
      {made !== null && (
        <>
          <p>Put it into your calendar program now: it is not shown again. Whoever has it can read these days.</p>
          <ToldOnce label="Calendar address">{made}</ToldOnce>
        </>
      )}
      {(data?.rows ?? []).length > 0 && (
        <ul>
          {data?.rows.map((each) => (
            <li key={each.id}>
              {each.run ? `${each.run.key} ${each.run.title}` : 'my days'}{' '}
              <span className="quiet">
                made {momentText(each.at)}, {each.readAt === null ? 'never read' : `read ${momentText(each.readAt)}`}
              </span>{' '}
              <Button look="word" onClick={() => void revoke(each.id)}>
                revoke
              </Button>
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}
