import { type RefObject, useEffect, useMemo, useState } from 'react'
import { type Column, type ColumnState, parseColumns } from './columns.ts'

export interface ShownColumns<T> {
  readonly columns: readonly Column<T>[]
  readonly state: ColumnState
  /** The columns as the grid of the page wants them. */
  readonly template: string
  /** What was chosen, as the address keeps it. */
  readonly chosen: string | null
}

const narrowBelow = 780
/** On a phone there is room for what a row is and little else. */
const phoneBelow = 480
const roomOnPhone = 150

/** The columns that fit on a phone: the one that takes what is left, and the first others with room beside it. */
function onPhone<T>(columns: readonly Column<T>[]): Column<T>[] {
  let room = roomOnPhone
  return columns.filter(({ width }) => {
    if (width === 0) return true
    room -= width
    return room >= 0
  })
}

/** The columns that are shown: those chosen, in their order, without what a narrow list has no room for. */
export function useColumns<T>(
  all: readonly Column<T>[],
  chosen: string | null,
  scroll: RefObject<HTMLDivElement | null>,
): ShownColumns<T> {
  const width = useWidth(scroll)
  const [narrow, phone] = [width < narrowBelow, width < phoneBelow]
  const state = parseColumns(chosen, all)
  const names = state.shown.join(',')
  const columns = useMemo(() => {
    const shown = names
      .split(',')
      .flatMap((name) => all.filter((column) => column.name === name && !(narrow && column.wideOnly)))
    return phone ? onPhone(shown) : shown
  }, [names, all, narrow, phone])
  return { columns, state, template: templateOf(columns, state), chosen }
}

function templateOf<T>(columns: readonly Column<T>[], { widths }: ColumnState): string {
  const widthOf = ({ name, width }: Column<T>): string =>
    width === 0 && !widths[name] ? 'minmax(160px, 1fr)' : `${widths[name] ?? width}px`
  return `20px ${columns.map(widthOf).join(' ')}`
}

/** How wide the list is, as far as its columns depend on it. */
function useWidth(box: RefObject<HTMLDivElement | null>): number {
  const [width, setWidth] = useState(Infinity)
  useEffect(() => {
    const own = box.current
    if (!own) return undefined
    const bounds = [phoneBelow, narrowBelow]
    // Told at the bounds only: a list is not drawn anew for every pixel.
    const watch = new ResizeObserver(() => {
      const above = bounds.find((bound) => own.clientWidth < bound)
      setWidth(above === undefined ? Infinity : above - 1)
    })
    watch.observe(own)
    return () => watch.disconnect()
  }, [box])
  return width
}
