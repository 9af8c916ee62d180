import type { ReactNode } from 'react'
import css from './FilePick.module.css'

/** A place to choose a file at, or to drop one. */
export const FilePick = ({
  label,
  accept,
  onChoose,
  children,
}: {
  label: string
  accept: string
  onChoose: (file: File | undefined) => void
  /** What else is said there. */
  children?: ReactNode
}) => (
  <p
    className={css['pick']}
    onDragOver={(event) => event.preventDefault()}
    onDrop={(event) => {
      event.preventDefault()
      onChoose(event.dataTransfer.files[0])
    }}
  >
    <input type="file" aria-label={label} accept={accept} onChange={(event) => onChoose(event.target.files?.[0])} /> or
    drop it here
    {children}
  </p>
)
