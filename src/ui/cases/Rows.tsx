import { Button } from '#ui/kit/Button.tsx'
import type { Draft } from './draft.ts'
import { isTable, withCells, withValue } from './row-edits.ts'
import css from './Steps.module.css'

interface Props {
  readonly draft: Draft
  readonly onChange: (draft: Draft) => void
}

/** Data rows: a column per `{name}` the steps use; values pasted from a spreadsheet fill from where they land. */
export function Rows({ draft, onChange }: Props) {
  const { parameters, rows, table } = draft
  if (parameters.length === 0) return null
  if (table)
    return (
      <p className="quiet">
        Values for {parameters.map((name) => `{${name}}`).join(', ')} come from{' '}
        {table.mode === 'one' ? 'a free row' : 'each row'} of the data table {table.name}.
      </p>
    )
  return (
    <>
      <h3>Data rows</h3>
      {rows.length > 0 && (
        <table className={css['rows']}>
          <thead>
            <tr>
              <th>
                <span className="hidden">Row</span>
              </th>
              {parameters.map((name) => (
                <th key={name}>{name}</th>
              ))}
              <th>
                <span className="hidden">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((_, at) => (
              <Row key={at} draft={draft} onChange={onChange} at={at} />
            ))}
          </tbody>
        </table>
      )}
      <p>
        <Button look="word" onClick={() => onChange({ ...draft, rows: [...rows, {}] })}>
          Add a data row
        </Button>
      </p>
    </>
  )
}

function Row({ draft, onChange, at }: Props & { at: number }) {
  const { parameters, rows } = draft
  const put = (next: Draft['rows']) => onChange({ ...draft, rows: next })
  return (
    <tr>
      <td className="quiet">{at + 1}</td>
      {parameters.map((name, column) => (
        <td key={name}>
          <input
            aria-label={`Row ${at + 1}, ${name}`}
            value={rows[at]?.[name] ?? ''}
            data-missing={(rows[at]?.[name] ?? '') === '' || undefined}
            onChange={(event) => put(withValue(rows, at, name, event.target.value))}
            onKeyDown={(event) => event.stopPropagation()}
            onPaste={(event) => {
              const text = event.clipboardData.getData('text/plain')
              if (!isTable(text)) return
              event.preventDefault()
              put(withCells(draft, text.trim(), at, column))
            }}
          />
        </td>
      ))}
      <td>
        <button type="button" aria-label={`Remove row ${at + 1}`} onClick={() => put(rows.toSpliced(at, 1))}>
          ×
        </button>
      </td>
    </tr>
  )
}
