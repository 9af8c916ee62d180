import { memo, useEffect, useMemo, useState } from 'react'
import { counted, percent, percentText } from '#core/lib/figures.ts'
import type { DecidedRow } from '#core/techniques/contract.ts'
import type { DraftAnswer, Proposed, Standing } from '#core/techniques/draft-answer.ts'
import { type DraftModel, type DraftRow, namesOf, rowText } from '#core/techniques/draft-row.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { useHere } from '#ui/shell/here.ts'
import { Curve } from './Curve.tsx'
import { badCells, type Row, toldOf } from './draft-rows.ts'
import css from './Drafting.module.css'

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
export function Proposals(props: Props) {
  const { model, answer, rows, disabled, onLook, onDecide } = props
  const [chosen, setChosen] = useState<string | null>(null)
  const [asking, setAsking] = useState(false)
  const found = rows.findIndex(({ id }) => id === chosen)
  const at = Math.max(0, found)
  const row = chosen === null ? undefined : rows[at]
  useEffect(() => onLook(rows[found]?.row ?? null), [chosen, rows])
  const move = (by: number) => {
    const next = rows[Math.max(0, Math.min(rows.length - 1, chosen === null ? 0 : at + by))]
    if (!next) return
    setChosen(next.id)
    document.querySelector(`[data-row="${CSS.escape(next.id)}"]`)?.scrollIntoView({ block: 'nearest' })
  }
  useRowKeys(props, rows[at]?.proposed ?? null, { move, ask: () => setAsking(!asking) })
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
        <RowTable {...{ model, answer, rows, disabled, chosen, onDecide }} onChoose={setChosen} />
        {rows.length > mostRows && (
          <p className="quiet">and {rows.length - mostRows} more, which are accepted with the others.</p>
        )}
      </div>
      {row && asking && <Which model={model} rows={rows} at={at} answer={answer} />}
      <Detail answer={answer} model={model} curve={rows.length > 1} at={row ? at : null} />
      {!disabled && row?.proposed && <RowActs {...props} row={row.proposed} number={at + 1} />}
    </>
  )
}

function useRowKeys(
  { model, answer, disabled, onAccept, onMerge, onLeaveOut }: Props,
  row: Proposed | null,
  { move, ask }: { move: (by: number) => void; ask: () => void },
): void {
  const key = (id: string, keys: string, label: string, run: () => void) => ({ id: `draft-${id}`, keys, label, run })
  const withRow = (act: (row: Proposed) => void) => () => {
    if (row) act(row)
  }
  const accept = key(
    'accept',
    'a',
    'accept',
    withRow((own) => onAccept([own])),
  )
  const merge = key(
    'merge',
    'm',
    'merge into a case',
    withRow((own) => onMerge([own])),
  )
  const leaveOut = key('out', 'o', 'leave out', withRow(onLeaveOut))
  const acts = model.technique === 'paths' ? [accept, leaveOut] : [accept, merge, leaveOut]
  useKeys([
    { ...key('down', 'j', 'next row', () => move(1)), quiet: true },
    { ...key('up', 'k', 'row before', () => move(-1)), quiet: true },
    ...(disabled ? [] : acts),
    key('which', 'w', model.technique === 'combos' ? `which ${answer.unit[1]}` : 'its steps', ask),
  ])
}

interface TableProps extends Pick<Props, 'model' | 'answer' | 'rows' | 'disabled' | 'onDecide'> {
  readonly chosen: string | null
  readonly onChoose: (id: string) => void
}

function RowTable({ model, answer, rows, disabled, chosen, onChoose, onDecide }: TableProps) {
  const names = namesOf(model)
  const columns = useMemo(() => names.slice(0, mostColumns), [names.join('\n')])
  const bad = useMemo(() => badCells(model, answer), [model, answer])
  return (
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
            onChoose={onChoose}
            onDecide={onDecide}
          />
        ))}
      </tbody>
    </table>
  )
}

/** What the technique has to say beside its rows. */
function Detail({
  answer: { detail, unit },
  model,
  curve,
  at,
}: Pick<Props, 'answer' | 'model'> & { curve: boolean; at: number | null }) {
  if (detail.technique === 'boundaries') return <Spans answer={detail.answer} />
  if (detail.technique === 'paths')
    return model.technique === 'paths' && !model.invalid ? <Events answer={detail.answer} /> : null
  if (detail.technique !== 'combos' || !curve) return null
  const { adds, negative, tuples } = detail.answer
  return <Curve adds={adds.slice(0, adds.length - negative)} total={tuples} unit={unit[1]} at={at} />
}

const RowActs = ({ model, row, number, onAccept, onMerge, onLeaveOut }: Props & { row: Proposed; number: number }) => (
  <p className={css['rowActs']}>
    <Button onClick={() => onAccept([row])}>Accept row {number}</Button>
    {model.technique !== 'paths' && (
      <Button look="word" onClick={() => onMerge([row])}>
        merge into a case
      </Button>
    )}
    <Button look="word" onClick={() => onLeaveOut(row)}>
      leave out
    </Button>
  </p>
)

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
  const { row, decided, standing, proposed } = of
  return (
    <tr
      data-row={of.id}
      data-chosen={chosen || undefined}
      data-negative={proposed?.negative || undefined}
      data-standing={decided?.decision === 'left out' ? 'out' : standing?.state}
      onClick={() => onChoose(of.id)}
    >
      <td className={css['number']}>
        <button
          type="button"
          aria-pressed={chosen}
          aria-label={`Row ${number}: ${rowText(row)}`}
          onClick={() => onChoose(of.id)}
        >
          {number}
        </button>
      </td>
      {columns.map((name) => (
        <td key={name} data-bad={bad.has(`${name}=${row[name] ?? ''}`) || undefined} title={row[name]}>
          {row[name] ?? '–'}
        </td>
      ))}
      {row['path'] !== undefined && columns.length === 0 && <td className={css['path']}>{rowText(row)}</td>}
      {more > 0 && <td className="quiet">+{more}</td>}
      <td className={css['why']}>
        <Why of={of} disabled={disabled} onDecide={onDecide} />
      </td>
    </tr>
  )
})
Line.displayName = 'Line'

/** Why a row is there, and what may be decided of it now. */
function Why({ of: { decided, standing, why }, disabled, onDecide }: Pick<LineProps, 'of' | 'disabled' | 'onDecide'>) {
  const { key } = useHere()
  if (!decided) return why
  const act = (label: string, what: Parameters<Props['onDecide']>[1]) =>
    disabled ? null : (
      <>
        {' '}
        <button
          type="button"
          className={css['act']}
          onClick={(event) => {
            event.stopPropagation()
            onDecide(decided, what)
          }}
        >
          {label}
        </button>
      </>
    )
  if (decided.decision === 'left out') return <span>left out{act('propose again', 'again')}</span>
  if (!decided.case || !standing) return null
  const address = `/p/${key}/${decided.case.key}`
  if (standing.state === 'kept') return <a href={address}>kept: {decided.case.key}</a>
  return (
    <span data-tone={standing.state}>
      <a href={address}>{decided.case.key}</a> {standsText(decided, standing)}
      {decided.decision !== 'kept' && act('retire', 'retire')}
      {decided.decision !== 'kept' && act(standing.state === 'changed' ? 'it says so now' : 'let it stay', 'keep')}
    </span>
  )
}

function standsText({ decision }: DecidedRow, { state, why }: Standing): string {
  if (decision === 'kept') return 'stays by decision'
  if (state === 'changed') return `to be changed: ${why}`
  return state === 'gone' ? `to be retired: ${why}` : why
}

function Which({ model, rows, at, answer }: Pick<Props, 'model' | 'rows' | 'answer'> & { at: number }) {
  const told = useMemo(() => toldOf(model, rows, at), [model, rows, at])
  return (
    <section className={css['which']} aria-live="polite">
      <h3>
        Row {at + 1}: {whichText(model, rows[at], told.length, answer.unit)}
      </h3>
      <p>{told.join(' · ')}</p>
    </section>
  )
}

function whichText(model: DraftModel, row: Row | undefined, told: number, [one, more]: DraftAnswer['unit']): string {
  if (model.technique !== 'combos') return counted(told, 'step')
  return row?.proposed?.negative ? 'a value that must be refused' : `${counted(told, one, more)} that no row above has`
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
