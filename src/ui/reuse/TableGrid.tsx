import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import {
  deleteTable,
  fillTable,
  holdRow,
  releaseRow,
  type TableSheet,
  updateTable,
} from '#core/reuse/table-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { YesNo } from '#ui/kit/YesNo.tsx'
import { useEdit, useWrite } from '#ui/shell/answers.tsx'
import { Named } from '#ui/shell/SheetParts.tsx'
import { ago, shortName } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import steps from '#ui/cases/Steps.module.css'
import { pasted, renamed, set, type TableEdit, tableOf, withColumn, withoutRow, withRow } from './table-edits.ts'
import css from './TableGrid.module.css'

interface Grid {
  readonly of: TableSheet
  readonly table: TableEdit
  readonly may: boolean
  readonly put: (next: TableEdit) => void
}

/** A data table as a grid: every cell is typed into where it stands, and a spreadsheet pastes into it. */
export function TableGrid({ of, onGone }: { of: TableSheet; onGone: () => void }) {
  const { key, project } = useHere()
  const store = useEdit(updateTable, { key, id: of.id }, of)
  const grid: Grid = {
    of,
    table: tableOf(of),
    may: project.role !== 'viewer',
    put: ({ rows, columns }) => void store({ rows: [...rows], columns: [...columns] }),
  }
  return (
    <div className={css['table']}>
      <p>
        {grid.may ? <EditText label="Name" value={of.name} onStore={(name) => void store({ name })} /> : of.name},{' '}
        <UsedBy of={of.usedBy} />. Values pasted from a spreadsheet fill from where they land.
      </p>
      <table className={steps['rows']}>
        <Columns {...grid} />
        <tbody>
          {of.values.map((row, at) => (
            <Row key={row.id} grid={grid} row={row} at={at} />
          ))}
        </tbody>
      </table>
      <UsedUp of={of} may={grid.may} onStore={(usedUp) => void store({ usedUp })} />
      {grid.may && <GridActs grid={grid} onGone={onGone} />}
    </div>
  )
}

/** Whether executing uses the rows up, and where they are there again. */
function UsedUp({ of, may, onStore }: { of: TableSheet; may: boolean; onStore: (usedUp: boolean) => void }) {
  const { key } = useHere()
  const filling = useWrite(fillTable)
  const params = { key, id: of.id }
  const used = of.values.filter(({ usedIn }) => usedIn.length > 0).length
  const fill = async () => {
    const done = await filling.attempt({ params, body: {} })
    if (!done) return
    notify(`${counted(done.rows, 'row')} there again.`, {
      undo: () => void filling.attempt({ params, body: { back: done.at } }),
    })
  }
  return (
    <p className={css['acts']}>
      <YesNo
        label="Rows"
        disabled={!may}
        is={of.usedUp}
        no="rows can be used again"
        yes="an execution uses its row up, in its environment"
        onChoose={onStore}
      />
      {of.usedUp && used > 0 && (
        <>
          <span>
            {used} of {of.values.length} used up
          </span>
          <Button look="word" onClick={() => void fill()}>
            they are there again
          </Button>
        </>
      )}
    </p>
  )
}

const mostNamed = 8
const UsedBy = ({ of }: { of: TableSheet['usedBy'] }) =>
  of.length === 0 ? (
    'used by no case yet'
  ) : (
    <>
      used by <Named refs={of.slice(0, mostNamed)} />
      {of.length > mostNamed && ` and ${of.length - mostNamed} more`}
    </>
  )

const Columns = ({ table, may, put }: Grid) => (
  <thead>
    <tr>
      <th>
        <span className="hidden">Row</span>
      </th>
      {table.columns.map((name) => (
        <th key={name}>
          {may ? (
            <EditText label={`Column ${name}`} value={name} onStore={(to) => put(renamed(table, name, to))} />
          ) : (
            name
          )}
        </th>
      ))}
      {may && (
        <th>
          <EditText
            label="A new column"
            value=""
            placeholder="+ column"
            onStore={(name) => {
              const next = withColumn(table, name)
              if (next !== table) put(next)
            }}
          />
        </th>
      )}
      <th>Checked out</th>
      <th />
    </tr>
  </thead>
)

type Values = TableSheet['values'][number]

function Row({ grid, row, at }: { grid: Grid; row: Values; at: number }) {
  const { table, may, put } = grid
  return (
    <tr>
      <td className="quiet">{at + 1}</td>
      {table.columns.map((name, column) => (
        <td key={name}>
          <Value
            label={`Row ${at + 1}, ${name}`}
            value={row.values[name] ?? ''}
            disabled={!may}
            onStore={(value) => put(set(table, at, name, value))}
            onPaste={(text) => put(pasted(table, text, at, column))}
          />
        </td>
      ))}
      {may && <td />}
      <td className="quiet">{heldText(row)}</td>
      <td>{may && <RowActs grid={grid} row={row} at={at} />}</td>
    </tr>
  )
}

function heldText({ heldBy, heldIn, heldAt, usedIn }: Values): string {
  const used = usedIn.length === 0 ? '' : `used up in ${usedIn.join(', ')}`
  if (heldBy === null) return used
  return `${used === '' ? '' : `${used}; `}${shortName(heldBy)}${heldIn === null ? '' : ` in ${heldIn}`}, ${ago(heldAt ?? 0)}`
}

/** A row that is checked out is given back by who has it, or by a lead; until then it stays. */
function RowActs({ grid: { of, table, put }, row, at }: { grid: Grid; row: Values; at: number }) {
  const { key, project } = useHere()
  const holding = useWrite(holdRow)
  const releasing = useWrite(releaseRow)
  const input = { params: { key, id: of.id }, body: { row: row.id } }
  if (row.heldBy !== null)
    return row.mine || project.role === 'lead' ? (
      <Button look="word" onClick={() => void releasing.attempt(input)}>
        give back<span className="hidden"> row {at + 1}</span>
      </Button>
    ) : null
  return (
    <>
      <Button look="word" onClick={() => void holding.attempt(input)}>
        check out<span className="hidden"> row {at + 1}</span>
      </Button>{' '}
      <button type="button" aria-label={`Take row ${at + 1} away`} onClick={() => put(withoutRow(table, row.id))}>
        ×
      </button>
    </>
  )
}

function GridActs({ grid: { of, table, put }, onGone }: { grid: Grid; onGone: () => void }) {
  const { key, project } = useHere()
  const removing = useWrite(deleteTable)
  const remove = async () => {
    const params = { key, id: of.id }
    if (!(await removing.attempt({ params }))) return
    notify(`The data table ${of.name} is deleted.`, {
      undo: () => void removing.attempt({ params, query: { undo: 'yes' } }),
    })
    onGone()
  }
  return (
    <p className={css['acts']}>
      <Button look="word" disabled={of.columns.length === 0} onClick={() => put(withRow(table))}>
        Add a row
      </Button>
      {project.role === 'lead' && (
        <Button look="word" onClick={() => void remove()}>
          delete the table
        </Button>
      )}
    </p>
  )
}

function Value({
  label,
  value,
  disabled,
  onStore,
  onPaste,
}: {
  label: string
  value: string
  disabled: boolean
  onStore: (value: string) => void
  onPaste: (text: string) => void
}) {
  const [draft, setDraft] = useState<string | null>(null)
  const finish = () => {
    if (draft !== null && draft !== value) onStore(draft)
    setDraft(null)
  }
  return (
    <input
      aria-label={label}
      disabled={disabled}
      value={draft ?? value}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={finish}
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Enter') event.currentTarget.blur()
      }}
      onPaste={(event) => {
        const text = event.clipboardData.getData('text/plain')
        if (/[\t\n]/.test(text.trim())) {
          event.preventDefault()
          onPaste(text)
        }
      }}
    />
  )
}
