import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import {
  buildStates,
  createBuild,
  createEnvironment,
  createIteration,
  createRelease,
  type Project,
  readProject,
  updateBuild,
} from '#core/projects/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { ago } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { FieldsSetUp } from './FieldsSetUp.tsx'
import { TablesSetUp } from '#ui/reuse/TablesSetUp.tsx'
import { StandingSetUp } from './StandingSetUp.tsx'
import { TrackerSetUp } from './TrackerSetUp.tsx'
import { WorkingSetUp } from './WorkingSetUp.tsx'
import css from './SetUp.module.css'

export const SetUpPage = (shell: ShellProps) => (
  <Shell {...shell}>
    <SetUp />
  </Shell>
)

/** What the product is tested as: releases with their iterations, builds in order, environments. */
function SetUp() {
  const { key, project: given } = useHere()
  const { data: project = given } = useAnswer(
    readProject,
    { params: { key } },
    { served: { asked: { params: { key } }, answer: given } },
  )
  const lead = project.role === 'lead'
  const newest = project.releases.find((each) => each.state === 'In test') ?? project.releases.at(-1)
  return (
    <div className={css['page']}>
      <h1>Set-up</h1>
      <WorkingSetUp project={project} lead={lead} />
      <div className={css['columns']}>
        <Builds of={project} newest={newest} />
        <Environments of={project} />
        <Releases of={project} newest={newest} />
        <FieldsSetUp lead={lead} />
        <TablesSetUp />
        <TrackerSetUp lead={lead} />
        <StandingSetUp lead={lead} />
        <People of={project} />
      </div>
    </div>
  )
}

interface PartProps {
  readonly of: Project
}
type Release = Project['releases'][number]

const tell = (done: unknown, text: string): void => {
  if (done !== null) notify(text)
}

function Builds({ of, newest }: PartProps & { newest: Release | undefined }) {
  const { key } = useHere()
  const making = useWrite(createBuild)
  const lead = of.role === 'lead'
  const offer = async (release: number, name: string) =>
    tell(
      await making.attempt({ params: { key }, body: { release, name } }),
      `Build ${name} is offered for testing; results on older builds are now one build old.`,
    )
  return (
    <section>
      <h2>Builds</h2>
      {lead && newest && (
        <Add label={`A new build of ${newest.name}`} action="Offer" onAdd={(name) => offer(newest.id, name)} />
      )}
      <ul>
        {[...of.builds].reverse().map((each) => (
          <li key={each.id}>
            <span className="key">{each.name}</span>
            <span className="quiet">{ago(each.offeredAt)}</span>
            {lead ? <BuildState of={each} /> : each.state}
          </li>
        ))}
      </ul>
    </section>
  )
}

function BuildState({ of }: { of: Project['builds'][number] }) {
  const { key } = useHere()
  const { attempt } = useWrite(updateBuild)
  return (
    <Choice
      label={`State of ${of.name}`}
      value={of.state}
      options={buildStates}
      onChoose={(state) => void attempt({ params: { key, id: of.id }, body: { state } })}
    />
  )
}

/** `Gecko, phone`: an environment is added by the values of its first two factors. */
const valuesIn = (name: string): Record<string, string> => {
  const [engine = '', device = ''] = name.split(',').map((part) => part.trim())
  return { ...(engine && { engine }), ...(device && { device }) }
}

function Environments({ of }: PartProps) {
  const { key } = useHere()
  const { attempt } = useWrite(createEnvironment)
  const add = async (name: string) =>
    tell(await attempt({ params: { key }, body: { name, values: valuesIn(name) } }), `${name} is added.`)
  return (
    <section>
      <h2>Environments</h2>
      {of.role === 'lead' && <Add label="A new environment, such as “Gecko, phone”" action="Add" onAdd={add} />}
      <ul>
        {of.environments.map(({ id, name, values, seats }) => (
          <li key={id}>
            <span>{name}</span>
            <span className="quiet">
              {Object.entries(values)
                .map(([factor, value]) => `${factor} ${value}`)
                .join(', ')}
            </span>
            <span>{seats === null ? '' : counted(seats, 'seat')}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}

function Releases({ of, newest }: PartProps & { newest: Release | undefined }) {
  const { key } = useHere()
  const release = useWrite(createRelease)
  const iteration = useWrite(createIteration)
  const lead = of.role === 'lead'
  const params = { key }
  const namesOf = (id: number) => of.iterations.filter((own) => own.release === id).map(({ name }) => name)
  return (
    <section>
      <h2>Releases and iterations</h2>
      {lead && (
        <Add
          label="A new release"
          action="Add"
          onAdd={async (name) => tell(await release.attempt({ params, body: { name } }), `Release ${name} is planned.`)}
        />
      )}
      <ul>
        {[...of.releases].reverse().map(({ id, name, state, dueOn }) => (
          <li key={id} className={css['release']}>
            <b>{name}</b>
            <span className="quiet">
              {state}, due {dueOn ?? 'open'}
            </span>
            <span>{namesOf(id).join(', ')}</span>
          </li>
        ))}
      </ul>
      {lead && newest && (
        <Add
          label={`A new iteration of ${newest.name}`}
          action="Add"
          onAdd={async (name) =>
            tell(await iteration.attempt({ params, body: { release: newest.id, name } }), `${name} is added.`)
          }
        />
      )}
    </section>
  )
}

const People = ({ of }: PartProps) => (
  <section>
    <h2>People</h2>
    <ul>
      {of.people.map(({ id, name, skills, role }) => (
        <li key={id}>
          <span>{name}</span>
          <span className="quiet">{skills.join(', ')}</span>
          <span>{role}</span>
        </li>
      ))}
    </ul>
  </section>
)

function Add({ label, action, onAdd }: { label: string; action: string; onAdd: (name: string) => Promise<void> }) {
  const [name, setName] = useState('')
  return (
    <Form
      className={css['add']}
      onSend={() => {
        if (name.trim() !== '') void onAdd(name.trim()).then(() => setName(''))
      }}
    >
      <TextInput
        aria-label={label}
        placeholder={label}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Button type="submit" disabled={name.trim() === ''}>
        {action}
      </Button>
    </Form>
  )
}
