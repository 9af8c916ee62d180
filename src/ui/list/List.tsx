import { useVirtualizer } from '@tanstack/react-virtual'
import {
  type KeyboardEvent,
  type ReactNode,
  type RefObject,
  startTransition,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from 'react'
import type { Contract, OutputOf } from '#core/lib/contract.ts'
import type { FieldDefinition } from '#core/finding/filter.ts'
import type { OrderAnswer } from '#core/lib/shapes.ts'
import { sentenceOf } from '#ui/call.ts'
import { useKeys } from '#ui/kit/keys.ts'
import { useLatest } from '#ui/kit/latest.ts'
import { scopeIn, useAddress } from '#ui/shell/address.ts'
import { type Column, parseColumns } from './columns.ts'
import css from './List.module.css'
import { ListHead } from './ListHead.tsx'
import { ListRow, type RowActs } from './ListRow.tsx'
import { ListTools } from './ListTools.tsx'
import { useForesight, useListData } from './useListData.ts'

export interface ListProps<T extends { id: number }, O extends Contract, R extends Contract> {
  /** Names the list for saved views and column choices. */
  readonly name: string
  readonly label: string
  readonly columns: readonly Column<T>[]
  readonly fields: readonly FieldDefinition[]
  readonly choices?: Readonly<Record<string, readonly string[]>>
  readonly order: O
  readonly rows: R
  readonly params: Record<string, unknown>
  readonly asOrder: (answer: OutputOf<O>) => OrderAnswer
  readonly pick: (answer: OutputOf<R>) => readonly T[]
  readonly initial?: { readonly order: OutputOf<O>; readonly rows: OutputOf<R> } | undefined
  readonly openId: number | null
  readonly onOpen: (row: T, full: boolean) => void
  readonly sentence: (shown: number, all: number) => ReactNode
  readonly heading: ReactNode
  readonly actions?: ReactNode
  readonly bulk?: (ids: readonly number[], clear: () => void) => ReactNode
  readonly empty: ReactNode
  /** Said instead when there are rows, but none fits what is typed or filtered. */
  readonly noneFits?: ReactNode
  /** What a dragged row carries; of all ticked rows when it is one of them. */
  readonly drag?: ((rows: readonly T[]) => Readonly<Record<string, string>>) | undefined
  /** What may be dropped on a row, and what that does: before it or into it. */
  readonly drop?: { readonly type: string; readonly on: (dropped: string, row: T, before: boolean) => void } | undefined
  readonly indent?: ((row: T) => number) | undefined
  readonly strong?: ((row: T) => boolean) | undefined
  readonly onShown?: (ids: readonly number[]) => void
  /** The rows that are here, in order: what Page Up and Page Down lead through. */
  readonly onRows?: (rows: readonly T[]) => void
}
export const rowHeight = 32

type Line =
  | { readonly kind: 'row'; readonly id: number }
  | { readonly kind: 'group'; readonly value: string | null; readonly count: number }

function linesOf(answer: OrderAnswer): Line[] {
  if (!answer.groups) return answer.ids.map((id) => ({ kind: 'row', id }))
  let at = 0
  return answer.groups.flatMap(({ value, count }) => {
    const ids = answer.ids.slice(at, at + count)
    at += count
    return [{ kind: 'group', value, count } satisfies Line, ...ids.map((id): Line => ({ kind: 'row', id }))]
  })
}

const narrowBelow = 780

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

/** A list as a working surface: filtered, sorted, grouped, edited in place, ticked; rows are drawn as they come into sight. */
export function List<T extends { id: number }, O extends Contract, R extends Contract>(props: ListProps<T, O, R>) {
  const { params } = useAddress()
  const scroll = useRef<HTMLDivElement>(null)
  const asked = (['text', 'filter', 'sort', 'group'] as const).flatMap((name) =>
    params.get(name) ? [[name, params.get(name) ?? '']] : [],
  )
  // What results say depends on the scope; other lists are the same in all of them.
  const ask = { ...Object.fromEntries(asked), ...(params.get('filter')?.includes('"finding"') && scopeIn(params)) }
  const [range, setRange] = useState({ from: 0, to: 40 })
  const { answer, counted, byId, problem, waiting, settled } = useListData<T, O, R>({
    ...props,
    ask,
    ...range,
    initial: Object.keys(ask).length === 0 ? props.initial : undefined,
  })
  const narrowed = ask.text !== undefined || ask.filter !== undefined
  const foresee = useLatest(useForesight({ rows: props.rows, params: props.params, ask }))
  // Of fifty thousand rows each drawing would cost a frame if these were made anew.
  const lines = useMemo(() => linesOf(answer), [answer])
  const columnState = parseColumns(params.get('cols'), props.columns)
  const [focus, setFocus] = useState({ line: 0, column: -1 })
  const [ticked, setTicked] = useState<ReadonlySet<number>>(new Set())
  const [tickingAll, setTickingAll] = useState(false)
  const [editing, setEditing] = useState(false)
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => rowHeight,
    overscan: 8,
    initialRect: { width: 720, height: 640 },
  })
  const shown = rows.getVirtualItems()
  const [first, last] = [shown[0]?.index ?? 0, shown.at(-1)?.index ?? 0]
  // Before the page is painted: what came into sight is asked for a frame earlier.
  useLayoutEffect(() => setRange({ from: Math.max(0, first - 8), to: last + 8 }), [first, last])
  const idsInSight = lines.slice(first, last + 1).flatMap((line) => (line.kind === 'row' ? [line.id] : []))
  useEffect(() => {
    props.onShown?.(idsInSight)
  }, [idsInSight.join(',')])
  const present = [...byId.values()]
  // Who follows the rows may lag behind them, so that the next letter need not wait.
  useEffect(() => {
    startTransition(() => props.onRows?.(present))
  }, [present.map(({ id }) => id).join(',')])
  useEffect(() => {
    const at = lines.findIndex((line) => line.kind === 'row' && line.id === props.openId)
    if (at >= 0) setFocus((before) => (before.line === at ? before : { ...before, line: at }))
  }, [props.openId, answer.total])

  const narrow = useNarrow(scroll)
  const names = columnState.shown.join(',')
  const columns = useMemo(
    () =>
      names
        .split(',')
        .flatMap((name) => props.columns.filter((column) => column.name === name && !(narrow && column.wideOnly))),
    [names, props.columns, narrow],
  )
  const template = `20px ${columns.map((column) => (column.width === 0 && !columnState.widths[column.name] ? 'minmax(160px, 1fr)' : `${columnState.widths[column.name] ?? column.width}px`)).join(' ')}`
  const rowAt = (at: number): T | undefined => {
    const line = lines[at]
    return line?.kind === 'row' ? byId.get(line.id) : undefined
  }
  const actsNow = useLatest<RowActs>({
    tick: (id) => tick(id),
    focus: (at, column) => {
      setFocus({ line: at, column })
      scroll.current?.focus({ preventScroll: true })
    },
    open: (at, full) => {
      const row = rowAt(at)
      setFocus({ line: at, column: -1 })
      if (row) props.onOpen(row, full)
    },
    edit: (on) => {
      setEditing(on)
      if (!on) scroll.current?.focus({ preventScroll: true })
    },
    drag: (at, transfer) => {
      const own = rowAt(at)
      if (!own) return
      const dragged = ticked.has(own.id) ? [...ticked].flatMap((id) => byId.get(id) ?? []) : [own]
      for (const [type, text] of Object.entries(props.drag?.(dragged) ?? {})) transfer.setData(type, text)
    },
    drop: (at, transfer, before) => {
      const row = rowAt(at)
      const dropped = props.drop && transfer.getData(props.drop.type)
      if (row && dropped) props.drop?.on(dropped, row, before)
    },
  })
  const acts = useMemo(
    (): RowActs => ({
      tick: (id) => actsNow.current.tick(id),
      focus: (at, column) => actsNow.current.focus(at, column),
      open: (at, full) => actsNow.current.open(at, full),
      edit: (on) => actsNow.current.edit(on),
      drag: (at, transfer) => actsNow.current.drag(at, transfer),
      drop: (at, transfer, before) => actsNow.current.drop(at, transfer, before),
    }),
    [],
  )
  const tick = (id: number) =>
    setTicked((before) =>
      before.has(id) ? new Set([...before].filter((each) => each !== id)) : new Set([...before, id]),
    )
  const moveTo = (line: number, column = focus.column) => {
    const at = Math.max(0, Math.min(lines.length - 1, line))
    setFocus({ line: at, column: Math.max(-1, Math.min(columns.length - 1, column)) })
    rows.scrollToIndex(at)
  }
  const enter = (full: boolean) => {
    const row = rowAt(focus.line)
    if (!row) return
    if (focus.column >= 0 && columns[focus.column]?.edit) setEditing(true)
    else props.onOpen(row, full)
  }
  const hear = (event: KeyboardEvent) => {
    if (event.target !== scroll.current || event.ctrlKey || event.altKey || event.metaKey) return
    const page = Math.floor((scroll.current?.clientHeight ?? 640) / rowHeight) - 2
    const acts: Readonly<Record<string, () => void>> = {
      ArrowDown: () => moveTo(focus.line + 1),
      ArrowUp: () => moveTo(focus.line - 1),
      ArrowRight: () => moveTo(focus.line, focus.column + 1),
      ArrowLeft: () => moveTo(focus.line, focus.column - 1),
      Home: () => moveTo(0),
      End: () => moveTo(lines.length - 1),
      PageDown: () => moveTo(focus.line + page),
      PageUp: () => moveTo(focus.line - page),
      Enter: () => enter(event.shiftKey),
      ' ': () => {
        const row = rowAt(focus.line)
        if (row) tick(row.id)
      },
    }
    const act = acts[event.key]
    if (!act) return
    event.preventDefault()
    act()
  }
  useKeys([
    { id: 'list-move', keys: 'ArrowUp ArrowDown', label: 'move', run: () => scroll.current?.focus() },
    {
      id: 'list-open',
      keys: 'Enter',
      label: 'open',
      run: () => {
        scroll.current?.focus()
        enter(false)
      },
    },
    {
      id: 'list-tick',
      keys: 'Space',
      label: 'tick',
      run: () => {
        const row = rowAt(focus.line)
        if (row) tick(row.id)
      },
    },
    { id: 'list-filter', keys: '/', label: 'filter', run: () => document.getElementById('list-filter')?.focus() },
    { id: 'list-all', keys: 'Ctrl+a', label: 'tick all shown', quiet: true, run: () => setTickingAll(true) },
  ])
  const clear = () => setTicked(new Set())
  // All is more than the first rows: what is not here yet is waited for.
  useEffect(() => {
    if (!tickingAll || counted !== answer) return
    setTickingAll(false)
    setTicked(new Set(answer.ids))
  }, [tickingAll, counted, answer])
  const tickAll = useLatest(() => (ticked.size === counted.total ? clear() : setTickingAll(true)))
  const allTicked = ticked.size > 0 && ticked.size === counted.total
  const chosen = params.get('cols')
  const tools = useMemo(
    () => (
      <ListTools
        name={props.name}
        fields={props.fields}
        choices={props.choices ?? {}}
        columns={props.columns}
        state={columnState}
        shown={counted.total}
        all={counted.all}
        onType={(text) => foresee.current(text)}
      />
    ),
    [props.name, props.fields, props.choices, props.columns, chosen, counted.total, counted.all],
  )
  const head = useMemo(
    () => (
      <ListHead
        columns={columns}
        state={columnState}
        template={template}
        allTicked={allTicked}
        onTickAll={() => tickAll.current()}
      />
    ),
    [columns, chosen, template, allTicked],
  )
  return (
    <>
      <header className={css['top']}>
        <div className={css['title']}>
          {props.heading}
          <p className={css['sentence']} aria-busy={counted !== answer}>
            {props.sentence(counted.total, counted.all)}
          </p>
        </div>
        {props.actions}
      </header>
      {tools}
      {ticked.size > 0 && props.bulk && (
        <div className={css['bulk']} role="toolbar" aria-label="With the ticked rows">
          <b>{ticked.size} ticked</b>
          {props.bulk([...ticked], clear)}
          <button type="button" onClick={clear}>
            Untick
          </button>
        </div>
      )}
      {problem && (
        <p className={css['problem']} role="alert">
          {sentenceOf(problem)}
        </p>
      )}
      <div
        ref={scroll}
        className={css['grid']}
        role="grid"
        aria-busy={!settled}
        data-asked={settled ? (params.get('text') ?? '') : undefined}
        aria-label={props.label}
        aria-rowcount={lines.length + 1}
        aria-colcount={columns.length + 1}
        tabIndex={0}
        aria-activedescendant={shown.some(({ index }) => index === focus.line) ? `line-${focus.line}` : undefined}
        onKeyDown={hear}
      >
        {head}
        {lines.length === 0 && !waiting ? (
          <div className={css['empty']} role="row">
            <div role="gridcell">{(narrowed && props.noneFits) || props.empty}</div>
          </div>
        ) : (
          <div role="rowgroup" style={{ blockSize: rows.getTotalSize(), position: 'relative' }}>
            {shown.map(({ index, start }) => {
              const row = rowAt(index)
              return (
                <ListRow
                  key={index}
                  at={index}
                  start={start}
                  template={template}
                  columns={columns}
                  line={lines[index]}
                  row={row}
                  focused={focus.line === index ? focus.column : null}
                  editing={editing && focus.line === index}
                  open={row !== undefined && row.id === props.openId}
                  ticked={row !== undefined && ticked.has(row.id)}
                  indent={row && props.indent ? props.indent(row) : 0}
                  strong={row !== undefined && props.strong?.(row) === true}
                  draggable={props.drag !== undefined}
                  takes={props.drop?.type}
                  acts={acts}
                />
              )
            })}
          </div>
        )}
      </div>
    </>
  )
}
