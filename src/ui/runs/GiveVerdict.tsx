import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import { giveVerdicts, takeVerdictsBack } from '#core/runs/many-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useGoing } from '#ui/shell/going.ts'
import { useHere } from '#ui/shell/here.ts'
import { howMany, withWhy } from '#ui/shell/many.ts'
import { type Sayable, sayables, sayPlainly } from './sayable.ts'

/** What many items are given. */
interface Given extends Pick<Sayable, 'verdict' | 'word' | 'label'> {
  /** Why, in free words. */
  readonly reason: string
  /** One of the project's reasons. */
  readonly because?: string | null
  /** What all of them took together. */
  readonly minutes?: number
}

/** One verdict for many items of a run, told with the way back; answers whether it went through. */
export function useVerdicts(ref: string) {
  const { key } = useHere()
  const giving = useWrite(giveVerdicts)
  const taking = useWrite(takeVerdictsBack)
  const going = useGoing()
  const params = { key, ref }
  return async (
    ids: readonly number[],
    { verdict, word, label, reason, because = null, minutes = 0 }: Given,
  ): Promise<boolean> => {
    const seconds = Math.round((minutes * 60) / ids.length)
    const done = await going(`Giving ${counted(ids.length, 'verdict')} …`, (job) =>
      giving.attempt({ params, body: { ids: [...ids], verdict, word, reason, because, seconds }, job }),
    )
    if (!done) return false
    const [first] = done.left
    // All of them for one reason as a rule; the first says which.
    const left = first ? ` ${counted(done.left.length, 'item')} left as before: ${first.why}` : ''
    notify(withWhy(`${howMany(done.changed, ids.length, 'item')} ${label}.${left}`, done.stopped), {
      ...(done.undo.length > 0 && { undo: () => void taking.attempt({ params, body: { ids: done.undo } }) }),
      ...(first && { tone: 'problem' as const }),
    })
    return done.stopped === undefined && done.left.length === 0
  }
}

/** Asks for the verdict and its reason. */
export function GiveVerdict({ of, ids, onGiven }: { of: string; ids: readonly number[]; onGiven: () => void }) {
  const give = useVerdicts(of)
  const { project } = useHere()
  const all = sayables(project.verdictKinds, 'forItems')
  const [label, setLabel] = useState('Skipped')
  const [reason, setReason] = useState('')
  const [because, setBecause] = useState('')
  const [minutes, setMinutes] = useState('')
  const said = all.find((each) => each.label === label) ?? sayPlainly('Skipped')
  const reasons = project.reasons.filter(
    (each) => each.verdict === said.verdict && said.said.final && each.retiredAt === null,
  )
  const known = reasons.some(({ word }) => word === because) ? because : ''
  return (
    <Form
      onSend={async () => {
        if (
          reason.trim() !== '' &&
          (await give(ids, { ...said, reason: reason.trim(), because: known || null, minutes: Number(minutes) || 0 }))
        )
          onGiven()
      }}
    >
      <p style={{ marginBlockEnd: 8 }}>
        {counted(ids.length, 'item')} become{ids.length === 1 ? 's' : ''}{' '}
        <Choice label="Verdict" look="box" value={label} options={all.map((each) => each.label)} onChoose={setLabel} />
      </p>
      {reasons.length > 0 && (
        <p style={{ marginBlockEnd: 8 }}>
          because of{' '}
          <Choice
            label="Reason"
            look="box"
            value={known}
            options={[{ value: '', label: 'none of the reasons' }, ...reasons.map(({ word }) => word)]}
            onChoose={setBecause}
          />
        </p>
      )}
      <Field label="For what reason?" hint="It stands with each attempt.">
        {(id) => (
          <TextInput id={id} value={reason} maxLength={1000} onChange={(event) => setReason(event.target.value)} />
        )}
      </Field>
      <TookInAll value={minutes} onChange={setMinutes} />
      <Button look="main" type="submit" disabled={reason.trim() === ''}>
        Give it
      </Button>
    </Form>
  )
}

const TookInAll = ({ value, onChange }: { value: string; onChange: (minutes: string) => void }) => (
  <p style={{ marginBlockEnd: 8 }}>
    It took{' '}
    <input
      type="number"
      aria-label="Minutes for all of them"
      min={0}
      max={600}
      style={{ inlineSize: 60 }}
      value={value}
      onChange={(event) => onChange(event.target.value)}
    />{' '}
    min in all, to be shared out; nothing, if it took no time.
  </p>
)
