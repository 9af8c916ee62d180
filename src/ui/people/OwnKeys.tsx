import { useEffect, useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import { Button } from '#ui/kit/Button.tsx'
import { type KeySettings, readKeySettings, writeKeySettings } from '#ui/kit/keys.ts'
import { notify } from '#ui/kit/notices.tsx'
import { Setting } from '#ui/kit/Settings.tsx'

/** Keys as this browser keeps them for oneself; which letter does what is changed where it works. */
export function OwnKeys() {
  // Only the browser knows them.
  const [settings, setSettings] = useState<KeySettings | null>(null)
  useEffect(() => setSettings(readKeySettings()), [])
  const store = (to: KeySettings) => {
    writeKeySettings(to)
    setSettings(to)
  }
  const change = (to: KeySettings, told: string) => {
    const before = settings
    store(to)
    notify(told, { undo: before === null ? undefined : () => store(before) })
  }
  if (settings === null) return null
  const own = Object.keys(settings.own).length
  return (
    <section aria-label="Keys">
      <h2>Keys</h2>
      <Setting
        name="Single letters"
        explains={
          <>
            Letters alone are keys while nobody writes. Switch them off where they get in the way, as when you speak to
            the machine. On every page <kbd>F1</kbd> shows the keys that work there and changes them; they are kept in
            this browser.
          </>
        }
      >
        <label>
          <input
            type="checkbox"
            checked={settings.letters}
            onChange={({ target }) =>
              change(
                { ...settings, letters: target.checked },
                target.checked ? 'Letters are keys again.' : 'Letters are no keys any more.',
              )
            }
          />{' '}
          letters are keys
        </label>
      </Setting>
      <Setting name="Keys of your own" explains="Those you have given another letter.">
        {own === 0 ? (
          <span className="quiet">none</span>
        ) : (
          <Button look="word" onClick={() => change({ ...settings, own: {} }, 'All keys are as they were.')}>
            give {counted(own, 'key')} back as they were
          </Button>
        )}
      </Setting>
    </section>
  )
}
