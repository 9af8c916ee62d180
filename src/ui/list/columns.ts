import type { ReactNode } from 'react'
import type { Option } from '#ui/kit/Choice.tsx'

/** How a cell is edited where it stands. */
export type CellEdit<T> =
  | {
      readonly kind: 'choice'
      readonly options: readonly (Option | string)[]
      readonly value: (row: T) => string
      readonly store: (row: T, value: string) => void
    }
  | {
      readonly kind: 'text' | 'number'
      readonly value: (row: T) => string
      readonly store: (row: T, value: string) => void
    }

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
    const [name = '', width] = columns.some((column) => column.name === part)
      ? [part]
      : [part.replace(/:\d+$/, ''), /\d+$/.exec(part)?.[0]]
    return columns.some((column) => column.name === name) ? [{ name, width: Number(width) }] : []
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
