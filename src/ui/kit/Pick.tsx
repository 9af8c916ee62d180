import { Form } from './Form.tsx'
import type { ReactNode } from 'react'
import css from './Pick.module.css'

/** What a dialog asks before it acts: fields, what will come of it, and one main act at the foot. */
export const PickForm = ({ onDo, children }: { onDo: () => void; children: ReactNode }) => (
  <Form className={css['pick']} onSend={onDo}>
    {children}
  </Form>
)

export const PickFoot = ({ children }: { children: ReactNode }) => <p className={css['foot']}>{children}</p>
