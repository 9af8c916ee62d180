import { type Condition, type FieldDefinition, type Filter, operators, operatorsFor } from '#core/finding/filter.ts'
import { Button } from '#ui/kit/Button.tsx'
import css from './FilterBuilder.module.css'

interface Props {
  readonly fields: readonly FieldDefinition[]
  readonly filter: Filter | null
  readonly choices: Readonly<Record<string, readonly string[]>>
  readonly onChange: (filter: Filter | null) => void
}
type Group = { readonly all: readonly Filter[] } | { readonly any: readonly Filter[] }

const asGroup = (filter: Filter | null): Group =>
  filter === null ? { all: [] } : 'field' in filter ? { all: [filter] } : filter
const partsOf = (group: Group): readonly Filter[] => ('all' in group ? group.all : group.any)
const withParts = (group: Group, parts: readonly Filter[]): Group => ('all' in group ? { all: parts } : { any: parts })

/** Conditions joined by and/or, in groups within groups. */
export function FilterBuilder({ fields, filter, choices, onChange }: Props) {
  const group = asGroup(filter)
  const change = (to: Group) => onChange(partsOf(to).length === 0 ? null : to)
  return (
    <div className={css['builder']}>
      <GroupEditor group={group} fields={fields} choices={choices} onChange={change} depth={0} />
      {filter !== null && (
        <Button look="word" onClick={() => onChange(null)}>
          Take the filter away
        </Button>
      )}
    </div>
  )
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
  const usual = fields.find(({ name }) => name !== 'id') ?? fields[0]
  const fresh: Condition = { field: usual?.name ?? '', op: operatorsFor(usual?.kind ?? 'text')[0] ?? 'is', values: [] }
  return (
    <fieldset className={css['group']} data-depth={depth}>
      <legend>
        <select
          aria-label="How conditions are joined"
          value={'all' in group ? 'all' : 'any'}
          onChange={(event) => onChange(event.target.value === 'all' ? { all: parts } : { any: parts })}
        >
          <option value="all">all of these hold</option>
          <option value="any">any of these holds</option>
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

/** The first thing that can be asked of a field. */
const begun = (fields: readonly FieldDefinition[], name: string): Condition => ({
  field: name,
  op: operatorsFor(fields.find((each) => each.name === name)?.kind ?? 'text')[0] ?? 'is',
  values: [],
})

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

/** Numbers with commas between; what is none is left out. */
const numbersIn = (text: string): number[] =>
  text.split(',').flatMap((part) => (part.trim() === '' || Number.isNaN(Number(part)) ? [] : [Number(part)]))

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
  const isNumber = field?.kind === 'number'
  return (
    <input
      aria-label="Value"
      value={condition.values.join(', ')}
      inputMode={isNumber ? 'numeric' : 'text'}
      onChange={({ target }) => set(isNumber ? numbersIn(target.value) : [target.value])}
    />
  )
}
