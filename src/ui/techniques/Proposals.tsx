import { memo, useEffect, useMemo, useState } from 'react'
import { counted, percent, percentText } from '#core/lib/figures.ts'
import type { DecidedRow } from '#core/techniques/contract.ts'
import { combosProblem } from '#core/techniques/combos-model.ts'
import { tuplesAdded } from '#core/techniques/held-tuples.ts'
import { type DraftAnswer, type Proposed, type Standing } from '#core/techniques/draft.ts'
import { type DraftModel, type DraftRow, namesOf, rowText } from '#core/techniques/draft-row.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { useHere } from '#ui/shell/here.ts'
import { Curve } from './Curve.tsx'
import css from './Drafting.module.css'

export interface Row {
  readonly id: string
  readonly row: DraftRow
  readonly why: string
  readonly decided: DecidedRow | null
  readonly standing: Standing | null
  readonly proposed: Proposed | null
}

interface Props {
  readonly model: DraftModel
  readonly answer: DraftAnswer
  readonly rows: readonly Row[]
  readonly disabled: boolean
  readonly onAccept: (rows: readonly Proposed[]) => void
  readonly onMerge: (rows: readonly Proposed[]) => void
  readonly onLeaveOut: (row: Proposed) => void
  readonly onDecide: (row: DecidedRow, what: 'retire' | 'keep' | 'again') => void
  readonly onLook: (row: DraftRow | null) => void
}

/** So many columns are drawn; the rest of a row is told when it is looked at. */
const mostColumns = 9
const mostRows = 400

/** Accepted rows first, then what is proposed, each with its reason; a row is chosen by mouse or arrows. */
export function Proposals({ model, answer, rows, disabled, onAccept, onMerge, onLeaveOut, onDecide, onLook }: Props) {
  const [chosen, setChosen] = useState<string | null>(null)
  const [asking, setAsking] = useState(false)
  const at = Math.max(
    0,
    rows.findIndex(({ id }) => id === chosen),
  )
  const row = rows[at]
  useEffect(() => onLook(chosen === null ? null : (rows.find(({ id }) => id === chosen)?.row ?? null)), [chosen, rows])
  const move = (by: number) => {
    const next = rows[Math.max(0, Math.min(rows.length - 1, chosen === null ? 0 : at + by))]
    if (!next) return
    setChosen(next.id)
    document.querySelector(`[data-row="${CSS.escape(next.id)}"]`)?.scrollIntoView({ block: 'nearest' })
  }
  useKeys([
    { id: 'draft-down', keys: 'j', label: 'next row', run: () => move(1), quiet: true },
    { id: 'draft-up', keys: 'k', label: 'row before', run: () => move(-1), quiet: true },
    ...(disabled
      ? []
      : [
          { id: 'draft-accept', keys: 'a', label: 'accept', run: () => row?.proposed && onAccept([row.proposed]) },
          ...(model.technique === 'paths'
            ? []
            : [
                {
                  id: 'draft-merge',
                  keys: 'm',
                  label: 'merge into a case',
                  run: () => row?.proposed && onMerge([row.proposed]),
                },
              ]),
          { id: 'draft-out', keys: 'o', label: 'leave out', run: () => row?.proposed && onLeaveOut(row.proposed) },
        ]),
    {
      id: 'draft-which',
      keys: 'w',
      label: model.technique === 'combos' ? `which ${answer.unit[1]}` : 'its steps',
      run: () => setAsking(!asking),
    },
  ])
  const names = namesOf(model)
  const columns = names.slice(0, mostColumns)
  const bad = useMemo(() => badCells(model, answer), [model, answer])
  return (
    <>
      <div
        className={css['tableBox']}
        tabIndex={0}
        aria-label="Cases of the model"
        onKeyDown={(event) => {
          if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return
          event.preventDefault()
          move(event.key === 'ArrowDown' ? 1 : -1)
        }}
      >
        <table className={css['rows']}>
          <thead>
            <tr>
              <th scope="col">
                <span className="hidden">Number</span>
              </th>
              {columns.map((name) => (
                <th key={name} scope="col" title={name}>
                  {name}
                </th>
              ))}
              {model.technique === 'paths' && <th scope="col">path</th>}
              {names.length > columns.length && <th scope="col">…</th>}
              <th scope="col">why</th>
            </tr>
          </thead>
          <tbody>
            {rows.slice(0, mostRows).map((each, index) => (
              <Line
                key={each.id}
                of={each}
                number={index + 1}
                columns={columns}
                more={names.length - columns.length}
                bad={bad}
                chosen={each.id === chosen}
                disabled={disabled}
                onChoose={setChosen}
                onDecide={onDecide}
              />
            ))}
          </tbody>
        </table>
        {rows.length > mostRows && (
          <p className="quiet">and {rows.length - mostRows} more, which are accepted with the others.</p>
        )}
      </div>
      {row && chosen !== null && asking && <Which model={model} rows={rows} at={at} answer={answer} />}
      {answer.detail.technique === 'combos' && rows.length > 1 && (
        <Curve
          adds={answer.detail.answer.adds.slice(0, answer.detail.answer.adds.length - answer.detail.answer.negative)}
          total={answer.detail.answer.tuples}
          unit={answer.unit[1]}
          at={row && chosen !== null ? at : null}
        />
      )}
      {answer.detail.technique === 'boundaries' && <Spans answer={answer.detail.answer} />}
      {model.technique === 'paths' && !model.invalid && answer.detail.technique === 'paths' && (
        <Events answer={answer.detail.answer} />
      )}
      {!disabled && answer.proposed.length > 0 && chosen !== null && row?.proposed && (
        <p className={css['rowActs']}>
          <Button onClick={() => onAccept([row.proposed!])}>Accept row {at + 1}</Button>
          {model.technique !== 'paths' && (
            <Button look="word" onClick={() => onMerge([row.proposed!])}>
              merge into a case
            </Button>
          )}
          <Button look="word" onClick={() => onLeaveOut(row.proposed!)}>
            leave out
          </Button>
        </p>
      )}
    </>
  )
}

/** Cells whose value is refused, as `name=value`. */
function badCells(model: DraftModel, answer: DraftAnswer): ReadonlySet<string> {
  if (answer.detail.technique === 'boundaries')
    return new Set(
      answer.detail.answer.cases.filter(({ valid }) => !valid).map(({ input, value }) => `${input}=${value}`),
    )
  return new Set(
    model.technique === 'combos'
      ? Object.entries(model.body.negative).flatMap(([name, values]) => values.map((value) => `${name}=${value}`))
      : [],
  )
}

interface LineProps {
  readonly of: Row
  readonly number: number
  readonly columns: readonly string[]
  readonly more: number
  readonly bad: ReadonlySet<string>
  readonly chosen: boolean
  readonly disabled: boolean
  readonly onChoose: (id: string) => void
  readonly onDecide: Props['onDecide']
}

const Line = memo(({ of, number, columns, more, bad, chosen, disabled, onChoose, onDecide }: LineProps) => {
  const { key } = useHere()
  const { decided, standing } = of
  return (
    <tr
      data-row={of.id}
      data-chosen={chosen || undefined}
      data-negative={of.proposed?.negative || undefined}
      data-standing={decided?.decision === 'left out' ? 'out' : standing?.state}
      onClick={() => onChoose(of.id)}
    >
      <td className={css['number']}>
        <button
          type="button"
          aria-pressed={chosen}
          aria-label={`Row ${number}: ${rowText(of.row)}`}
          onClick={() => onChoose(of.id)}
        >
          {number}
        </button>
      </td>
      {columns.map((name) => (
        <td key={name} data-bad={bad.has(`${name}=${of.row[name] ?? ''}`) || undefined} title={of.row[name]}>
          {of.row[name] ?? '–'}
        </td>
      ))}
      {of.row['path'] !== undefined && columns.length === 0 && <td className={css['path']}>{rowText(of.row)}</td>}
      {more > 0 && <td className="quiet">+{more}</td>}
      <td className={css['why']}>
        {decided?.case && standing?.state === 'kept' && (
          <a href={`/p/${key}/${decided.case.key}`}>kept: {decided.case.key}</a>
        )}
        {decided?.case && standing && standing.state !== 'kept' && (
          <span data-tone={standing.state}>
            <a href={`/p/${key}/${decided.case.key}`}>{decided.case.key}</a>{' '}
            {decided.decision === 'kept'
              ? 'stays by decision'
              : standing.state === 'gone'
                ? `to be retired: ${standing.why}`
                : standing.why}
            {!disabled && decided.decision !== 'kept' && (
              <>
                {' '}
                <button
                  type="button"
                  className={css['act']}
                  onClick={(event) => {
                    event.stopPropagation()
                    onDecide(decided, 'retire')
                  }}
                >
                  retire
                </button>{' '}
                <button
                  type="button"
                  className={css['act']}
                  onClick={(event) => {
                    event.stopPropagation()
                    onDecide(decided, 'keep')
                  }}
                >
                  let it stay
                </button>
              </>
            )}
          </span>
        )}
        {decided?.decision === 'left out' && (
          <span>
            left out
            {!disabled && (
              <>
                {' '}
                <button
                  type="button"
                  className={css['act']}
                  onClick={(event) => {
                    event.stopPropagation()
                    onDecide(decided, 'again')
                  }}
                >
                  propose again
                </button>
              </>
            )}
          </span>
        )}
        {!decided && of.why}
      </td>
    </tr>
  )
})
Line.displayName = 'Line'

/** The tuples a row holds that nothing above it does; of other techniques the steps of its case. */
function Which({
  model,
  rows,
  at,
  answer,
}: {
  model: DraftModel
  rows: readonly Row[]
  at: number
  answer: DraftAnswer
}) {
  const row = rows[at]!
  const told = useMemo(() => {
    if (model.technique !== 'combos')
      return row.proposed
        ? row.proposed.steps.map(({ action, expected }) => `${action}${expected ? ` → ${expected}` : ''}`)
        : (row.row['path']?.split('\n') ?? [row.standing?.why ?? row.why])
    const ordinary = (each: Row): boolean => !each.proposed?.negative && each.decided?.decision !== 'left out'
    try {
      return tuplesAdded(
        combosProblem(model.body),
        rows
          .slice(0, at)
          .filter(ordinary)
          .map((each) => each.row),
        row.row,
      ).map((tuple) =>
        Object.entries(tuple)
          .map(([name, value]) => `${name} ${value}`)
          .join(' + '),
      )
    } catch {
      return []
    }
  }, [model, rows, at])
  return (
    <section className={css['which']} aria-live="polite">
      <h3>
        Row {at + 1}:{' '}
        {model.technique !== 'combos'
          ? counted(told.length, 'step')
          : row.proposed?.negative
            ? 'a value that must be refused'
            : `${counted(told.length, answer.unit[0], answer.unit[1])} that no row above has`}
      </h3>
      <p>{told.join(' · ')}</p>
    </section>
  )
}

function Spans({ answer }: { answer: Extract<DraftAnswer['detail'], { technique: 'boundaries' }>['answer'] }) {
  if (answer.gaps.length + answer.overlaps.length === 0) return null
  return (
    <ul className={css['findings']}>
      {answer.gaps.map(({ input, from, to }) => (
        <li key={`g${input}${from}`}>
          {input} {from === to ? from : `${from} to ${to}`} {from === to ? 'is' : 'are'} in no partition.
        </li>
      ))}
      {answer.overlaps.map(({ input, from, to, partitions }) => (
        <li key={`o${input}${from}`} data-tone="bad">
          {input} {from === to ? from : `${from} to ${to}`} {from === to ? 'is' : 'are'} in {partitions.join(' and ')}.
        </li>
      ))}
    </ul>
  )
}

const mostEvents = 12
function Events({ answer }: { answer: Extract<DraftAnswer['detail'], { technique: 'paths' }>['answer'] }) {
  const [all, setAll] = useState(false)
  if (answer.invalid.length === 0) return null
  const shown = all ? answer.invalid : answer.invalid.slice(0, mostEvents)
  return (
    <section className={css['which']}>
      <h3>{counted(answer.invalid.length, 'event')} that must change nothing</h3>
      <p>
        {shown.map(({ state, event }) => `${event} in ${state}`).join(' · ')}
        {answer.invalid.length > mostEvents && (
          <>
            {' '}
            <button type="button" className={css['act']} onClick={() => setAll(!all)}>
              {all ? 'fewer' : 'all'}
            </button>
          </>
        )}
      </p>
    </section>
  )
}

/** How much of a model accepted cases answer. */
export const Meter = ({ answered, targets, unit }: { answered: number; targets: number; unit: string }) => (
  <span className={css['meter']} title={`${answered} of ${targets} ${unit} answered by accepted cases`}>
    <i>
      <b style={{ width: targets > 0 ? `${(100 * answered) / targets}%` : 0 }} />
    </i>
    {percentText(percent(answered, targets))} accepted
  </span>
)
