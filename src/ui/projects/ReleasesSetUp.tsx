import { buildStates } from '#core/projects/builds.ts'
import { useState } from 'react'
import { listSuites } from '#core/plans/suite-contract.ts'
import { createBuild, readPaths, setPaths, updateBuild } from '#core/projects/builds-contract.ts'
import { createIteration, createRelease, type Project, releaseStates, updateRelease } from '#core/projects/contract.ts'
import { Choice } from '#ui/kit/Choice.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { ago } from '#ui/shell/people.ts'
import { useUndoable } from '#ui/shell/undoable.ts'
import { AddLine, tell } from './AddLine.tsx'
import { BuildSheet } from './BuildSheet.tsx'
import { TextSet } from './TextSet.tsx'
import css from './SetUp.module.css'

type Release = Project['releases'][number]

/** Builds in order and releases with their iterations. */
export function ReleasesSetUp({ of }: { of: Project }) {
  const newest = of.releases.find((each) => each.state === 'In test') ?? of.releases.at(-1)
  return (
    <div className={css['columns']}>
      <Builds of={of} newest={newest} />
      <Releases of={of} newest={newest} />
    </div>
  )
}

interface Props {
  readonly of: Project
  readonly newest: Release | undefined
}

function Builds({ of, newest }: Props) {
  const making = useWrite(createBuild)
  const [open, setOpen] = useState<number | null>(null)
  const [intake, setIntake] = useState(false)
  const lead = of.role === 'lead'
  const add = async (release: number, name: string) => {
    const state = intake ? 'Intake' : 'Offered'
    const made = await making.attempt({ params: { key: of.key }, body: { release, name, state } })
    if (made) setOpen(made.id)
    return tell(made, intake ? `Build ${name} is in intake.` : `Build ${name} is offered for testing.`)
  }
  return (
    <section>
      <h2>Builds</h2>
      {lead && newest && (
        <>
          <AddLine
            label={`A new build of ${newest.name}`}
            action={intake ? 'Take in' : 'Offer'}
            onAdd={(name) => add(newest.id, name)}
          />
          <p>
            <label>
              <input type="checkbox" checked={intake} onChange={() => setIntake(!intake)} /> into intake first: it can
              be executed on and makes nothing stale until it is offered
            </label>
          </p>
        </>
      )}
      <ul>
        {[...of.builds].reverse().map((each) => (
          <li key={each.id}>
            <button type="button" className="key" onClick={() => setOpen(each.id)}>
              {each.name}
              <span className="hidden">, what it touches and makes stale</span>
            </button>
            <span className="quiet">{ago(each.offeredAt)}</span>
            {lead ? <BuildState of={each} project={of.key} onOpen={() => setOpen(each.id)} /> : each.state}
          </li>
        ))}
      </ul>
      <Paths of={of} />
      {open !== null && <BuildSheet id={open} onClose={() => setOpen(null)} />}
    </section>
  )
}

/** Which component a changed path belongs to, and the suite a build has to pass before it is offered. */
function Paths({ of }: { of: Project }) {
  const { data } = useAnswer(readPaths, { params: { key: of.key } })
  const { data: suites } = useAnswer(listSuites, { params: { key: of.key }, query: { limit: 500 } })
  const store = useUndoable(setPaths, { key: of.key })
  if (!data) return null
  const lead = of.role === 'lead'
  const smoke = data.smokeSuite?.id ?? null
  return (
    <>
      <h2>Smoke suite</h2>
      <p>
        {lead ? (
          <Choice
            label="Smoke suite"
            value={smoke === null ? '' : String(smoke)}
            options={[
              { value: '', label: 'none' },
              ...(suites?.rows ?? []).map(({ id, title }) => ({ value: String(id), label: title })),
            ]}
            onChoose={(id) =>
              void store({ smokeSuite: id === '' ? null : Number(id) }, 'The smoke suite is stored.', {
                smokeSuite: smoke,
              })
            }
          />
        ) : (
          (data.smokeSuite?.title ?? 'none')
        )}{' '}
        <span className="quiet">has to pass before a build leaves intake.</span>
      </p>
      <h2>Paths of components</h2>
      <TextSet
        label="Paths of components"
        placeholder={'src/fares/: Fares\nsrc/deck/: Deck plan'}
        value={data.paths}
        may={lead}
        onStore={(paths) => store({ paths }, 'The table of paths is stored.', { paths: data.paths })}
      />
    </>
  )
}

function BuildState({ of, project, onOpen }: { of: Project['builds'][number]; project: string; onOpen: () => void }) {
  const store = useUndoable(updateBuild, { key: project, id: of.id })
  return (
    <Choice
      label={`State of ${of.name}`}
      value={of.state}
      options={buildStates}
      onChoose={(state) => {
        // Why it leaves intake is said where one sees what has passed.
        if (of.state === 'Intake' && state === 'Offered') onOpen()
        else void store({ state }, `Build ${of.name} is ${state} now.`, { state: of.state })
      }}
    />
  )
}

/** Its state and due day; once it has shipped its plans answer as they stood. */
function ReleaseState({ of, project }: { of: Release; project: string }) {
  const store = useUndoable(updateRelease, { key: project, id: of.id })
  return (
    <span className={css['releaseState']}>
      <Choice
        label={`State of ${of.name}`}
        value={of.state}
        options={releaseStates}
        onChoose={(state) =>
          void store(
            { state },
            state === 'Shipped'
              ? `Release ${of.name} has shipped; its plans answer from now on as they stand.`
              : `Release ${of.name} is ${state.toLowerCase()} now.`,
            { state: of.state },
          )
        }
      />
      <label>
        due{' '}
        <input
          type="date"
          key={of.dueOn}
          defaultValue={of.dueOn ?? ''}
          aria-label={`Due day of ${of.name}`}
          onBlur={({ target }) => {
            const dueOn = target.value === '' ? null : target.value
            if (dueOn !== of.dueOn)
              void store({ dueOn }, `Release ${of.name} is due ${dueOn ?? 'on no day'}.`, { dueOn: of.dueOn })
          }}
        />
      </label>
    </span>
  )
}

function Releases({ of, newest }: Props) {
  const release = useWrite(createRelease)
  const iteration = useWrite(createIteration)
  const lead = of.role === 'lead'
  const params = { key: of.key }
  const namesOf = (id: number) => of.iterations.filter((own) => own.release === id).map(({ name }) => name)
  return (
    <section>
      <h2>Releases and iterations</h2>
      {lead && (
        <AddLine
          label="A new release"
          action="Add"
          onAdd={async (name) => tell(await release.attempt({ params, body: { name } }), `Release ${name} is planned.`)}
        />
      )}
      <ul>
        {[...of.releases].reverse().map((each) => (
          <li key={each.id} className={css['release']}>
            <b>{each.name}</b>
            {lead ? (
              <ReleaseState of={each} project={of.key} />
            ) : (
              <span className="quiet">
                {each.state}, due {each.dueOn ?? 'open'}
              </span>
            )}
            <span>{namesOf(each.id).join(', ')}</span>
          </li>
        ))}
      </ul>
      {lead && newest && (
        <AddLine
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
