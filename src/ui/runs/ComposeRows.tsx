import { type KeyboardEvent, useState } from 'react'
import { minutesText } from '#core/lib/figures.ts'
import { type ComposedAnswer, type ComposedRow, composeRun } from '#core/runs/compose-contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Mark } from '#ui/kit/Mark.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './Compose.module.css'
import { type Out, pageSize, placeOf, type queryOf } from './useCompose.ts'

interface Props {
  readonly query: ReturnType<typeof queryOf>
  /** The first page. */
  readonly first: ComposedAnswer
  readonly out: Out
  readonly onToggle: (row: ComposedRow) => void
}

/** Rows page after page; Space takes one out, arrows go from row to row. */
export function ComposeRows({ query, first, out, onToggle }: Props) {
  const [more, setMore] = useState(0)
  const shown = Math.min(first.total, (more + 1) * pageSize)
  return (
    <>
      <ul className={css['list']} onKeyDown={moveFocus}>
        {first.rows.map((row) => (
          <Row key={placeOf(row)} of={row} out={out} onToggle={onToggle} />
        ))}
        {Array.from({ length: more }, (_, at) => (
          <Page key={at} query={query} cursor={(at + 1) * pageSize} out={out} onToggle={onToggle} />
        ))}
      </ul>
      {shown < first.total && (
        <p className={css['more']}>
          <Button look="word" onClick={() => setMore(more + 1)}>
            and {first.total - shown} more
          </Button>
        </p>
      )}
    </>
  )
}

function Page({ query, cursor, ...rest }: Pick<Props, 'query' | 'out' | 'onToggle'> & { cursor: number }) {
  const { key } = useHere()
  const { data } = useAnswer(
    composeRun,
    { params: { key }, query: { ...query, cursor, limit: pageSize } },
    { keep: true },
  )
  return data?.rows.map((row) => <Row key={placeOf(row)} of={row} {...rest} />)
}

function Row({ of, out, onToggle }: { of: ComposedRow } & Pick<Props, 'out' | 'onToggle'>) {
  const { key } = useHere()
  const gone = out.has(placeOf(of))
  return (
    <li data-out={gone || undefined}>
      <input
        type="checkbox"
        aria-label={`${of.key} in ${of.environmentName}`}
        checked={!gone}
        onChange={() => onToggle(of)}
      />
      <Mark verdict={of.verdict} stale={of.stale} />
      <span className="key quiet">{of.key}</span>
      <a href={`/p/${key}/${of.key}`}>{of.title}</a>
      <span className={css['where']}>{of.environmentName}</span>
      <span className={css['why']}>{of.why}</span>
      <span className={css['minutes']}>{minutesText(of.minutes)}</span>
    </li>
  )
}

const steps: Readonly<Record<string, number>> = { ArrowDown: 1, ArrowUp: -1 }

function moveFocus(event: KeyboardEvent<HTMLElement>): void {
  const step = steps[event.key]
  if (step === undefined) return
  const all = [...event.currentTarget.querySelectorAll<HTMLElement>('input')]
  const at = all.findIndex((each) => each === document.activeElement)
  const next = all[at + step]
  if (at < 0 || !next) return
  event.preventDefault()
  next.focus()
}
