import { useState } from 'react'
import {
  createTable,
  deleteTable,
  holdRow,
  listTables,
  readTable,
  releaseRow,
  type TableSheet,
  updateTable,
} from '#core/reuse/table-contract.ts'
import { listTemplates, deleteTemplate } from '#core/reuse/template-contract.ts'
import { splitCells } from '#core/cases/steps.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer, useEdit, useWrite } from '#ui/shell/answers.tsx'
import { ago, shortName } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import steps from '#ui/cases/Steps.module.css'
import css from '#ui/projects/SetUp.module.css'

/** Data tables: rows of values that cases share, with who has one checked out; and the templates of new cases. */
export function TablesSetUp() {
  const { key, project } = useHere()
  const { data } = useAnswer(listTables, { params: { key } })
  const making = useWrite(createTable)
  const [name, setName] = useState('')
  const [open, setOpen] = useState<number | null>(null)
  const may = project.role !== 'viewer'
  const make = async () => {
    const done = await making.attempt({ params: { key }, body: { name } })
    if (done) {
      setName('')
      setOpen(done.id)
    }
  }
  return (
    <section>
      <h2>Data tables</h2>
      {may && (
        <form
          className={css['add']}
          onSubmit={(event) => {
            event.preventDefault()
            if (name.trim() !== '') void make()
          }}
        >
          <TextInput
            aria-label="A new data table"
            placeholder="A new data table, such as “Test cards”"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <Button type="submit" disabled={name.trim() === ''}>
            Add
          </Button>
        </form>
      )}
      {data?.rows.length === 0 && (
        <p className="quiet">
          None yet. Cases can share the rows of one; a row that is checked out is used by nobody else.
        </p>
      )}
      <ul>
        {data?.rows.map((table) => (
          <li key={table.id}>
            <Button look="word" onClick={() => setOpen(table.id)}>
              {table.name}
            </Button>
            <span className="quiet">{table.columns.join(', ') || 'no column yet'}</span>
            <span>
              {table.rows} {table.rows === 1 ? 'row' : 'rows'}
              {table.held > 0 && `, ${table.held} checked out`}
              {table.cases > 0 && `, ${table.cases} ${table.cases === 1 ? 'case' : 'cases'}`}
            </span>
          </li>
        ))}
      </ul>
      <Templates />
      {open !== null && <TableDialog id={open} onClose={() => setOpen(null)} />}
    </section>
  )
}

function Templates() {
  const { key, project } = useHere()
  const { data } = useAnswer(listTemplates, { params: { key } })
  const removing = useWrite(deleteTemplate)
  if (!data || data.rows.length === 0) return null
  return (
    <>
      <h2 style={{ marginBlockStart: 18 }}>Templates of cases</h2>
      <ul>
        {data.rows.map((each) => (
          <li key={each.id}>
            <span>{each.name}</span>
            <span className="quiet">
              {each.steps} steps, {shortName(each.by)} {ago(each.at)}
            </span>
            {project.role !== 'viewer' ? (
              <Button look="word" onClick={() => void removing.attempt({ params: { key, id: each.id } })}>
                take away<span className="hidden"> {each.name}</span>
              </Button>
            ) : (
              <span />
            )}
          </li>
        ))}
      </ul>
    </>
  )
}

function TableDialog({ id, onClose }: { id: number; onClose: () => void }) {
  const { key } = useHere()
  const { data } = useAnswer(readTable, { params: { key, id } })
  return data ? (
    <Dialog title={`Data table ${data.name}`} onClose={onClose} wide>
      <TableGrid of={data} onGone={onClose} />
    </Dialog>
  ) : null
}

function TableGrid({ of, onGone }: { of: TableSheet; onGone: () => void }) {
  const { key, project } = useHere()
  const store = useEdit(updateTable, { key, id: of.id }, of.version)
  const holding = useWrite(holdRow)
  const releasing = useWrite(releaseRow)
  const removing = useWrite(deleteTable)
  const may = project.role !== 'viewer'
  const rows = of.values.map(({ id, values }) => ({ id, values }))
  const put = (next: readonly { id: number | null; values: Record<string, string> }[], columns = of.columns) =>
    void store({ rows: [...next], columns: [...columns] })
  const paste = (text: string, at: number, column: number) => {
    const cells = splitCells(text.trimEnd())
    const columns = [...of.columns]
    const next: { id: number | null; values: Record<string, string> }[] = rows.map((row) => ({ ...row }))
    cells.forEach((line, down) => {
      const row = next[at + down] ?? (next[at + down] = { id: null, values: {} })
      row.values = {
        ...row.values,
        ...Object.fromEntries(
          line.flatMap((cell, right) => {
            const name = columns[column + right]
            return name === undefined ? [] : [[name, cell.trim()]]
          }),
        ),
      }
    })
    put(next, columns)
  }
  return (
    <div style={{ display: 'grid', gap: 10, justifyItems: 'start' }}>
      <p>
        {may ? <EditText label="Name" value={of.name} onStore={(name) => void store({ name })} /> : of.name},{' '}
        {of.usedBy.length === 0 ? (
          'used by no case yet'
        ) : (
          <>
            used by{' '}
            {of.usedBy.slice(0, 8).map((own, index) => (
              <span key={own.key}>
                {index > 0 && ', '}
                <a href={`/p/${key}/${own.key}`} title={own.title}>
                  {own.key}
                </a>
              </span>
            ))}
            {of.usedBy.length > 8 && ` and ${of.usedBy.length - 8} more`}
          </>
        )}
        . Values pasted from a spreadsheet fill from where they land.
      </p>
      <table className={steps['rows']}>
        <thead>
          <tr>
            <th>
              <span className="hidden">Row</span>
            </th>
            {of.columns.map((name) => (
              <th key={name}>
                {may ? (
                  <EditText
                    label={`Column ${name}`}
                    value={name}
                    onStore={(to) =>
                      put(
                        rows.map(({ id, values: { [name]: own = '', ...rest } }) => ({
                          id,
                          values: to === '' ? rest : { ...rest, [to]: own },
                        })),
                        of.columns.flatMap((each) => (each === name ? (to === '' ? [] : [to]) : [each])),
                      )
                    }
                  />
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
                    if (name !== '' && !of.columns.includes(name)) put(rows, [...of.columns, name])
                  }}
                />
              </th>
            )}
            <th>Checked out</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {of.values.map((row, at) => (
            <tr key={row.id}>
              <td className="quiet">{at + 1}</td>
              {of.columns.map((name, column) => (
                <td key={name}>
                  <Value
                    label={`Row ${at + 1}, ${name}`}
                    value={row.values[name] ?? ''}
                    disabled={!may}
                    onStore={(value) =>
                      put(
                        rows.map((each) =>
                          each.id === row.id ? { ...each, values: { ...each.values, [name]: value } } : each,
                        ),
                      )
                    }
                    onPaste={(text) => paste(text, at, column)}
                  />
                </td>
              ))}
              {may && <td />}
              <td className="quiet">
                {row.heldBy === null
                  ? ''
                  : `${shortName(row.heldBy)}${row.heldIn === null ? '' : ` in ${row.heldIn}`}, ${ago(row.heldAt ?? 0)}`}
              </td>
              <td>
                {may &&
                  (row.heldBy === null ? (
                    <Button
                      look="word"
                      onClick={() => void holding.attempt({ params: { key, id: of.id }, body: { row: row.id } })}
                    >
                      check out<span className="hidden"> row {at + 1}</span>
                    </Button>
                  ) : (
                    (row.mine || project.role === 'lead') && (
                      <Button
                        look="word"
                        onClick={() => void releasing.attempt({ params: { key, id: of.id }, body: { row: row.id } })}
                      >
                        give back<span className="hidden"> row {at + 1}</span>
                      </Button>
                    )
                  ))}{' '}
                {may && row.heldBy === null && (
                  <button
                    type="button"
                    aria-label={`Take row ${at + 1} away`}
                    onClick={() => put(rows.filter(({ id }) => id !== row.id))}
                  >
                    ×
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {may && (
        <p style={{ display: 'flex', gap: 16 }}>
          <Button
            look="word"
            disabled={of.columns.length === 0}
            onClick={() => put([...rows, { id: null, values: {} }])}
          >
            Add a row
          </Button>
          {project.role === 'lead' && (
            <Button
              look="word"
              onClick={async () => {
                if (await removing.attempt({ params: { key, id: of.id } })) {
                  notify(`The data table ${of.name} is deleted.`)
                  onGone()
                }
              }}
            >
              delete the table
            </Button>
          )}
        </p>
      )}
    </div>
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
