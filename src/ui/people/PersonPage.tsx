import { useState } from 'react'
import type { BodyOf } from '#core/lib/contract.ts'
import { counted, minutesIn, minutesText, noMinutes } from '#core/lib/figures.ts'
import type { Served } from '#core/lib/question.ts'
import {
  addAbsence,
  dropAbsence,
  type Member,
  readMember,
  updateHours,
  updateMember,
} from '#core/people/members-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { dayText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { ago } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { useUndoable } from '#ui/shell/undoable.ts'
import { HandOver } from './HandOver.tsx'
import css from './People.module.css'
import { PersonMark } from './PersonMark.tsx'
import { PersonWork } from './PersonWork.tsx'

interface Props extends ShellProps {
  readonly person: string
  readonly initial: Served<Member>
}

export const PersonPage = ({ person, initial, ...shell }: Props) => (
  <Shell {...shell}>
    <Person person={person} initial={initial} />
  </Shell>
)

/** A person of the project: what they own, execute and wait for; what time they have. */
function Person({ person, initial }: Pick<Props, 'person' | 'initial'>) {
  const { key } = useHere()
  const { data } = useAnswer(readMember, { params: { key, person } }, { served: initial })
  if (!data) return null
  return (
    <div className={css['person']}>
      <aside className={css['side']} aria-label={data.name}>
        <Who of={data} />
        <Time of={data} />
        <Absences of={data} />
      </aside>
      <div className={css['work']}>
        <Days of={data} />
        <PersonWork of={data} />
      </div>
    </div>
  )
}

const stateTold: Readonly<Record<Member['state'], string | null>> = {
  active: null,
  invited: 'invited, has not come yet',
  ended: 'has no access any more',
}

function Who({ of }: { of: Member }) {
  const { project, me } = useHere()
  const [handing, setHanding] = useState(false)
  return (
    <>
      <div className={css['who']}>
        <PersonMark of={of} large />
        <div>
          <h1>{of.name}</h1>
          <a href={`mailto:${of.email}`}>{of.email}</a>
        </div>
      </div>
      <dl>
        <dt>Role</dt>
        <dd>
          {of.role}
          {of.givenRole !== of.role && of.groups.length > 0 && (
            <span className="quiet"> by the group {of.groups.join(', ')}</span>
          )}
        </dd>
        {stateTold[of.state] && (
          <>
            <dt>Access</dt>
            <dd>{stateTold[of.state]}</dd>
          </>
        )}
        <dt>Executed</dt>
        <dd>
          {counted(of.done.attempts, 'attempt')}
          {of.done.lastAt !== null && <span className="quiet">, the last {ago(of.done.lastAt)}</span>}
        </dd>
      </dl>
      <p className={css['bar']}>
        {me.id === of.id && <a href="/me">your own page</a>}
        {project.role === 'lead' && (
          <Button look="word" onClick={() => setHanding(true)}>
            hand over their work…
          </Button>
        )}
      </p>
      {handing && <HandOver of={of} project={project} onClose={() => setHanding(false)} />}
    </>
  )
}

/** Oneself and leads say what time there is. */
const mayChange = (of: Member, here: ReturnType<typeof useHere>): boolean =>
  here.me.id === of.id || here.project.role === 'lead'

function Time({ of }: { of: Member }) {
  const here = useHere()
  const params = { key: here.key, person: of.id }
  const hours = useUndoable(updateHours, params)
  const member = useUndoable(updateMember, params)
  const may = mayChange(of, here)
  const told = 'Stored; what they can give each day follows.'
  const setHours = (body: BodyOf<typeof updateHours>, back: BodyOf<typeof updateHours>) => hours(body, told, back)
  const setShare = (sharePercent: number) => member({ sharePercent }, told, { sharePercent: of.sharePercent })
  return (
    <>
      <h2>Time</h2>
      <dl>
        <dt>A working day</dt>
        <dd>
          <EditText
            label="A working day"
            value={minutesText(of.workingMinutes)}
            disabled={!may}
            onStore={(text) => {
              const minutes = minutesIn(text)
              if (minutes == null || minutes > 1440) notify(noMinutes(text), { tone: 'problem' })
              else void setHours({ workingMinutes: minutes }, { workingMinutes: of.workingMinutes })
            }}
          />
        </dd>
        <dt>Free for testing</dt>
        <dd>
          <Percent
            label="Free for testing"
            value={of.freePercent}
            may={may}
            onStore={(freePercent) => void setHours({ freePercent }, { freePercent: of.freePercent })}
          />
        </dd>
        <dt>For {here.project.name}</dt>
        <dd>
          <Percent
            label="Share for this project"
            value={of.sharePercent}
            may={here.project.role === 'lead'}
            onStore={(share) => void setShare(share)}
          />
        </dd>
        <Elsewhere of={of} />
        <dt>Skills</dt>
        <dd>{of.skills.join(', ') || <span className="quiet">none given</span>}</dd>
      </dl>
      <Over of={of} />
    </>
  )
}

const Elsewhere = ({ of }: { of: Member }) =>
  of.elsewhere.map(({ key, name, sharePercent }) => (
    <div key={key} style={{ display: 'contents' }}>
      <dt>
        For <a href={`/p/${key}/people/${of.id}`}>{name}</a>
      </dt>
      <dd>{sharePercent} %</dd>
    </div>
  ))

const Over = ({ of }: { of: Member }) => {
  const sum = of.elsewhere.reduce((all, { sharePercent }) => all + sharePercent, of.sharePercent)
  return sum > 100 ? (
    <p role="status">
      <mark data-tone="warn">{sum} % of their time is given away</mark>, which is more than they have.
    </p>
  ) : null
}

function Percent({
  label,
  value,
  may,
  onStore,
}: {
  label: string
  value: number
  may: boolean
  onStore: (value: number) => void
}) {
  const store = (text: string) => {
    const number = Number(text.replace('%', '').replace(',', '.').trim())
    if (text.trim() === '' || !Number.isFinite(number) || number < 0 || number > 100)
      notify(`“${text}” is no share from 0 to 100 %; it stays as it was.`, { tone: 'problem' })
    else onStore(number)
  }
  return <EditText label={label} value={`${value} %`} disabled={!may} onStore={store} />
}

function Days({ of }: { of: Member }) {
  const most = Math.max(1, ...of.days.map(({ minutes }) => minutes))
  const sum = of.days.reduce((all, { minutes }) => all + minutes, 0)
  return (
    <>
      <h2>The next fourteen days: {minutesText(sum)} to give</h2>
      <ol className={css['days']} aria-label="Minutes they can give each day">
        {of.days.map(({ day, minutes }) => (
          <li key={day} data-none={minutes === 0 || undefined} title={`${dayText(day)}: ${minutesText(minutes)}`}>
            <span className="hidden">{minutesText(minutes)}</span>
            <i style={{ blockSize: `${Math.round((minutes / most) * 52)}px` }} />
            <span>{dayText(day)}</span>
          </li>
        ))}
      </ol>
    </>
  )
}

function Absences({ of }: { of: Member }) {
  const here = useHere()
  const dropping = useWrite(dropAbsence)
  const adding = useWrite(addAbsence)
  const params = { key: here.key, person: of.id }
  const may = mayChange(of, here)
  const drop = async ({ id, startOn, endOn, minutes, reason }: Member['absences'][number]) => {
    if (await dropping.attempt({ params: { ...params, id } }))
      notify('The absence is taken back.', {
        undo: () => void adding.attempt({ params, body: { startOn, endOn, minutes, reason } }),
      })
  }
  return (
    <>
      <h2>Away</h2>
      {of.absences.length === 0 && <p className="quiet">Not in the days to come, as far as anybody said.</p>}
      <ul className={css['absences']}>
        {of.absences.map((each) => (
          <li key={each.id}>
            <span>
              {each.startOn === each.endOn
                ? dayText(each.startOn)
                : `${dayText(each.startOn)} – ${dayText(each.endOn)}`}
              {each.minutes !== null && `, ${minutesText(each.minutes)} a day`}
              {each.reason !== '' && <span className="quiet">, {each.reason}</span>}
            </span>
            {may && (
              <Button look="word" onClick={() => void drop(each)}>
                take back<span className="hidden"> the absence from {each.startOn}</span>
              </Button>
            )}
          </li>
        ))}
      </ul>
      {may && <NewAbsence params={params} today={of.days[0]?.day ?? ''} />}
    </>
  )
}

function NewAbsence({ params, today }: { params: { key: string; person: string }; today: string }) {
  const { attempt, busy } = useWrite(addAbsence)
  const [of, setOf] = useState({ startOn: today, endOn: today, time: '', reason: '' })
  const add = async () => {
    const minutes = minutesIn(of.time)
    if (minutes === undefined) return notify(noMinutes(of.time), { tone: 'problem' })
    const { startOn, endOn, reason } = of
    if (await attempt({ params, body: { startOn, endOn, minutes, reason } }))
      setOf({ startOn: today, endOn: today, time: '', reason: '' })
  }
  const field = (name: keyof typeof of, label: string, type = 'text') => (
    <TextInput
      type={type}
      aria-label={label}
      placeholder={label}
      value={of[name]}
      onChange={(event) => setOf({ ...of, [name]: event.target.value })}
    />
  )
  return (
    <Form className={css['inline']} onSend={() => void add()}>
      {field('startOn', 'First day away', 'date')}
      {field('endOn', 'Last day away', 'date')}
      {field('time', 'a whole day, or 4 h')}
      {field('reason', 'why')}
      <Button type="submit" disabled={busy || of.startOn === '' || of.endOn === ''}>
        Say so
      </Button>
    </Form>
  )
}
