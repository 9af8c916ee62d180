import { useEffect, useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import {
  correctInstalled,
  type InstalledMoves,
  type InstalledRow,
  sayInstalled,
  takeBackInstalled,
} from '#core/projects/installed-contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { useKept } from '#ui/kit/kept.tsx'
import { clockField, instantInField, momentText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { Unfold } from '#ui/kit/Unfold.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './SetUp.module.css'

interface Said {
  readonly build: number | null
  readonly fromAt: number
}

/** What was moved, for the word that follows an act. */
export const movedWords = ({ total, stopped }: InstalledMoves): string =>
  stopped ?? (total === 0 ? 'No attempt changes its build.' : `${counted(total, 'attempt')} went with it.`)

/** Says which build stands in an environment, or corrects what was said; which attempts go with it is told before. */
export function InstalledDialog({
  environment,
  entry,
  onClose,
}: {
  environment: { readonly id: number; readonly name: string }
  entry: InstalledRow | null
  onClose: () => void
}) {
  const { project } = useHere()
  const [build, setBuild] = useState(String(entry ? (entry.build?.id ?? '') : (project.builds.at(-1)?.id ?? '')))
  const [from, setFrom] = useState(() => clockField(entry?.fromAt ?? Date.now()))
  const [note, setNote, keeping] = useKept(`installed.${environment.id}.${entry?.id ?? ''}`, entry?.note ?? '')
  // The minute of an entry is not its instant: what is not touched stays exactly as it was.
  const isTouched = entry === null || from !== clockField(entry.fromAt)
  const said: Said = {
    build: build === '' ? null : Number(build),
    fromAt: isTouched ? Math.min(instantInField(from) ?? Number.NaN, Date.now()) : (entry?.fromAt ?? 0),
  }
  const { store, busy } = useStore(environment, entry)
  const told = useTold(environment.id, entry, said)
  const send = async () => {
    if (from === '' || !(await store(said, note))) return
    keeping.done()
    onClose()
  }
  return (
    <Dialog
      title={entry ? `Correct what stood on ${environment.name}` : `Installed on ${environment.name}`}
      onClose={onClose}
      kept={keeping}
    >
      <Form onSend={() => void send()}>
        <BuildSince build={build} from={from} onBuild={setBuild} onFrom={setFrom} />
        <Field label="Note (may stay empty)">
          {(id) => <TextInput id={id} value={note} maxLength={200} onChange={(event) => setNote(event.target.value)} />}
        </Field>
        <Told of={told} />
        <Button look="main" type="submit" disabled={from === '' || busy}>
          {told !== null && typeof told !== 'string' && told.total > 0
            ? `Store, and move ${counted(told.total, 'attempt')}`
            : 'Store'}
        </Button>
      </Form>
    </Dialog>
  )
}

function BuildSince({
  build,
  from,
  onBuild,
  onFrom,
}: {
  build: string
  from: string
  onBuild: (build: string) => void
  onFrom: (from: string) => void
}) {
  const { project } = useHere()
  return (
    <p>
      <Choice
        label="Build"
        look="box"
        value={build}
        options={[
          ...[...project.builds].reverse().map(({ id, name, state }) => ({
            value: String(id),
            label: state === 'Offered' ? name : `${name}, ${state.toLowerCase()}`,
          })),
          { value: '', label: 'none is known' },
        ]}
        onChoose={onBuild}
      />{' '}
      since{' '}
      <input
        type="datetime-local"
        aria-label="Since"
        required
        value={from}
        max={clockField(Date.now())}
        onChange={(event) => onFrom(event.target.value)}
      />
    </p>
  )
}

function useStore(environment: { readonly id: number; readonly name: string }, entry: InstalledRow | null) {
  const { key } = useHere()
  const saying = useWrite(sayInstalled)
  const correcting = useWrite(correctInstalled)
  const taking = useWrite(takeBackInstalled)
  const store = async (said: Said, note: string): Promise<boolean> => {
    if (entry) {
      const params = { key, id: entry.id }
      const done = await correcting.attempt({ params, body: { ...said, note } })
      if (!done) return false
      const back = { build: entry.build?.id ?? null, fromAt: entry.fromAt, note: entry.note }
      notify(`It is corrected. ${movedWords(done.moves)}`, {
        undo: () => void correcting.attempt({ params, body: back }),
      })
      return true
    }
    const made = await saying.attempt({ params: { key }, body: { environment: environment.id, ...said, note } })
    if (!made) return false
    const id = made.id ?? 0
    notify(`It is said what stands on ${environment.name}. ${movedWords(made.moves)}`, {
      undo: () => void taking.attempt({ params: { key, id }, query: {} }),
    })
    return true
  }
  return { store, busy: saying.busy || correcting.busy }
}

const pause = 250

/** What would go where if this were stored; in words where it would be refused. */
function useTold(environment: number, entry: InstalledRow | null, said: Said): InstalledMoves | string | null {
  const { key } = useHere()
  const [told, setTold] = useState<InstalledMoves | string | null>(null)
  const of = JSON.stringify(said)
  useEffect(() => {
    let over = false
    const ask = async () => {
      try {
        const body = { ...said, only: 'told' as const }
        const { moves } = entry
          ? await call(correctInstalled, { params: { key, id: entry.id }, body })
          : await call(sayInstalled, { params: { key }, body: { environment, ...body } })
        if (!over) setTold(moves)
      } catch (error) {
        if (!over) setTold(sentenceOf(error))
      }
    }
    const timer = Number.isNaN(said.fromAt) ? undefined : setTimeout(() => void ask(), pause)
    return () => {
      over = true
      clearTimeout(timer)
    }
  }, [of])
  return told
}

function Told({ of }: { of: InstalledMoves | string | null }) {
  if (of === null) return <p className="quiet">…</p>
  if (typeof of === 'string') return <p role="alert">{of}</p>
  if (of.total === 0) return <p className="quiet">No attempt made since changes its build.</p>
  return (
    <div role="status">
      <p>
        <b>{counted(of.total, 'attempt')}</b> made since {of.total === 1 ? 'goes' : 'go'} to another build
        {of.inClosed > 0 && `, ${of.inClosed} of them in closed runs`}; each keeps it in its history.
      </p>
      <Unfold summary="which">
        <ul className={css['moves']}>
          {of.rows.map((row, at) => (
            <li key={at}>
              <span className="key">{row.case}</span> {row.title}{' '}
              <span className="quiet">
                {row.run}, {momentText(row.at)}, {row.verdict}:
              </span>{' '}
              {row.from} → {row.to}
            </li>
          ))}
        </ul>
        {of.total > of.rows.length && <p className="quiet">and {of.total - of.rows.length} more</p>}
      </Unfold>
    </div>
  )
}
