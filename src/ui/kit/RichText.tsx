import { lazy, Suspense, useState } from 'react'
import css from './RichText.module.css'

const RichEditor = lazy(async () => ({ default: (await import('./RichEditor.tsx')).RichEditor }))

interface Props {
  readonly html: string
  readonly label: string
  readonly onStore?: ((html: string) => void) | undefined
  readonly placeholder?: string
  readonly open?: boolean
}

/** Rich text as it reads; a click or Enter opens the editor where it stands. The text was made safe when it was stored. */
export function RichText({ html, label, onStore, placeholder = 'Write here', open = false }: Props) {
  const [editing, setEditing] = useState(open)
  if (editing && onStore)
    return (
      <Suspense fallback={<Shown html={html} />}>
        <RichEditor
          html={html}
          label={label}
          onDone={(next) => {
            setEditing(false)
            if (next !== null && next !== html) onStore(next)
          }}
        />
      </Suspense>
    )
  if (!onStore) return <Shown html={html} />
  return (
    <div
      className={css['open']}
      role="button"
      tabIndex={0}
      aria-label={`Edit ${label}`}
      onClick={(event) => {
        if (!(event.target instanceof HTMLAnchorElement)) setEditing(true)
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter') {
          event.preventDefault()
          event.stopPropagation()
          setEditing(true)
        }
      }}
    >
      {html === '' ? <span className="quiet">{placeholder}</span> : <Shown html={html} />}
    </div>
  )
}

export const Shown = ({ html, inline = false }: { html: string; inline?: boolean }) => {
  const Tag = inline ? 'span' : 'div'
  return <Tag className={css['shown']} dangerouslySetInnerHTML={{ __html: html }} />
}
