import type { ReactNode } from 'react'
import css from './Pick.module.css'

/** What a dialog asks before it acts: fields, what will come of it, and one main act at the foot. */
export const PickForm = ({ onDo, children }: { onDo: () => void; children: ReactNode }) => (
  <form
    className={css['pick']}
    onSubmit={(event) => {
      event.preventDefault()
      onDo()
    }}
  >
    {children}
  </form>
)

export const PickFoot = ({ children }: { children: ReactNode }) => <p className={css['foot']}>{children}</p>
