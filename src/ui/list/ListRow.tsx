import { type CSSProperties, type DragEvent, memo, type MouseEvent } from 'react'
import type { Column } from './columns.ts'
import { EditCell } from './EditCell.tsx'
import css from './List.module.css'

/** What can be done with a row by mouse; the same object as long as the list is there, so that rows are drawn again only where something of theirs changed. */
export interface RowActs {
  readonly tick: (id: number) => void
  readonly focus: (at: number, column: number) => void
  readonly open: (at: number, full: boolean) => void
  readonly edit: (on: boolean) => void
  readonly drag: (at: number, transfer: DataTransfer) => void
  readonly drop: (at: number, transfer: DataTransfer, before: boolean) => void
}

interface Props<T> {
  readonly at: number
  readonly start: number
  readonly template: string
  readonly columns: readonly Column<T>[]
  readonly line:
    | { readonly kind: 'row'; readonly id: number }
    | { readonly kind: 'group'; readonly value: string | null; readonly count: number }
    | undefined
  readonly row: T | undefined
  /** Focused column, -1 for the row as a whole, `null` when the focus is elsewhere. */
  readonly focused: number | null
  readonly editing: boolean
  readonly open: boolean
  readonly ticked: boolean
  readonly indent: number
  readonly strong: boolean
  readonly draggable: boolean
  /** The type of what may be dropped here. */
  readonly takes: string | undefined
  readonly acts: RowActs
}

/** Near its upper edge a row takes what is dropped before it, elsewhere into it; it shows which while something is held over it. */
function dropOn(type: string, drop: (transfer: DataTransfer, before: boolean) => void) {
  const isBefore = (event: DragEvent<HTMLElement>): boolean =>
    event.clientY - event.currentTarget.getBoundingClientRect().top < 10
  return {
    onDragOver: (event: DragEvent<HTMLElement>) => {
      if (!event.dataTransfer.types.includes(type)) return
      event.preventDefault()
      event.currentTarget.dataset['drop'] = isBefore(event) ? 'before' : 'into'
    },
    onDragLeave: (event: DragEvent<HTMLElement>) => {
      delete event.currentTarget.dataset['drop']
    },
    onDrop: (event: DragEvent<HTMLElement>) => {
      event.preventDefault()
      delete event.currentTarget.dataset['drop']
      drop(event.dataTransfer, isBefore(event))
    },
  }
}

/** One row; what is not here yet keeps its height. */
function Row<T extends { id: number }>(props: Props<T>) {
  const { at, start, template, line, row, focused } = props
  const style = { transform: `translateY(${start}px)`, gridTemplateColumns: template }
  if (line?.kind === 'group')
    return (
      <div
        id={`line-${at}`}
        role="row"
        className={css['group']}
        style={style}
        data-focus={focused !== null || undefined}
      >
        <div role="gridcell" style={{ gridColumn: '1 / -1' }}>
          <b>{line.value ?? 'none'}</b> <span className="quiet">{line.count}</span>
        </div>
      </div>
    )
  if (row) return <FullRow {...props} row={row} style={style} />
  return (
    <div id={`line-${at}`} role="row" className={css['row']} style={style} aria-rowindex={at + 2} aria-busy="true">
      <div role="gridcell" />
    </div>
  )
}

interface FullProps<T extends { id: number }> extends Props<T> {
  readonly row: T
}

function FullRow<T extends { id: number }>(props: FullProps<T> & { style: CSSProperties }) {
  const { at, columns, row, focused, acts, ticked, takes } = props
  return (
    <div
      id={`line-${at}`}
      role="row"
      aria-rowindex={at + 2}
      aria-selected={ticked}
      className={css['row']}
      style={props.style}
      data-open={props.open || undefined}
      data-focus={focused !== null || undefined}
      data-strong={props.strong || undefined}
      draggable={props.draggable && !props.editing}
      onDragStart={(event) => acts.drag(at, event.dataTransfer)}
      {...(takes !== undefined && dropOn(takes, (transfer, before) => acts.drop(at, transfer, before)))}
      onClick={({ target, shiftKey }) => {
        if (!(target instanceof HTMLInputElement || target instanceof HTMLSelectElement)) acts.open(at, shiftKey)
      }}
    >
      <div role="gridcell" className={css['tick']}>
        <input
          type="checkbox"
          tabIndex={-1}
          checked={ticked}
          aria-label={`Tick row ${at + 1}`}
          onChange={() => acts.tick(row.id)}
          onClick={(event) => event.stopPropagation()}
        />
      </div>
      {columns.map((column, index) => (
        <RowCell key={column.name} {...props} column={column} index={index} />
      ))}
    </div>
  )
}

function RowCell<T extends { id: number }>({
  at,
  row,
  focused,
  editing,
  indent,
  acts,
  column,
  index,
}: FullProps<T> & { column: Props<T>['columns'][number]; index: number }) {
  const { edit } = column
  const begin = (event: MouseEvent) => {
    if (!edit) return
    event.stopPropagation()
    acts.focus(at, index)
    acts.edit(true)
  }
  return (
    <div
      role="gridcell"
      className={css['cell']}
      data-align={column.align}
      data-focus={focused === index || undefined}
      style={index === 0 && indent > 0 ? { paddingInlineStart: indent * 16 } : undefined}
      onDoubleClick={begin}
    >
      {editing && focused === index && edit ? (
        <EditCell row={row} label={column.label} edit={edit} onDone={() => acts.edit(false)} />
      ) : (
        column.cell(row)
      )}
    </div>
  )
}

// The type of what `memo` makes forgets what kind of row it is.
export const ListRow = memo(Row) as typeof Row
