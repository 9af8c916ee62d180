import { useState } from 'react'
import {
  buildStates,
  createBuild,
  createEnvironment,
  createIteration,
  createRelease,
  readProject,
  updateBuild,
} from '#core/projects/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { ago } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { FieldsSetUp } from './FieldsSetUp.tsx'
import { TablesSetUp } from '#ui/reuse/TablesSetUp.tsx'
import { StandingSetUp, TrackerSetUp, WorkingSetUp } from './WorkingSetUp.tsx'
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
  const release = useWrite(createRelease)
  const iteration = useWrite(createIteration)
  const build = useWrite(createBuild)
  const state = useWrite(updateBuild)
  const environment = useWrite(createEnvironment)
  const params = { key }
  const said = (done: unknown, text: string) => {
    if (done !== null) notify(text)
  }
  const newest = project.releases.find((each) => each.state === 'In test') ?? project.releases.at(-1)
  return (
    <div className={css['page']}>
      <h1>Set-up</h1>
      <WorkingSetUp project={project} lead={lead} />
      <div className={css['columns']}>
        <section>
          <h2>Builds</h2>
          {lead && newest && (
            <Add
              label={`A new build of ${newest.name}`}
              action="Offer"
              onAdd={async (name) =>
                said(
                  await build.attempt({ params, body: { release: newest.id, name } }),
                  `Build ${name} is offered for testing; results on older builds are now one build old.`,
                )
              }
            />
          )}
          <ul>
            {[...project.builds].reverse().map((each) => (
              <li key={each.id}>
                <span className="key">{each.name}</span>
                <span className="quiet">{ago(each.offeredAt)}</span>
                {lead ? (
                  <Choice
                    label={`State of ${each.name}`}
                    value={each.state}
                    options={buildStates}
                    onChoose={(to) =>
                      void state.attempt({
                        params: { key, id: each.id },
                        body: { state: buildStates.find((known) => known === to) ?? each.state },
                      })
                    }
                  />
                ) : (
                  each.state
                )}
              </li>
            ))}
          </ul>
        </section>
        <section>
          <h2>Environments</h2>
          {lead && (
            <Add
              label="A new environment, such as “Gecko, phone”"
              action="Add"
              onAdd={async (name) => {
                const [engine = '', device = ''] = name.split(',').map((part) => part.trim())
                said(
                  await environment.attempt({
                    params,
                    body: { name, values: { ...(engine && { engine }), ...(device && { device }) } },
                  }),
                  `${name} is added.`,
                )
              }}
            />
          )}
          <ul>
            {project.environments.map((each) => (
              <li key={each.id}>
                <span>{each.name}</span>
                <span className="quiet">
                  {Object.entries(each.values)
                    .map(([factor, value]) => `${factor} ${value}`)
                    .join(', ')}
                </span>
                <span>{each.seats === null ? '' : `${each.seats} seat${each.seats === 1 ? '' : 's'}`}</span>
              </li>
            ))}
          </ul>
        </section>
        <section>
          <h2>Releases and iterations</h2>
          {lead && (
            <Add
              label="A new release"
              action="Add"
              onAdd={async (name) =>
                said(await release.attempt({ params, body: { name } }), `Release ${name} is planned.`)
              }
            />
          )}
          <ul>
            {[...project.releases].reverse().map((each) => (
              <li key={each.id} className={css['release']}>
                <b>{each.name}</b>
                <span className="quiet">
                  {each.state}, due {each.dueOn ?? 'open'}
                </span>
                <span>
                  {project.iterations
                    .filter((own) => own.release === each.id)
                    .map(({ name }) => name)
                    .join(', ')}
                </span>
              </li>
            ))}
          </ul>
          {lead && newest && (
            <Add
              label={`A new iteration of ${newest.name}`}
              action="Add"
              onAdd={async (name) =>
                said(await iteration.attempt({ params, body: { release: newest.id, name } }), `${name} is added.`)
              }
            />
          )}
        </section>
        <FieldsSetUp lead={lead} />
        <TablesSetUp />
        <TrackerSetUp lead={lead} />
        <StandingSetUp lead={lead} />
        <section>
          <h2>People</h2>
          <ul>
            {project.people.map((person) => (
              <li key={person.id}>
                <span>{person.name}</span>
                <span className="quiet">{person.skills.join(', ')}</span>
                <span>{person.role}</span>
              </li>
            ))}
          </ul>
        </section>
      </div>
    </div>
  )
}

function Add({ label, action, onAdd }: { label: string; action: string; onAdd: (name: string) => Promise<void> }) {
  const [name, setName] = useState('')
  return (
    <form
      className={css['add']}
      onSubmit={(event) => {
        event.preventDefault()
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
    </form>
  )
}
