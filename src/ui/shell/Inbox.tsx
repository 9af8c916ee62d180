import { useEffect, useRef, useState } from 'react'
import { listInbox, readInbox } from '#core/talk/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useAnswer, useWrite } from './answers.tsx'
import { useHere } from './here.ts'
import css from './Inbox.module.css'
import { ago, shortName } from './people.ts'

/**
 * What waits for a person to see: who named them, asked them or answered them. It stands on every page, so it is a plain panel:
 * the library of popovers comes only where one is needed.
 */
export function Inbox() {
  const { key } = useHere()
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
  const { data } = useAnswer(listInbox, { params: { key }, query: { limit: 30 } })
  const { attempt } = useWrite(readInbox)
  const unread = data?.rows.filter(({ read }) => !read) ?? []
  const seen = (ids: readonly number[], read = true) => void attempt({ params: { key }, body: { ids: [...ids], read } })
  return (
    <div
      ref={own}
      className={css['inbox']}
      onBlur={(event) => {
        if (event.relatedTarget instanceof Node && !own.current?.contains(event.relatedTarget)) setOpen(false)
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape' && open) {
          event.stopPropagation()
          setOpen(false)
          own.current?.querySelector('button')?.focus()
        }
      }}
    >
      <button type="button" className={css['label']} aria-expanded={open} onClick={() => setOpen(!open)}>
        Inbox{(data?.unread ?? 0) > 0 && <b>{data?.unread}</b>}
      </button>
      {open && (
        <div className={css['panel']} role="region" aria-label="Inbox">
          <div className={css['top']}>
            <h2>Inbox</h2>
            {unread.length > 0 && (
              <Button look="word" onClick={() => seen(unread.map(({ id }) => id))}>
                all seen
              </Button>
            )}
          </div>
          {data?.rows.length === 0 && (
            <p className="quiet">Nothing yet. Here stands who names you with @, asks you to review, or answers you.</p>
          )}
          <ul>
            {data?.rows.map((each) => (
              <li key={each.id} data-unread={!each.read || undefined}>
                <a
                  href={`/p/${key}/${each.ref}`}
                  onClick={() => {
                    if (!each.read) seen([each.id])
                  }}
                >
                  <span className="key">{each.ref}</span>{' '}
                  <span>
                    {each.kind === 'mention'
                      ? `${shortName(each.from)}: ${each.text}`
                      : `${shortName(each.from)} ${each.text}`}
                  </span>
                </a>
                <span className="quiet">{ago(each.at)}</span>
                <Button look="word" onClick={() => seen([each.id], !each.read)}>
                  {each.read ? 'not seen' : 'seen'}
                </Button>
              </li>
            ))}
          </ul>
        </div>
      )}
    </div>
  )
}
