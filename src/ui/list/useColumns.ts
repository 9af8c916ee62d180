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

/** The columns that are shown: those chosen, in their order, without what a narrow list has no room for. */
export function useColumns<T>(
  all: readonly Column<T>[],
  chosen: string | null,
  scroll: RefObject<HTMLDivElement | null>,
): ShownColumns<T> {
  const narrow = useNarrow(scroll)
  const state = parseColumns(chosen, all)
  const names = state.shown.join(',')
  const columns = useMemo(
    () =>
      names.split(',').flatMap((name) => all.filter((column) => column.name === name && !(narrow && column.wideOnly))),
    [names, all, narrow],
  )
  return { columns, state, template: templateOf(columns, state), chosen }
}

function templateOf<T>(columns: readonly Column<T>[], { widths }: ColumnState): string {
  const widthOf = ({ name, width }: Column<T>): string =>
    width === 0 && !widths[name] ? 'minmax(160px, 1fr)' : `${widths[name] ?? width}px`
  return `20px ${columns.map(widthOf).join(' ')}`
}

/** Is the list narrower than what its wide columns need? */
function useNarrow(box: RefObject<HTMLDivElement | null>): boolean {
  const [narrow, setNarrow] = useState(false)
  useEffect(() => {
    const own = box.current
    if (!own) return undefined
    const watch = new ResizeObserver(() => setNarrow(own.clientWidth < narrowBelow))
    watch.observe(own)
    return () => watch.disconnect()
  }, [box])
  return narrow
}
