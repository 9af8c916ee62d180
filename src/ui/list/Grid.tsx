import type { Virtualizer } from '@tanstack/react-virtual'
import { type KeyboardEvent, type ReactNode, type RefObject, useEffect, useMemo, useState } from 'react'
import { useKeys } from '#ui/kit/keys.ts'
import { useLatest } from '#ui/kit/latest.ts'
import { useParams } from '#ui/shell/address.ts'
import type { ListProps } from './List.tsx'
import css from './List.module.css'
import { ListHead } from './ListHead.tsx'
import { ListRow, type RowActs } from './ListRow.tsx'
import type { Line } from './lines.ts'
import { type Focus, keyMoves } from './focus.ts'
import type { ShownColumns } from './useColumns.ts'
import type { Ticks } from './useTicks.ts'

interface Props<T extends { id: number }> extends Pick<
  ListProps<T>,
  'label' | 'openId' | 'onOpen' | 'carrying' | 'outline' | 'fields' | 'choices'
> {
  readonly scroll: RefObject<HTMLDivElement | null>
  readonly rows: Virtualizer<HTMLDivElement, Element>
  readonly lines: readonly Line[]
  readonly byId: ReadonlyMap<number, T>
  readonly total: number
  readonly columns: ShownColumns<T>
  readonly ticks: Ticks
  readonly settled: boolean
  /** Said in place of rows. */
  readonly nothing: ReactNode
}

const noChoices = {}

/** The rows in sight under their heads, moved through by keys. */
export function Grid<T extends { id: number }>(props: Props<T>) {
  const { scroll, rows, lines, ticks, settled } = props
  const { columns, template, state, chosen } = props.columns
  const text = useParams('text').get('text') ?? ''
  const grid = useGrid(props)
  const toggleAll = useLatest(ticks.toggleAll)
  const head = useMemo(
    () => (
      <ListHead
        columns={columns}
        fields={props.fields}
        choices={props.choices ?? noChoices}
        state={state}
        template={template}
        allTicked={ticks.all}
        onTickAll={() => toggleAll.current()}
      />
    ),
    [columns, chosen, template, ticks.all, props.fields, props.choices],
  )
  const shown = rows.getVirtualItems()
  const active = shown.some(({ index }) => index === grid.focus.line) ? `line-${grid.focus.line}` : undefined
  return (
    <div
      ref={scroll}
      className={css['grid']}
      role="grid"
      aria-busy={!settled}
      data-asked={settled ? text : undefined}
      aria-label={props.label}
      aria-rowcount={lines.length + 1}
      aria-colcount={columns.length + 1}
      tabIndex={0}
      aria-activedescendant={active}
      onKeyDown={grid.hear}
    >
      {head}
      {props.nothing ? (
        <div className={css['empty']} role="row">
          <div role="gridcell">{props.nothing}</div>
        </div>
      ) : (
        <div role="rowgroup" style={{ blockSize: rows.getTotalSize(), position: 'relative' }}>
          {shown.map(({ index, start }) => (
            <ListRow key={index} {...rowProps(props, grid, { index, start })} />
          ))}
        </div>
      )}
    </div>
  )
}

function rowProps<T extends { id: number }>(
  props: Props<T>,
  grid: ReturnType<typeof useGrid<T>>,
  { index, start }: { index: number; start: number },
) {
  const { focus, editing, rowAt, acts } = grid
  const row = rowAt(index)
  return {
    at: index,
    start,
    template: props.columns.template,
    columns: props.columns.columns,
    line: props.lines[index],
    row,
    focused: focus.line === index ? focus.column : null,
    editing: editing && focus.line === index,
    open: row !== undefined && row.id === props.openId,
    ticked: row !== undefined && props.ticks.ticked.has(row.id),
    indent: row && props.outline ? props.outline.depth(row) : 0,
    strong: row !== undefined && props.outline?.strong(row) === true,
    draggable: props.carrying !== undefined,
    takes: props.carrying?.drop?.type,
    acts,
  }
}

/** Where the focus is in the grid, what is edited there, and what keys and rows do. */
function useGrid<T extends { id: number }>(props: Props<T>) {
  const { lines, byId, columns, scroll, ticks } = props
  const [focus, setFocus] = useState<Focus>({ line: 0, column: -1 })
  const [editing, setEditing] = useState(false)
  useEffect(() => {
    const at = lines.findIndex((line) => line.kind === 'row' && line.id === props.openId)
    if (at >= 0) setFocus((before) => (before.line === at ? before : { ...before, line: at }))
  }, [props.openId, props.total])
  const rowAt = (at: number): T | undefined => {
    const line = lines[at]
    return line?.kind === 'row' ? byId.get(line.id) : undefined
  }
  const enter = (full: boolean) => {
    const row = rowAt(focus.line)
    if (!row) return
    if (focus.column >= 0 && columns.columns[focus.column]?.edit) setEditing(true)
    else props.onOpen(row, full)
  }
  const tickFocused = () => {
    const row = rowAt(focus.line)
    if (row) ticks.tick(row.id)
  }
  const hear = (event: KeyboardEvent) => {
    if (event.target !== scroll.current || event.ctrlKey || event.altKey || event.metaKey) return
    const moved = keyMoves(event.key, focus, {
      lines: lines.length,
      columns: columns.columns.length,
      page: Math.floor((scroll.current?.clientHeight ?? 640) / 32) - 2,
    })
    if (moved) {
      setFocus(moved)
      props.rows.scrollToIndex(moved.line)
    } else if (event.key === 'Enter') enter(event.shiftKey)
    else if (event.key === ' ') tickFocused()
    else return
    event.preventDefault()
  }
  useKeys(listKeys({ scroll, enter: () => enter(false), tickFocused, tickAll: ticks.tickAll }))
  const acts = useRowActs(props, { rowAt, setFocus, setEditing })
  return { focus, editing, rowAt, acts, hear }
}

const listKeys = (of: {
  scroll: RefObject<HTMLDivElement | null>
  enter: () => void
  tickFocused: () => void
  tickAll: () => void
}) => [
  { id: 'list-move', keys: 'ArrowUp ArrowDown', label: 'move', run: () => of.scroll.current?.focus() },
  {
    id: 'list-open',
    keys: 'Enter',
    label: 'open',
    run: () => {
      of.scroll.current?.focus()
      of.enter()
    },
  },
  { id: 'list-tick', keys: 'Space', label: 'tick', run: of.tickFocused },
  { id: 'list-filter', keys: '/', label: 'filter', run: () => document.getElementById('list-filter')?.focus() },
  { id: 'list-all', keys: 'Ctrl+a', label: 'tick all shown', quiet: true, run: of.tickAll },
]

/** What rows do, the same functions for all drawings: a row is drawn again only when something of its own changed. */
function useRowActs<T extends { id: number }>(
  { scroll, ticks, byId, onOpen, carrying }: Props<T>,
  of: {
    rowAt: (at: number) => T | undefined
    setFocus: (focus: Focus) => void
    setEditing: (on: boolean) => void
  },
): RowActs {
  const now = useLatest<RowActs>({
    tick: ticks.tick,
    focus: (line, column) => {
      of.setFocus({ line, column })
      scroll.current?.focus({ preventScroll: true })
    },
    open: (line, full) => {
      const row = of.rowAt(line)
      of.setFocus({ line, column: -1 })
      if (row) onOpen(row, full)
    },
    edit: (on) => {
      of.setEditing(on)
      if (!on) scroll.current?.focus({ preventScroll: true })
    },
    drag: (at, transfer) => {
      const own = of.rowAt(at)
      if (!own || !carrying) return
      const dragged = ticks.ticked.has(own.id) ? [...ticks.ticked].flatMap((id) => byId.get(id) ?? []) : [own]
      for (const [type, text] of Object.entries(carrying.drag(dragged))) transfer.setData(type, text)
    },
    drop: (at, transfer, before) => {
      const row = of.rowAt(at)
      const dropped = carrying?.drop && transfer.getData(carrying.drop.type)
      if (row && dropped) carrying.drop?.on(dropped, row, before)
    },
  })
  return useMemo(
    (): RowActs => ({
      tick: (id) => now.current.tick(id),
      focus: (at, column) => now.current.focus(at, column),
      open: (at, full) => now.current.open(at, full),
      edit: (on) => now.current.edit(on),
      drag: (at, transfer) => now.current.drag(at, transfer),
      drop: (at, transfer, before) => now.current.drop(at, transfer, before),
    }),
    [],
  )
}
