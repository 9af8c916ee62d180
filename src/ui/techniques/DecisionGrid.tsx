import { type RefObject, useRef, useState } from 'react'
import type { DecisionsAnswer } from '#core/techniques/decisions.ts'
import type { DraftModel } from '#core/techniques/draft-row.ts'
import type { DecisionRule } from '#core/techniques/models.ts'
import { Button } from '#ui/kit/Button.tsx'
import { notify } from '#ui/kit/notices.tsx'
import {
  cellMove,
  type Decisions,
  lostConditions,
  marksOf,
  openRule,
  outcomesOf,
  shownWhen,
  splitRule,
  valuesTyped,
  withOutcome,
  withWhen,
} from './decision-rules.ts'
import { DecisionFindings } from './DecisionFindings.tsx'
import css from './Drafting.module.css'

interface Props {
  readonly model: Decisions
  readonly answer: DecisionsAnswer | null
  readonly disabled: boolean
  readonly onChange: (model: DraftModel) => void
}

/** Other rules for the table; said in a notice with undo when it was no typing. */
export type PutRules = (rules: readonly DecisionRule[], said?: string) => void

interface Grid {
  readonly model: Decisions
  readonly marks: ReadonlyMap<number, string>
  readonly disabled: boolean
  readonly put: PutRules
}

/** Conditions down, rules across; an empty cell means any value. Arrows move, typing fills, Enter goes on below. */
export function DecisionGrid({ model, answer, disabled, onChange }: Props) {
  const table = useRef<HTMLTableElement>(null)
  const { conditions, rules } = model.body
  const put: PutRules = (next, said) => {
    onChange({ ...model, body: { ...model.body, rules: [...next] } })
    if (said) notify(said, { undo: () => onChange(model) })
  }
  const grid: Grid = { model, marks: marksOf(answer), disabled, put }
  const outcomes = outcomesOf(rules)
  const rows = [...Object.entries(conditions), ...lostConditions(model.body).map((name) => [name, null] as const)]
  return (
    <>
      <div className={css['gridBox']}>
        <table ref={table} className={css['grid']}>
          <thead>
            <tr>
              <th scope="col">When</th>
              {rules.map((_, at) => (
                <RuleHead key={at} at={at} of={grid} />
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(([name, known], row) => (
              <ConditionRow key={name} name={name} known={known} row={row} of={grid} table={table} />
            ))}
            {outcomes.map((name, at) => (
              <OutcomeRow key={name} name={name} row={rows.length + at} of={grid} table={table} />
            ))}
          </tbody>
        </table>
      </div>
      {!disabled && (
        <p className={css['gridActs']}>
          <Button look="word" onClick={() => put([...rules, openRule(rules)])}>
            add a rule
          </Button>
          <NewOutcome onAdd={(name) => put(withOutcome(rules, name))} taken={outcomes} />
        </p>
      )}
      {answer && <DecisionFindings model={model} answer={answer} disabled={disabled} put={put} />}
    </>
  )
}

function RuleHead({ at, of: { model, marks, disabled, put } }: { at: number; of: Grid }) {
  const { conditions, rules } = model.body
  const split = () => {
    const parts = splitRule(conditions, rules[at]!)
    if (!parts) return notify(`Rule ${at + 1} has one value of every condition; there is nothing to split.`)
    put(rules.toSpliced(at, 1, ...parts.rules), `Rule ${at + 1} is split by ${parts.by}.`)
  }
  const take = () => put(rules.toSpliced(at, 1), `Rule ${at + 1} is taken away.`)
  return (
    <th scope="col" data-mark={marks.has(at) || undefined} title={marks.get(at)}>
      {at + 1}
      {!disabled && (
        <>
          <button type="button" aria-label={`Split rule ${at + 1}`} title="split" onClick={split}>
            ÷
          </button>
          <button type="button" aria-label={`Take away rule ${at + 1}`} title="take away" onClick={take}>
            ×
          </button>
        </>
      )}
    </th>
  )
}

interface RowProps {
  readonly name: string
  /** Counted from the top of the table. */
  readonly row: number
  readonly of: Grid
  readonly table: RefObject<HTMLTableElement | null>
}

/** `known` is `null` for a condition that the table has no more: of it a cell can only be emptied. */
function ConditionRow({ name, known, row, of, table }: RowProps & { known: readonly string[] | null }) {
  const { rules } = of.model.body
  const store = (at: number, text: string): string | null => {
    const values = valuesTyped(text, known ?? [])
    if (values) of.put(rules.with(at, withWhen(rules[at]!, name, values)))
    if (values) return null
    return known
      ? `${name} has no value “${text}”. It can be ${known.join(', ')}, several with “or”, or empty for any.`
      : `There is no condition ${name} any more; write it above, or empty this cell.`
  }
  return (
    <tr>
      <th scope="row" data-lost={known === null || undefined} title={known ? undefined : 'not in the table any more'}>
        {name}
      </th>
      {rules.map((rule, at) => (
        <Cell
          key={at}
          at={[row, at]}
          of={of}
          table={table}
          label={`${name} in rule ${at + 1}`}
          value={shownWhen(rule, name)}
          placeholder="any"
          onStore={(text) => store(at, text)}
        />
      ))}
    </tr>
  )
}

function OutcomeRow({ name, row, of, table }: RowProps) {
  const { rules } = of.model.body
  return (
    <tr className={css['outcome']}>
      <th scope="row">{name}</th>
      {rules.map((rule, at) => (
        <Cell
          key={at}
          at={[row, at]}
          of={of}
          table={table}
          label={`${name} of rule ${at + 1}`}
          value={String(rule.then[name] ?? '')}
          placeholder="…"
          onStore={(text) => {
            of.put(rules.with(at, { ...rule, then: { ...rule.then, [name]: text } }))
            return null
          }}
        />
      ))}
    </tr>
  )
}

interface CellProps {
  readonly at: readonly [row: number, rule: number]
  readonly of: Grid
  readonly table: RefObject<HTMLTableElement | null>
  readonly label: string
  readonly value: string
  readonly placeholder: string
  /** Answers why it was not taken; what was not stays as it was typed. */
  readonly onStore: (text: string) => string | null
}

function Cell({ at: [row, rule], of, table, label, value, placeholder, onStore }: CellProps) {
  const [refused, setRefused] = useState<string | null>(null)
  const focus = (by: readonly [number, number]) => {
    const next = table.current?.querySelector<HTMLInputElement>(`[data-cell="${row + by[0]},${rule + by[1]}"]`)
    next?.focus()
    next?.select()
  }
  const store = (text: string) => {
    const problem = text === value ? null : onStore(text)
    if (problem && problem !== refused) notify(problem, { tone: 'problem' })
    setRefused(problem)
  }
  return (
    <td data-mark={of.marks.has(rule) || refused !== null || undefined}>
      <input
        key={value}
        data-cell={`${row},${rule}`}
        aria-label={label}
        aria-invalid={refused !== null || undefined}
        title={refused ?? undefined}
        defaultValue={value}
        placeholder={placeholder}
        disabled={of.disabled}
        spellCheck={false}
        autoComplete="off"
        onKeyDown={(event) => {
          const { key, currentTarget } = event
          if (key === 'Escape') currentTarget.value = value
          const by = cellMove(key, currentTarget)
          if (!by) return
          event.preventDefault()
          focus(by)
        }}
        onBlur={({ currentTarget }) => store(currentTarget.value.trim())}
      />
    </td>
  )
}

/** Enter adds it, and so does leaving the box: what was typed is not thrown away. */
function NewOutcome({ onAdd, taken }: { onAdd: (name: string) => void; taken: readonly string[] }) {
  const add = (box: HTMLInputElement) => {
    const name = box.value.trim()
    if (name === '') return
    if (taken.includes(name)) return notify(`There is an outcome ${name} already.`, { tone: 'problem' })
    onAdd(name)
    box.value = ''
  }
  return (
    <input
      className={css['newOutcome']}
      aria-label="Name of another outcome"
      placeholder={taken.length === 0 ? 'what the rules decide …' : 'another outcome …'}
      onBlur={({ currentTarget }) => add(currentTarget)}
      onKeyDown={({ key, currentTarget }) => {
        if (key === 'Enter') add(currentTarget)
      }}
    />
  )
}
