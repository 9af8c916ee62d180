import { useState } from 'react'
import { counted } from '#core/lib/figures.ts'
import { createTable, listTables, readTable } from '#core/reuse/table-contract.ts'
import { listTemplates, deleteTemplate } from '#core/reuse/template-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { AddLine } from '#ui/projects/AddLine.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { ago, shortName } from '#ui/shell/people.ts'
import { useHere } from '#ui/shell/here.ts'
import { TableGrid } from './TableGrid.tsx'

/** Data tables: rows of values that cases share, with who has one checked out; and the templates of new cases. */
export function TablesSetUp() {
  const { key, project } = useHere()
  const { data } = useAnswer(listTables, { params: { key } })
  const [open, setOpen] = useState<number | null>(null)
  return (
    <section>
      <h2>Data tables</h2>
      {project.role !== 'viewer' && <NewTable onMade={setOpen} />}
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
              {counted(table.rows, 'row')}
              {table.held > 0 && `, ${table.held} checked out`}
              {table.cases > 0 && `, ${counted(table.cases, 'case')}`}
            </span>
          </li>
        ))}
      </ul>
      <Templates />
      {open !== null && <TableDialog id={open} onClose={() => setOpen(null)} />}
    </section>
  )
}

function NewTable({ onMade }: { onMade: (id: number) => void }) {
  const { key } = useHere()
  const making = useWrite(createTable)
  const make = async (name: string) => {
    const done = await making.attempt({ params: { key }, body: { name } })
    if (done) onMade(done.id)
    return done !== null
  }
  return <AddLine label="A new data table" example="A new data table, such as “Test cards”" action="Add" onAdd={make} />
}

function Templates() {
  const { key, project } = useHere()
  const { data } = useAnswer(listTemplates, { params: { key } })
  const removing = useWrite(deleteTemplate)
  const remove = async ({ id, name }: { id: number; name: string }) => {
    const params = { key, id }
    if (await removing.attempt({ params }))
      notify(`The template ${name} is taken away.`, {
        undo: () => void removing.attempt({ params, query: { undo: 'yes' } }),
      })
  }
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
              <Button look="word" onClick={() => void remove(each)}>
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
