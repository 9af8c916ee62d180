import { useEffect, useRef, useState } from 'react'
import { markStep } from '#core/runs/attempt.ts'
import { type Desk, type DeskAttempt, readDesk, startAttempt } from '#core/runs/desk-contract.ts'
import { commentStep } from '#core/runs/note-contract.ts'
import type { Said } from '#core/lib/verdict.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { exactClockText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useHere } from '#ui/shell/here.ts'
import { openOutbox, type Outbox } from '#ui/shell/outbox.ts'
import { afterSaying, asCore, withComment } from './desk-attempt.ts'

/** Where one is: in which column, data row and step. Row and step are the same in all columns. */
export interface Cell {
  readonly column: number
  readonly row: number
  readonly step: number
}
export const mostBeside = 4

type Attempts = Readonly<Record<number, DeskAttempt>>

/** The items as the desk knows them, and the attempts at them by item. */
function useDesks(ids: readonly number[]) {
  const { key } = useHere()
  const [desks, setDesks] = useState<readonly Desk[] | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const [attempts, setAttempts] = useState<Attempts>({})
  const held = useRef<Attempts>({})
  const show = (item: number, attempt: DeskAttempt) => {
    held.current = { ...held.current, [item]: attempt }
    setAttempts(held.current)
  }
  const read = async () => {
    try {
      const all = await Promise.all(ids.map((id) => call(readDesk, { params: { key, id }, query: { mine: 'no' } })))
      for (const { item, attempt } of all) if (attempt) show(item.id, attempt)
      setDesks(all)
    } catch (error) {
      setProblem(sentenceOf(error))
    }
  }
  useEffect(() => void read(), [ids.join()])
  return { desks, problem, attempts, held, show, read }
}

/** The person's outbox, and what it last stored. */
function useSending(read: () => Promise<void>) {
  const { me } = useHere()
  const [stored, setStored] = useState('')
  const outbox = useRef<Outbox | null>(null)
  useEffect(() => {
    const own = openOutbox(`rovant.outbox.${me.id}`, {
      onStored: (_, __, { storedAt, counts, said }) => {
        setStored(`Stored ${exactClockText(storedAt)}`)
        if (said !== '') notify(said, counts ? {} : { tone: 'problem' })
      },
      onWaiting: (_, waits) => {
        if (waits) notify(waits.detail, { tone: 'problem' })
      },
      onRefused: (_, refused) => {
        notify(refused.detail, { tone: 'problem' })
        void read()
      },
    })
    outbox.current = own
    return () => own.stop()
  }, [me.id])
  return { outbox, stored }
}

/** Begins the attempt at an item where there is none; two who ask at once get the same. */
function useBeginning({ held, show }: Pick<ReturnType<typeof useDesks>, 'held' | 'show'>) {
  const { key } = useHere()
  const starting = useRef(new Map<number, Promise<DeskAttempt | null>>())
  const started = async (item: number): Promise<DeskAttempt | null> => {
    try {
      const made = await call(startAttempt, { params: { key, id: item }, body: {} })
      show(item, made)
      return made
    } catch (error) {
      notify(sentenceOf(error), { tone: 'problem' })
      return null
    } finally {
      starting.current.delete(item)
    }
  }
  return (item: number): Promise<DeskAttempt | null> => {
    const own = held.current[item]
    if (own) return Promise.resolve(own)
    const going = starting.current.get(item) ?? started(item)
    starting.current.set(item, going)
    return going
  }
}

/** One case in several environments at once: each verdict is applied here by the same rules as on the server, and sent. */
export function useBeside(ids: readonly number[]) {
  const { key } = useHere()
  const { desks, problem, attempts, held, show, read } = useDesks(ids)
  const { outbox, stored } = useSending(read)
  const begin = useBeginning({ held, show })
  const [at, setAt] = useState<Cell>({ column: 0, row: 1, step: 0 })
  const place = useRef(at)
  const go = (to: Partial<Cell>) => {
    place.current = within({ ...place.current, ...to }, desks)
    setAt(place.current)
  }
  const order = useRef<Promise<void>>(Promise.resolve())
  const say = async (item: number, cell: Cell, said: Said) => {
    const own = await begin(item)
    const step = own?.steps[cell.step]?.id
    if (!own || step === undefined || !outbox.current) return
    const now = held.current[item] ?? own
    const outcome = markStep(asCore(now), { row: cell.row, step, ...said })
    if (!outcome.ok) return notify(outcome.sentence, { tone: 'problem' })
    show(item, afterSaying(now, outcome.attempt, Date.now()))
    const { verdict, word } = said
    outbox.current.put({ kind: 'step', project: key, attempt: own.id, row: cell.row, step, verdict, word })
  }
  /** In this column, or of this step in all of them; what passes leads on. */
  const mark = (said: Said, everywhere = false) => {
    const cell = place.current
    const columns = everywhere ? ids : ids.slice(cell.column, cell.column + 1)
    if (said.final && (said.verdict === 'Passed' || said.verdict === 'Skipped')) go(after(cell, ids.length, everywhere))
    order.current = order.current.then(async () => {
      for (const item of columns) await say(item, cell, said)
    })
  }
  const comment = async (cell: Cell, text: string) => {
    const item = ids[cell.column] ?? 0
    const own = await begin(item)
    const step = own?.steps[cell.step]?.id
    if (!own || step === undefined) return
    try {
      const answer = await call(commentStep, { params: { key, id: own.id, row: cell.row, step }, body: { text } })
      show(item, withComment(held.current[item] ?? own, cell.row, step, { text: answer.text, at: answer.storedAt }))
    } catch (error) {
      notify(`${sentenceOf(error)} Your words stay here until they are stored.`, { tone: 'problem' })
    }
  }
  return { desks, problem, attempts, at, go, mark, comment, stored }
}

/** The next column, then the next step in the first. */
export const after = ({ column, row, step }: Cell, columns: number, everywhere: boolean): Cell =>
  everywhere || column + 1 >= columns ? { column: 0, row, step: step + 1 } : { column: column + 1, row, step }

/** The nearest cell there is. */
export function within(cell: Cell, desks: readonly Pick<Desk, 'attempt' | 'preview'>[] | null): Cell {
  if (!desks || desks.length === 0) return cell
  const most = (of: (desk: Pick<Desk, 'attempt' | 'preview'>) => number) => Math.max(1, ...desks.map(of))
  const steps = most((desk) => (desk.attempt ?? desk.preview).steps.length)
  const rows = most((desk) => (desk.attempt ?? desk.preview).rows.length)
  return {
    column: Math.max(0, Math.min(desks.length - 1, cell.column)),
    row: Math.max(1, Math.min(rows, cell.row)),
    step: Math.max(0, Math.min(steps - 1, cell.step)),
  }
}
