import { useState } from 'react'
import type { OutputOf } from '#core/lib/contract.ts'
import { dropStanding, keepStanding, listMappings, listStanding, runStanding } from '#core/formats/contract.ts'
import { useUndoAct } from '#ui/formats/useUndoAct.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { ago } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import css from './SetUp.module.css'

type Standing = OutputOf<typeof listStanding>['rows'][number]

/** Files that are imported again and again: by one key, or every so many minutes. */
export function StandingSetUp({ lead }: { lead: boolean }) {
  const { key } = useHere()
  const { data } = useAnswer(listStanding, { params: { key } })
  return (
    <section className={css['one']}>
      {data?.rows.length === 0 && (
        <p className="quiet">
          None. A file put into the folder “incoming” of the data directory can be imported by one key, or on a
          schedule.
        </p>
      )}
      <ul>
        {data?.rows.map((each) => (
          <StandingRow key={each.id} of={each} lead={lead} />
        ))}
      </ul>
      {lead && <NewStanding />}
    </section>
  )
}

function StandingRow({ of, lead }: { of: Standing; lead: boolean }) {
  const { key, project } = useHere()
  const running = useWrite(runStanding)
  const dropping = useWrite(dropStanding)
  const undo = useUndoAct('Taken back')
  const params = { key, id: of.id }
  const run = async () => {
    const done = await running.attempt({ params })
    if (!done) return
    const { act, told } = done
    notify(told, act === null ? {} : { undo: () => void undo(act) })
  }
  const drop = async () => {
    if (await dropping.attempt({ params }))
      notify(`“${of.name}” is not imported any more; what it brought stays.`, {
        undo: () => void dropping.attempt({ params, query: { undo: 'yes' } }),
      })
  }
  return (
    <li>
      <span>
        <b>{of.name}</b> <span className="key quiet">{of.file}</span>
      </span>
      <span className="quiet">{timesText(of)}</span>
      <span className={css['rowActs']}>
        {project.role !== 'viewer' && (
          <Button look="word" disabled={running.busy} onClick={() => void run()}>
            import now<span className="hidden"> {of.name}</span>
          </Button>
        )}
        {lead && (
          <Button look="word" onClick={() => void drop()}>
            end<span className="hidden"> {of.name}</span>
          </Button>
        )}
      </span>
    </li>
  )
}

const timesText = ({ everyMinutes, lastAt, lastTold }: Standing): string => {
  const often = everyMinutes === null ? 'by hand' : `every ${everyMinutes} min`
  return lastAt === null ? `${often}, not yet` : `${often}; ${ago(lastAt)}: ${lastTold}`
}

interface Draft {
  readonly name: string
  readonly file: string
  readonly what: 'cases' | 'requirements'
  /** The name of a kept mapping. */
  readonly mapping: string
  /** Minutes; by hand when it is empty. */
  readonly every: string
}
const empty: Draft = { name: '', file: '', what: 'cases', mapping: '', every: '' }

function NewStanding() {
  const { key } = useHere()
  const { data: mappings } = useAnswer(listMappings, { params: { key } })
  const { attempt, busy } = useWrite(keepStanding)
  const [draft, setDraft] = useState(empty)
  const set = (to: Partial<Draft>) => setDraft({ ...draft, ...to })
  const add = async () => {
    const { name, file, what, every } = draft
    const mapping = mappings?.rows.find((own) => own.name === draft.mapping)?.mapping
    const everyMinutes = every === '' ? null : Number(every)
    const body = { name, file, what, everyMinutes, ...(mapping && { mapping }) }
    if (await attempt({ params: { key }, body })) setDraft(empty)
  }
  return (
    <Form className={css['newField']} onSend={() => void add()}>
      <TextInput
        aria-label="Name of the standing import"
        placeholder="Name"
        value={draft.name}
        onChange={(event) => set({ name: event.target.value })}
      />
      <TextInput
        aria-label="File in the folder of incoming files"
        placeholder="file.xlsx"
        value={draft.file}
        onChange={(event) => set({ file: event.target.value })}
      />
      <HowRead draft={draft} set={set} mappings={(mappings?.rows ?? []).map(({ name }) => name)} />
      <Button type="submit" disabled={draft.name.trim() === '' || draft.file.trim() === '' || busy}>
        Keep
      </Button>
    </Form>
  )
}

const HowRead = ({
  draft,
  set,
  mappings,
}: {
  draft: Draft
  set: (to: Partial<Draft>) => void
  mappings: readonly string[]
}) => (
  <span>
    holds{' '}
    <Choice
      label="What the file holds"
      value={draft.what}
      options={['cases', 'requirements'] as const}
      onChoose={(what) => set({ what })}
    />
    , read{' '}
    <Choice
      label="Mapping"
      value={draft.mapping}
      options={[{ value: '', label: 'as found' }, ...mappings.map((name) => ({ value: name, label: `by “${name}”` }))]}
      onChoose={(mapping) => set({ mapping })}
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
      onChoose={(every) => set({ every })}
    />
  </span>
)
