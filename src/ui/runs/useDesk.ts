import { type RefObject, useEffect, useRef, useState } from 'react'
import { markStep, markWhole, type Outcome } from '#core/runs/attempt.ts'
import { type Desk, type DeskAttempt, recorded, startAttempt } from '#core/runs/desk-contract.ts'
import type { Said } from '#core/lib/verdict.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { exactClockText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useHere } from '#ui/shell/here.ts'
import { afterSaying, asCore, firstOpen, type Place, placeAfter, placeIn } from './desk-attempt.ts'
import type { Sayable } from './sayable.ts'
import { useBuild } from './useBuild.ts'
import { type DeskEvent, openOutbox, type Outbox } from '#ui/shell/outbox.ts'

/** What the desk knows and does: every verdict is applied here at once by the same rules as on the server, and sent. */
export function useDesk(desk: Desk, refresh: () => void) {
  const build = useBuild(desk)
  const { attempt, held, show, begin, anew } = useAttempt(desk, build.settle)
  const { at, place, go, next } = usePlace(desk, held)
  const { outbox, stored, waiting } = useOutbox({
    refresh,
    onAnswer: (answered) => {
      if (answered.id === held.current?.id) show(answered)
    },
    // What was not taken was not done: one stands where one pressed the key.
    onNotTaken: (event) => {
      if (event.kind !== 'step' || event.attempt !== held.current?.id) return
      const step = held.current.steps.findIndex(({ id }) => id === event.step)
      if (step >= 0) go(step, event.row)
    },
  })
  useEffect(() => {
    if (outbox.current?.waiting().length === 0) show(desk.attempt)
  }, [desk])
  const said = useSaying(desk, { held, show, begin, outbox, place, next, go })
  const patch = (change: (own: DeskAttempt) => DeskAttempt) => {
    if (held.current) show(change(held.current))
  }
  return { item: desk.item.id, attempt, at, stored, waiting, begin, anew, build, go, next, patch, ...said }
}

/** The attempt on the desk: what is shown, and the same at once for what is pressed before it is drawn. */
function useAttempt(desk: Desk, settleBuild: ReturnType<typeof useBuild>['settle']) {
  const { key } = useHere()
  const [attempt, setAttempt] = useState(desk.attempt)
  const held = useRef(desk.attempt)
  const starting = useRef<Promise<DeskAttempt | null> | null>(null)
  const show = (next: DeskAttempt | null) => {
    held.current = next
    setAttempt(next)
  }
  const started = async (): Promise<DeskAttempt | null> => {
    try {
      const body = await settleBuild()
      if (!body) return null
      const made = await call(startAttempt, { params: { key, id: desk.item.id }, body })
      show(made)
      return made
    } catch (error) {
      notify(sentenceOf(error), { tone: 'problem' })
      return null
    } finally {
      starting.current = null
    }
  }
  /** Starts the attempt when there is none; two who ask at once get the same. */
  const begin = async (): Promise<DeskAttempt | null> => held.current ?? (starting.current ??= started())
  /** Starts another one beside the one there is. */
  const anew = (): Promise<DeskAttempt | null> => (starting.current ??= started())
  return { attempt, held, show, begin, anew }
}

/** The person's outbox, with what is said of it. `onAnswer` hears what the server made of the last that waited. */
function useOutbox({
  refresh,
  onAnswer,
  onNotTaken,
}: {
  refresh: () => void
  onAnswer: (attempt: DeskAttempt) => void
  onNotTaken: (event: DeskEvent) => void
}) {
  const { me } = useHere()
  const [stored, setStored] = useState('')
  const [waiting, setWaiting] = useState({ count: 0, problem: null as string | null })
  const outbox = useRef<Outbox | null>(null)
  useEffect(() => {
    const own = openOutbox(`rovant.outbox.${me.id}`, {
      onStored: (event, answer, { storedAt, counts, said }) => {
        setStored(`Stored ${exactClockText(storedAt)}`)
        if (said !== '') notify(said, counts ? {} : { tone: 'problem' })
        if (!counts) onNotTaken(event)
        if (answer === null || !counts) refresh()
        const whole = recorded.safeParse(answer)
        if (whole.success && outbox.current?.waiting().length === 0) onAnswer(whole.data.attempt)
      },
      onWaiting: (count, problem) => setWaiting({ count, problem: problem?.detail ?? null }),
      onRefused: (event, problem) => {
        notify(problem.detail, { tone: 'problem' })
        onNotTaken(event)
        refresh()
      },
    })
    outbox.current = own
    setWaiting({ count: own.waiting().length, problem: null })
    return () => own.stop()
  }, [me.id])
  return { outbox, stored, waiting }
}

/** Which step of which data row is open. */
function usePlace(desk: Desk, held: RefObject<DeskAttempt | null>) {
  const [at, setAt] = useState(() => firstOpen(desk.attempt))
  const place = useRef<Place>(at)
  const moveTo = (to: Place) => {
    place.current = to
    setAt(to)
  }
  const go = (step: number, row = place.current.row) => moveTo(placeIn(held.current ?? desk.preview, { row, step }))
  /** Answers whether there was a next one. */
  const next = (): boolean => {
    const after = placeAfter(held.current ?? desk.preview, place.current)
    if (after) moveTo(after)
    return after !== null
  }
  return { at, place, go, next }
}

interface Saying {
  readonly held: RefObject<DeskAttempt | null>
  readonly show: (next: DeskAttempt) => void
  readonly begin: () => Promise<DeskAttempt | null>
  readonly outbox: RefObject<Outbox | null>
  readonly place: RefObject<Place>
  readonly next: () => boolean
  readonly go: (step: number, row?: number) => void
}

/** Verdicts of a step and of the whole, and taking the last one back. */
function useSaying(desk: Desk, { held, show, begin, outbox, place, next, go }: Saying) {
  const { key } = useHere()
  const order = useRef<Promise<void>>(Promise.resolve())
  /** The place moves at the keystroke; what was pressed is recorded in its order, also while the attempt is being started. */
  const inOrder = (work: () => Promise<void>) => {
    order.current = order.current.then(work, work)
  }
  const took = (own: DeskAttempt, outcome: Outcome): boolean => {
    if (outcome.ok) show(afterSaying(own, outcome.attempt, Date.now()))
    else notify(outcome.sentence, { tone: 'problem' })
    return outcome.ok
  }
  const mark = (said: Said) => {
    const from = place.current
    const { row, step: at } = from
    const step = (held.current ?? desk.preview).steps[at]?.id ?? null
    if (step === null) return
    if (said.final && (said.verdict === 'Passed' || said.verdict === 'Skipped')) next()
    inOrder(async () => {
      const own = await begin()
      // What is refused was not done: one stands where one pressed the key.
      if (!own || !took(own, markStep(asCore(own), { row, step, ...said }))) return go(from.step, from.row)
      const { verdict, word } = said
      outbox.current?.put({ kind: 'step', project: key, attempt: own.id, row, step, verdict, word })
    })
  }
  const whole = async (of: Sayable, reason: string | null): Promise<boolean> => {
    const own = await begin()
    if (!own || !took(own, markWhole(asCore(own), of.said, reason))) return false
    const { verdict, word } = of
    outbox.current?.put({ kind: 'whole', project: key, attempt: own.id, verdict, word, reason })
    return true
  }
  const undo = () =>
    inOrder(async () => {
      const own = held.current
      if (!own?.canUndo) return notify('There is no verdict of yours to take back here.')
      outbox.current?.put({ kind: 'undo', project: key, attempt: own.id })
    })
  return { mark, whole, undo }
}
