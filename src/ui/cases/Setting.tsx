import { typedKey } from '#core/lib/key.ts'
import { useState } from 'react'
import type { CaseSheet } from '#core/cases/contract.ts'
import { listTables } from '#core/reuse/table-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import type { Draft } from './useWorkingCopy.ts'
import css from './Steps.module.css'

/** What a case needs around it, as a sentence: what ran before, where, and whose rows. */
export function Setting({
  draft,
  titles,
  onChange,
}: {
  draft: Draft
  titles: CaseSheet['needs']
  onChange: (draft: Draft) => void
}) {
  const { key, project } = useHere()
  const [choosing, setChoosing] = useState(false)
  const { data } = useAnswer(listTables, { params: { key } }, { enabled: choosing || draft.table !== undefined })
  const needs = draft.needs ?? []
  const add = (text: string) => {
    const keys = text
      .split(/[\s,;]+/)
      .filter((part) => part !== '')
      .flatMap((part) => typedKey('case', part) ?? [])
    if (keys.length > 0) onChange({ ...draft, needs: [...new Set([...needs, ...keys])] })
  }
  const withTable = (value: string): Draft => {
    const { table: _, ...rest } = draft
    const table = data?.rows.find(({ id }) => String(id) === value)
    return table ? { ...rest, table: { id: table.id, name: table.name, mode: draft.table?.mode ?? 'each' } } : rest
  }
  return (
    <p className={css['setting']}>
      Runs {needs.length > 0 && 'after '}
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
      ; in{' '}
      <Choice
        label="Environment it needs"
        value={draft.environment ?? ''}
        options={[
          { value: '', label: 'any environment' },
          ...project.environments.filter(({ isAny }) => !isAny).map(({ name }) => name),
        ]}
        onChoose={(environment) => onChange({ ...draft, environment })}
      />
      ; rows{' '}
      {choosing || draft.table ? (
        <>
          <Choice
            label="Where the data rows come from"
            value={String(draft.table?.id ?? '')}
            options={[
              { value: '', label: 'of its own' },
              ...(data?.rows ?? (draft.table ? [draft.table] : [])).map(({ id, name }) => ({
                value: String(id),
                label: `of ${name}`,
              })),
            ]}
            onChoose={(value) => onChange(withTable(value))}
          />
          {draft.table && (
            <>
              ,{' '}
              <Choice
                label="Which rows of the table"
                value={draft.table.mode}
                options={[
                  { value: 'each', label: 'each of them' },
                  { value: 'one', label: 'one that is free' },
                ]}
                onChoose={(mode) => {
                  if (draft.table)
                    onChange({ ...draft, table: { ...draft.table, mode: mode === 'one' ? 'one' : 'each' } })
                }}
              />
            </>
          )}
        </>
      ) : (
        <Button look="word" onClick={() => setChoosing(true)}>
          of its own
        </Button>
      )}
      .
    </p>
  )
}
