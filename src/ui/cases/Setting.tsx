import { typedKey } from '#core/lib/key.ts'
import { useState } from 'react'
import type { CaseSheet } from '#core/cases/contract.ts'
import { listTables } from '#core/reuse/table-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import type { Draft } from './draft.ts'
import css from './Steps.module.css'

interface Props {
  readonly draft: Draft
  readonly onChange: (draft: Draft) => void
}

/** What a case needs around it, as a sentence: what ran before, where, and whose rows. */
export const Setting = ({ draft, titles, onChange }: Props & { titles: CaseSheet['needs'] }) => (
  <p className={css['setting']}>
    Runs <Needs draft={draft} titles={titles} onChange={onChange} />; in{' '}
    <Environment draft={draft} onChange={onChange} />; rows <RowsFrom draft={draft} onChange={onChange} />.
  </p>
)

/** The keys of cases in what was typed. */
const casesIn = (text: string): string[] => text.split(/[\s,;]+/).flatMap((part) => typedKey('case', part) ?? [])

function Needs({ draft, titles, onChange }: Props & { titles: CaseSheet['needs'] }) {
  const { key } = useHere()
  const needs = draft.needs ?? []
  const add = (text: string) => {
    const keys = casesIn(text)
    if (keys.length > 0) onChange({ ...draft, needs: [...new Set([...needs, ...keys])] })
  }
  return (
    <>
      {needs.length > 0 && 'after '}
      {needs.map((each) => (
        <span key={each} className={css['need']}>
          <a href={`/p/${key}/${each}`} className="key" title={titles.find((own) => own.key === each)?.title}>
            {each}
          </a>
          <button
            type="button"
            aria-label={`${each} need not run before`}
            onClick={() => onChange({ ...draft, needs: needs.filter((own) => own !== each) })}
          >
            ×
          </button>{' '}
        </span>
      ))}
      {needs.length > 0 && 'and '}
      <EditText
        label="A case that must run before"
        value=""
        placeholder={needs.length === 0 ? 'by itself' : 'after no other'}
        onStore={add}
      />
    </>
  )
}

function Environment({ draft, onChange }: Props) {
  const { project } = useHere()
  const named = project.environments.filter(({ isAny }) => !isAny).map(({ name }) => name)
  return (
    <Choice
      label="Environment it needs"
      value={draft.environment ?? ''}
      options={[{ value: '', label: 'any environment' }, ...named]}
      onChoose={(environment) => onChange({ ...draft, environment })}
    />
  )
}

/** Rows of its own, or of a data table: each of them, or one that nobody has. */
function RowsFrom({ draft, onChange }: Props) {
  const { key } = useHere()
  const [choosing, setChoosing] = useState(false)
  const { data } = useAnswer(listTables, { params: { key } }, { enabled: choosing || draft.table !== undefined })
  const { table, ...rest } = draft
  if (!choosing && !table)
    return (
      <Button look="word" onClick={() => setChoosing(true)}>
        of its own
      </Button>
    )
  const tables = data?.rows ?? (table ? [table] : [])
  const take = (value: string) => {
    const chosen = data?.rows.find(({ id }) => String(id) === value)
    onChange(chosen ? { ...rest, table: { id: chosen.id, name: chosen.name, mode: table?.mode ?? 'each' } } : rest)
  }
  return (
    <>
      <Choice
        label="Where the data rows come from"
        value={String(table?.id ?? '')}
        options={[
          { value: '', label: 'of its own' },
          ...tables.map(({ id, name }) => ({ value: String(id), label: `of ${name}` })),
        ]}
        onChoose={take}
      />
      {table && (
        <>
          ,{' '}
          <Choice
            label="Which rows of the table"
            value={table.mode}
            options={[
              { value: 'each', label: 'each of them' },
              { value: 'one', label: 'one that is free' },
            ]}
            onChoose={(mode) => onChange({ ...draft, table: { ...table, mode } })}
          />
        </>
      )}
    </>
  )
}
