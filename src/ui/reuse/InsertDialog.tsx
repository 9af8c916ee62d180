import { useState } from 'react'
import { readCase } from '#core/cases/contract.ts'
import { listRoutines, readRoutine } from '#core/reuse/contract.ts'
import { findAnything } from '#core/finding/contract.ts'
import { call } from '#ui/call.ts'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from '#ui/kit/Pick.module.css'
import type { DraftStep } from '#ui/cases/useWorkingCopy.ts'

type Fresh = Omit<DraftStep, 'row'>

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
  const { data: routines } = useAnswer(
    listRoutines,
    { params: { key }, query: { limit: 50, ...(text !== '' && { text }) } },
    { keep: true },
  )
  const { data: found } = useAnswer(
    findAnything,
    { params: { key }, query: { q: text, limit: 20 } },
    { enabled: text !== '', keep: true },
  )
  const rows = [
    ...(routines?.rows ?? [])
      .filter(({ steps }) => steps > 0)
      .map((row) => ({
        ref: row.key,
        title: row.title,
        note: `${row.steps} steps, in ${row.uses} ${row.uses === 1 ? 'place' : 'places'}`,
      })),
    ...(text === ''
      ? []
      : (found?.rows ?? [])
          .filter(({ kind }) => kind === 'case')
          .map(({ ref, title }) => ({ ref, title, note: 'a case' }))),
  ].filter(({ ref }) => ref !== own)
  const pick = async ({ ref, title }: { ref: string; title: string }) => {
    const kind = ref.startsWith('RT') ? ('routine' as const) : ('case' as const)
    if (!copy)
      return onInsert([
        { id: null, action: title, expected: '', data: '', use: { kind, version: 0, ref, name: '', values: {} } },
      ])
    const { content } =
      kind === 'routine'
        ? await call(readRoutine, { params: { key, ref } })
        : await call(readCase, { params: { key, ref } })
    onInsert(content.steps.map((step) => ({ ...step, id: null })))
  }
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
            const first = rows[0]
            if (event.key === 'Enter' && first) void pick(first)
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
          {rows.map((row) => (
            <li key={row.ref}>
              <button type="button" onClick={() => void pick(row)}>
                <span className="key quiet">{row.ref}</span> <span>{row.title}</span>{' '}
                <span className="quiet">{row.note}</span>
              </button>
            </li>
          ))}
        </ul>
        {rows.length === 0 && (
          <p className="quiet">
            {text === ''
              ? 'There is no routine yet. Choose steps of a case by clicking their numbers and make one of them; or type to find a case whose steps to insert.'
              : 'Nothing is called so.'}
          </p>
        )}
      </div>
    </Dialog>
  )
}
