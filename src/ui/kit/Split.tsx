import { type ReactNode, useEffect, useRef, useState } from 'react'
import css from './Split.module.css'

const kept = 'rovant.divider'

/** Per cent of the width; neither side gets too narrow to be read. */
const usual = 56
const [least, most] = [25, 75]

/** Where the divider stands, in this browser. */
function useShare() {
  const [share, setShare] = useState(usual)
  useEffect(() => {
    const before = Number(localStorage.getItem(kept))
    if (before >= least && before <= most) setShare(before)
  }, [])
  const move = (to: number) => {
    const within = Math.min(most, Math.max(least, to))
    setShare(within)
    localStorage.setItem(kept, String(Math.round(within)))
  }
  return { share, move }
}

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
  const { share, move } = useShare()
  const own = useRef<HTMLDivElement>(null)
  const beside = sheet !== null && !full
  const drag = (clientX: number) => {
    const box = own.current?.getBoundingClientRect()
    if (box) move((100 * (clientX - box.left)) / box.width)
  }
  return (
    <div
      ref={own}
      className={css['split']}
      data-open={sheet !== null || undefined}
      data-full={full || undefined}
      style={{ gridTemplateColumns: beside ? `minmax(0, ${share}%) 0 minmax(0, 1fr)` : undefined }}
    >
      <section className={css['index']} aria-label={label} hidden={full && sheet !== null}>
        {index}
      </section>
      {beside && <Divider share={share} onMove={move} onDrag={drag} />}
      {sheet !== null && (
        <section className={css['sheet']} aria-label="Sheet" id="sheet" tabIndex={-1}>
          {sheet}
        </section>
      )}
    </div>
  )
}

const Divider = ({
  share,
  onMove,
  onDrag,
}: {
  share: number
  onMove: (to: number) => void
  onDrag: (clientX: number) => void
}) => (
  <div
    className={css['divider']}
    role="separator"
    aria-orientation="vertical"
    aria-label="Divider between list and sheet"
    aria-valuenow={Math.round(share)}
    aria-valuemin={least}
    aria-valuemax={most}
    tabIndex={0}
    data-print="no"
    onKeyDown={(event) => {
      if (event.key === 'ArrowLeft') onMove(share - 2)
      if (event.key === 'ArrowRight') onMove(share + 2)
    }}
    onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
    onPointerMove={(event) => {
      if (event.buttons === 1) onDrag(event.clientX)
    }}
  />
)
