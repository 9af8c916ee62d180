import type { ImportAnswer } from '#core/formats/contract.ts'
import type { Mapping } from '#core/formats/mapping.ts'
import { valuesOf } from '#core/formats/fixed-values.ts'
import { counted } from '#core/lib/figures.ts'
import { Choice } from '#ui/kit/Choice.tsx'
import css from './ImportDialog.module.css'
import { nameOf } from './MappingGrid.tsx'

/** So many columns that are not read are named. */
const mostColumns = 12

/** Columns that hold something and are not read, each with its first values. */
export function NotRead({ of }: { of: ImportAnswer }) {
  if (of.unread.length === 0) return null
  const several = new Set(of.unread.map(({ sheet }) => sheet)).size > 1
  const more = of.unread.length - mostColumns
  return (
    <section className={css['notices']} aria-label="Columns that are not read">
      <p>
        <b>{counted(of.unread.length, 'column')} not read</b>; above, one can choose what it is read as:
      </p>
      <ul>
        {of.unread.slice(0, mostColumns).map(({ sheet, column, header, cells, values }) => (
          <li key={`${sheet} ${column}`}>
            <b>
              {several && `${sheet}, `}
              {column}
              {header !== '' && ` “${header}”`}
            </b>
            : {values.map((value) => `“${value}”`).join(', ')}
            {cells > values.length && ' …'}
          </li>
        ))}
        {more > 0 && <li>and {more} more</li>}
      </ul>
    </section>
  )
}

interface Props {
  readonly of: ImportAnswer
  readonly mapping: Mapping
  readonly onMap: (mapping: Mapping) => void
}

/** Words that stand for none of a field's values: each is told what it stands for, and that is kept with the mapping. */
export function Words({ of, mapping, onMap }: Props) {
  const words = mapping.words ?? {}
  const told = Object.entries(words).flatMap(([field, own]) =>
    Object.entries(own).map(([word, value]) => ({ field, word, value, rows: 0 })),
  )
  const open = of.unknown.map(({ field, word, usual, rows }) => ({ field, word, value: usual, rows }))
  if (told.length + open.length === 0) return null
  const set = (field: string, word: string, value: string) =>
    onMap({ ...mapping, words: { ...words, [field]: { ...words[field], [word]: value } } })
  return (
    <section className={css['notices']} aria-label="Words to be mapped">
      <p>
        <b>What words stand for</b>, kept with the mapping:
      </p>
      <ul>
        {[...open, ...told].map(({ field, word, value, rows }) => (
          <li key={`${field} ${word}`}>
            “{word}” as {nameOf(field)}
            {rows > 0 && <> in {counted(rows, 'row')}</>} is{' '}
            <Choice
              label={`What “${word}” stands for`}
              value={value}
              options={valuesOf(field).map((each) => ({ value: each, label: each === '' ? 'open' : each }))}
              onChoose={(to) => set(field, word, to)}
            />
          </li>
        ))}
      </ul>
    </section>
  )
}
