import { useEffect, useState } from 'react'
import {
  type Condition,
  type FieldDefinition,
  type Filter,
  filledFilter,
  operators,
  operatorsFor,
} from '#core/lib/filter.ts'
import { Button } from '#ui/kit/Button.tsx'
import css from './FilterBuilder.module.css'

interface Props {
  readonly fields: readonly FieldDefinition[]
  readonly filter: Filter | null
  readonly choices: Readonly<Record<string, readonly string[]>>
  /** Of what the list is, and how many of how many fit by now. */
  readonly noun: string
  readonly shown: number
  readonly all: number
  readonly onChange: (filter: Filter | null) => void
  /** How many fit is said elsewhere. */
  readonly bare?: boolean
}
type Group = { readonly all: readonly Filter[] } | { readonly any: readonly Filter[] }

const asGroup = (filter: Filter): Group => ('field' in filter ? { all: [filter] } : filter)
const partsOf = (group: Group): readonly Filter[] => ('all' in group ? group.all : group.any)
const withParts = (group: Group, parts: readonly Filter[]): Group => ('all' in group ? { all: parts } : { any: parts })
const same = (one: Filter | null, other: Filter | null): boolean => JSON.stringify(one) === JSON.stringify(other)

/** Conditions joined by and/or, in groups within groups; it begins with one to fill in. What is not filled in yet filters nothing. */
export function FilterBuilder({ fields, filter, choices, noun, shown, all, onChange, bare = false }: Props) {
  const begin = (): Group => (filter === null ? { all: [firstCondition(fields)] } : asGroup(filter))
  const [group, setGroup] = useState(begin)
  useEffect(() => {
    const built = filledFilter(group)
    if (!same(built && asGroup(built), filter && asGroup(filter))) setGroup(begin())
  }, [JSON.stringify(filter)])
  const change = (to: Group) => {
    setGroup(partsOf(to).length === 0 ? { all: [firstCondition(fields)] } : to)
    const built = filledFilter(to)
    if (!same(built, filter)) onChange(built)
  }
  return (
    <div className={css['builder']}>
      {!bare && (
        <p className={css['told']} role="status">
          {filter === null ? `All ${all} ${noun}` : `${shown} of ${all} ${noun}`}
          <span className="quiet">{filter === null ? '; show those for which' : ', for which'}</span>
        </p>
      )}
      <GroupEditor group={group} fields={fields} choices={choices} onChange={change} depth={0} />
      {filter !== null && (
        <Button look="word" onClick={() => onChange(null)}>
          Take the filter away
        </Button>
      )}
    </div>
  )
}

/** The first thing that can be asked of a field. */
const begun = (fields: readonly FieldDefinition[], name: string): Condition => ({
  field: name,
  op: operatorsFor(fields.find((each) => each.name === name)?.kind ?? 'text')[0] ?? 'is',
  values: [],
})

/** What one asks for most: one of few values, where there is such a field. */
function firstCondition(fields: readonly FieldDefinition[]): Condition {
  const usual = fields.find(({ kind }) => kind === 'choice') ?? fields.find(({ name }) => name !== 'id')
  return begun(fields, usual?.name ?? '')
}

interface EditorProps {
  readonly group: Group
  readonly fields: readonly FieldDefinition[]
  readonly choices: Props['choices']
  readonly onChange: (to: Group) => void
  readonly depth: number
}

function GroupEditor({ group, fields, choices, onChange, depth }: EditorProps) {
  const parts = partsOf(group)
  const put = (index: number, to: Filter | null) =>
    onChange(
      withParts(
        group,
        to === null ? parts.filter((_, at) => at !== index) : parts.map((part, at) => (at === index ? to : part)),
      ),
    )
  const fresh = firstCondition(fields)
  return (
    <fieldset className={css['group']} data-depth={depth}>
      <legend>
        <select
          aria-label="How conditions are joined"
          value={'all' in group ? 'all' : 'any'}
          onChange={(event) => onChange(event.target.value === 'all' ? { all: parts } : { any: parts })}
        >
          <option value="all">all of this holds</option>
          <option value="any">any of this holds</option>
        </select>
      </legend>
      {parts.map((part, index) =>
        'field' in part ? (
          <ConditionEditor
            key={index}
            condition={part}
            fields={fields}
            choices={choices}
            onChange={(to) => put(index, to)}
          />
        ) : (
          <GroupEditor
            key={index}
            group={part}
            fields={fields}
            choices={choices}
            depth={depth + 1}
            onChange={(to) => put(index, partsOf(to).length === 0 ? null : to)}
          />
        ),
      )}
      <div className={css['add']}>
        <Button look="word" onClick={() => onChange(withParts(group, [...parts, fresh]))}>
          Add a condition
        </Button>
        {depth < 3 && (
          <Button
            look="word"
            onClick={() => onChange(withParts(group, [...parts, 'all' in group ? { any: [fresh] } : { all: [fresh] }]))}
          >
            Add a group
          </Button>
        )}
      </div>
    </fieldset>
  )
}

interface ConditionProps {
  readonly condition: Condition
  readonly fields: readonly FieldDefinition[]
  readonly choices: Props['choices']
  readonly onChange: (to: Condition | null) => void
}

function ConditionEditor(props: ConditionProps) {
  const { condition, fields, onChange } = props
  const field = fields.find(({ name }) => name === condition.field)
  return (
    <div className={css['condition']}>
      <select
        aria-label="Field"
        value={condition.field}
        onChange={({ target }) => onChange(begun(fields, target.value))}
      >
        {fields
          .filter(({ name }) => name !== 'id')
          .map(({ name, label }) => (
            <option key={name} value={name}>
              {label}
            </option>
          ))}
        {condition.field === 'id' && <option value="id">Chosen rows</option>}
      </select>
      <select
        aria-label="How it is compared"
        value={condition.op}
        onChange={({ target }) => onChange({ ...condition, op: operators.find((op) => op === target.value) ?? 'is' })}
      >
        {operatorsFor(field?.kind ?? 'text').map((op) => (
          <option key={op}>{op}</option>
        ))}
      </select>
      <ValueEditor {...props} field={field} />
      <button type="button" aria-label="Take this condition away" onClick={() => onChange(null)}>
        ×
      </button>
    </div>
  )
}

/** Numbers with commas between them; `null` where there is none, or anything else. */
function numbersIn(text: string): number[] | null {
  const numbers = text
    .split(',')
    .filter((part) => part.trim() !== '')
    .map(Number)
  return numbers.length === 0 || numbers.some(Number.isNaN) ? null : numbers
}

function ValueEditor({ condition, choices, onChange, field }: ConditionProps & { field: FieldDefinition | undefined }) {
  const known = field?.choices ?? choices[condition.field]
  const set = (values: Condition['values']) => onChange({ ...condition, values })
  if (condition.op === 'is empty' || condition.op === 'is not empty') return <span />
  if (known)
    return (
      <select
        aria-label="Value"
        value={String(condition.values[0] ?? '')}
        onChange={(event) => set([event.target.value])}
      >
        <option value="">choose…</option>
        {known.map((value) => (
          <option key={value}>{value}</option>
        ))}
      </select>
    )
  if (field?.kind === 'number') return <Numbers key={condition.field} values={condition.values} onSet={set} />
  return <input aria-label="Value" value={condition.values.join(', ')} onChange={({ target }) => set([target.value])} />
}

/** Numbers as they are typed: what is none yet is marked and asks for nothing. */
function Numbers({ values, onSet }: { values: Condition['values']; onSet: (values: number[]) => void }) {
  const [text, setText] = useState(values.join(', '))
  const numbers = numbersIn(text)
  return (
    <input
      aria-label="Value"
      value={text}
      inputMode="numeric"
      aria-invalid={text.trim() !== '' && numbers === null}
      title={text.trim() !== '' && numbers === null ? 'Numbers with commas between them' : undefined}
      onChange={({ target }) => {
        setText(target.value)
        onSet(numbersIn(target.value) ?? [])
      }}
    />
  )
}
