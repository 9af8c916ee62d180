import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import { numberIn } from '#core/lib/key.ts'
import { readCase } from '#core/cases/contract.ts'
import { listRoutines, readRoutine } from '#core/reuse/contract.ts'
import { findAnything } from '#core/finding/contract.ts'
import { call } from '#ui/call.ts'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useOnceSettled } from '#ui/shell/once-settled.ts'
import css from '#ui/kit/Pick.module.css'
import type { DraftStep } from '#ui/cases/draft.ts'

type Fresh = Omit<DraftStep, 'row'>

interface Source {
  readonly ref: string
  readonly title: string
  readonly note: string
}

/** What can be inserted and is called so: routines that say something, then cases; never what it is inserted in. */
function useSources(own: string, text: string): { sources: readonly Source[]; settled: boolean } {
  const { key } = useHere()
  const { data: routines, settled: hasRoutines } = useAnswer(
    listRoutines,
    { params: { key }, query: { limit: 50, ...(text !== '' && { text }) } },
    { keep: true },
  )
  const { data: found, settled: hasCases } = useAnswer(
    findAnything,
    { params: { key }, query: { q: text, limit: 20 } },
    { enabled: text !== '', keep: true },
  )
  const offered = (routines?.rows ?? []).filter(({ steps }) => steps > 0)
  const cases = text === '' ? [] : (found?.rows ?? []).filter(({ kind }) => kind === 'case')
  const sources = [
    ...offered.map(({ key: ref, title, steps, uses }) => ({
      ref,
      title,
      note: `${steps} steps, in ${counted(uses, 'place')}`,
    })),
    ...cases.map(({ ref, title }) => ({ ref, title, note: 'a case' })),
  ].filter(({ ref }) => ref !== own)
  return { sources, settled: hasRoutines && (text === '' || hasCases) }
}

/** The steps to insert: one that names its source, or all the source says now. */
async function stepsFrom(key: string, { ref, title }: Source, copy: boolean): Promise<Fresh[]> {
  const kind = numberIn('routine', ref) > 0 ? 'routine' : 'case'
  if (!copy)
    return [{ id: null, action: title, expected: '', data: '', use: { kind, version: 0, ref, name: '', values: {} } }]
  const params = { key, ref }
  const { content } = kind === 'routine' ? await call(readRoutine, { params }) : await call(readCase, { params })
  return content.steps.map((step) => ({ ...step, id: null }))
}

/** Chooses what to insert: a routine, or the steps of another case; live, so that it follows what is written there, or as a copy. */
export function InsertDialog({
  own,
  onInsert,
  onClose,
}: {
  own: string
  onInsert: (steps: readonly Fresh[]) => void
  onClose: () => void
}) {
  const { key } = useHere()
  const [text, setText] = useState('')
  const [copy, setCopy] = useState(false)
  const { sources, settled } = useSources(own, text)
  const pick = async (source: Source) => onInsert(await stepsFrom(key, source, copy))
  const pickFirst = useOnceSettled(settled, () => {
    if (sources[0]) void pick(sources[0])
  })
  return (
    <Dialog title="Insert steps" onClose={onClose}>
      <div className={css['pick']}>
        <TextInput
          data-first
          aria-label="Find a routine or a case"
          placeholder="Find a routine, or a case by words or key"
          value={text}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter') pickFirst()
          }}
        />
        <p role="radiogroup" aria-label="How it is inserted">
          <label>
            <input type="radio" name="how" checked={!copy} onChange={() => setCopy(false)} /> live: it names a version,
            and can take newer ones
          </label>
          <label>
            <input type="radio" name="how" checked={copy} onChange={() => setCopy(true)} /> as a copy
          </label>
        </p>
        <ul>
          {sources.map((source) => (
            <li key={source.ref}>
              <button type="button" onClick={() => void pick(source)}>
                <span className="key quiet">{source.ref}</span> <span>{source.title}</span>{' '}
                <span className="quiet">{source.note}</span>
              </button>
            </li>
          ))}
        </ul>
        {sources.length === 0 && <p className="quiet">{text === '' ? nothingYet : 'Nothing is called so.'}</p>}
      </div>
    </Dialog>
  )
}

const nothingYet =
  'There is no routine yet. Choose steps of a case by clicking their numbers and make one of them; or type to find a case whose steps to insert.'
