import { type ReactNode, useEffect, useRef } from 'react'
import css from './Dialog.module.css'
import { type Keeping, KeptNote } from './kept.tsx'
import { Notices } from './notices.tsx'

interface DialogOf {
  title: string
  onClose: () => void
  children: ReactNode
  wide?: boolean
  kept?: Keeping
}

/** The platform's own dialog: it holds the focus and gives it back where it was. Esc or a click beside closes; what is `kept` is there again. */
export function Dialog({ title, onClose, children, wide = false, kept }: DialogOf) {
  const own = useRef<HTMLDialogElement>(null)
  // A selection that begins within and is let go outside is no click beside.
  const pressed = useRef<EventTarget | null>(null)
  useEffect(() => {
    const dialog = own.current
    const before = document.activeElement
    if (dialog && !dialog.open) dialog.showModal()
    // The platform would give the focus to the close button; a person opened this to write or to choose.
    const first = ['[data-first]', 'textarea', 'input:not([type=checkbox], [type=radio], [type=file])', 'select']
      .map((wanted) => dialog?.querySelector<HTMLElement>(wanted))
      .find((found) => found)
    first?.focus()
    return () => {
      if (before instanceof HTMLElement && before.isConnected) before.focus()
    }
  }, [])
  return (
    <dialog
      ref={own}
      className={css['dialog']}
      data-wide={wide || undefined}
      aria-label={title}
      onCancel={(event) => {
        event.preventDefault()
        onClose()
      }}
      onPointerDown={({ target }) => {
        pressed.current = target
      }}
      onClick={({ target }) => {
        if (target === own.current && pressed.current === own.current) onClose()
      }}
      onKeyDown={(event) => event.stopPropagation()}
    >
      <div className={css['inside']}>
        <header>
          <h2>{title}</h2>
          <button type="button" className={css['close']} aria-label="Close" onClick={onClose}>
            <kbd>Esc</kbd>
          </button>
        </header>
        {kept && <KeptNote of={kept} />}
        {children}
      </div>
      <Notices over />
    </dialog>
  )
}
