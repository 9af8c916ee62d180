import { useState } from 'react'
import { mostReserve } from '#core/projects/reserve.ts'
import type { BodyOf } from '#core/lib/contract.ts'
import { type Project, setHolidays, updateProject } from '#core/projects/contract.ts'
import { usualWeights, weightWords, type WorthWeights } from '#core/projects/weights.ts'
import { chanceToLearn } from '#core/schedule/worth.ts'
import { Button } from '#ui/kit/Button.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { dayText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { Setting, Table } from '#ui/kit/Settings.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import css from './TimePart.module.css'
import { useUndoable } from '#ui/shell/undoable.ts'

type Edit = BodyOf<typeof updateProject>
interface PartProps {
  readonly of: Project
  readonly lead: boolean
  readonly onStore: (edit: Edit, before: Edit, told: string) => void
}

/** The calendar of a project, what of the time is not for items, and what makes an item worth executing. */
export function TimePart({ of }: { of: Project }) {
  const store = useUndoable(updateProject, { key: of.key })
  const lead = of.role === 'lead'
  const onStore: PartProps['onStore'] = (edit, before, told) => void store(edit, told, before)
  return (
    <>
      {!lead && <p className="quiet">A lead can change what stands here.</p>}
      <Week of={of} lead={lead} onStore={onStore} />
      <Holidays of={of} lead={lead} />
      <Setting
        name="Kept for retests"
        explains="A part of everybody’s time that no item is planned into: repairs come when they come."
      >
        <NumberOf
          label="Part of the time that is kept for retests, in per cent"
          value={of.reservePercent}
          most={mostReserve}
          unit="%"
          lead={lead}
          onStore={(reservePercent) =>
            onStore(
              { reservePercent },
              { reservePercent: of.reservePercent },
              `${reservePercent} % is kept for retests.`,
            )
          }
        />
      </Setting>
      <Setting
        name="Another environment"
        explains="What it takes when somebody goes from one environment to another within a day. Levelling keeps people where they are."
      >
        <NumberOf
          label="Minutes it takes to go to another environment"
          value={of.switchMinutes}
          most={480}
          unit="min"
          lead={lead}
          onStore={(switchMinutes) =>
            onStore(
              { switchMinutes },
              { switchMinutes: of.switchMinutes },
              `Another environment takes ${switchMinutes} min.`,
            )
          }
        />
      </Setting>
      <Weights of={of} lead={lead} onStore={onStore} />
    </>
  )
}

function NumberOf({
  label,
  value,
  most,
  unit,
  lead,
  onStore,
}: {
  label: string
  value: number
  most: number
  unit: string
  lead: boolean
  onStore: (value: number) => void
}) {
  return (
    <span>
      <EditText
        label={label}
        value={String(value)}
        disabled={!lead}
        onStore={(text) => {
          const typed = Number(text.replace(',', '.'))
          if (text === '' || !Number.isFinite(typed) || typed < 0 || typed > most)
            notify(`“${text}” is no number from 0 to ${most}; the old one stays.`, { tone: 'problem' })
          else onStore(typed)
        }}
      />{' '}
      {unit}
    </span>
  )
}

const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const

const Week = ({ of, lead, onStore }: PartProps) => {
  const worked = of.workingDays.split(',')
  const toggle = (day: string) => {
    const next = worked.includes(day) ? worked.filter((each) => each !== day) : [...worked, day].sort()
    if (next.length === 0) return notify('One day of the week has to be worked.', { tone: 'problem' })
    const named = next.map((each) => weekdays[Number(each) - 1]).join(', ')
    return onStore({ workingDays: next.join(',') }, { workingDays: of.workingDays }, `Worked are ${named}.`)
  }
  return (
    <Setting name="Working days" explains="On the others nobody has hours, whatever a person’s page says.">
      <span>
        {weekdays.map((name, at) => (
          <label key={name} style={{ marginInlineEnd: 12 }}>
            <input
              type="checkbox"
              checked={worked.includes(String(at + 1))}
              disabled={!lead}
              onChange={() => toggle(String(at + 1))}
            />{' '}
            {name}
          </label>
        ))}
      </span>
    </Setting>
  )
}

function Holidays({ of, lead }: Pick<PartProps, 'of' | 'lead'>) {
  const holidays = useWrite(setHolidays)
  const store = async (days: Project['holidays'], told: string) => {
    const done = await holidays.attempt({ params: { key: of.key }, body: { days } })
    if (done)
      notify(told, {
        undo: () => void holidays.attempt({ params: { key: of.key }, body: { days: done.before } }),
      })
    return done !== null
  }
  const add = (day: string, name: string) =>
    store(
      [...of.holidays.filter((each) => each.day !== day), { day, name }].sort((a, b) => a.day.localeCompare(b.day)),
      `Nobody works on ${dayText(day)}.`,
    )
  return (
    <Setting
      name="Holidays"
      explains="Days on which nobody of the project works. Nothing is planned on them; a pin there is named."
    >
      <div>
        {of.holidays.length === 0 && <p className="quiet">None.</p>}
        <ul>
          {of.holidays.map((each) => (
            <li key={each.day}>
              {dayText(each.day)} {each.name}{' '}
              {lead && (
                <Button
                  look="word"
                  aria-label={`Take ${each.name} away`}
                  onClick={() =>
                    void store(
                      of.holidays.filter(({ day: own }) => own !== each.day),
                      `${each.name} is a working day again.`,
                    )
                  }
                >
                  take away
                </Button>
              )}
            </li>
          ))}
        </ul>
        {lead && <AddHoliday onAdd={add} />}
      </div>
    </Setting>
  )
}

function AddHoliday({ onAdd }: { onAdd: (day: string, name: string) => Promise<boolean> }) {
  const [day, setDay] = useState('')
  const [name, setName] = useState('')
  const add = async () => {
    if (day === '' || name.trim() === '') return notify('A holiday has a day and a name.', { tone: 'problem' })
    if (!(await onAdd(day, name.trim()))) return undefined
    setDay('')
    return setName('')
  }
  return (
    <Form className={css['row']} onSend={() => void add()}>
      <TextInput type="date" aria-label="Day" value={day} onChange={(event) => setDay(event.target.value)} />{' '}
      <TextInput aria-label="Name" placeholder="Name" value={name} onChange={(event) => setName(event.target.value)} />{' '}
      <Button type="submit">Add</Button>
    </Form>
  )
}

const parts = ['changed', 'openDefect', 'retest', 'doubt'] as const
const importances = ['Critical', 'High', 'Medium', 'Low'] as const
/** What a case comes to that fails as seldom as this, with nothing else against it. */
const quiet = { fails: 0, n: 20, changed: false, openDefect: false, retest: false, confidence: 1 }
const with_ = {
  changed: { ...quiet, changed: true },
  openDefect: { ...quiet, openDefect: true },
  retest: { ...quiet, retest: true },
  doubt: { ...quiet, confidence: 0 },
} as const
const usualRate = 0.1

/** What worth is weighed by, each with what it does to a case that never failed lately. */
function Weights({ of, lead, onStore }: PartProps) {
  const { weights } = of
  const store = (name: keyof WorthWeights, value: number) =>
    onStore({ weights: { ...weights, [name]: value } }, { weights }, `“${weightWords[name]}” weighs ${value}.`)
  const chance = (known: typeof quiet) => `${(100 * chanceToLearn(known, usualRate, weights).chance).toFixed(1)} %`
  const isUsual = Object.entries(usualWeights).every(([name, value]) => weights[name as keyof WorthWeights] === value)
  return (
    <Setting
      name="Worth"
      explains={`What an item is worth: the risk it answers times the chance to learn something. A case that passed its last 20 times, with nothing against it, has a chance of ${chance(quiet)}; beside each weight stands what that becomes.`}
    >
      <div>
        <Table label="Weights" head={['What speaks for executing it', 'Weight', 'Then']}>
          {parts.map((name) => (
            <tr key={name}>
              <td>{weightWords[name]}</td>
              <td>
                <NumberOf
                  label={`Weight of: ${weightWords[name]}`}
                  value={weights[name]}
                  most={1}
                  unit=""
                  lead={lead}
                  onStore={(value) => store(name, value)}
                />
              </td>
              <td>{chance(with_[name])}</td>
            </tr>
          ))}
          {importances.map((name) => (
            <tr key={name}>
              <td>{weightWords[name]}</td>
              <td>
                <NumberOf
                  label={`Weight of: ${weightWords[name]}`}
                  value={weights[name]}
                  most={1000}
                  unit=""
                  lead={lead}
                  onStore={(value) => store(name, value)}
                />
              </td>
              <td>adds {weights[name]} to the risk it answers</td>
            </tr>
          ))}
        </Table>
        {lead && !isUsual && (
          <p>
            <Button
              look="word"
              onClick={() => onStore({ weights: usualWeights }, { weights }, 'Worth is weighed as usual.')}
            >
              as usual again
            </Button>
          </p>
        )}
      </div>
    </Setting>
  )
}
