import { useState } from 'react'
import { conditionOn, type FieldDefinition, filterIn, withCondition } from '#core/lib/filter.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { go, useParams } from '#ui/shell/address.ts'
import css from './List.module.css'

/** A column of more values than that is filtered by typing. */
const mostValues = 60

/** Whether a column can be filtered where it stands. */
export const hasFilter = (
  { kind, choices: values }: FieldDefinition,
  choices: readonly string[] | undefined,
): boolean => {
  const n = (choices ?? values ?? []).length
  return kind === 'text' || (kind === 'choice' && n > 0 && n <= mostValues)
}

/** Which values of a column are shown; what the filter asks besides stays. */
export function ColumnFilter({ field, values }: { field: FieldDefinition; values: readonly string[] }) {
  const filter = filterIn(useParams('filter').get('filter'))
  const own = conditionOn(filter, field.name)
  const ask = (asked: readonly (string | number)[]) => {
    const op = field.kind === 'text' ? 'contains' : 'is'
    const to = withCondition(filter, field.name, asked.length === 0 ? null : { field: field.name, op, values: asked })
    go({ params: { filter: to === null ? null : JSON.stringify(to) } })
  }
  return (
    <span className={css['by']} data-asked={own ? '' : undefined}>
      <Pop
        title={`Show by ${field.label.toLowerCase()}`}
        label={
          <>
            <span aria-hidden="true">{own ? '▼' : '▽'}</span>
            <span className="hidden">Filter by {field.label.toLowerCase()}</span>
          </>
        }
      >
        {field.kind === 'text' ? (
          <Typed
            label={field.label}
            text={String(own?.values[0] ?? '')}
            onAsk={(text) => ask(text === '' ? [] : [text])}
          />
        ) : (
          <Ticked values={values} ticked={own?.op === 'is' ? own.values : []} onAsk={ask} />
        )}
      </Pop>
    </span>
  )
}

function Ticked({
  values,
  ticked,
  onAsk,
}: {
  values: readonly string[]
  ticked: readonly (string | number)[]
  onAsk: (values: readonly (string | number)[]) => void
}) {
  const toggle = (value: string) =>
    onAsk(ticked.includes(value) ? ticked.filter((each) => each !== value) : [...ticked, value])
  return (
    <div className={css['asked']}>
      {values.map((value) => (
        <label key={value}>
          <input type="checkbox" checked={ticked.includes(value)} onChange={() => toggle(value)} /> {value}
        </label>
      ))}
      {ticked.length > 0 && (
        <Button look="word" onClick={() => onAsk([])}>
          any of them
        </Button>
      )}
    </div>
  )
}

function Typed({ label, text, onAsk }: { label: string; text: string; onAsk: (text: string) => void }) {
  const [typed, setTyped] = useState(text)
  return (
    <Form onSend={() => onAsk(typed.trim())}>
      <input
        aria-label={`${label} contains`}
        placeholder="contains …"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
      />{' '}
      <Button type="submit">Show</Button>
    </Form>
  )
}
