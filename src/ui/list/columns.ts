import type { ReactNode } from 'react'
import type { Option, Options } from '#ui/kit/Choice.tsx'

/** How a cell is edited where it stands. */
export interface CellEdit<T> {
  readonly kind: 'choice' | 'text'
  readonly options: readonly (Option | string)[]
  readonly value: (row: T) => string
  readonly store: (row: T, value: string) => void
}

/** A cell whose value is one of a closed set. */
export const oneOf = <T, Value extends string>(
  options: Options<Value>,
  value: (row: T) => Value,
  store: (row: T, value: Value) => void,
): CellEdit<T> => ({
  kind: 'choice',
  options,
  value,
  store: (row, text) => {
    const chosen = options
      .map((each) => (typeof each === 'string' ? each : each.value))
      .find((each): each is Value => each === text)
    if (chosen !== undefined) store(row, chosen)
  },
})

/** A cell whose value is typed. */
export const typed = <T>(value: (row: T) => string, store: (row: T, value: string) => void): CellEdit<T> => ({
  kind: 'text',
  options: [],
  value,
  store,
})

export interface Column<T> {
  readonly name: string
  readonly label: string
  /** Pixels; the one column with 0 takes what is left. */
  readonly width: number
  readonly align?: 'end'
  readonly sortable?: boolean
  /** Shown from the start. */
  readonly usual?: boolean
  /** Left out while the list is narrow, as it is beside a sheet. */
  readonly wideOnly?: boolean
  readonly cell: (row: T) => ReactNode
  readonly edit?: CellEdit<T> | undefined
}

export interface ColumnState {
  readonly shown: readonly string[]
  readonly widths: Readonly<Record<string, number>>
}

/** Column choices as an address or the browser keeps them: names in order, with a width where one was set. */
export function parseColumns<T>(text: string | null, columns: readonly Column<T>[]): ColumnState {
  const parts = (text ?? '').split(',').flatMap((part) => {
    // An own field's name holds a colon and a number itself: the whole is tried as a name before a width is split off.
    const whole = columns.some((column) => column.name === part)
    const name = whole ? part : part.replace(/:\d+$/, '')
    const width = whole ? NaN : Number(/\d+$/.exec(part)?.[0] ?? NaN)
    return columns.some((column) => column.name === name) ? [{ name, width }] : []
  })
  if (parts.length === 0)
    return { shown: columns.filter(({ usual }) => usual !== false).map(({ name }) => name), widths: {} }
  return {
    shown: parts.map(({ name }) => name),
    widths: Object.fromEntries(
      parts.filter(({ width }) => width >= 30 && width <= 900).map(({ name, width }) => [name, width]),
    ),
  }
}

export const columnsText = ({ shown, widths }: ColumnState): string =>
  shown.map((name) => (widths[name] ? `${name}:${widths[name]}` : name)).join(',')
