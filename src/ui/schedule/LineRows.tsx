import { useVirtualizer } from '@tanstack/react-virtual'
import { type KeyboardEvent, memo, type PointerEvent, useEffect, useMemo, useRef, useState } from 'react'
import { counted, minutesText } from '#core/lib/figures.ts'
import type { LineAnswer } from '#core/schedule/contract.ts'
import { useHere } from '#ui/shell/here.ts'
import css from './CutLine.module.css'
import { type LineSums, partIn, rowsAt } from './line-figures.ts'

const rowHeight = 32
/** So near the edge, in px, a dragged line pulls the list along. */
const edge = 36
export const itemsType = 'application/x-rovant-line-items'

interface Props {
  readonly of: LineAnswer
  readonly sums: LineSums
  /** What is to be said of an item first. */
  readonly notes: ReadonlyMap<number, string>
  readonly row: number
  readonly ticked: ReadonlySet<number>
  readonly may: boolean
  readonly onRow: (row: number) => void
  readonly onTick: (ticked: ReadonlySet<number>) => void
  readonly onDraw: (at: number) => void
  readonly onWhy: () => void
}

/** Items in the order of what each adds for its minutes, with the line among them. */
export function LineRows(props: Props) {
  const { of, row, may } = props
  const [at, setAt] = useLineAt(of)
  const box = useRef<HTMLDivElement>(null)
  const count = of.ids.length
  const rows = useVirtualizer({
    count: count + 1,
    getScrollElement: () => box.current,
    estimateSize: () => rowHeight,
    overscan: 12,
    // Something to draw before it is measured, and where nothing is ever laid out.
    initialRect: { width: 800, height: 600 },
  })
  const indexOf = (item: number) => (item < at ? item : item + 1)
  const move = (next: number) => {
    const to = Math.max(0, Math.min(count - 1, next))
    props.onRow(to)
    rows.scrollToIndex(indexOf(to))
  }
  useEffect(() => rows.scrollToIndex(indexOf(Math.min(row, count - 1))), [of, row])
  const drag = useDragging(box, { at, count, onDrag: setAt, onDraw: props.onDraw })
  const { sums, notes, ticked, onRow, onTick, onWhy } = props
  const most = useMemo(() => Math.max(...of.worth, 1e-9), [of])
  const still = { of, sums, notes, ticked, may, most, onRow, onTick, onWhy }
  return (
    <>
      <Columns />
      <div
        ref={box}
        className={css['rows']}
        role="grid"
        aria-label="Open items"
        aria-rowcount={count + 1}
        tabIndex={0}
        onKeyDown={(event) => moved(event, { row, move, tick: () => tick(props, row) })}
      >
        <div style={{ blockSize: rows.getTotalSize(), position: 'relative' }}>
          {rows.getVirtualItems().map(({ index, start }) => (
            <div
              key={index === at ? 'line' : index < at ? index : index - 1}
              className={css['place']}
              style={{ transform: `translateY(${start}px)` }}
            >
              {index === at ? (
                <TheLine {...props} at={at} drag={may ? drag : null} />
              ) : (
                <Row
                  {...still}
                  index={index < at ? index : index - 1}
                  below={index > at}
                  selected={(index < at ? index : index - 1) === row}
                />
              )}
            </div>
          ))}
        </div>
      </div>
    </>
  )
}

/** Where the line stands, here alone while it is dragged; where the answer has it once what is asked for is answered. */
function useLineAt(of: LineAnswer) {
  const at = useState(of.above)
  const [, setAt] = at
  useEffect(() => setAt(of.above), [of])
  return at
}

function tick({ of, ticked, onTick }: Pick<Props, 'of' | 'ticked' | 'onTick'>, row: number): void {
  const id = of.ids[row]
  if (id === undefined) return
  const next = new Set(ticked)
  if (!next.delete(id)) next.add(id)
  onTick(next)
}

function moved(
  event: KeyboardEvent,
  { row, move, tick: tickRow }: { row: number; move: (next: number) => void; tick: () => void },
): void {
  const steps: Readonly<Record<string, number>> = {
    ArrowUp: -1,
    ArrowDown: 1,
    PageUp: -15,
    PageDown: 15,
    Home: -1e9,
    End: 1e9,
  }
  const step = steps[event.key]
  if (event.shiftKey || event.ctrlKey || event.altKey) return
  if (step !== undefined) move(row + step)
  else if (event.key === ' ') tickRow()
  else return
  event.preventDefault()
}

/**
 * The line follows the pointer; what stands above it is told at once, and it is drawn where it is let go. Near an edge the list is
 * pulled along, also while the pointer rests there.
 */
function useDragging(
  box: { readonly current: HTMLDivElement | null },
  of: { readonly at: number; readonly count: number; readonly onDrag: (at: number) => void } & Pick<Props, 'onDraw'>,
) {
  const latest = useRef(of)
  latest.current = of
  const ending = useRef(() => {})
  useEffect(() => () => ending.current(), [])
  const pull = (y: number): void => {
    const list = box.current
    if (!list) return
    const { top, bottom } = list.getBoundingClientRect()
    if (y < top + edge) list.scrollTop -= rowHeight / 2
    if (y > bottom - edge) list.scrollTop += rowHeight / 2
  }
  const place = (y: number): number => {
    const list = box.current
    if (!list) return latest.current.at
    return rowsAt(y - list.getBoundingClientRect().top + list.scrollTop, rowHeight, latest.current.count)
  }
  const onPointerDown = (event: PointerEvent): void => {
    event.preventDefault()
    ending.current()
    let [y, going] = [event.clientY, latest.current.at]
    const follow = () => {
      const next = place(y)
      if (next !== going) latest.current.onDrag((going = next))
    }
    // Nothing is drawn between two frames, however often a pointer tells where it is.
    const moved = ({ clientY }: globalThis.PointerEvent) => (y = clientY)
    const letGo = () => {
      end()
      follow()
      latest.current.onDraw(going)
    }
    let frame = requestAnimationFrame(function pulling() {
      pull(y)
      follow()
      frame = requestAnimationFrame(pulling)
    })
    const end = () => {
      cancelAnimationFrame(frame)
      window.removeEventListener('pointermove', moved)
      window.removeEventListener('pointerup', letGo)
      window.removeEventListener('pointercancel', end)
    }
    ending.current = end
    // On the window: the row of the line goes to another place among the rows while it is dragged, which would end a capture of its own.
    window.addEventListener('pointermove', moved)
    window.addEventListener('pointerup', letGo)
    window.addEventListener('pointercancel', end)
  }
  return { onPointerDown }
}

const Columns = () => (
  <div className={css['columns']} aria-hidden="true">
    <span />
    <span>Case</span>
    <span />
    <span>Environment</span>
    <span className={css['n']}>Min</span>
    <span className={css['n']}>Sum</span>
    <span className={css['n']}>Worth</span>
    <span>and why</span>
  </div>
)

const heldWords = { above: 'kept above by hand', below: 'left out by hand' } as const

interface RowProps extends Pick<Props, 'of' | 'sums' | 'notes' | 'ticked' | 'may' | 'onRow' | 'onTick' | 'onWhy'> {
  readonly index: number
  readonly most: number
  readonly below: boolean
  readonly selected: boolean
}

/** Drawn again only where something of it changes: not for every row that the line passes. */
const Row = memo(function Row(props: RowProps) {
  const { of, ticked, may, onRow, index, below, selected } = props
  const id = of.ids[index] ?? 0
  return (
    <div
      role="row"
      aria-rowindex={below ? index + 2 : index + 1}
      aria-selected={selected}
      className={css['row']}
      data-below={below || undefined}
      data-ticked={ticked.has(id) || undefined}
      draggable={may}
      onDragStart={(event) =>
        event.dataTransfer.setData(itemsType, String(ticked.has(id) ? [...ticked].join(',') : id))
      }
      onClick={(event) => {
        onRow(index)
        if (event.ctrlKey || event.metaKey) tick(props, index)
      }}
    >
      <Cells {...props} />
    </div>
  )
})

function Cells({ of, sums, notes, index, most, onWhy }: RowProps) {
  const { key } = useHere()
  const held = of.held[index] ?? null
  const note = notes.get(of.ids[index] ?? 0)
  const source = of.sources[index] ?? 'given'
  const worth = of.worth[index] ?? 0
  return (
    <>
      <span role="gridcell" className={css['number']}>
        {index + 1}
      </span>
      <span role="gridcell" className={`key ${css['key']}`}>
        <a href={`/p/${key}/${of.keys[index] ?? ''}`} tabIndex={-1} draggable={false}>
          {of.keys[index]}
        </a>
      </span>
      <span role="gridcell" className={css['title']} title={of.titles[index]}>
        {of.titles[index]}
      </span>
      <span role="gridcell" className={css['where']}>
        {of.environments[index]}
      </span>
      <span role="gridcell" className={css['n']} title={`${of.minutes[index]} min, ${source}`}>
        {source !== 'given' && <i className={css['guess']}>~</i>}
        {of.minutes[index]}
      </span>
      <span role="gridcell" className={css['sum']}>
        {minutesText(sums.minutes[index + 1] ?? 0)}
      </span>
      <span role="gridcell" className={css['worth']}>
        <button type="button" tabIndex={-1} aria-label={`Worth ${worth.toFixed(1)}: why?`} onClick={onWhy}>
          <i style={{ inlineSize: `${(100 * worth) / most}%` }} />
        </button>
      </span>
      <span role="gridcell" className={css['why']} title={[note, of.why[index]].filter(Boolean).join(' · ')}>
        {note !== undefined ? <em>{note}</em> : held ? <b>{heldWords[held]}</b> : of.why[index]}
      </span>
    </>
  )
}

interface LineProps extends Pick<Props, 'of' | 'sums' | 'onDraw'> {
  readonly at: number
  readonly drag: ReturnType<typeof useDragging> | null
}

/** Where the time ends: what is above it, and what is given up below. */
const TheLine = (props: LineProps) => (
  <div role="row" aria-rowindex={props.at + 1}>
    <div role="gridcell">
      <Bar {...props} />
    </div>
  </div>
)

function Bar({ of, sums, at, onDraw, drag }: LineProps) {
  const [minutes, all] = [sums.minutes[at] ?? 0, sums.minutes.at(-1) ?? 0]
  const below = of.ids.length - at
  const part = partIn(sums.risk, at)
  return (
    <div
      className={css['line']}
      role="slider"
      tabIndex={0}
      aria-label="The line where the time ends"
      aria-orientation="vertical"
      aria-valuemin={0}
      aria-valuemax={of.ids.length}
      aria-valuenow={at}
      aria-valuetext={`${counted(at, 'item')} above, ${minutesText(minutes)}`}
      aria-disabled={drag === null}
      onKeyDown={(event) => {
        const step = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : 0
        if (step === 0 || event.shiftKey) return
        event.preventDefault()
        event.stopPropagation()
        onDraw(Math.max(0, Math.min(of.ids.length, at + step)))
      }}
      {...drag}
    >
      <b>Time ends here, {minutesText(minutes)}</b>
      <span>
        above: {part} % of the risk, {counted(at, 'item')}
        {below > 0 && ` · below: ${below}, ${minutesText(all - minutes)}, ${100 - part} % of the risk`}
        {of.reached.cost !== null &&
          of.reached.cost > 0.05 &&
          ` · choices by hand cost ${of.reached.cost.toFixed(1)} of worth`}
      </span>
      {drag && <span className={css['grip']}>⇕ drag</span>}
    </div>
  )
}
