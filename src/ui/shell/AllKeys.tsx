import { useState } from 'react'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { type Binding, keyOf, readKeySettings, useActiveKeys, writeKeySettings } from '#ui/kit/keys.ts'
import { keyCaps } from './HintLine.tsx'
import css from './AllKeys.module.css'

/** All keys of this place; single letters can be changed or switched off. */
export function AllKeys({ onClose }: { onClose: () => void }) {
  const keys = useActiveKeys()
  const [settings, setSettings] = useState(readKeySettings)
  const [changing, setChanging] = useState<string | null>(null)
  const keep = (to: typeof settings) => {
    writeKeySettings(to)
    setSettings(to)
  }
  const change = (binding: Binding, key: string) => {
    setChanging(null)
    if (/^[a-z.]$/.test(key)) keep({ ...settings, own: { ...settings.own, [binding.id]: key } })
  }
  const all = [...new Map(keys.map((binding) => [binding.id, binding])).values()]
  return (
    <Dialog title="Keys that work here" onClose={onClose} wide>
      <label className={css['switch']}>
        <input
          type="checkbox"
          checked={settings.letters}
          onChange={(event) => keep({ ...settings, letters: event.target.checked })}
        />{' '}
        Single letters are keys (switch them off where they get in the way)
      </label>
      <ul className={css['keys']}>
        {all.map((binding) => {
          const single = /^[a-z.]$/.test(keyOf(binding, settings))
          return (
            <li key={binding.id}>
              <span>
                {keyCaps(keyOf(binding, settings)).map((cap) => (
                  <kbd key={cap}>{cap}</kbd>
                ))}
              </span>
              <span>{binding.label}</span>
              {single && (
                <button
                  type="button"
                  className={css['change']}
                  onClick={() => setChanging(binding.id)}
                  onKeyDown={(event) => {
                    if (changing === binding.id) {
                      event.preventDefault()
                      change(binding, event.key)
                    }
                  }}
                >
                  {changing === binding.id ? 'press a letter' : 'change'}
                </button>
              )}
            </li>
          )
        })}
      </ul>
      <button type="button" className={css['change']} onClick={() => keep({ letters: true, own: {} })}>
        Give all keys back as they were
      </button>
    </Dialog>
  )
}
