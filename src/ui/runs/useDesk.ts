import { useEffect, useRef, useState } from 'react'
import { type Attempt, attemptVerdict, markStep, markWhole, type Outcome } from '#core/runs/attempt.ts'
import { type Desk, type DeskAttempt, recorded, startAttempt } from '#core/runs/contract.ts'
import type { FinalVerdict, Said } from '#core/lib/verdict.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useHere } from '#ui/shell/here.ts'
import { openOutbox, type Outbox } from './outbox.ts'

interface Held {
  attempt: DeskAttempt | null
  starting: Promise<DeskAttempt | null> | null
  place: { row: number; step: number }
  order: Promise<void>
}
const clock = (at: number): string => new Date(at).toLocaleTimeString('en-GB')

const asCore = (of: DeskAttempt): Attempt => ({
  rows: Math.max(1, of.rows.length),
  steps: of.steps.map(({ id }) => id),
  marks: of.marks,
  whole: of.whole === null ? null : { verdict: of.whole, override: of.override },
})

/** What the desk knows and does: every verdict is applied here at once by the same rules as on the server, and sent. */
export function useDesk(desk: Desk, refresh: () => void) {
  const { key, me } = useHere()
  const [attempt, setAttempt] = useState(desk.attempt)
  const [place, setPlace] = useState({ row: 1, step: firstOpen(desk.attempt) })
  const [stored, setStored] = useState('')
  const [waiting, setWaiting] = useState({ count: 0, problem: null as string | null })
  const held = useRef<Held>({
    attempt: desk.attempt,
    starting: null,
    place: { row: 1, step: firstOpen(desk.attempt) },
    order: Promise.resolve(),
  })
  const outbox = useRef<Outbox | null>(null)
  const show = (next: DeskAttempt | null) => {
    held.current.attempt = next
    setAttempt(next)
  }
  useEffect(() => {
    const own = openOutbox(`rovant.outbox.${me.id}`, {
      onStored: (_, answer, at) => {
        setStored(`Stored ${clock(at)}`)
        const whole = recorded.safeParse(answer)
        if (
          whole.success &&
          whole.data.attempt.id === held.current.attempt?.id &&
          outbox.current?.waiting().length === 0
        )
          show(whole.data.attempt)
      },
      onWaiting: (count, problem) => setWaiting({ count, problem: problem?.detail ?? null }),
      onRefused: (_, problem) => {
        notify(problem.detail, { tone: 'problem' })
        refresh()
      },
    })
    outbox.current = own
    setWaiting({ count: own.waiting().length, problem: null })
    return () => own.stop()
  }, [me.id])
  useEffect(() => {
    if (outbox.current?.waiting().length === 0) show(desk.attempt)
  }, [desk])

  const begin = async (): Promise<DeskAttempt | null> => {
    if (held.current.attempt) return held.current.attempt
    held.current.starting ??= call(startAttempt, { params: { key, id: desk.item.id }, body: {} })
      .then(
        (made) => {
          show(made)
          return made
        },
        (error: unknown) => {
          notify(sentenceOf(error), { tone: 'problem' })
          return null
        },
      )
      .finally(() => {
        held.current.starting = null
      })
    return held.current.starting
  }
  const took = (own: DeskAttempt, outcome: Outcome): boolean => {
    if (!outcome.ok) {
      notify(outcome.sentence, { tone: 'problem' })
      return false
    }
    const comments = new Map(own.marks.map((mark) => [`${mark.row}:${mark.step}`, mark.comment]))
    show({
      ...own,
      marks: outcome.attempt.marks.map((mark) => ({
        row: mark.row,
        step: mark.step,
        verdict: mark.verdict,
        word: mark.word,
        final: mark.final,
        comment: comments.get(`${mark.row}:${mark.step}`) ?? '',
        at: Date.now(),
      })),
      whole: outcome.attempt.whole?.verdict ?? null,
      override: outcome.attempt.whole?.override ?? null,
      verdict: attemptVerdict(outcome.attempt),
      canUndo: true,
    })
    return true
  }
  /** The place moves at the keystroke; what was pressed is recorded in its order, also while the attempt is being started. */
  const inOrder = (work: () => Promise<void>) => {
    held.current.order = held.current.order.then(work, work)
  }
  const mark = (said: Said) => {
    const { row, step: at } = held.current.place
    const step = (held.current.attempt ?? desk.preview).steps[at]?.id ?? null
    if (step === null) return
    if (said.final && (said.verdict === 'Passed' || said.verdict === 'Skipped')) next()
    inOrder(async () => {
      const own = await begin()
      if (!own || !took(own, markStep(asCore(own), { row, step, ...said }))) return
      outbox.current?.put({
        kind: 'step',
        project: key,
        attempt: own.id,
        row,
        step,
        verdict: said.verdict,
        word: said.word,
      })
    })
  }
  const whole = async (verdict: FinalVerdict, reason: string | null): Promise<boolean> => {
    const own = await begin()
    if (!own || !took(own, markWhole(asCore(own), verdict, reason))) return false
    outbox.current?.put({ kind: 'whole', project: key, attempt: own.id, verdict, reason })
    return true
  }
  const undo = () =>
    inOrder(async () => {
      const own = held.current.attempt
      if (!own?.canUndo) return notify('There is no verdict of yours to take back here.')
      outbox.current?.put({ kind: 'undo', project: key, attempt: own.id })
    })
  const go = (step: number, row = held.current.place.row) => {
    const steps = held.current.attempt?.steps.length ?? desk.preview.steps.length
    const rows = Math.max(1, (held.current.attempt ?? desk.preview).rows.length)
    held.current.place = { row: Math.max(1, Math.min(rows, row)), step: Math.max(0, Math.min(steps - 1, step)) }
    setPlace(held.current.place)
  }
  const next = (): boolean => {
    const steps = (held.current.attempt ?? desk.preview).steps.length
    const rows = Math.max(1, (held.current.attempt ?? desk.preview).rows.length)
    const { row, step } = held.current.place
    if (step + 1 >= steps && row >= rows) return false
    if (step + 1 < steps) go(step + 1)
    else go(0, row + 1)
    return true
  }
  return {
    attempt,
    at: place,
    stored,
    waiting,
    begin,
    mark,
    whole,
    undo,
    go,
    next,
    patch: (change: (own: DeskAttempt) => DeskAttempt) => {
      if (held.current.attempt) show(change(held.current.attempt))
    },
  }
}

const firstOpen = (attempt: DeskAttempt | null): number => {
  const at =
    attempt?.steps.findIndex(
      ({ id }) => !attempt.marks.some((mark) => mark.row === 1 && mark.step === id && mark.verdict !== 'Not run'),
    ) ?? 0
  return Math.max(0, at)
}
