import { createPlan } from '#core/plans/contract.ts'
import { listSuites } from '#core/plans/suite-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { useKept } from '#ui/kit/kept.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Ticks } from './Ticks.tsx'

interface Props {
  readonly onClose: () => void
  readonly onMade: (ref: string) => void
}

interface Asked {
  readonly title: string
  readonly release: string
  readonly suites: readonly number[]
  readonly environments: readonly number[]
}

function useNewPlan({ onClose, onMade }: Props) {
  const { key, project } = useHere()
  const { attempt, busy } = useWrite(createPlan)
  const usual = project.releases.find(({ state }) => state === 'In test') ?? project.releases.at(-1)
  const [asked, setAsked, keeping] = useKept<Asked>('plan.new', {
    title: '',
    release: String(usual?.id ?? ''),
    suites: [],
    environments: [],
  })
  const store = async () => {
    const { title, release, suites, environments } = asked
    const body = { title, release: Number(release), suites: [...suites], environments: [...environments] }
    const made = await attempt({ params: { key }, body })
    if (!made) return
    keeping.done()
    notify(`${made.key} is started.`)
    onClose()
    onMade(made.key)
  }
  return { asked, set: (to: Partial<Asked>) => setAsked({ ...asked, ...to }), keeping, busy, store }
}

/** A new plan: for which release, with which suites, in which environments. */
export function NewPlan(props: Props) {
  const { key, project } = useHere()
  const { asked, set, keeping, busy, store } = useNewPlan(props)
  const { title, release } = asked
  const suites = useAnswer(listSuites, { params: { key }, query: { limit: 200 } }).data?.rows ?? []
  return (
    <Dialog title="New plan" onClose={props.onClose} kept={keeping}>
      <Form onSend={() => void store()}>
        <Field label="Title">
          {(id) => (
            <TextInput id={id} autoFocus value={title} onChange={(event) => set({ title: event.target.value })} />
          )}
        </Field>
        <p>
          For{' '}
          <Choice
            label="Release"
            look="box"
            value={release}
            options={project.releases.map(({ id, name }) => ({ value: String(id), label: `Release ${name}` }))}
            onChoose={(to) => set({ release: to })}
          />
        </p>
        <Ticks
          legend="Suites"
          all={suites.map((suite) => ({ id: suite.id, name: suite.title, note: String(suite.cases) }))}
          ticked={asked.suites}
          onTick={(ids) => set({ suites: ids })}
        />
        <Ticks
          legend="Environments (none: one slot a case that any environment answers)"
          all={project.environments.filter(({ isAny }) => !isAny)}
          ticked={asked.environments}
          onTick={(ids) => set({ environments: ids })}
        />
        <Button look="main" type="submit" disabled={busy || title.trim() === '' || release === ''}>
          Start the plan
        </Button>
      </Form>
    </Dialog>
  )
}
