import { useEffect, useState, useSyncExternalStore } from 'react'
import css from './notices.module.css'

export interface Notice {
  readonly id: number
  readonly text: string
  readonly tone: 'done' | 'problem'
  readonly undo?: (() => void) | undefined
  readonly undoLabel?: string | undefined
  /** Of what goes on still: how much of it is done, from 0 to 1, where that is known. */
  readonly progress?: number | null
  readonly stop?: () => void
}

let notices: readonly Notice[] = []
let next = 1
const hearers = new Set<() => void>()
const none: readonly Notice[] = []

function set(to: readonly Notice[]): void {
  notices = to
  for (const hear of hearers) hear()
}

/** Says what happened, with a way back where there is one. What went wrong stays until it is closed. */
export function notify(
  text: string,
  of: { tone?: Notice['tone']; undo?: (() => void) | undefined; undoLabel?: string } = {},
): void {
  const notice: Notice = { id: next++, text, tone: of.tone ?? 'done', undo: of.undo, undoLabel: of.undoLabel }
  set([...notices.slice(-3), notice])
  if (notice.tone === 'done') setTimeout(() => close(notice.id), of.undo ? 12_000 : 5000)
}
const close = (id: number): void => set(notices.filter((notice) => notice.id !== id))

export interface Progress {
  readonly set: (share: number) => void
  readonly end: () => void
}

/** What is done sooner needs no word about how far it is, in ms. */
const moment = 700

/** Says, after a moment, that something goes on and how far it is, until it has ended; it can be stopped from there. */
export function showProgress(text: string, stop: () => void): Progress {
  const id = next++
  let progress: number | null = null
  const timer = setTimeout(() => set([...notices, { id, text, tone: 'done', progress, stop }]), moment)
  return {
    set: (share) => {
      progress = share
      set(notices.map((notice) => (notice.id === id ? { ...notice, progress } : notice)))
    },
    end: () => {
      clearTimeout(timer)
      close(id)
    },
  }
}

const heard = (hear: () => void) => (hearers.add(hear), () => void hearers.delete(hear))

/** Where notices may be shown, the one in front last: what stands behind a dialog can neither be read well nor pressed. */
let places: readonly object[] = []

function useIsInFront(over: boolean): boolean {
  const [own] = useState({})
  useEffect(() => {
    places = over ? [...places, own] : [own, ...places]
    set(notices)
    return () => {
      places = places.filter((place) => place !== own)
      set(notices)
    }
  }, [own, over])
  return useSyncExternalStore(
    heard,
    () => places.at(-1) === own,
    () => false,
  )
}

/** A page has them once, and each dialog `over` it. */
export function Notices({ over = false }: { over?: boolean }) {
  const all = useSyncExternalStore(
    heard,
    () => notices,
    () => none,
  )
  const shown = useIsInFront(over) ? all : none
  return (
    <div className={css['notices']} role="status" aria-live="polite" data-print="no">
      {shown.map(({ id, text, tone, undo, undoLabel, progress, stop }) => (
        <div key={id} className={css['notice']} data-tone={tone}>
          <span>{text}</span>
          {stop && <progress aria-label={text} {...(progress != null && { value: progress })} />}
          {stop && (
            <button type="button" onClick={stop}>
              Stop
            </button>
          )}
          {undo && (
            <button
              type="button"
              onClick={() => {
                close(id)
                undo()
              }}
            >
              {undoLabel ?? 'Undo'}
            </button>
          )}
          {!stop && (
            <button type="button" aria-label="Close notice" onClick={() => close(id)}>
              ×
            </button>
          )}
        </div>
      ))}
    </div>
  )
}
