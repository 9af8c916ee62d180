import { splitCells } from '#core/cases/steps.ts'
import { Button } from '#ui/kit/Button.tsx'
import css from './Steps.module.css'
import type { Draft } from './useWorkingCopy.ts'

/** Data rows: a column per `{name}` the steps use; values pasted from a spreadsheet fill from where they land. */
export function Rows({ draft, onChange }: { draft: Draft; onChange: (draft: Draft) => void }) {
  if (draft.parameters.length === 0) return null
  if (draft.table)
    return (
      <p className="quiet">
        Values for {draft.parameters.map((name) => `{${name}}`).join(', ')} come from{' '}
        {draft.table.mode === 'one' ? 'a free row' : 'each row'} of the data table {draft.table.name}.
      </p>
    )
  const set = (at: number, name: string, value: string) =>
    onChange({ ...draft, rows: draft.rows.map((row, index) => (index === at ? { ...row, [name]: value } : row)) })
  const paste = (text: string, at: number, column: number) => {
    const cells = splitCells(text)
    const count = Math.max(draft.rows.length, at + cells.length)
    onChange({
      ...draft,
      rows: Array.from({ length: count }, (_, index) => {
        const given = index < at ? [] : (cells[index - at] ?? [])
        return {
          ...draft.rows[index],
          ...Object.fromEntries(
            given.flatMap((value, offset) => {
              const name = draft.parameters[column + offset]
              return name ? [[name, value.trim()]] : []
            }),
          ),
        }
      }),
    })
  }
  return (
    <>
      <h3>Data rows</h3>
      {draft.rows.length > 0 && (
        <table className={css['rows']}>
          <thead>
            <tr>
              <th>
                <span className="hidden">Row</span>
              </th>
              {draft.parameters.map((name) => (
                <th key={name}>{name}</th>
              ))}
              <th>
                <span className="hidden">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {draft.rows.map((row, at) => (
              <tr key={at}>
                <td className="quiet">{at + 1}</td>
                {draft.parameters.map((name, column) => (
                  <td key={name}>
                    <input
                      aria-label={`Row ${at + 1}, ${name}`}
                      value={row[name] ?? ''}
                      data-missing={(row[name] ?? '') === '' || undefined}
                      onChange={(event) => set(at, name, event.target.value)}
                      onKeyDown={(event) => event.stopPropagation()}
                      onPaste={(event) => {
                        const text = event.clipboardData.getData('text/plain')
                        if (/[\t\n]/.test(text.trim())) {
                          event.preventDefault()
                          paste(text.trim(), at, column)
                        }
                      }}
                    />
                  </td>
                ))}
                <td>
                  <button
                    type="button"
                    aria-label={`Remove row ${at + 1}`}
                    onClick={() => onChange({ ...draft, rows: draft.rows.filter((_, index) => index !== at) })}
                  >
                    ×
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p>
        <Button look="word" onClick={() => onChange({ ...draft, rows: [...draft.rows, {}] })}>
          Add a data row
        </Button>
      </p>
    </>
  )
}
