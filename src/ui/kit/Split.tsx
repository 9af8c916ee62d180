import { type ReactNode, useEffect, useRef, useState } from 'react'
import css from './Split.module.css'

const kept = 'rovant.divider'

/** Index and sheet: a list and, beside it, what is opened from it. The divider moves by mouse and by arrows. */
export function Split({
  index,
  sheet,
  full,
  label,
}: {
  index: ReactNode
  sheet: ReactNode | null
  full: boolean
  label: string
}) {
  const [share, setShare] = useState(56)
  const own = useRef<HTMLDivElement>(null)
  useEffect(() => {
    const before = Number(localStorage.getItem(kept))
    if (before >= 25 && before <= 75) setShare(before)
  }, [])
  const move = (to: number) => {
    const within = Math.min(75, Math.max(25, to))
    setShare(within)
    localStorage.setItem(kept, String(Math.round(within)))
  }
  return (
    <div
      ref={own}
      className={css['split']}
      data-open={sheet !== null || undefined}
      data-full={full || undefined}
      style={{ gridTemplateColumns: sheet !== null && !full ? `minmax(0, ${share}%) 0 minmax(0, 1fr)` : undefined }}
    >
      <section className={css['index']} aria-label={label} hidden={full && sheet !== null}>
        {index}
      </section>
      {sheet !== null && !full && (
        <div
          className={css['divider']}
          role="separator"
          aria-orientation="vertical"
          aria-label="Divider between list and sheet"
          aria-valuenow={Math.round(share)}
          aria-valuemin={25}
          aria-valuemax={75}
          tabIndex={0}
          data-print="no"
          onKeyDown={(event) => {
            if (event.key === 'ArrowLeft') move(share - 2)
            if (event.key === 'ArrowRight') move(share + 2)
          }}
          onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
          onPointerMove={(event) => {
            const box = own.current?.getBoundingClientRect()
            if (box && event.buttons === 1) move((100 * (event.clientX - box.left)) / box.width)
          }}
        />
      )}
      {sheet !== null && (
        <section className={css['sheet']} aria-label="Sheet" id="sheet" tabIndex={-1}>
          {sheet}
        </section>
      )}
    </div>
  )
}
