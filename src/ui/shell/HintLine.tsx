import { useEffect, useState } from 'react'
import { type Binding, keyOf, readKeySettings, useActiveKeys } from '#ui/kit/keys.ts'
import css from './HintLine.module.css'

const store = 'rovant.hints'
const shown: Readonly<Record<string, string>> = {
  ArrowUp: '↑',
  ArrowDown: '↓',
  ArrowLeft: '←',
  ArrowRight: '→',
  Escape: 'Esc',
}
export const keyCaps = (keys: string): string[] =>
  keys
    .split(' ')
    .flatMap((each) =>
      each
        .split('+')
        .map((part) => shown[part] ?? (part.length === 1 && keys.includes('+') ? part.toUpperCase() : part)),
    )

/** The keys that work right here. */
export function HintLine({ onAll }: { onAll: () => void }) {
  const [hidden, setHidden] = useState(false)
  const [ready, setReady] = useState(false)
  const keys = useActiveKeys()
  useEffect(() => {
    setHidden(localStorage.getItem(store) === 'hidden')
    setReady(true)
  }, [])
  const hide = (to: boolean) => {
    setHidden(to)
    localStorage.setItem(store, to ? 'hidden' : 'shown')
  }
  if (hidden)
    return (
      <button
        type="button"
        className={css['back']}
        aria-label="Show the hint line"
        onClick={() => hide(false)}
        data-print="no"
      >
        keys
      </button>
    )
  const hints = ready ? unique(keys.filter(({ quiet }) => !quiet)) : []
  return (
    <footer className={css['line']} data-print="no">
      <div className={css['hints']}>
        {hints.map((binding) => (
          <span key={binding.id}>
            {keyCaps(keyOf(binding, readKeySettings())).map((cap) => (
              <kbd key={cap}>{cap}</kbd>
            ))}{' '}
            {binding.label}
          </span>
        ))}
      </div>
      <div>
        <button type="button" onClick={onAll}>
          <kbd>F1</kbd> all keys
        </button>{' '}
        <button type="button" aria-label="Hide the hint line" onClick={() => hide(true)}>
          ×
        </button>
      </div>
    </footer>
  )
}

const unique = (keys: readonly Binding[]): Binding[] => [
  ...new Map(keys.map((binding) => [binding.id, binding])).values(),
]
