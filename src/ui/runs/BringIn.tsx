import { useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import type { OutputOf } from '#core/lib/contract.ts'
import { counted } from '#core/lib/figures.ts'
import { bringItemsIn } from '#core/runs/file-contract.ts'
import { takeVerdictsBack } from '#core/runs/many-contract.ts'
import type { RunSheet } from '#core/runs/contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { FilePick } from '#ui/kit/FilePick.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './BringIn.module.css'

type Told = OutputOf<typeof bringItemsIn>

/** What a file that comes back would make, and what became of it. */
function useBringing(of: RunSheet, onClose: () => void) {
  const { key } = useHere()
  const [told, setTold] = useState<Told | null>(null)
  const [busy, setBusy] = useState(false)
  const taking = useWrite(takeVerdictsBack)
  const client = useQueryClient()
  const reread = () => client.invalidateQueries()
  const params = { key, ref: of.key }
  const ask = async (file: File, person: string, dry: 'yes' | 'no'): Promise<Told | null> => {
    setBusy(true)
    try {
      return await call(bringItemsIn, { params, query: { person, dry }, file })
    } catch (error) {
      notify(sentenceOf(error), { tone: 'problem' })
      return null
    } finally {
      setBusy(false)
    }
  }
  const looked = useRef(0)
  const look = async (file: File | null, person: string) => {
    const own = ++looked.current
    // What another file or person would make is not shown for this one, whichever answer comes first.
    setTold(null)
    const answer = file && (await ask(file, person, 'yes'))
    if (own === looked.current) setTold(answer)
  }
  const store = async (file: File, person: string, name: string) => {
    const done = await ask(file, person, 'no')
    if (!done) return
    await reread()
    const undo = () => void taking.attempt({ params, body: { ids: done.undo } }).then(reread)
    notify(`${counted(done.counts.new, 'result')} of ${name} stored.`, done.undo.length === 0 ? {} : { undo })
    onClose()
  }
  return { told, busy, look, store }
}

/** A file that comes back: told what it would make, then stored as what somebody executed. */
export function BringIn({ of, onClose }: { of: RunSheet; onClose: () => void }) {
  const { project } = useHere()
  const people = project.people.filter(({ role, ended }) => role !== 'viewer' && !ended)
  const [person, setPerson] = useState(people[0]?.id ?? '')
  const [file, setFile] = useState<File | null>(null)
  const { told, busy, look, store } = useBringing(of, onClose)
  const choose = (given: File | null, by: string) => {
    setFile(given)
    setPerson(by)
    void look(given, by)
  }
  return (
    <Dialog title={`Bring back what was executed of ${of.key}`} onClose={onClose} wide>
      <FilePick
        label="The file that comes back"
        accept=".xlsx,.ods,.csv,.tsv,.txt"
        onChoose={(given) => choose(given ?? null, person)}
      >
        <span>
          executed by{' '}
          <Choice
            label="Executed by"
            look="box"
            value={person}
            options={people.map(({ id, name }) => ({ value: id, label: name }))}
            onChoose={(by) => choose(file, by)}
          />
        </span>
      </FilePick>
      {told ? (
        <Shown of={told} />
      ) : (
        <p className={css['before']}>Nothing is stored before you have seen what it makes.</p>
      )}
      <Button
        look="main"
        disabled={busy || !file || !told || told.counts.new === 0}
        onClick={() => file && void store(file, person, people.find(({ id }) => id === person)?.name ?? '')}
      >
        {told && told.counts.new > 0 ? `Store ${counted(told.counts.new, 'result')}` : 'Store'}
      </Button>
    </Dialog>
  )
}

const shown = 200

function Shown({ of: { rows, counts } }: { of: Told }) {
  const said = [
    `${counts.new} new`,
    ...(counts.there > 0 ? [`${counts.there} stored before, unchanged`] : []),
    ...(counts.problem > 0 ? [`${counts.problem} that cannot be stored`] : []),
    ...(counts.empty > 0 ? [`${counted(counts.empty, 'item')} not filled in`] : []),
  ]
  return (
    <>
      <p role="status">{said.join(', ')}.</p>
      <div className={css['rows']}>
        <table>
          <thead>
            <tr>
              <th>Line</th>
              <th>Case</th>
              <th>Environment</th>
              <th>Now</th>
              <th>Becomes</th>
              <th>What happened</th>
            </tr>
          </thead>
          <tbody>
            {rows.slice(0, shown).map((row) => (
              <tr key={row.line} className={row.becomes === 'new' ? undefined : 'quiet'}>
                <td>{row.line}</td>
                <td>
                  <span className="key">{row.case}</span> {row.title}
                </td>
                <td>{row.environment}</td>
                <td>{row.before}</td>
                <td>{row.becomes === 'there' ? 'stored before' : row.becomes === 'problem' ? '' : becomesOf(row)}</td>
                <td>{row.becomes === 'problem' ? <b>{row.why}</b> : row.words}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {rows.length > shown && <p className="quiet">and {rows.length - shown} more</p>}
      </div>
    </>
  )
}

const becomesOf = ({ verdict, steps }: Told['rows'][number]): string =>
  [verdict, steps === 0 ? '' : counted(steps, 'step')].filter(Boolean).join(', ')
