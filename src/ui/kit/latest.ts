import { useRef } from 'react'

/** Holds what was given last, in an object that stays the same: for what is called later and must not make others draw again. */
export function useLatest<T>(value: T): { readonly current: T } {
  const held = useRef(value)
  held.current = value
  return held
}
