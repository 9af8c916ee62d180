import { useEffect, useRef, useState } from 'react'
import type { OutputOf } from '#core/lib/contract.ts'
import { deleteView, listViews, saveView } from '#core/finding/contract.ts'
import { type FieldDefinition, type Filter, filterWords, parseFilter } from '#core/lib/filter.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { go, useParams } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { type Column, type ColumnState, columnsText } from './columns.ts'
import { FilterBuilder } from './FilterBuilder.tsx'
import css from './List.module.css'

interface Props<T> {
  readonly name: string
  readonly fields: readonly FieldDefinition[]
  readonly choices: Readonly<Record<string, readonly string[]>>
  readonly columns: readonly Column<T>[]
  readonly state: ColumnState
  readonly shown: number
  readonly all: number
  /** Called with what is typed before anything is drawn, so that the asking need not wait for the drawing. */
  readonly onType: (text: string) => void
}

/** Typing filters; the rest of the line says how the list is filtered, grouped and kept, as words to click. */
export function ListTools<T>({ name, fields, choices, columns, state, shown, all, onType }: Props<T>) {
  const params = useParams('filter', 'group')
  const parsed = parseFilter(params.get('filter') ?? undefined, fields)
  const filter: Filter | null = 'filter' in parsed ? parsed.filter : null
  const groupable = fields.filter(({ kind }) => kind === 'choice')
  return (
    <div className={css['tools']} data-print="no">
      <TypeFilter onType={onType} />
      <Pop label={filter === null ? 'filter' : filterWords(filter, fields)} title="Filter">
        <FilterBuilder
          fields={fields}
          choices={choices}
          filter={filter}
          noun={name}
          shown={shown}
          all={all}
          onChange={(to) => go({ params: { filter: to === null ? null : JSON.stringify(to) } }, true)}
        />
      </Pop>
      {groupable.length > 0 && (
        <span>
          grouped by{' '}
          <Choice
            label="Group by"
            value={params.get('group') ?? ''}
            options={[
              { value: '', label: 'nothing' },
              ...groupable.map((field) => ({ value: field.name, label: field.label.toLowerCase() })),
            ]}
            onChoose={(value) => go({ params: { group: value || null } })}
          />
        </span>
      )}
      <Pop label="columns" title="Columns">
        <ColumnPicker columns={columns} state={state} />
      </Pop>
      <Pop label="views" title="Saved views">
        <Views list={name} />
      </Pop>
      {shown !== all && (
        <Button look="word" onClick={() => go({ params: { filter: null, text: null } })}>
          <span className="quiet">
            {shown} of {all};
          </span>{' '}
          show all
        </Button>
      )}
    </div>
  )
}

function TypeFilter({ onType }: { onType: (text: string) => void }) {
  const params = useParams('text')
  const inAddress = params.get('text') ?? ''
  const [text, setText] = useState(inAddress)
  // The address follows the typing; only when somebody else changes it does the typing follow the address.
  const sent = useRef(inAddress)
  useEffect(() => {
    if (inAddress === sent.current) return
    sent.current = inAddress
    setText(inAddress)
  }, [inAddress])
  useEffect(() => {
    // Asked at once: a question that the next key makes stale is broken off.
    if (text === sent.current) return
    sent.current = text
    go({ params: { text: text || null } }, true)
  }, [text])
  return (
    <input
      id="list-filter"
      className={css['filter']}
      type="search"
      aria-label="Filter by words"
      placeholder="Filter by words"
      value={text}
      onChange={({ target }) => {
        onType(target.value)
        setText(target.value)
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape' || event.key === 'Enter') {
          event.stopPropagation()
          document.querySelector<HTMLElement>('[role=grid]')?.focus()
        }
      }}
    />
  )
}

function ColumnPicker<T>({ columns, state }: { columns: readonly Column<T>[]; state: ColumnState }) {
  const put = (shown: readonly string[]) => go({ params: { cols: columnsText({ ...state, shown }) } }, true)
  const move = (name: string, by: number) => {
    const at = state.shown.indexOf(name)
    const without = state.shown.filter((each) => each !== name)
    put([...without.slice(0, Math.max(0, at + by)), name, ...without.slice(Math.max(0, at + by))])
  }
  const ordered = [
    ...state.shown.flatMap((name) => columns.filter((column) => column.name === name)),
    ...columns.filter(({ name }) => !state.shown.includes(name)),
  ]
  return (
    <ul className={css['picker']}>
      {ordered.map(({ name, label }) => {
        const on = state.shown.includes(name)
        return (
          <li key={name}>
            <label>
              <input
                type="checkbox"
                checked={on}
                disabled={on && state.shown.length === 1}
                onChange={() => put(on ? state.shown.filter((each) => each !== name) : [...state.shown, name])}
              />{' '}
              {label}
            </label>
            {on && (
              <span>
                <button type="button" aria-label={`${label} one to the left`} onClick={() => move(name, -1)}>
                  ←
                </button>{' '}
                <button type="button" aria-label={`${label} one to the right`} onClick={() => move(name, 1)}>
                  →
                </button>
              </span>
            )}
          </li>
        )
      })}
    </ul>
  )
}

const viewParts = ['text', 'filter', 'sort', 'group', 'cols'] as const

type View = OutputOf<typeof listViews>['rows'][number]

/** Shows the list as a view says; what it does not say is taken out of the address. */
const showView = (query: string): void => {
  const wanted = new URLSearchParams(query)
  go({ params: Object.fromEntries(viewParts.map((part) => [part, wanted.get(part)])) })
}

function Views({ list }: { list: string }) {
  const { key } = useHere()
  const { data } = useAnswer(listViews, { params: { key }, query: { list } })
  return (
    <div className={css['views']}>
      <Button look="word" onClick={() => showView('')}>
        As it comes
      </Button>
      {data?.rows.map((view) => (
        <ViewLine key={view.id} of={view} />
      ))}
      <KeepView list={list} />
    </div>
  )
}

function ViewLine({ of: { id, name, query, shared, mine } }: { of: View }) {
  const { key } = useHere()
  const { attempt } = useWrite(deleteView)
  return (
    <div>
      <Button look="word" onClick={() => showView(query)}>
        {name}
      </Button>{' '}
      <span className="quiet">{shared ? 'shared' : 'own'}</span>{' '}
      {mine && (
        <button type="button" aria-label={`Delete view ${name}`} onClick={() => void attempt({ params: { key, id } })}>
          ×
        </button>
      )}
    </div>
  )
}

function KeepView({ list }: { list: string }) {
  const { key } = useHere()
  const params = useParams(...viewParts)
  const { attempt } = useWrite(saveView)
  const [name, setName] = useState('')
  const [shared, setShared] = useState(false)
  const keep = async () => {
    const query = new URLSearchParams(
      viewParts.flatMap((part): [string, string][] => (params.get(part) ? [[part, params.get(part) ?? '']] : [])),
    ).toString()
    if (!(await attempt({ params: { key }, body: { list, name, shared, query } }))) return
    notify(`View “${name}” is kept.`)
    setName('')
  }
  return (
    <Form
      onSend={() => {
        if (name.trim() !== '') void keep()
      }}
    >
      <input
        aria-label="Name of the view"
        placeholder="Keep this view as…"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <label>
        <input type="checkbox" checked={shared} onChange={(event) => setShared(event.target.checked)} /> shared
      </label>
      <Button type="submit" disabled={name.trim() === ''}>
        Keep
      </Button>
    </Form>
  )
}
