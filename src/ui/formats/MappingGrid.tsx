import { useState } from 'react'
import type { ImportAnswer } from '#core/formats/contract.ts'
import { columnName } from '#core/formats/column-names.ts'
import { encodings } from '#core/formats/encodings.ts'
import { changeSheet, layouts, type Mapping, mappingOf, type SheetMapping } from '#core/formats/mapping.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import css from './ImportDialog.module.css'

const fieldNames: Readonly<Record<string, string>> = {
  number: 'step number',
  title: 'title',
  requirement: 'requirements',
  rows: 'data rows',
  reference: 'outside reference',
}
export const nameOf = (field: string): string =>
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
const isOutline = ({ layout }: SheetMapping): boolean => layout === 'an outline by indent'

/** The first rows as they stand in the file, with the field each column is read as above it; every choice is read again at once. */
export function MappingGrid({ of, mapping, onMap }: Props) {
  const isRead = (name: string) => mapping.sheets?.includes(name) ?? true
  const [chosen, setChosen] = useState<string | null>(null)
  const sheet =
    of.sheets.find(({ name }) => name === chosen) ?? of.sheets.find(({ name }) => isRead(name)) ?? of.sheets[0]
  if (!sheet) return null
  const names = of.sheets.map(({ name }) => name).filter(isRead)
  const own = mappingOf(mapping, sheet.name)
  const set = (to: Partial<SheetMapping>) => onMap(changeSheet(mapping, names, sheet.name, to))
  const columns = Array.from({ length: Math.min(mostColumns, sheet.columns) }, (_, index) => columnName(index))
  return (
    <section className={css['mapping']} aria-label="How the file is read">
      <p>
        <What mapping={mapping} onMap={onMap} />
        <Layout what={mapping.what} mapping={own} set={set} />
        <WhereFrom sheet={sheet} mapping={own} set={set} />
        {of.format === 'csv' && <Letters mapping={mapping} onMap={onMap} />}.
      </p>
      {of.sheets.length > 1 && <Sheets of={of} shown={sheet.name} mapping={mapping} onShow={setChosen} onMap={onMap} />}
      <div className={css['grid']} tabIndex={0} role="region" aria-label="First rows of the file">
        <table>
          {!isOutline(own) && <FieldHeads of={of} columns={columns} mapping={own} set={set} />}
          <tbody>
            {sheet.top.slice(0, mostRows).map((row) => (
              <TopRow key={row.line} of={row} columns={columns} mapping={own} />
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}

/** The sheets of a workbook: which one is shown, and which are read. */
function Sheets({ of, shown, mapping, onShow, onMap }: Props & { shown: string; onShow: (name: string) => void }) {
  const all = of.sheets.map(({ name }) => name)
  const read = mapping.sheets ?? all
  const isRead = read.includes(shown)
  const toggle = () => {
    const to = isRead
      ? read.filter((name) => name !== shown)
      : all.filter((name) => name === shown || read.includes(name))
    onMap({ ...mapping, sheets: to })
  }
  return (
    <p>
      Sheet{' '}
      <Choice
        label="Sheet"
        value={shown}
        options={all.map((name) => ({ value: name, label: read.includes(name) ? name : `${name} (not read)` }))}
        onChoose={onShow}
      />
      , {read.length} of {all.length} sheets read;{' '}
      <Button look="word" onClick={toggle} disabled={isRead && read.length === 1}>
        {isRead ? 'leave it out' : 'read it too'}
      </Button>
    </p>
  )
}

interface PartProps {
  readonly mapping: SheetMapping
  readonly set: (to: Partial<SheetMapping>) => void
}
type WholeProps = Pick<Props, 'mapping' | 'onMap'>

/** What the rows become; other fields are read of requirements than of cases, so that the columns are chosen anew. */
const What = ({ mapping, onMap }: WholeProps) => (
  <>
    Read as{' '}
    <Choice
      label="What the rows are"
      value={mapping.what}
      options={['cases', 'requirements'] as const}
      onChoose={(what) => onMap({ ...mapping, what, columns: {}, own: {} })}
    />
  </>
)

/** What a row is, and where one case ends and the next begins. */
const Layout = ({ what, mapping: { layout, begins }, set }: PartProps & { what: Mapping['what'] }) => (
  <>
    {(what === 'cases' || layout === 'an outline by indent') && (
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

/** What the bytes of a text file are read as. */
const Letters = ({ mapping, onMap }: WholeProps) => (
  <>
    , its letters as{' '}
    <Choice
      label="Encoding"
      value={mapping.encoding ?? ''}
      options={[{ value: '', label: 'they suggest' }, ...encodings]}
      onChoose={(to) => onMap({ ...mapping, encoding: encodings.find((each) => each === to) ?? null })}
    />
  </>
)

/** The rows that are read. */
function WhereFrom({ sheet, mapping, set }: PartProps & { sheet: Sheet }) {
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
  mapping: SheetMapping
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
