import type { ImportAnswer } from '#core/formats/contract.ts'
import { columnName } from '#core/formats/columns.ts'
import { layouts, type Mapping } from '#core/formats/mapping.ts'
import { Choice } from '#ui/kit/Choice.tsx'
import css from './ImportDialog.module.css'

const fieldNames: Readonly<Record<string, string>> = {
  title: 'title',
  requirement: 'requirements',
  rows: 'data rows',
  reference: 'outside reference',
}
const nameOf = (field: string): string =>
  field.startsWith('custom:') ? field.slice('custom:'.length) : (fieldNames[field] ?? field)

/** The first rows as they stand in the file, with the field each column is read as above it; every choice is read again at once. */
export function MappingGrid({
  of,
  mapping,
  onMap,
}: {
  of: ImportAnswer
  mapping: Mapping
  onMap: (mapping: Mapping) => void
}) {
  const sheet = of.sheets.find(({ name }) => mapping.sheets?.includes(name) ?? true) ?? of.sheets[0]
  if (!sheet) return null
  const columns = Math.min(40, sheet.columns)
  const setField = (column: string, field: string) => {
    const rest = Object.entries(mapping.columns).filter(([name, own]) => name !== column && own !== field)
    onMap({ ...mapping, columns: Object.fromEntries(field === '' ? rest : [...rest, [column, field]]) })
  }
  const outline = mapping.layout === 'an outline by indent'
  const lines = sheet.top.map(({ line }) => String(line))
  return (
    <section className={css['mapping']} aria-label="How the file is read">
      <p>
        Read as{' '}
        <Choice
          label="What the rows are"
          value={mapping.what}
          options={['cases', 'requirements']}
          onChoose={(what) => onMap({ ...mapping, what: what === 'cases' ? 'cases' : 'requirements', columns: {} })}
        />
        {(mapping.what === 'cases' || outline) && (
          <>
            , as{' '}
            <Choice
              label="Layout"
              value={mapping.layout}
              options={layouts}
              onChoose={(layout) =>
                onMap({ ...mapping, layout: layouts.find((each) => each === layout) ?? mapping.layout })
              }
            />
          </>
        )}
        {mapping.what === 'cases' && mapping.layout === 'a row a step' && (
          <>
            , a case beginning where the{' '}
            <Choice
              label="A case begins where this changes"
              value={mapping.begins}
              options={['title', 'id']}
              onChoose={(begins) => onMap({ ...mapping, begins: begins === 'id' ? 'id' : 'title' })}
            />{' '}
            changes
          </>
        )}
        {!outline && (
          <>
            ; headers in row{' '}
            <Choice
              label="Row of the headers"
              value={mapping.header === null ? 'none' : String(mapping.header)}
              options={['none', ...lines]}
              onChoose={(line) =>
                onMap({
                  ...mapping,
                  header: line === 'none' ? null : Number(line),
                  first: line === 'none' ? mapping.first : Math.max(Number(line) + 1, 1),
                })
              }
            />
          </>
        )}
        , data from row{' '}
        <Choice
          label="First row of data"
          value={String(mapping.first)}
          options={lines}
          onChoose={(line) => onMap({ ...mapping, first: Number(line) })}
        />
        {of.sheets.length > 1 && (
          <>
            ; sheet{' '}
            <Choice
              label="Sheet"
              value={mapping.sheets?.length === 1 ? (mapping.sheets[0] ?? '') : ''}
              options={[{ value: '', label: 'all that fit' }, ...of.sheets.map(({ name }) => name)]}
              onChoose={(name) => onMap({ ...mapping, sheets: name === '' ? null : [name] })}
            />
          </>
        )}
        .
      </p>
      <div className={css['grid']} tabIndex={0} role="region" aria-label="First rows of the file">
        <table>
          {!outline && (
            <thead>
              <tr>
                <th>
                  <span className="hidden">Row</span>
                </th>
                {Array.from({ length: columns }, (_, index) => {
                  const column = columnName(index)
                  const field = mapping.columns[column] ?? ''
                  return (
                    <th key={column} data-read={field !== '' || undefined}>
                      <span className="quiet">{column}</span>{' '}
                      <Choice
                        label={`Column ${column} is read as`}
                        value={field}
                        options={[
                          { value: '', label: 'not read' },
                          ...of.fields.map((each) => ({ value: each, label: nameOf(each) })),
                        ]}
                        onChoose={(to) => setField(column, to)}
                      />
                    </th>
                  )
                })}
              </tr>
            </thead>
          )}
          <tbody>
            {sheet.top.slice(0, 6).map(({ line, cells }) => (
              <tr
                key={line}
                data-header={line === mapping.header || undefined}
                data-passed={line < mapping.first && line !== mapping.header ? true : undefined}
              >
                <th scope="row">{line}</th>
                {Array.from({ length: columns }, (_, index) => (
                  <td key={index} data-read={outline || mapping.columns[columnName(index)] !== undefined || undefined}>
                    {cells[index] ?? ''}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}
