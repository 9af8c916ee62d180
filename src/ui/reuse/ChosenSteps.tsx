import { typedKey } from '#core/lib/key.ts'
import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import { plainText } from '#core/lib/plain-text.ts'
import { extractRoutine } from '#core/reuse/contract.ts'
import { findSame } from '#core/reuse/repeat-contract.ts'
import { moveSteps, splitCase } from '#core/reuse/copy-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { useKept } from '#ui/kit/kept.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { PickFoot, PickForm } from '#ui/kit/Pick.tsx'
import css from '#ui/kit/Pick.module.css'
import grid from '#ui/cases/Steps.module.css'
import type { DraftStep } from '#ui/cases/draft.ts'
import { allStored, type Flush } from '#ui/shell/sending.ts'

interface Props {
  readonly own: string
  readonly steps: readonly DraftStep[]
  /** Places of the chosen ones, rising. */
  readonly chosen: readonly number[]
  /** Stores what is typed first: these acts work on what the server has. */
  readonly flush: Flush
  readonly onClear: () => void
}

/** What can be done with several steps at once. */
export function ChosenSteps({ own, steps, chosen, flush, onClear }: Props) {
  const [dialog, setDialog] = useState<'routine' | 'split' | 'move' | null>(null)
  const first = chosen[0] ?? 0
  const joined = chosen.every((at, index) => at === first + index)
  const ids = chosen.flatMap((at) => steps[at]?.id ?? [])
  const begin = async (which: 'routine' | 'split' | 'move') => {
    if (await allStored(flush)) setDialog(which)
  }
  const acting: Acting = {
    own,
    onClose: () => setDialog(null),
    onDone: () => {
      setDialog(null)
      onClear()
    },
  }
  return (
    <div className={grid['chosen']} role="toolbar" aria-label="With the chosen steps">
      <b>
        {chosen.length} {chosen.length === 1 ? 'step' : 'steps'} chosen
      </b>
      <Button
        look="word"
        disabled={!joined}
        title={joined ? undefined : 'Steps of a routine stand one after the other'}
        onClick={() => void begin('routine')}
      >
        make a routine
      </Button>
      <Button
        look="word"
        disabled={first === 0}
        title={first === 0 ? 'With the first step the whole case would go' : undefined}
        onClick={() => void begin('split')}
      >
        split the case at step {first + 1}
      </Button>
      <Button look="word" onClick={() => void begin('move')}>
        move or copy to a case
      </Button>
      <Button look="word" onClick={onClear}>
        let go
      </Button>
      {dialog === 'routine' && <RoutineDialog {...acting} at={first} steps={chosen.flatMap((at) => steps[at] ?? [])} />}
      {dialog === 'split' && <SplitDialog {...acting} from={ids[0] ?? 0} at={first} />}
      {dialog === 'move' && <MoveDialog {...acting} ids={ids} />}
    </div>
  )
}

interface Acting {
  readonly own: string
  readonly onDone: () => void
  readonly onClose: () => void
}

/** What will change: the cases that say the same, of which some are left alone. */
function useSame(own: string, at: number, length: number) {
  const { key } = useHere()
  const { data } = useAnswer(findSame, { params: { key, ref: own }, query: { at, length } })
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set())
  const places = data?.places ?? []
  const tick = (ref: string, ticked: boolean) => {
    const next = new Set(left)
    if (ticked) next.delete(ref)
    else next.add(ref)
    setLeft(next)
  }
  return { known: data !== undefined, places, left, tick, also: places.filter((place) => !left.has(place.case)) }
}
type Same = ReturnType<typeof useSame>

/** The steps get a name, and take its place in every other case that says the same. */
function RoutineDialog({ own, at, steps, onDone, onClose }: Acting & { at: number; steps: readonly DraftStep[] }) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(extractRoutine)
  const [title, setTitle, keeping] = useKept(`routine.of.${own}`, '')
  const same = useSame(own, at, steps.length)
  const make = async () => {
    if (title.trim() === '') return
    const also = same.also.map((place) => ({ case: place.case, at: place.at }))
    const body = { title, length: steps.length, from: { case: own, at }, also }
    const done = await attempt({ params: { key }, body })
    if (!done) return
    keeping.done()
    notify(
      `${done.key} ${title} stands in ${counted(done.cases, 'case')} now; what each said before is one of its versions.`,
    )
    onDone()
  }
  return (
    <Dialog title="Make a routine of these steps" onClose={onClose} kept={keeping}>
      <PickForm onDo={() => void make()}>
        <Field label="What the steps do, as one would say it">
          {(id) => (
            <TextInput
              id={id}
              data-first
              value={title}
              placeholder="Sign in as a clerk"
              onChange={(event) => setTitle(event.target.value)}
            />
          )}
        </Field>
        <StepList of={steps} />
        <p>{sameText(same)}</p>
        <SamePlaces of={same} />
        <PickFoot>
          <Button look="main" type="submit" disabled={title.trim() === '' || busy || !same.known}>
            {same.also.length === 0 ? 'Make the routine' : `Make it, in ${same.also.length + 1} cases`}
          </Button>
        </PickFoot>
      </PickForm>
    </Dialog>
  )
}

const StepList = ({ of }: { of: readonly DraftStep[] }) => (
  <div className={css['steps']} tabIndex={0} role="group" aria-label="Its steps">
    <ol>
      {of.map((step) => (
        <li key={step.row}>
          {plainText(step.action)}
          {step.expected !== '' && <span className="quiet"> ⇒ {plainText(step.expected)}</span>}
        </li>
      ))}
    </ol>
  </div>
)

function sameText({ known, places }: Same): string {
  if (!known) return 'Looking for the same steps elsewhere…'
  if (places.length === 0) return 'No other case says the same steps.'
  const which = places.length === 1 ? '1 other case says' : `${places.length} other cases say`
  return `${which} the same. The routine takes their place where ticked:`
}

const SamePlaces = ({ of: { places, left, tick } }: { of: Same }) =>
  places.length === 0 ? null : (
    <ul>
      {places.map((place) => (
        <li key={place.case}>
          <label>
            <input
              type="checkbox"
              checked={!left.has(place.case)}
              onChange={(event) => tick(place.case, event.target.checked)}
            />
            <span className="key quiet">{place.case}</span>
            <span>{place.title}</span>
            <span className="quiet">from step {place.at + 1}</span>
          </label>
        </li>
      ))}
    </ul>
  )

function SplitDialog({ own, from, at, onDone, onClose }: Acting & { from: number; at: number }) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(splitCase)
  const [title, setTitle, keeping] = useKept(`split.${own}`, '')
  const split = async () => {
    if (title.trim() === '') return
    const done = await attempt({ params: { key, ref: own }, body: { from, title } })
    if (!done) return
    keeping.done()
    notify(`The steps from ${at + 1} on are ${done.key} now, linked to the same requirements.`)
    onDone()
  }
  return (
    <Dialog title={`Split ${own} at step ${at + 1}`} onClose={onClose} kept={keeping}>
      <PickForm onDo={() => void split()}>
        <p className="quiet">
          Step {at + 1} and all after it become a case of their own, with the same preconditions, fields and
          requirements. What {own} says now is kept as a version.
        </p>
        <Field label="Title of the new case">
          {(id) => <TextInput id={id} data-first value={title} onChange={(event) => setTitle(event.target.value)} />}
        </Field>
        <PickFoot>
          <Button look="main" type="submit" disabled={title.trim() === '' || busy}>
            Split
          </Button>
        </PickFoot>
      </PickForm>
    </Dialog>
  )
}

function MoveDialog({ own, ids, onDone, onClose }: Acting & { ids: readonly number[] }) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(moveSteps)
  const [to, setTo] = useState('')
  const ref = typedKey('case', to)
  const move = async (copy: boolean) => {
    if (ref === null) return
    const done = await attempt({ params: { key, ref: own }, body: { steps: [...ids], to: ref, copy } })
    if (!done) return
    notify(`${done.moved} ${done.moved === 1 ? 'step' : 'steps'} ${copy ? 'copied' : 'moved'} to the end of ${ref}.`)
    onDone()
  }
  return (
    <Dialog title="Move or copy steps to another case" onClose={onClose}>
      <PickForm onDo={() => void move(false)}>
        <Field label="Key of the case" hint="They are put at its end.">
          {(id) => (
            <TextInput
              id={id}
              data-first
              value={to}
              placeholder="TC-12"
              onChange={(event) => setTo(event.target.value)}
            />
          )}
        </Field>
        <PickFoot>
          <Button disabled={ref === null || busy} onClick={() => void move(true)}>
            Copy
          </Button>
          <Button look="main" type="submit" disabled={ref === null || busy}>
            Move
          </Button>
        </PickFoot>
      </PickForm>
    </Dialog>
  )
}
