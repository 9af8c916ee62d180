import { useRef } from 'react'
import { type FieldDefinition, parseSort } from '#core/lib/filter.ts'
import { go, useParams } from '#ui/shell/address.ts'
import { ColumnFilter, hasFilter } from './ColumnFilter.tsx'
import { type Column, type ColumnState, columnsText } from './columns.ts'
import css from './List.module.css'

interface Props<T> {
  readonly fields: readonly FieldDefinition[]
  readonly choices: Readonly<Record<string, readonly string[]>>
  readonly columns: readonly Column<T>[]
  readonly state: ColumnState
  readonly template: string
  readonly allTicked: boolean
  readonly onTickAll: () => void
}

/** Column heads: a click sorts (again turns round, a third time takes away), the edge sizes. */
export function ListHead<T>({ columns, fields, choices, state, template, allTicked, onTickAll }: Props<T>) {
  const params = useParams('sort')
  const sort = parseSort(params.get('sort') ?? undefined)[0]
  const sortBy = (name: string) =>
    go({ params: { sort: sort?.field !== name ? name : sort.descending ? null : `-${name}` } })
  const widen = (name: string, width: number) =>
    go(
      {
        params: {
          cols: columnsText({ ...state, widths: { ...state.widths, [name]: Math.max(40, Math.round(width)) } }),
        },
      },
      true,
    )
  return (
    <div role="rowgroup" className={css['head']}>
      <div role="row" aria-rowindex={1} className={css['headRow']} style={{ gridTemplateColumns: template }}>
        <div role="columnheader" className={css['tick']}>
          <input type="checkbox" tabIndex={-1} aria-label="Tick all shown" checked={allTicked} onChange={onTickAll} />
        </div>
        {columns.map((column) => (
          <div
            key={column.name}
            role="columnheader"
            className={css['headCell']}
            data-align={column.align}
            aria-sort={sort?.field === column.name ? (sort.descending ? 'descending' : 'ascending') : undefined}
          >
            {column.sortable === false ? (
              <span>{column.label}</span>
            ) : (
              <button type="button" tabIndex={-1} onClick={() => sortBy(column.name)}>
                {column.label}
                {sort?.field === column.name ? (sort.descending ? ' ↓' : ' ↑') : ''}
              </button>
            )}
            <FilterOf field={fields.find(({ name }) => name === column.name)} values={choices[column.name]} />
            <Edge onSize={(width) => widen(column.name, width)} />
          </div>
        ))}
      </div>
    </div>
  )
}

const FilterOf = ({ field, values }: { field: FieldDefinition | undefined; values: readonly string[] | undefined }) =>
  field && hasFilter(field, values) ? <ColumnFilter field={field} values={values ?? field.choices ?? []} /> : null

function Edge({ onSize }: { onSize: (width: number) => void }) {
  const own = useRef<HTMLSpanElement>(null)
  return (
    <span
      ref={own}
      className={css['edge']}
      aria-hidden="true"
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={(event) => {
        const box = own.current?.parentElement?.getBoundingClientRect()
        if (event.buttons === 1 && box) onSize(event.clientX - box.left)
      }}
    />
  )
}
