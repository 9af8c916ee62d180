import { useVirtualizer } from '@tanstack/react-virtual'
import { type KeyboardEvent, useLayoutEffect, useRef, useState } from 'react'
import type { Matrix, MatrixCell, MatrixRow } from '#core/plans/asks-contract.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { useHere } from '#ui/shell/here.ts'
import { wayShort } from '#core/plans/ask-words.ts'
import { cellKey, headOf, type MatrixPlace, placeAfter } from './matrix-place.ts'
import css from './Matrix.module.css'

export interface MatrixProps {
  readonly columns: Matrix['columns']
  /** The order the columns are shown in. */
  readonly order: readonly number[]
  readonly total: number
  readonly rowAt: (at: number) => MatrixRow | undefined
  readonly chosen: ReadonlySet<string>
  readonly onChoose: (keys: readonly string[], on: boolean) => void
  readonly onOpen: (row: MatrixRow, cell: MatrixCell | null) => void
  readonly onAsk: (row: MatrixRow) => void
  readonly onRange: (from: number, to: number) => void
}

const rowHeight = 32

/** Cases by environments, each cell with what stands there: rows are drawn as they come into sight. */
export function MatrixTable(of: MatrixProps) {
  const scroll = useRef<HTMLDivElement>(null)
  const [place, setPlace] = useState<MatrixPlace>({ row: 0, column: 0 })
  const rows = useVirtualizer({
    count: of.total,
    getScrollElement: () => scroll.current,
    estimateSize: () => rowHeight,
    overscan: 8,
    scrollPaddingStart: 84,
    initialRect: { width: 720, height: 640 },
  })
  const shown = rows.getVirtualItems()
  const [first, last] = [shown[0]?.index ?? 0, shown.at(-1)?.index ?? 0]
  useLayoutEffect(() => of.onRange(first, last), [first, last])
  useCellKeys(of, place)
  const hear = moving(of, place, (to) => {
    setPlace(to)
    rows.scrollToIndex(to.row, { align: 'auto' })
  })
  const template = `64px minmax(140px, 1fr) repeat(${of.order.length}, minmax(60px, 68px)) 54px`
  return (
    <div
      ref={scroll}
      className={css['matrix']}
      role="grid"
      aria-label="Cases by environments"
      aria-rowcount={of.total + 1}
      aria-colcount={of.order.length + 2}
      aria-activedescendant={`cell-${place.row}-${place.column}`}
      tabIndex={0}
      onKeyDown={hear}
      style={{ ['--columns' as string]: template }}
    >
      <MatrixHead of={of} />
      <div role="rowgroup" style={{ blockSize: rows.getTotalSize(), position: 'relative' }}>
        {shown.map(({ index, start }) => (
          <Row
            key={index}
            of={of}
            row={of.rowAt(index)}
            index={index}
            at={place.row === index ? place.column : null}
            onPlace={(column) => setPlace({ row: index, column })}
            start={start}
          />
        ))}
      </div>
    </div>
  )
}

/** Arrows move within the table. */
const moving = (of: MatrixProps, place: MatrixPlace, go: (to: MatrixPlace) => void) => (event: KeyboardEvent) => {
  const to = placeAfter(place, event.key, { rows: of.total, columns: of.order.length })
  if (!to || event.ctrlKey || event.metaKey || event.altKey) return
  go(to)
  event.preventDefault()
  event.stopPropagation()
}

/** What can be done with the cell one is in. */
function useCellKeys(of: MatrixProps, place: MatrixPlace): void {
  const here = (work: (row: MatrixRow) => void) => () => {
    const row = of.rowAt(place.row)
    if (row) work(row)
  }
  useKeys([
    { id: 'choose-cell', keys: 'Space', label: 'choose', run: here(() => chooseAt(of, place)) },
    {
      id: 'open-cell',
      keys: 'Enter',
      label: 'open the attempt',
      run: here((row) => of.onOpen(row, cellAt(of, row, place.column))),
    },
    { id: 'ask-cell', keys: 'a', label: 'what is asked', run: here(of.onAsk) },
  ])
}

const MatrixHead = ({ of }: { of: MatrixProps }) => (
  <div className={css['head']} role="row" aria-rowindex={1}>
    <span role="columnheader">
      <span className="hidden">Key</span>
    </span>
    <span role="columnheader">Case</span>
    {of.order.map((at) => {
      const column = of.columns[at]
      return column && <ColumnHead key={column.id} of={column} />
    })}
    <span role="columnheader" data-end>
      asked
    </span>
  </div>
)

function ColumnHead({ of }: { of: Matrix['columns'][number] }) {
  const [first = '', ...rest] = headOf(of)
  return (
    <span
      role="columnheader"
      title={of.outage ? `${of.name}: ${of.outage}` : of.name}
      data-out={of.outage ? '' : undefined}
    >
      <b>{first}</b>
      {rest.map((value) => (
        <small key={value}>{value}</small>
      ))}
      {of.outage && <small className="hidden">not to be used: {of.outage}</small>}
    </span>
  )
}

function cellAt(of: MatrixProps, row: MatrixRow, column: number): MatrixCell | null {
  return row.kind === 'case' ? (row.cells[of.order[column] ?? -1] ?? null) : null
}

/** Chooses a cell that is asked for; of a requirement, those of all its cases that are here. */
function chooseAt(of: MatrixProps, place: MatrixPlace): void {
  const environment = of.columns[of.order[place.column] ?? -1]?.id
  const first = of.rowAt(place.row)
  if (!first || environment === undefined) return
  const rows = first.kind === 'case' ? [first] : casesBelow(of, place.row)
  const keys = rows.flatMap((row) => (cellAt(of, row, place.column) ? [cellKey(row.id, environment)] : []))
  if (keys.length > 0) of.onChoose(keys, !keys.every((key) => of.chosen.has(key)))
}

/** Rows of the cases that stand below a requirement. */
function casesBelow(of: MatrixProps, requirement: number): MatrixRow[] {
  const rows: MatrixRow[] = []
  for (let at = requirement + 1; at < of.total; at++) {
    const row = of.rowAt(at)
    if (row?.kind !== 'case') break
    rows.push(row)
  }
  return rows
}

interface RowProps {
  readonly of: MatrixProps
  readonly row: MatrixRow | undefined
  readonly index: number
  /** The column one is in. */
  readonly at: number | null
  readonly onPlace: (column: number) => void
  readonly start: number
}

function Row({ of, row, index, at, onPlace, start }: RowProps) {
  const { key } = useHere()
  const style = { transform: `translateY(${start}px)` }
  if (!row) return <div className={css['row']} role="row" aria-rowindex={index + 2} style={style} />
  return (
    <div className={css['row']} role="row" aria-rowindex={index + 2} data-kind={row.kind} style={style}>
      <span role="rowheader" className="key quiet">
        {row.key}
      </span>
      <span role="gridcell" className={css['title']}>
        {row.key === '' ? row.title : <a href={`/p/${key}/${row.key}`}>{row.title}</a>}
      </span>
      {of.order.map((column, n) => (
        <Cell
          key={of.columns[column]?.id ?? n}
          of={of}
          row={row}
          index={index}
          column={n}
          id={`cell-${index}-${n}`}
          isHere={at === n}
          onPlace={() => onPlace(n)}
        />
      ))}
      <span role="gridcell" className={css['ways']}>
        {row.kind === 'case' && row.ways.map((way) => wayShort[way]).join(', ')}
      </span>
    </div>
  )
}

interface CellProps {
  readonly of: MatrixProps
  readonly row: MatrixRow
  readonly index: number
  readonly column: number
  readonly id: string
  readonly isHere: boolean
  readonly onPlace: () => void
}

function Cell({ of, row, index, column, id, isHere, onPlace }: CellProps) {
  const at = of.order[column] ?? -1
  const here = isHere ? { 'data-here': '' } : {}
  if (row.kind === 'requirement') {
    const cell = row.cells[at]
    return (
      <span role="gridcell" id={id} className={css['cell']} {...here} onClick={onPlace}>
        {cell && cell.of > 0 && `${cell.passed} of ${cell.of}`}
      </span>
    )
  }
  const cell = cellAt(of, row, column)
  const environment = of.columns[at]?.id ?? 0
  const isChosen = of.chosen.has(cellKey(row.id, environment))
  return (
    <span
      role="gridcell"
      id={id}
      className={css['cell']}
      aria-selected={cell ? isChosen : undefined}
      data-empty={cell && !cell.any && cell.verdict === 'Not run' ? '' : undefined}
      {...here}
      onClick={(event) => {
        onPlace()
        if (cell && (event.ctrlKey || event.metaKey || event.shiftKey)) chooseAt(of, { row: index, column })
      }}
      onDoubleClick={() => of.onOpen(row, cell)}
    >
      {cell && <CellMark of={cell} />}
    </span>
  )
}

const CellMark = ({ of }: { of: MatrixCell }) =>
  of.any && of.attempt === null ? (
    <span className="quiet" role="img" aria-label="would do as well">
      ·
    </span>
  ) : (
    <Mark verdict={of.verdict} stale={of.stale} size={15} />
  )
