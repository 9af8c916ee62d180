import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import type { OutputOf } from '#core/lib/contract.ts'
import { addItems, dropItems } from '#core/runs/compose-contract.ts'
import type { RunSheet } from '#core/runs/contract.ts'
import { readRunScope } from '#core/runs/scope-contract.ts'
import { hasEnded } from '#core/runs/state.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { momentText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './RunSheet.module.css'

type Scope = OutputOf<typeof readRunScope>

/** Its scope as a line of its own: how many items, what was taken out, what its sources gained and lost since. */
export function RunScope({ of }: { of: RunSheet }) {
  const { key } = useHere()
  const { data } = useAnswer(readRunScope, { params: { key, ref: of.key } })
  const [open, setOpen] = useState(false)
  if (!data) return null
  const { gained, lost, out } = data
  const told = [
    out.length > 0 && `${out.length} taken out`,
    gained.length > 0 && `${gained.length} came into its suites since`,
    lost.length > 0 && `${lost.length} went out of them`,
  ].filter(Boolean)
  if (told.length === 0) return <p>Scope: {counted(data.items, 'item')}, as at its opening.</p>
  return (
    <p>
      Scope: {counted(data.items, 'item')};{' '}
      <Button look="word" onClick={() => setOpen(true)}>
        {told.join(', ')}
      </Button>
      {open && <ScopeDialog of={of} scope={data} onClose={() => setOpen(false)} />}
    </p>
  )
}

function ScopeDialog({
  of,
  scope: { gained, lost, out },
  onClose,
}: {
  of: RunSheet
  scope: Scope
  onClose: () => void
}) {
  const { project } = useHere()
  const { add, drop, back } = useScope(of.key)
  const may = project.role === 'lead' && !hasEnded(of.state)
  return (
    <Dialog title={`The scope of ${of.key}`} onClose={onClose} wide>
      <Part
        title={`${counted(gained.length, 'item')} came into its suites since it was opened`}
        rows={gained}
        act={may && gained.length > 0 ? { words: 'put them all in', run: () => add(gained) } : null}
        each={may ? { words: 'put it in', run: (row) => add([row]) } : null}
      />
      <Part
        title={`${counted(lost.length, 'item')} went out of its suites`}
        rows={lost}
        note={(row) => (row.begun ? 'was begun' : '')}
        act={may && lost.length > 0 ? { words: 'take them all out', run: () => drop(lost) } : null}
        each={may ? { words: 'take it out', run: (row) => drop([row]) } : null}
      />
      <Part
        title={`${counted(out.length, 'item')} taken out`}
        rows={out}
        note={(row) => `${row.reason === '' ? 'without a reason' : row.reason}, ${momentText(row.at)}`}
        act={null}
        each={may ? { words: 'bring it back', run: (row) => back([row]) } : null}
      />
    </Dialog>
  )
}

interface Row {
  readonly case: number
  readonly environment: number
  readonly key: string
  readonly title: string
  readonly place: string
}
interface PartOf<T extends Row> {
  readonly title: string
  readonly rows: readonly T[]
  readonly note?: (row: T) => string
  readonly act: { readonly words: string; readonly run: () => void } | null
  readonly each: { readonly words: string; readonly run: (row: T) => void } | null
}

function Part<T extends Row>({ title, rows, note, act, each }: PartOf<T>) {
  if (rows.length === 0) return null
  return (
    <section style={{ marginBlockEnd: 14 }}>
      <div className={css['teamHead']}>
        <h3>{title}</h3>
        {act && (
          <Button look="word" onClick={act.run}>
            {act.words}
          </Button>
        )}
      </div>
      <ul className={css['scope']}>
        {rows.slice(0, 200).map((row) => (
          <li key={`${row.case}:${row.environment}`}>
            <span>
              <span className="key quiet">{row.key}</span> {row.title} <span className="quiet">· {row.place}</span>
            </span>
            <span className="quiet">{note?.(row)}</span>
            {each && (
              <Button look="word" onClick={() => each.run(row)}>
                {each.words}
                <span className="hidden">
                  : {row.key} in {row.place}
                </span>
              </Button>
            )}
          </li>
        ))}
        {rows.length > 200 && <li className="quiet">and {rows.length - 200} more</li>}
      </ul>
    </section>
  )
}

/** Puts items in, takes them out and brings them back, each with its way back. */
function useScope(ref: string) {
  const { key } = useHere()
  const adding = useWrite(addItems)
  const dropping = useWrite(dropItems)
  const params = { key, ref }
  const take = (ids: readonly number[], undo: boolean, reason = '') =>
    dropping.attempt({ params, body: { ids: [...ids], undo, reason } })
  return {
    add: async (rows: readonly Row[]) => {
      const items = rows.map((row) => ({ case: row.case, environment: row.environment }))
      const done = await adding.attempt({ params, body: { items } })
      if (done) notify(`${counted(done.added, 'item')} put in.`, { undo: () => void take(done.undo, false) })
    },
    drop: async (rows: readonly { readonly item: number }[]) => {
      const ids = rows.map(({ item }) => item)
      const done = await take(ids, false, 'went out of its suites')
      if (done) notify(`${counted(done.changed, 'item')} taken out.`, { undo: () => void take(ids, true) })
    },
    back: async (rows: readonly { readonly item: number }[]) => {
      const ids = rows.map(({ item }) => item)
      const done = await take(ids, true)
      if (done) notify(`${counted(done.changed, 'item')} brought back.`, { undo: () => void take(ids, false) })
    },
  }
}
