import type { Column } from './columns.ts'
import { EditCell } from './EditCell.tsx'
import css from './List.module.css'

interface Props<T> {
  readonly at: number
  readonly start: number
  readonly template: string
  readonly columns: readonly Column<T>[]
  readonly line: { readonly kind: 'row'; readonly id: number } | { readonly kind: 'group'; readonly value: string | null; readonly count: number } | undefined
  readonly row: T | undefined
  /** Focused column, -1 for the row as a whole, `null` when the focus is elsewhere. */
  readonly focused: number | null
  readonly editing: boolean
  readonly open: boolean
  readonly ticked: ReadonlySet<number>
  readonly onTick: (id: number) => void
  readonly onFocus: (column: number) => void
  readonly onOpen: (full: boolean) => void
  readonly onEdit: (on: boolean) => void
  readonly indent: ((row: T) => number) | undefined
  readonly onDrag?: ((transfer: DataTransfer) => void) | undefined
  readonly strong: ((row: T) => boolean) | undefined
}

/** One row; what is not here yet keeps its height. */
export function ListRow<T extends { id: number }>(props: Props<T>) {
  const { at, start, template, columns, line, row, focused } = props
  const style = { transform: `translateY(${start}px)`, gridTemplateColumns: template }
  if (line?.kind === 'group') return <div id={`line-${at}`} role="row" className={css['group']} style={style} data-focus={focused !== null || undefined}><div role="gridcell" style={{ gridColumn: '1 / -1' }}><b>{line.value ?? 'none'}</b> <span className="quiet">{line.count}</span></div></div>
  if (!row) return <div id={`line-${at}`} role="row" className={css['row']} style={style} aria-rowindex={at + 2} aria-busy="true"><div role="gridcell" /></div>
  const isTicked = props.ticked.has(row.id)
  return (
    <div
      id={`line-${at}`} role="row" aria-rowindex={at + 2} aria-selected={isTicked} className={css['row']} style={style} data-open={props.open || undefined} data-focus={focused !== null || undefined} data-strong={props.strong?.(row) || undefined}
      draggable={props.onDrag !== undefined && !props.editing} onDragStart={(event) => props.onDrag?.(event.dataTransfer)}
      onClick={(event) => { if (!(event.target instanceof HTMLInputElement || event.target instanceof HTMLSelectElement)) props.onOpen(event.shiftKey) }}
    >
      <div role="gridcell" className={css['tick']}><input type="checkbox" tabIndex={-1} checked={isTicked} aria-label={`Tick row ${at + 1}`} onChange={() => props.onTick(row.id)} onClick={(event) => event.stopPropagation()} /></div>
      {columns.map((column, index) => (
        <div
          key={column.name} role="gridcell" className={css['cell']} data-align={column.align} data-focus={focused === index || undefined} style={index === 0 && props.indent ? { paddingInlineStart: props.indent(row) * 16 } : undefined}
          onDoubleClick={(event) => { if (column.edit) { event.stopPropagation(); props.onFocus(index); props.onEdit(true) } }}
        >
          {props.editing && focused === index && column.edit ? <EditCell row={row} label={column.label} edit={column.edit} onDone={() => props.onEdit(false)} /> : column.cell(row)}
        </div>
      ))}
    </div>
  )
}
