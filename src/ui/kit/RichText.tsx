import { lazy, Suspense, useMemo, useRef, useState } from 'react'
import { plainText } from '#core/lib/plain-text.ts'
import { safeHtml } from '#core/lib/safe-html.ts'
import { Button } from './Button.tsx'
import { useKept } from './kept.tsx'
import { momentText } from './moment.ts'
import css from './RichText.module.css'
import { SafeText } from './SafeText.tsx'
import { TwoTexts, TwoTextsOf } from './TwoTexts.tsx'

const RichEditor = lazy(async () => ({ default: (await import('./RichEditor.tsx')).RichEditor }))

interface Props {
  readonly html: string
  readonly label: string
  /** Answers whether it was stored, where that is known. */
  readonly onStore?: ((html: string) => Promise<boolean> | void) | undefined
  readonly placeholder?: string
  readonly open?: boolean
  /** Tells it from other texts, so that what is typed is kept until it is stored: `RQ-4.text`. */
  readonly place?: string
}

interface KeptText {
  readonly html: string | null
  /** What it was typed over. */
  readonly base: string
}
const nothingKept: KeptText = { html: null, base: '' }

/** Is it the same but for how marks are written, which the server may do otherwise? */
const isSame = (one: string, other: string): boolean => {
  const [a, b] = [one, other].map((html) => html.replace(/\s*\/?>/g, '>').replace(/>\s+</g, '><'))
  return a === b
}

/** What is written here and not stored yet, and its storing. */
function useText({ html, onStore, place, open = false }: Props) {
  const [kept, keep, keeping] = useKept(place === undefined ? null : `text.${place}`, nothingKept)
  const [editing, setEditing] = useState<string | null>(open ? html : null)
  const [storing, setStoring] = useState(false)
  // It may have been stored by another way, such as the notice that asks whether to try again.
  const unsent = kept.html === null || isSame(kept.html, html) ? null : kept.html
  /** What stood here when the editor was opened: somebody else may store another text meanwhile. */
  const begun = useRef(html)
  const base = unsent === null ? (editing === null ? html : begun.current) : kept.base
  const store = async (next: string) => {
    if (isSame(next, html)) return keeping.done()
    setStoring(true)
    const isStored = await onStore?.(next)
    setStoring(false)
    if (isStored !== false) keeping.done()
  }
  return {
    editing,
    edit: () => {
      begun.current = html
      setEditing(unsent !== null && isSame(base, html) ? unsent : html)
    },
    type: (next: string) => keep({ html: next, base }),
    /** With `null` for one who leaves without storing; what was typed is still there, as it is over what somebody else stored since. */
    done: (next: string | null) => {
      setEditing(null)
      if (next !== null && isSame(base, html)) void store(next)
    },
    store,
    discard: keeping.done,
    unsent: storing || editing !== null ? null : unsent,
    isOver: isSame(base, html),
    since: keeping.since,
  }
}

/** What was typed and not stored: to be stored, written on or discarded; over what somebody else stored since, one chooses. */
function Unsent({ of, label, html }: { of: ReturnType<typeof useText>; label: string; html: string }) {
  const { unsent, since } = of
  if (unsent === null) return null
  if (!of.isOver)
    return (
      <TwoTexts said="Somebody else stored this text since you began to write. Choose which stands.">
        <TwoTextsOf
          of={{ name: label, mine: plainText(unsent), theirs: plainText(html) }}
          choices={['theirs', 'mine']}
          onChoose={(choice) => (choice === 'mine' ? void of.store(unsent) : of.discard())}
        />
      </TwoTexts>
    )
  return (
    <p className="quiet" role="status">
      What you typed here{since === null ? '' : ` on ${momentText(since)}`} is not stored:{' '}
      <Button look="word" onClick={() => void of.store(unsent)}>
        store it
      </Button>
      ,{' '}
      <Button look="word" onClick={of.edit}>
        go on writing
      </Button>
      ,{' '}
      <Button look="word" onClick={of.discard}>
        discard it
      </Button>
    </p>
  )
}

/** Rich text as it reads; a click or Enter opens the editor where it stands. */
export function RichText(props: Props) {
  const { html, label, onStore, placeholder = 'Write here' } = props
  const own = useText(props)
  if (own.editing !== null && onStore)
    return (
      <Suspense fallback={<Shown html={html} />}>
        <RichEditor html={own.editing} label={label} onType={own.type} onDone={own.done} />
      </Suspense>
    )
  if (!onStore) return <Shown html={html} />
  return (
    <>
      <div
        className={css['open']}
        role="button"
        tabIndex={0}
        aria-label={`Edit ${label}`}
        onClick={(event) => {
          if (!(event.target instanceof HTMLAnchorElement)) own.edit()
        }}
        onKeyDown={(event) => {
          if (event.key === 'Enter') {
            event.preventDefault()
            event.stopPropagation()
            own.edit()
          }
        }}
      >
        {html === '' ? <span className="quiet">{placeholder}</span> : <Shown html={html} />}
      </div>
      <Unsent of={own} label={label} html={html} />
    </>
  )
}

export const Shown = ({ html, inline = false }: { html: string; inline?: boolean }) => {
  const safe = useMemo(() => safeHtml(html), [html])
  return <SafeText className={css['shown']} html={safe} inline={inline} />
}
