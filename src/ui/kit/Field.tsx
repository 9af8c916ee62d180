import { type InputHTMLAttributes, type ReactNode, useId } from 'react'
import css from './Field.module.css'

/** A labelled field; what is wrong with it is said below it. */
export function Field({
  label,
  problem,
  children,
  hint,
}: {
  label: string
  problem?: string | undefined
  hint?: string
  children: (id: string) => ReactNode
}) {
  const id = useId()
  return (
    <div className={css['field']}>
      <label htmlFor={id}>{label}</label>
      {children(id)}
      {hint && <p className="quiet">{hint}</p>}
      {problem && (
        <p className={css['problem']} role="alert">
          {problem}
        </p>
      )}
    </div>
  )
}

export const TextInput = (props: InputHTMLAttributes<HTMLInputElement>) => (
  <input {...props} className={`${css['input']} ${props.className ?? ''}`} />
)
