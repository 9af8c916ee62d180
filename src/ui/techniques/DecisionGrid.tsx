import { type KeyboardEvent, useRef } from 'react'
import type { FieldProblem } from '#core/lib/refusal.ts'
import { counted } from '#core/lib/figures.ts'
import { type DecisionsAnswer, whenOf } from '#core/techniques/decisions.ts'
import type { DraftModel } from '#core/techniques/draft-row.ts'
import type { DecisionRule } from '#core/techniques/models.ts'
import { Button } from '#ui/kit/Button.tsx'
import { notify } from '#ui/kit/notices.tsx'
import css from './Drafting.module.css'

type Decisions = Extract<DraftModel, { technique: 'decisions' }>
interface Props {
  readonly model: Decisions
  readonly answer: DecisionsAnswer | null
  readonly refused: readonly FieldProblem[]
  readonly disabled: boolean
  readonly onChange: (model: DraftModel) => void
}

/** What was typed into a cell as values: `child or senior`, a beginning that fits one value only, or nothing for any. */
function valuesTyped(text: string, known: readonly string[]): string[] | null {
  const parts = text
    .split(/\s+or\s+|,/)
    .map((part) => part.trim())
    .filter((part) => part !== '' && part !== '–' && part.toLowerCase() !== 'any')
  const found = parts.map(
    (part) =>
      known.find((value) => value === part) ??
      known
        .filter((value) => value.toLowerCase().startsWith(part.toLowerCase()))
        .find((_, __, fits) => fits.length === 1),
  )
  return found.includes(undefined) ? null : [...new Set(found.flatMap((value) => value ?? []))]
}

const shownWhen = (rule: DecisionRule, name: string): string => rule.when[name]?.join(' or ') ?? ''

/** Conditions down, rules across; an empty cell means any value. Arrows move, typing fills, Enter goes on below. */
export function DecisionGrid({ model, answer, refused, disabled, onChange }: Props) {
  const table = useRef<HTMLTableElement>(null)
  const { conditions, rules } = model.body
  const outcomes = [...new Set(rules.flatMap(({ then }) => Object.keys(then)))]
  const put = (next: readonly DecisionRule[], said?: string) => {
    onChange({ ...model, body: { ...model.body, rules: [...next] } })
    if (said) notify(said, { undo: () => onChange(model) })
  }
  const change = (at: number, rule: DecisionRule) => put(rules.map((each, index) => (index === at ? rule : each)))
  const clash = new Map(
    (answer?.conflicts ?? []).flatMap(({ rules: [a, b], example }) => {
      const text = Object.entries(example)
        .map(([name, value]) => `${name} ${value}`)
        .join(', ')
      return [
        [a, `contradicts rule ${b + 1}, as for ${text}`],
        [b, `contradicts rule ${a + 1}, as for ${text}`],
      ] as const
    }),
  )
  const wrong = new Map(
    refused.flatMap(({ field, message }) => {
      const at = /^rules\[(\d+)\]/.exec(field)?.[1]
      return at === undefined ? [] : [[Number(at), message] as const]
    }),
  )
  const markOf = (at: number): string | null =>
    wrong.get(at) ??
    clash.get(at) ??
    (answer?.redundant.includes(at) ? 'says nothing that other rules do not say' : null)
  const onKey = (event: KeyboardEvent<HTMLInputElement>, row: number, column: number) => {
    const { selectionStart, selectionEnd, value } = event.currentTarget
    const [down, right] =
      event.key === 'ArrowDown' || event.key === 'Enter'
        ? [1, 0]
        : event.key === 'ArrowUp'
          ? [-1, 0]
          : event.key === 'ArrowRight' && selectionStart === value.length
            ? [0, 1]
            : event.key === 'ArrowLeft' && selectionEnd === 0
              ? [0, -1]
              : [0, 0]
    if (down === 0 && right === 0) return
    event.preventDefault()
    const next = table.current?.querySelector<HTMLInputElement>(`[data-cell="${row + down},${column + right}"]`)
    next?.focus()
    next?.select()
  }
  const cell = (
    row: number,
    column: number,
    of: { label: string; value: string; placeholder: string; invalid?: boolean; store: (text: string) => boolean },
  ) => (
    <td key={column} data-mark={markOf(column) ? true : undefined}>
      <input
        key={of.value}
        data-cell={`${row},${column}`}
        aria-label={of.label}
        defaultValue={of.value}
        placeholder={of.placeholder}
        disabled={disabled}
        spellCheck={false}
        autoComplete="off"
        onKeyDown={(event) => onKey(event, row, column)}
        onBlur={({ currentTarget }) => {
          if (currentTarget.value.trim() !== of.value && !of.store(currentTarget.value.trim()))
            currentTarget.value = of.value
        }}
      />
    </td>
  )
  const split = (at: number) => {
    const rule = rules[at]!
    const name = Object.keys(conditions).find((each) => (rule.when[each] ?? conditions[each]!).length > 1)
    if (!name) return notify(`Rule ${at + 1} has one value of every condition; there is nothing to split.`)
    put(
      rules.flatMap((each, index) =>
        index === at
          ? (rule.when[name] ?? conditions[name]!).map((value) => ({
              ...rule,
              when: { ...rule.when, [name]: [value] },
            }))
          : [each],
      ),
      `Rule ${at + 1} is split by ${name}.`,
    )
  }
  return (
    <>
      <div className={css['gridBox']}>
        <table ref={table} className={css['grid']}>
          <thead>
            <tr>
              <th scope="col">When</th>
              {rules.map((_, at) => (
                <th key={at} scope="col" data-mark={markOf(at) ? true : undefined} title={markOf(at) ?? undefined}>
                  {at + 1}
                  {!disabled && (
                    <>
                      <button type="button" aria-label={`Split rule ${at + 1}`} title="split" onClick={() => split(at)}>
                        ÷
                      </button>
                      <button
                        type="button"
                        aria-label={`Take away rule ${at + 1}`}
                        title="take away"
                        onClick={() =>
                          put(
                            rules.filter((_each, index) => index !== at),
                            `Rule ${at + 1} is taken away.`,
                          )
                        }
                      >
                        ×
                      </button>
                    </>
                  )}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {Object.entries(conditions).map(([name, known], row) => (
              <tr key={name}>
                <th scope="row">{name}</th>
                {rules.map((rule, at) =>
                  cell(row, at, {
                    label: `${name} in rule ${at + 1}`,
                    value: shownWhen(rule, name),
                    placeholder: 'any',
                    store: (text) => {
                      const values = valuesTyped(text, known)
                      if (values === null)
                        notify(
                          `${name} has no value “${text}”. It can be ${known.join(', ')}, several with “or”, or empty for any.`,
                          { tone: 'problem' },
                        )
                      else
                        change(at, {
                          ...rule,
                          when: Object.fromEntries(
                            Object.entries({ ...rule.when, [name]: values }).filter(([, own]) => own.length > 0),
                          ),
                        })
                      return values !== null
                    },
                  }),
                )}
              </tr>
            ))}
            {outcomes.map((name, at) => (
              <tr key={name} className={css['outcome']}>
                <th scope="row">{name}</th>
                {rules.map((rule, column) =>
                  cell(Object.keys(conditions).length + at, column, {
                    label: `${name} of rule ${column + 1}`,
                    value: String(rule.then[name] ?? ''),
                    placeholder: '…',
                    store: (text) => {
                      change(column, { ...rule, then: { ...rule.then, [name]: text } })
                      return true
                    },
                  }),
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {!disabled && (
        <p className={css['gridActs']}>
          <Button
            look="word"
            onClick={() =>
              put([
                ...rules,
                {
                  when: {},
                  then: Object.fromEntries((outcomes.length > 0 ? outcomes : ['outcome']).map((name) => [name, ''])),
                },
              ])
            }
          >
            add a rule
          </Button>
          <NewOutcome
            onAdd={(name) => put(rules.map((rule) => ({ ...rule, then: { ...rule.then, [name]: '' } })))}
            taken={outcomes}
          />
        </p>
      )}
      {answer && <Findings model={model} answer={answer} clash={clash} disabled={disabled} put={put} />}
    </>
  )
}

function NewOutcome({ onAdd, taken }: { onAdd: (name: string) => void; taken: readonly string[] }) {
  return (
    <input
      className={css['newOutcome']}
      aria-label="Name of another outcome"
      placeholder="another outcome …"
      onKeyDown={(event) => {
        const name = event.currentTarget.value.trim()
        if (event.key !== 'Enter' || name === '' || taken.includes(name)) return
        onAdd(name)
        event.currentTarget.value = ''
      }}
    />
  )
}

interface Found {
  readonly model: Decisions
  readonly answer: DecisionsAnswer
  readonly clash: ReadonlyMap<number, string>
  readonly disabled: boolean
  readonly put: (rules: readonly DecisionRule[], said?: string) => void
}
const mostShown = 6

/** What the table leaves out, contradicts or says twice, each with what mends it. */
function Findings({ model, answer, clash, disabled, put }: Found) {
  const { rules } = model.body
  const blank = Object.fromEntries(
    [...new Set(rules.flatMap(({ then }) => Object.keys(then)))].map((name) => [name, '']),
  )
  const ruleFor = (block: DecisionsAnswer['missing'][number]): DecisionRule => ({
    when: Object.fromEntries(Object.entries(whenOf(model.body, block)).map(([name, values]) => [name, [...values]])),
    then: blank,
  })
  const textOf = (block: DecisionsAnswer['missing'][number]): string =>
    Object.entries(whenOf(model.body, block))
      .map(([name, values]) => `${name} ${values.join(' or ')}`)
      .join(', ') || 'everything'
  return (
    <ul className={css['findings']}>
      {answer.complete ? (
        <li data-tone="good">Every possible combination has a rule.</li>
      ) : (
        <>
          {answer.missing.slice(0, mostShown).map((block, at) => (
            <li key={at}>
              No rule for <b>{textOf(block)}</b>{' '}
              {!disabled && (
                <Button
                  look="word"
                  onClick={() => put([...rules, ruleFor(block)], 'A rule is added; its outcome is still open.')}
                >
                  add it
                </Button>
              )}
            </li>
          ))}
          {answer.missing.length > 1 && (
            <li>
              {answer.missing.length > mostShown && `and ${answer.missing.length - mostShown} more. `}
              {!disabled && (
                <Button
                  look="word"
                  onClick={() =>
                    put(
                      [...rules, ...answer.missing.slice(0, 200).map(ruleFor)],
                      `${counted(Math.min(200, answer.missing.length), 'rule')} added; their outcomes are still open.`,
                    )
                  }
                >
                  add rules for all {answer.missing.length}
                </Button>
              )}
            </li>
          )}
        </>
      )}
      {[...clash].map(([at, text]) => (
        <li key={`c${at}`} data-tone="bad">
          Rule {at + 1} {text}.
        </li>
      ))}
      {answer.redundant.length > 0 && (
        <li>
          {answer.redundant.length === 1 ? 'Rule' : 'Rules'} {answer.redundant.map((at) => at + 1).join(', ')}{' '}
          {answer.redundant.length === 1 ? 'says' : 'say'} nothing of {answer.redundant.length === 1 ? 'its' : 'their'}{' '}
          own.{' '}
          {!disabled && (
            <Button
              look="word"
              onClick={() =>
                put(
                  rules.filter((_, at) => !answer.redundant.includes(at)),
                  `${counted(answer.redundant.length, 'rule')} dropped; the table means the same.`,
                )
              }
            >
              drop
            </Button>
          )}
        </li>
      )}
      {answer.merged && answer.merged.length < rules.length - answer.redundant.length && !disabled && (
        <li>
          The same can be said with {counted(answer.merged.length, 'rule')}.{' '}
          <Button
            look="word"
            onClick={() =>
              put(
                answer.merged!,
                `${rules.length} rules are merged to ${answer.merged!.length}; the table means the same.`,
              )
            }
          >
            merge
          </Button>
        </li>
      )}
    </ul>
  )
}
