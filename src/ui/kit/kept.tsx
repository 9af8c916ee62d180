import { createContext, useContext, useLayoutEffect, useRef, useState } from 'react'
import { momentText } from './moment.ts'
import { z } from 'zod'
import { Button } from './Button.tsx'
import { notify } from './notices.tsx'
import { shaped } from './stored.ts'

const KeptFor = createContext<string | null>(null)
/** Whose words are kept, and in which project; without it nothing outlives the page. */
export const KeepingFor = KeptFor.Provider

export interface Keeping {
  /** When these words were typed, if they were found here and not typed just now. */
  readonly since: number | null
  /** They are stored elsewhere now: the box is as new. */
  readonly done: () => void
}

/**
 * What is typed into a box or a dialog, kept in this browser per person and place until it is stored or discarded: over Esc, a
 * reload, a closed tab. `empty` is how the box begins; only what differs from it is kept. Without a place nothing is.
 */
export function useKept<T>(place: string | null, empty: T): readonly [T, (to: T) => void, Keeping] {
  const of = useContext(KeptFor)
  const name = of === null || place === null ? null : `rovant.kept.${of}.${place}`
  const [held, setHeld] = useState<{ readonly value: T; readonly since: number | null }>({ value: empty, since: null })
  // Another window may keep words at the same place; only one's own are taken away.
  const own = useRef<string | null>(null)
  useLayoutEffect(() => {
    own.current = name === null ? null : localStorage.getItem(name)
    const found = keptIn(own.current, empty)
    setHeld(found ? { value: found.value, since: found.at } : { value: empty, since: null })
  }, [name])
  const forget = () => {
    if (name !== null && localStorage.getItem(name) === own.current) localStorage.removeItem(name)
    own.current = null
  }
  const set = (value: T) => {
    setHeld({ value, since: null })
    if (name === null) return
    if (JSON.stringify(value) === JSON.stringify(empty)) return forget()
    own.current = JSON.stringify({ at: Date.now(), value })
    write(name, own.current)
  }
  const done = () => {
    forget()
    setHeld({ value: empty, since: null })
  }
  return [held.value, set, { since: held.since, done }]
}

function write(name: string, text: string): void {
  try {
    localStorage.setItem(name, text)
  } catch {
    notify('This browser has no room left to keep what you type; store it before you leave.', { tone: 'problem' })
  }
}

/** A place in this browser for what is typed and not stored yet; `read` answers nothing that is not of this shape. */
export const keptPlace = <T,>(name: string, shape: z.ZodType<T>) => ({
  keep: (value: T) => write(name, JSON.stringify(value)),
  forget: () => localStorage.removeItem(name),
  read: (): T | null => shaped(localStorage.getItem(name), shape),
})

const keptShape = z.object({ at: z.number(), value: z.unknown() })

/** What was kept, if it is of the kind that is asked for: an older page may have kept another. */
function keptIn<T>(text: string | null, empty: T): { readonly at: number; readonly value: T } | null {
  const kept = shaped(text, keptShape)
  return kept && isLike(kept.value, empty) ? { at: kept.at, value: kept.value } : null
}

/** Has it the kind of this model, and of an object every part? Where the model has `null` there may be words. */
function isLike<T>(value: unknown, model: T): value is T {
  if (model === null) return value === null || typeof value === 'string'
  if (Array.isArray(value) || Array.isArray(model)) return Array.isArray(value) && Array.isArray(model)
  if (typeof value !== typeof model || value === null) return false
  if (typeof model !== 'object') return true
  const parts = z.record(z.string(), z.unknown()).safeParse(value)
  return parts.success && Object.entries(model).every(([name, part]) => isLike(parts.data[name], part))
}

/** Says that words of before were found, and lets go of them on purpose. */
export const KeptNote = ({ of: { since, done } }: { of: Keeping }) =>
  since === null ? null : (
    <p className="quiet" role="status">
      What you typed here on {momentText(since)} is still here.{' '}
      <Button look="word" onClick={done}>
        discard it
      </Button>
    </p>
  )
