import {
  buildStates,
  createBuild,
  createIteration,
  createRelease,
  type Project,
  updateBuild,
} from '#core/projects/contract.ts'
import { Choice } from '#ui/kit/Choice.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { ago } from '#ui/shell/people.ts'
import { useUndoable } from '#ui/shell/undoable.ts'
import { AddLine, tell } from './AddLine.tsx'
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
  const lead = of.role === 'lead'
  const offer = async (release: number, name: string) =>
    tell(
      await making.attempt({ params: { key: of.key }, body: { release, name } }),
      `Build ${name} is offered for testing; results on older builds are now one build old.`,
    )
  return (
    <section>
      <h2>Builds</h2>
      {lead && newest && (
        <AddLine label={`A new build of ${newest.name}`} action="Offer" onAdd={(name) => offer(newest.id, name)} />
      )}
      <ul>
        {[...of.builds].reverse().map((each) => (
          <li key={each.id}>
            <span className="key">{each.name}</span>
            <span className="quiet">{ago(each.offeredAt)}</span>
            {lead ? <BuildState of={each} project={of.key} /> : each.state}
          </li>
        ))}
      </ul>
    </section>
  )
}

function BuildState({ of, project }: { of: Project['builds'][number]; project: string }) {
  const store = useUndoable(updateBuild, { key: project, id: of.id })
  return (
    <Choice
      label={`State of ${of.name}`}
      value={of.state}
      options={buildStates}
      onChoose={(state) => void store({ state }, `Build ${of.name} is ${state} now.`, { state: of.state })}
    />
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
