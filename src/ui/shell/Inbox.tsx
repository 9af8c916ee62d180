import { useEffect, useRef, useState } from 'react'
import type { OutputOf } from '#core/lib/contract.ts'
import { listInbox, readInbox } from '#core/talk/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useAnswer, useWrite } from './answers.tsx'
import { useHere } from './here.ts'
import css from './Inbox.module.css'
import { ago, shortName } from './people.ts'

/** A panel that closes when somebody presses outside it. */
function usePanel() {
  const [open, setOpen] = useState(false)
  const own = useRef<HTMLDivElement>(null)
  useEffect(() => {
    if (!open) return undefined
    const away = (event: PointerEvent) => {
      if (event.target instanceof Node && !own.current?.contains(event.target)) setOpen(false)
    }
    window.addEventListener('pointerdown', away)
    return () => window.removeEventListener('pointerdown', away)
  }, [open])
  return { open, setOpen, own }
}

/**
 * What waits for a person to see: who named them, asked them or answered them. It stands on every page, so it is a plain panel:
 * the library of popovers comes only where one is needed.
 */
export function Inbox() {
  const { key } = useHere()
  const { open, setOpen, own } = usePanel()
  const { data } = useAnswer(listInbox, { params: { key }, query: { limit: 30 } })
  return (
    <div
      ref={own}
      className={css['inbox']}
      onBlur={(event) => {
        if (event.relatedTarget instanceof Node && !own.current?.contains(event.relatedTarget)) setOpen(false)
      }}
      onKeyDown={(event) => {
        if (event.key !== 'Escape' || !open) return
        event.stopPropagation()
        setOpen(false)
        own.current?.querySelector('button')?.focus()
      }}
    >
      <button type="button" className={css['label']} aria-expanded={open} onClick={() => setOpen(!open)}>
        Inbox{(data?.unread ?? 0) > 0 && <b>{data?.unread}</b>}
      </button>
      {open && <Panel rows={data?.rows} />}
    </div>
  )
}

type Told = OutputOf<typeof listInbox>['rows'][number]

function Panel({ rows }: { rows: readonly Told[] | undefined }) {
  const { key } = useHere()
  const { attempt } = useWrite(readInbox)
  const unread = rows?.filter(({ read }) => !read) ?? []
  const seen = (ids: readonly number[], read = true) => void attempt({ params: { key }, body: { ids: [...ids], read } })
  return (
    <div className={css['panel']} role="region" aria-label="Inbox">
      <div className={css['top']}>
        <h2>Inbox</h2>
        {unread.length > 0 && (
          <Button look="word" onClick={() => seen(unread.map(({ id }) => id))}>
            all seen
          </Button>
        )}
      </div>
      {rows?.length === 0 && (
        <p className="quiet">Nothing yet. Here stands who names you with @, asks you to review, or answers you.</p>
      )}
      <ul>
        {rows?.map((each) => (
          <Line key={each.id} of={each} onSeen={(read) => seen([each.id], read)} />
        ))}
      </ul>
    </div>
  )
}

function Line({ of, onSeen }: { of: Told; onSeen: (read: boolean) => void }) {
  const { key } = useHere()
  const { ref, read, kind, from, text, at } = of
  return (
    <li data-unread={!read || undefined}>
      <a
        href={`/p/${key}/${ref}`}
        onClick={() => {
          if (!read) onSeen(true)
        }}
      >
        <span className="key">{ref}</span>{' '}
        <span>
          {shortName(from)}
          {kind === 'mention' ? ': ' : ' '}
          {text}
        </span>
      </a>
      <span className="quiet">{ago(at)}</span>
      <Button look="word" onClick={() => onSeen(!read)}>
        {read ? 'not seen' : 'seen'}
      </Button>
    </li>
  )
}
