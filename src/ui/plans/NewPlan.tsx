import { useState } from 'react'
import { createPlan, listSuites } from '#core/plans/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './Plans.module.css'

/** A new plan: for which release, with which suites, in which environments. */
export function NewPlan({ onClose, onMade }: { onClose: () => void; onMade: (ref: string) => void }) {
  const { key, project } = useHere()
  const { attempt, busy } = useWrite(createPlan)
  const suites = useAnswer(listSuites, { params: { key }, query: { limit: 200 } }).data?.rows ?? []
  const usual = project.releases.find(({ state }) => state === 'In test') ?? project.releases.at(-1)
  const [title, setTitle] = useState('')
  const [release, setRelease] = useState(String(usual?.id ?? ''))
  const [chosen, setChosen] = useState<readonly number[]>([])
  const [environments, setEnvironments] = useState<readonly number[]>([])
  const store = async () => {
    const made = await attempt({
      params: { key },
      body: { title, release: Number(release), suites: [...chosen], environments: [...environments] },
    })
    if (!made) return
    notify(`${made.key} is started.`)
    onClose()
    onMade(made.key)
  }
  return (
    <Dialog title="New plan" onClose={onClose}>
      <Form onSend={() => void store()}>
        <Field label="Title">
          {(id) => <TextInput id={id} autoFocus value={title} onChange={(event) => setTitle(event.target.value)} />}
        </Field>
        <p>
          For{' '}
          <Choice
            label="Release"
            look="box"
            value={release}
            options={project.releases.map(({ id, name }) => ({ value: String(id), label: `Release ${name}` }))}
            onChoose={setRelease}
          />
        </p>
        <Ticks
          legend="Suites"
          of={suites.map((suite) => ({ id: suite.id, name: suite.title, note: String(suite.cases) }))}
          chosen={chosen}
          onChoose={setChosen}
        />
        <Ticks
          legend="Environments (none: one slot a case that any environment answers)"
          of={project.environments.filter(({ isAny }) => !isAny)}
          chosen={environments}
          onChoose={setEnvironments}
        />
        <Button look="main" type="submit" disabled={busy || title.trim() === '' || release === ''}>
          Start the plan
        </Button>
      </Form>
    </Dialog>
  )
}

interface TicksProps {
  readonly legend: string
  readonly of: readonly { readonly id: number; readonly name: string; readonly note?: string }[]
  readonly chosen: readonly number[]
  readonly onChoose: (ids: readonly number[]) => void
}

/** Some of several, each with a box to tick. */
const Ticks = ({ legend, of, chosen, onChoose }: TicksProps) => (
  <fieldset className={css['ticks']}>
    <legend>{legend}</legend>
    {of.map(({ id, name, note }) => (
      <label key={id}>
        <input
          type="checkbox"
          checked={chosen.includes(id)}
          onChange={() => onChoose(chosen.includes(id) ? chosen.filter((each) => each !== id) : [...chosen, id])}
        />{' '}
        {name} {note && <span className="quiet">{note}</span>}
      </label>
    ))}
  </fieldset>
)
