import { useLayoutEffect, useRef, useSyncExternalStore } from 'react'

/** A key that works right here. `id` names it for people who change or switch it off. */
export interface Binding {
  readonly id: string
  readonly keys: string
  readonly label: string
  readonly run: () => void
  /** Left out of the hint line, but in the list of all keys. */
  readonly quiet?: boolean
}

let active: readonly (readonly Binding[])[] = []
let flat: readonly Binding[] = []
const none: readonly Binding[] = []
const hearers = new Set<() => void>()

function change(to: readonly (readonly Binding[])[]): void {
  active = to
  flat = to.flat()
  for (const hear of hearers) hear()
}

/** Makes keys work while a component is shown; the newest component wins where two want the same key. */
export function useKeys(bindings: readonly Binding[]): void {
  const latest = useRef(bindings)
  latest.current = bindings
  const shape = bindings.map(({ id, keys, label, quiet }) => `${id} ${keys} ${label} ${quiet ?? ''}`).join('|')
  // Heard as soon as what they act on is drawn: on a busy machine a person is faster than an effect that waits for the drawing.
  useLayoutEffect(() => {
    const own = latest.current.map((binding) => ({
      ...binding,
      run: () => latest.current.find(({ id }) => id === binding.id)?.run(),
    }))
    change([...active, own])
    return () => change(active.filter((each) => each !== own))
  }, [shape])
}

export const useActiveKeys = (): readonly Binding[] =>
  useSyncExternalStore(
    (hear) => (hearers.add(hear), () => void hearers.delete(hear)),
    () => flat,
    () => none,
  )

const store = 'rovant.keys'
export interface KeySettings {
  readonly letters: boolean
  readonly own: Readonly<Record<string, string>>
}

/** A person's own keys, kept in this browser; unknown text there is passed over. */
export function readKeySettings(): KeySettings {
  try {
    const raw: unknown = JSON.parse(localStorage.getItem(store) ?? '{}')
    const letters = typeof raw === 'object' && raw !== null && 'letters' in raw ? raw.letters !== false : true
    const own =
      typeof raw === 'object' && raw !== null && 'own' in raw && typeof raw.own === 'object' && raw.own !== null
        ? Object.entries(raw.own).filter((each): each is [string, string] => typeof each[1] === 'string')
        : []
    return { letters, own: Object.fromEntries(own) }
  } catch {
    return { letters: true, own: {} }
  }
}
export const writeKeySettings = (to: KeySettings): void => localStorage.setItem(store, JSON.stringify(to))

export const keyOf = (binding: Binding, settings: KeySettings): string => settings.own[binding.id] ?? binding.keys

/** `Ctrl+Shift+Enter` for a keyboard event, as bindings write it. */
function eventKeys(event: KeyboardEvent): string {
  const key =
    event.key === ' ' ? 'Space' : event.key.length === 1 && !event.shiftKey ? event.key.toLowerCase() : event.key
  const shift = event.shiftKey && (event.key.length > 1 || /[a-z]/i.test(event.key))
  return `${event.ctrlKey || event.metaKey ? 'Ctrl+' : ''}${event.altKey ? 'Alt+' : ''}${shift ? 'Shift+' : ''}${shift && key.length === 1 ? key.toLowerCase() : key}`
}

const writing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) &&
  !(target instanceof HTMLInputElement && /^(checkbox|radio|button)$/.test(target.type))

/** What Enter and Space press by themselves. */
const pressable = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  target.closest('button, a[href], summary, [role=button], input[type=checkbox], input[type=radio]') !== null

/** Listens for the whole page, which says that it does. Single letters keep silent where a person is writing. */
export function listenForKeys(): () => void {
  const hear = (event: KeyboardEvent) => {
    if (event.defaultPrevented || event.isComposing) return
    const settings = readKeySettings()
    const pressed = eventKeys(event)
    const bare = !/Ctrl\+|Alt\+|^F\d/.test(pressed)
    if (bare && writing(event.target) && pressed !== 'Escape') return
    if ((pressed === 'Enter' || pressed === 'Space') && pressable(event.target)) return
    if (bare && pressed.length === 1 && /[a-z.]/.test(pressed) && !settings.letters) return
    const found = [...flat].reverse().find((binding) => keyOf(binding, settings).split(' ').includes(pressed))
    if (!found) return
    event.preventDefault()
    found.run()
  }
  window.addEventListener('keydown', hear)
  const { dataset } = document.documentElement
  dataset['keys'] = 'heard'
  return () => {
    window.removeEventListener('keydown', hear)
    delete dataset['keys']
  }
}
