import type { ImportAnswer } from '#core/formats/contract.ts'
import { columnName } from '#core/formats/columns.ts'
import { encodings } from '#core/formats/encodings.ts'
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

interface Props {
  readonly of: ImportAnswer
  readonly mapping: Mapping
  readonly onMap: (mapping: Mapping) => void
}
type Sheet = ImportAnswer['sheets'][number]

/** So many columns and rows of a file are shown. */
const mostColumns = 40
const mostRows = 6
const isOutline = ({ layout }: Mapping): boolean => layout === 'an outline by indent'

/** The first rows as they stand in the file, with the field each column is read as above it; every choice is read again at once. */
export function MappingGrid({ of, mapping, onMap }: Props) {
  const sheet = of.sheets.find(({ name }) => mapping.sheets?.includes(name) ?? true) ?? of.sheets[0]
  if (!sheet) return null
  const set = (to: Partial<Mapping>) => onMap({ ...mapping, ...to })
  const columns = Array.from({ length: Math.min(mostColumns, sheet.columns) }, (_, index) => columnName(index))
  return (
    <section className={css['mapping']} aria-label="How the file is read">
      <p>
        <WhatIsRead mapping={mapping} set={set} />
        <WhereFrom of={of} sheet={sheet} mapping={mapping} set={set} />
        {of.format === 'csv' && <Letters mapping={mapping} set={set} />}.
      </p>
      <div className={css['grid']} tabIndex={0} role="region" aria-label="First rows of the file">
        <table>
          {!isOutline(mapping) && <FieldHeads of={of} columns={columns} mapping={mapping} set={set} />}
          <tbody>
            {sheet.top.slice(0, mostRows).map((row) => (
              <TopRow key={row.line} of={row} columns={columns} mapping={mapping} />
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}

interface PartProps {
  readonly mapping: Mapping
  readonly set: (to: Partial<Mapping>) => void
}

/** What a row is, and where one case ends and the next begins. */
function WhatIsRead({ mapping, set }: PartProps) {
  const { what, layout, begins } = mapping
  return (
    <>
      Read as{' '}
      <Choice
        label="What the rows are"
        value={what}
        options={['cases', 'requirements'] as const}
        onChoose={(to) => set({ what: to, columns: {} })}
      />
      {(what === 'cases' || isOutline(mapping)) && (
        <>
          , as <Choice label="Layout" value={layout} options={layouts} onChoose={(to) => set({ layout: to })} />
        </>
      )}
      {what === 'cases' && layout === 'a row a step' && (
        <>
          , a case beginning where the{' '}
          <Choice
            label="A case begins where this changes"
            value={begins}
            options={['title', 'id'] as const}
            onChoose={(to) => set({ begins: to })}
          />{' '}
          changes
        </>
      )}
    </>
  )
}

/** What the bytes of a text file are read as. */
const Letters = ({ mapping, set }: PartProps) => (
  <>
    , its letters as{' '}
    <Choice
      label="Encoding"
      value={mapping.encoding ?? ''}
      options={[{ value: '', label: 'they suggest' }, ...encodings]}
      onChoose={(to) => set({ encoding: encodings.find((each) => each === to) ?? null })}
    />
  </>
)

/** The rows that are read, and the sheets they are in. */
function WhereFrom({ of, sheet, mapping, set }: PartProps & { of: ImportAnswer; sheet: Sheet }) {
  const lines = sheet.top.map(({ line }) => String(line))
  const setHeader = (line: string) =>
    set(line === 'none' ? { header: null } : { header: Number(line), first: Number(line) + 1 })
  return (
    <>
      {!isOutline(mapping) && (
        <>
          ; headers in row{' '}
          <Choice
            label="Row of the headers"
            value={mapping.header === null ? 'none' : String(mapping.header)}
            options={['none', ...lines]}
            onChoose={setHeader}
          />
        </>
      )}
      , data from row{' '}
      <Choice
        label="First row of data"
        value={String(mapping.first)}
        options={lines}
        onChoose={(line) => set({ first: Number(line) })}
      />
      {of.sheets.length > 1 && (
        <>
          ; sheet{' '}
          <Choice
            label="Sheet"
            value={mapping.sheets?.length === 1 ? (mapping.sheets[0] ?? '') : ''}
            options={[{ value: '', label: 'all that fit' }, ...of.sheets.map(({ name }) => name)]}
            onChoose={(name) => set({ sheets: name === '' ? null : [name] })}
          />
        </>
      )}
    </>
  )
}

/** A field is read from one column only: the last it was chosen for. */
function FieldHeads({ of, columns, mapping, set }: PartProps & { of: ImportAnswer; columns: readonly string[] }) {
  const setField = (column: string, field: string) => {
    const rest = Object.entries(mapping.columns).filter(([name, own]) => name !== column && own !== field)
    set({ columns: Object.fromEntries(field === '' ? rest : [...rest, [column, field]]) })
  }
  const options = [{ value: '', label: 'not read' }, ...of.fields.map((each) => ({ value: each, label: nameOf(each) }))]
  return (
    <thead>
      <tr>
        <th>
          <span className="hidden">Row</span>
        </th>
        {columns.map((column) => {
          const field = mapping.columns[column] ?? ''
          return (
            <th key={column} data-read={field !== '' || undefined}>
              <span className="quiet">{column}</span>{' '}
              <Choice
                label={`Column ${column} is read as`}
                value={field}
                options={options}
                onChoose={(to) => setField(column, to)}
              />
            </th>
          )
        })}
      </tr>
    </thead>
  )
}

function TopRow({
  of: { line, cells },
  columns,
  mapping,
}: {
  of: Sheet['top'][number]
  columns: readonly string[]
  mapping: Mapping
}) {
  const header = line === mapping.header
  const isRead = (column: string) => isOutline(mapping) || mapping.columns[column] !== undefined
  return (
    <tr data-header={header || undefined} data-passed={(line < mapping.first && !header) || undefined}>
      <th scope="row">{line}</th>
      {columns.map((column, index) => (
        <td key={column} data-read={isRead(column) || undefined}>
          {cells[index] ?? ''}
        </td>
      ))}
    </tr>
  )
}
