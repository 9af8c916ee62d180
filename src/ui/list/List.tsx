import { useVirtualizer } from '@tanstack/react-virtual'
import {
  type ReactNode,
  type RefObject,
  startTransition,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  useSyncExternalStore,
} from 'react'
import type { FieldDefinition } from '#core/lib/filter.ts'
import type { OrderAnswer } from '#core/lib/shapes.ts'
import { sentenceOf } from '#ui/call.ts'
import { useLatest } from '#ui/kit/latest.ts'
import { scopeIn, useAddress } from '#ui/shell/address.ts'
import type { Column } from './columns.ts'
import { Grid } from './Grid.tsx'
import css from './List.module.css'
import { ListTools } from './ListTools.tsx'
import { type Line, linesOf } from './lines.ts'
import { useColumns } from './useColumns.ts'
import { type ListAsk, type ServedList, type Source, useForesight, useListData } from './useListData.ts'
import { useTicks } from './useTicks.ts'

export type { ServedList, Source } from './useListData.ts'

/** What rows carry when they are dragged, and what may be dropped on one. */
export interface Carrying<T> {
  /** What a dragged row carries; of all ticked rows when it is one of them. */
  readonly drag: (rows: readonly T[]) => Readonly<Record<string, string>>
  /** What a drop does: before the row or into it. */
  readonly drop?: { readonly type: string; readonly on: (dropped: string, row: T, before: boolean) => void } | undefined
}

/** How rows look as parts of an outline. */
export interface Outline<T> {
  readonly depth: (row: T) => number
  readonly strong: (row: T) => boolean
}

export interface ListProps<T extends { id: number }> {
  /** Names the list for saved views and column choices. */
  readonly name: string
  readonly label: string
  readonly title: ReactNode
  readonly columns: readonly Column<T>[]
  readonly fields: readonly FieldDefinition[]
  readonly choices?: Readonly<Record<string, readonly string[]>>
  readonly source: Source<T>
  readonly served?: ServedList<T> | undefined
  readonly openId: number | null
  readonly onOpen: (row: T, full: boolean) => void
  readonly sentence: (shown: number, all: number) => ReactNode
  readonly actions?: ReactNode
  readonly many?: ((ids: readonly number[], clear: () => void) => ReactNode) | undefined
  readonly empty: ReactNode
  /** Said instead when there are rows, but none fits what is typed or filtered. */
  readonly noneFits?: ReactNode
  readonly carrying?: Carrying<T> | undefined
  readonly outline?: Outline<T> | undefined
  readonly onShown?: ((ids: readonly number[]) => void) | undefined
  /** The rows that are here, in order: what Page Up and Page Down lead through. */
  readonly onRows?: (rows: readonly T[]) => void
}
/** A row is as high as a line, or as a thumb where there is no mouse; `List.module.css` says the same. */
const heights = { fine: 32, coarse: 44 }
const heightHere = (): number => (matchMedia('(pointer: coarse)').matches ? heights.coarse : heights.fine)
const never = () => () => undefined

/** A list as a working surface: filtered, sorted, grouped, edited in place, ticked; rows are drawn as they come into sight. */
export function List<T extends { id: number }>(props: ListProps<T>) {
  const { params } = useAddress()
  const scroll = useRef<HTMLDivElement>(null)
  const ask = askIn(params)
  const [range, setRange] = useState({ from: 0, to: 40 })
  const data = useListData<T>({ ...props.source, served: props.served, ask, ...range })
  const { answer, counted, byId } = data
  // Of fifty thousand rows each drawing would cost a frame if these were made anew.
  const lines = useMemo(() => linesOf(answer), [answer])
  const shown = useInSight(lines, scroll, setRange)
  useTelling(props, { ...shown, lines, byId })
  const columns = useColumns(props.columns, params.get('cols'), scroll)
  const ticks = useTicks(counted, answer)
  const foresee = useLatest(useForesight({ ...props.source, ask }))
  const chosen = params.get('cols')
  // Pages make them anew each time they are drawn, and they say the same as a rule.
  const choices = useMemo(() => props.choices ?? {}, [JSON.stringify(props.choices)])
  const tools = useMemo(
    () => (
      <ListTools
        name={props.name}
        fields={props.fields}
        choices={choices}
        columns={props.columns}
        state={columns.state}
        shown={counted.total}
        all={counted.all}
        onType={(text) => foresee.current(text)}
      />
    ),
    [props.name, props.fields, choices, props.columns, chosen, counted.total, counted.all],
  )
  const narrowed = ask.text !== undefined || ask.filter !== undefined
  return (
    <>
      <Top {...props} counted={counted} busy={counted !== answer} />
      {tools}
      {props.many && <ManyBar many={props.many} ticked={ticks.ticked} clear={ticks.clear} />}
      {data.problem && (
        <p className={css['problem']} role="alert">
          {sentenceOf(data.problem)}
        </p>
      )}
      <Grid
        {...props}
        choices={choices}
        scroll={scroll}
        rows={shown.rows}
        lines={lines}
        byId={byId}
        total={answer.total}
        columns={columns}
        ticks={ticks}
        settled={data.settled}
        nothing={lines.length === 0 && !data.waiting ? (narrowed && props.noneFits) || props.empty : null}
      />
    </>
  )
}

/** What the address asks of the list. What results say depends on the scope; other lists are the same in all of them. */
function askIn(params: URLSearchParams): ListAsk {
  const asked = (['text', 'filter', 'sort', 'group'] as const).flatMap((name): [string, string][] =>
    params.get(name) ? [[name, params.get(name) ?? '']] : [],
  )
  return { ...Object.fromEntries(asked), ...(params.get('filter')?.includes('"finding"') && scopeIn(params)) }
}

type Range = { readonly from: number; readonly to: number }

/** The rows that are in sight, and a few around them. */
function useInSight(lines: readonly Line[], scroll: RefObject<HTMLDivElement | null>, onRange: (range: Range) => void) {
  const rowHeight = useSyncExternalStore(never, heightHere, () => heights.fine)
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => rowHeight,
    overscan: 8,
    initialRect: { width: 720, height: 640 },
  })
  useLayoutEffect(() => rows.measure(), [rowHeight])
  const items = rows.getVirtualItems()
  const [first, last] = [items[0]?.index ?? 0, items.at(-1)?.index ?? 0]
  // Before the page is painted: what came into sight is asked for a frame earlier.
  useLayoutEffect(() => onRange({ from: Math.max(0, first - 8), to: last + 8 }), [first, last])
  return { rows, first, last }
}

/** Tells the page which rows are in sight and which are here. */
function useTelling<T extends { id: number }>(
  props: Pick<ListProps<T>, 'onShown' | 'onRows'>,
  of: { lines: readonly Line[]; first: number; last: number; byId: ReadonlyMap<number, T> },
): void {
  const inSight = of.lines.slice(of.first, of.last + 1).flatMap((line) => (line.kind === 'row' ? [line.id] : []))
  useEffect(() => {
    props.onShown?.(inSight)
  }, [inSight.join(',')])
  const present = [...of.byId.values()]
  // Who follows the rows may lag behind them, so that the next letter need not wait.
  useEffect(() => {
    startTransition(() => props.onRows?.(present))
  }, [present.map(({ id }) => id).join(',')])
}

function Top<T extends { id: number }>(props: ListProps<T> & { counted: OrderAnswer; busy: boolean }) {
  const { counted } = props
  return (
    <header className={css['top']}>
      <div className={css['title']}>
        {props.title}
        <p className={css['sentence']} aria-busy={props.busy}>
          {props.sentence(counted.total, counted.all)}
        </p>
      </div>
      {props.actions}
    </header>
  )
}

/** What can be done with the ticked rows, while there are any. */
function ManyBar({
  many,
  ticked,
  clear,
}: {
  many: NonNullable<ListProps<{ id: number }>['many']>
  ticked: ReadonlySet<number>
  clear: () => void
}) {
  if (ticked.size === 0) return null
  return (
    <div className={css['many']} role="toolbar" aria-label="With the ticked rows">
      <b>{ticked.size} ticked</b>
      {many([...ticked], clear)}
      <button type="button" onClick={clear}>
        Untick
      </button>
    </div>
  )
}
