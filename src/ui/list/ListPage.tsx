import { type ReactNode, useEffect, useState } from 'react'
import type { Ask } from '#core/finding/asks.ts'
import type { FieldDefinition } from '#core/lib/filter.ts'
import type { Keyed } from '#core/lib/key.ts'
import { Button } from '#ui/kit/Button.tsx'
import { type Binding, useKeys } from '#ui/kit/keys.ts'
import { Split } from '#ui/kit/Split.tsx'
import { usePaging, useSheet } from '#ui/shell/useSheet.ts'
import type { Column } from './columns.ts'
import { type Carrying, List, type Outline, type ServedList, type Source } from './List.tsx'
import css from './ListPage.module.css'
import { AskWords, Sentence } from './Sentence.tsx'

/** Something to do on a page: a button beside its heading, a key, or both. */
export interface Act {
  readonly id: string
  /** The button's words; none where there is only a key. */
  readonly button?: string
  readonly look?: 'main' | 'plain' | 'word'
  readonly keys?: string
  /** What the key does, in the hint line. */
  readonly hint?: string
  readonly quiet?: boolean
  readonly run: () => void
}

export interface Ticked<T> {
  readonly ids: readonly number[]
  /** Those of them whose rows are here. */
  readonly rows: readonly T[]
  readonly clear: () => void
}

interface OpenSheet {
  readonly ref: string
  readonly close: () => void
}

export interface ListPageProps<T extends { id: number; key: string }> {
  /** The list's place in addresses, and its name for saved views. */
  readonly name: string
  readonly heading: string
  /** Objects whose sheets open here. */
  readonly kinds: readonly Keyed[]
  readonly source: Source<T>
  readonly served: ServedList<T>
  readonly columns: readonly Column<T>[]
  readonly fields: readonly FieldDefinition[]
  readonly choices: Readonly<Record<string, readonly string[]>>
  readonly asks: readonly Ask[]
  /** What stands in the sentence between how many there are and what can be asked of them. */
  readonly lead?: ReactNode | ((rows: readonly T[]) => ReactNode)
  readonly also?: readonly ReactNode[]
  readonly acts: readonly Act[]
  /** Keys that depend on what is open. */
  readonly keysFor?: (rows: readonly T[], open: T | undefined) => readonly Binding[]
  readonly tools?: ReactNode
  /** What can be done with ticked rows. */
  readonly many?: (ticked: Ticked<T>) => ReactNode
  /** Said where there is nothing yet, and the act that begins. */
  readonly empty: ReactNode
  readonly noneFits: string
  readonly sheet: (open: OpenSheet) => ReactNode
  /** The sheet takes the whole width, and the list goes while it is open. */
  readonly whole?: boolean
  /** Stands to the left of the list. */
  readonly beside?: ReactNode
  readonly carrying?: Carrying<T> | undefined
  readonly outline?: Outline<T> | undefined
  readonly onShown?: (ids: readonly number[]) => void
  /** The row of the open sheet, as soon as it is here. */
  readonly onOpenRow?: (row: T | undefined) => void
}

/** The frame of every list of objects: the list with its sentence and acts, and beside it the sheet of the one that is open. */
export function ListPage<T extends { id: number; key: string }>(props: ListPageProps<T>) {
  const { ref, full, open, close } = useSheet(props.kinds, props.name)
  const [rows, setRows] = useState<readonly T[]>(props.served.rows.rows)
  const openRow = rows.find((row) => row.key === ref)
  usePaging(rows, ref, open)
  useEffect(() => props.onOpenRow?.(openRow), [openRow])
  const sheet = ref === null ? null : props.sheet({ ref, close })
  // Where the sheet takes the list's place, its keys do as well.
  const listed = sheet === null || !props.whole
  useKeys(listed ? [...actKeys(props.acts), ...(props.keysFor?.(rows, openRow) ?? [])] : [])
  if (sheet !== null && props.whole) return sheet
  return (
    <Split
      label={props.heading}
      full={full}
      sheet={sheet}
      index={
        <Beside beside={props.beside}>
          <List
            {...props}
            label={props.heading}
            title={<h1>{props.heading}</h1>}
            openId={openRow?.id ?? null}
            onOpen={(row, wide) => open(row.key, wide)}
            onRows={setRows}
            sentence={(shown, all) => (
              <Sentence
                shown={shown}
                all={all}
                lead={typeof props.lead === 'function' ? props.lead(rows) : props.lead}
                asks={props.asks}
                also={props.also ?? []}
              />
            )}
            actions={<Acts acts={props.acts} tools={props.tools} />}
            many={props.many && ((ids, clear) => props.many?.({ ids, clear, rows: rowsOf(rows, ids) }))}
            noneFits={
              <>
                {props.noneFits} <AskWords words="Take the filter away" filter={null} />
              </>
            }
          />
        </Beside>
      }
    />
  )
}

const rowsOf = <T extends { id: number }>(rows: readonly T[], ids: readonly number[]): T[] => {
  const wanted = new Set(ids)
  return rows.filter(({ id }) => wanted.has(id))
}

const actKeys = (acts: readonly Act[]): Binding[] =>
  acts.flatMap(({ id, keys, hint, button, quiet, run }) =>
    keys === undefined ? [] : [{ id, keys, label: hint ?? (button ?? id).toLowerCase(), quiet: quiet ?? false, run }],
  )

const Acts = ({ acts, tools }: { acts: readonly Act[]; tools: ReactNode }) => (
  <span className={css['acts']}>
    {tools}
    {acts.map(({ id, button, look, run }) =>
      button === undefined ? null : (
        <Button key={id} look={look ?? 'plain'} onClick={run}>
          {button}
        </Button>
      ),
    )}
  </span>
)

const Beside = ({ beside, children }: { beside: ReactNode; children: ReactNode }) =>
  beside ? (
    <div className={css['page']}>
      {beside}
      <div>{children}</div>
    </div>
  ) : (
    children
  )

/** Where there is nothing yet: what belongs there, and the act that begins. */
export const Nothing = ({ children, act }: { children: ReactNode; act?: Act | undefined }) => (
  <>
    {children}
    {act && (
      <p className={css['begin']}>
        <Button look="main" onClick={act.run}>
          {act.button}
        </Button>
      </p>
    )}
  </>
)
