import { useState } from 'react'
import { dropStanding, keepStanding, listMappings, listStanding, runStanding } from '#core/formats/contract.ts'
import { type Project, readTracker, setTracker, updateProject } from '#core/projects/contract.ts'
import { useUndoAct } from '#ui/formats/useUndoAct.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { ago } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import css from './SetUp.module.css'

/** How the project works, as a sentence a lead can change. */
export function WorkingSetUp({ project, lead }: { project: Project; lead: boolean }) {
  const { attempt } = useWrite(updateProject)
  const set = (body: { freshnessDays?: number; approvalRequired?: boolean; reasonAsked?: boolean }) =>
    void attempt({ params: { key: project.key }, body })
  if (!lead)
    return (
      <p className="quiet">
        {project.name}, times in {project.timeZone}; a result is too old after {project.freshnessDays} days; cases{' '}
        {project.approvalRequired ? 'are approved before they are executed' : 'are executed in their newest version'}. A
        lead can change what stands here.
      </p>
    )
  return (
    <p>
      {project.name}, times in {project.timeZone}; a result is too old after{' '}
      <EditText
        label="Days after which a result is too old"
        value={String(project.freshnessDays)}
        onStore={(value) => {
          if (Number(value) >= 1) set({ freshnessDays: Number(value) })
        }}
      />{' '}
      days; cases{' '}
      <Choice
        label="Approval"
        value={project.approvalRequired ? 'yes' : 'no'}
        options={[
          { value: 'no', label: 'are executed in their newest version' },
          { value: 'yes', label: 'must be approved before they are executed' },
        ]}
        onChoose={(value) => set({ approvalRequired: value === 'yes' })}
      />
      ;{' '}
      <Choice
        label="Reason of a version"
        value={project.reasonAsked ? 'yes' : 'no'}
        options={[
          { value: 'no', label: 'no reason is asked for' },
          { value: 'yes', label: 'a reason is asked for' },
        ]}
        onChoose={(value) => set({ reasonAsked: value === 'yes' })}
      />{' '}
      when a version is cut.
    </p>
  )
}

/** The outside tracker of the project. Its token goes in and is never shown. */
export function TrackerSetUp({ lead }: { lead: boolean }) {
  const { key } = useHere()
  const { data } = useAnswer(readTracker, { params: { key } })
  const { attempt, busy } = useWrite(setTracker)
  const [edit, setEdit] = useState<{ name: string; url: string; token: string } | null>(null)
  if (!data) return null
  const store = async () => {
    if (
      edit &&
      (await attempt({
        params: { key },
        body: { name: edit.name, url: edit.url, ...(edit.token !== '' && { token: edit.token }) },
      }))
    )
      setEdit(null)
  }
  return (
    <section>
      <h2>Tracker</h2>
      {edit === null && (
        <p>
          {data.url === '' ? (
            <span className="quiet">
              This project is connected to none; requirements can be fetched from one that answers as docs/api.md says.
            </span>
          ) : (
            <>
              <b>{data.name}</b> at <span className="key">{data.url}</span>
              {data.token ? ', with a token' : ', without a token'}
            </>
          )}{' '}
          {lead && (
            <Button look="word" onClick={() => setEdit({ name: data.name, url: data.url, token: '' })}>
              {data.url === '' ? 'connect one' : 'change'}
            </Button>
          )}{' '}
          {lead && data.url !== '' && (
            <Button look="word" onClick={() => void attempt({ params: { key }, body: { name: '', url: '' } })}>
              disconnect
            </Button>
          )}
        </p>
      )}
      {edit && (
        <form
          className={css['newField']}
          onSubmit={(event) => {
            event.preventDefault()
            void store()
          }}
        >
          <TextInput
            aria-label="Name of the tracker"
            placeholder="Name"
            value={edit.name}
            onChange={(event) => setEdit({ ...edit, name: event.target.value })}
          />
          <TextInput
            aria-label="Address of the tracker"
            placeholder="https://…"
            value={edit.url}
            onChange={(event) => setEdit({ ...edit, url: event.target.value })}
          />
          <TextInput
            aria-label="Token"
            type="password"
            placeholder={data.token ? 'token (kept when empty)' : 'token'}
            value={edit.token}
            onChange={(event) => setEdit({ ...edit, token: event.target.value })}
          />
          <Button type="submit" disabled={busy || edit.name.trim() === '' || edit.url.trim() === ''}>
            Connect
          </Button>
          <Button look="word" onClick={() => setEdit(null)}>
            leave it
          </Button>
        </form>
      )}
    </section>
  )
}

/** Files that are imported again and again: by one key, or every so many minutes. */
export function StandingSetUp({ lead }: { lead: boolean }) {
  const { key, project } = useHere()
  const { data } = useAnswer(listStanding, { params: { key } })
  const { data: mappings } = useAnswer(listMappings, { params: { key } })
  const keeping = useWrite(keepStanding)
  const running = useWrite(runStanding)
  const dropping = useWrite(dropStanding)
  const undo = useUndoAct('Taken back')
  const empty = { name: '', file: '', what: 'cases' as 'cases' | 'requirements', mapping: '', every: '' }
  const [draft, setDraft] = useState(empty)
  const add = async () => {
    const mapping = mappings?.rows.find(({ name }) => name === draft.mapping)?.mapping
    if (
      await keeping.attempt({
        params: { key },
        body: {
          name: draft.name,
          file: draft.file,
          what: draft.what,
          everyMinutes: draft.every === '' ? null : Number(draft.every),
          ...(mapping && { mapping }),
        },
      })
    )
      setDraft(empty)
  }
  const run = async (id: number) => {
    const done = await running.attempt({ params: { key, id } })
    if (done) {
      const { act } = done
      notify(done.told, act === null ? {} : { undo: () => void undo(act) })
    }
  }
  return (
    <section>
      <h2>Standing imports</h2>
      {data?.rows.length === 0 && (
        <p className="quiet">
          None. A file put into the folder “incoming” of the data directory can be imported by one key, or on a
          schedule.
        </p>
      )}
      <ul>
        {data?.rows.map((each) => (
          <li key={each.id}>
            <span>
              <b>{each.name}</b> <span className="key quiet">{each.file}</span>
            </span>
            <span className="quiet">
              {each.everyMinutes === null ? 'by hand' : `every ${each.everyMinutes} min`}
              {each.lastAt === null ? ', not yet' : `; ${ago(each.lastAt)}: ${each.lastTold}`}
            </span>
            <span style={{ display: 'flex', gap: 10 }}>
              {project.role !== 'viewer' && (
                <Button look="word" disabled={running.busy} onClick={() => void run(each.id)}>
                  import now<span className="hidden"> {each.name}</span>
                </Button>
              )}
              {lead && (
                <Button look="word" onClick={() => void dropping.attempt({ params: { key, id: each.id } })}>
                  end<span className="hidden"> {each.name}</span>
                </Button>
              )}
            </span>
          </li>
        ))}
      </ul>
      {lead && (
        <form
          className={css['newField']}
          onSubmit={(event) => {
            event.preventDefault()
            void add()
          }}
        >
          <TextInput
            aria-label="Name of the standing import"
            placeholder="Name"
            value={draft.name}
            onChange={(event) => setDraft({ ...draft, name: event.target.value })}
          />
          <TextInput
            aria-label="File in the folder of incoming files"
            placeholder="file.xlsx"
            value={draft.file}
            onChange={(event) => setDraft({ ...draft, file: event.target.value })}
          />
          <span>
            holds{' '}
            <Choice
              label="What the file holds"
              value={draft.what}
              options={['cases', 'requirements']}
              onChoose={(what) => setDraft({ ...draft, what: what === 'requirements' ? 'requirements' : 'cases' })}
            />
            , read{' '}
            <Choice
              label="Mapping"
              value={draft.mapping}
              options={[
                { value: '', label: 'as found' },
                ...(mappings?.rows ?? []).map(({ name }) => ({ value: name, label: `by “${name}”` })),
              ]}
              onChoose={(mapping) => setDraft({ ...draft, mapping })}
            />
            ,{' '}
            <Choice
              label="How often"
              value={draft.every}
              options={[
                { value: '', label: 'by hand' },
                { value: '15', label: 'every 15 minutes' },
                { value: '60', label: 'every hour' },
                { value: '1440', label: 'every day' },
              ]}
              onChoose={(every) => setDraft({ ...draft, every })}
            />
          </span>
          <Button type="submit" disabled={draft.name.trim() === '' || draft.file.trim() === '' || keeping.busy}>
            Keep
          </Button>
        </form>
      )}
    </section>
  )
}
