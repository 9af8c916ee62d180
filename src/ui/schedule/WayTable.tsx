import { dayNumber } from '#core/lib/days.ts'
import { minutesText, shareText } from '#core/lib/figures.ts'
import { type WayFigures, weighWhatIf, type WhatIf, type WhatIfList } from '#core/schedule/what-if-contract.ts'
import { sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { dayText } from '#ui/kit/moment.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './WhatIf.module.css'
import { WayChanges } from './WayChanges.tsx'
import type { WayActs } from './WhatIfPage.tsx'

interface Props {
  readonly of: WhatIfList
  readonly may: boolean
  readonly acts: WayActs
}

/** What it comes to in one figure: shown, told apart from the present, and whether more of it is better. */
interface Figure {
  readonly name: string
  readonly text: (of: WayFigures) => string
  readonly small?: (of: WayFigures) => string
  readonly value: (of: WayFigures) => number | null
  /** `null`: it says nothing by itself. */
  readonly better: 'more' | 'less' | null
  readonly change: (by: number) => string
}

const plain = (by: number): string => String(Math.round(by * 10) / 10)
const hours = (by: number): string => minutesText(Math.round(by))
const points = (by: number): string => `${(100 * by).toFixed(1)} points`
const days = (by: number): string => `${by} ${by === 1 ? 'day' : 'days'}`
const numberOf = (day: string | null): number | null => (day === null ? null : dayNumber(day))
const named = (day: string | null): string => (day === null ? 'never' : dayText(day))

const figures: readonly Figure[] = [
  {
    name: 'Hours of the team',
    text: (of) => minutesText(of.minutes),
    small: (of) => `${of.people} people, ${days(of.days)}`,
    value: (of) => of.minutes,
    better: 'more',
    change: hours,
  },
  {
    name: 'Above the line',
    text: (of) => `${of.above} of ${of.items} items`,
    small: (of) => `${minutesText(of.aboveMinutes)} of ${minutesText(of.work)}`,
    value: (of) => of.above,
    better: 'more',
    change: plain,
  },
  {
    name: 'Find a place when levelled',
    text: (of) => `${of.placed.items} of ${of.above}`,
    small: (of) => `worth ${of.placed.worth.toFixed(0)} of at most ${of.placed.bound.toFixed(0)}`,
    value: (of) => of.placed.items,
    better: 'more',
    change: plain,
  },
  {
    name: 'Risk left below',
    text: (of) => shareText(of.riskLeft),
    value: (of) => of.riskLeft,
    better: 'less',
    change: points,
  },
  {
    name: 'Requirements below only',
    text: (of) => String(of.requirements.below),
    small: (of) => `${of.requirements.above} touched above`,
    value: (of) => of.requirements.below,
    better: 'less',
    change: plain,
  },
  {
    name: 'Criteria met, if all above passes',
    text: (of) => (of.criteria.of === 0 ? 'none set' : `${of.criteria.met} of ${of.criteria.of}`),
    small: (of) => (of.criteria.stake.length > 0 ? `at stake: ${of.criteria.stake.join('; ')}` : ''),
    value: (of) => of.criteria.met,
    better: 'more',
    change: plain,
  },
  {
    name: 'Above is done, 85 % sure',
    text: (of) => named(of.ends.sure),
    value: (of) => numberOf(of.ends.sure),
    better: null,
    change: days,
  },
  {
    name: 'Above is done, 50 %',
    text: (of) => named(of.ends.half),
    value: (of) => numberOf(of.ends.half),
    better: null,
    change: days,
  },
  {
    name: 'Chance to make its last day',
    text: (of) => shareText(of.ends.chance),
    value: (of) => of.ends.chance,
    better: 'more',
    change: points,
  },
]

/** The present and every other way, a column each. */
export function WayTable({ of, may, acts }: Props) {
  const { key } = useHere()
  const params = { key, ref: of.run.key }
  const present = useAnswer(weighWhatIf, { params, query: {} }, { keep: true })
  // As many questions as there are ways; a way keeps its place as long as it stands.
  return (
    <div className={css['sides']} tabIndex={0} role="region" aria-label="Side by side">
      <div className={css['names']} aria-hidden="true">
        <span className={css['top']} />
        {figures.map(({ name }) => (
          <span key={name} className={css['figure']}>
            {name}
          </span>
        ))}
      </div>
      <section className={css['side']} aria-label="The present" data-present>
        <div className={css['top']}>
          <h2>The present</h2>
          <WayChanges of={of} />
        </div>
        <Figures of={present.data} error={present.error} than={null} />
      </section>
      {of.rows.map((row) => (
        <Way key={row.id} {...{ of, row, may, acts }} present={present.data} />
      ))}
    </div>
  )
}

function Way({ of, row, may, acts, present }: Props & { row: WhatIf; present: WayFigures | undefined }) {
  const { key } = useHere()
  const query = { id: row.id }
  const { data, error, settled } = useAnswer(weighWhatIf, { params: { key, ref: of.run.key }, query }, { keep: true })
  return (
    <section className={css['side']} aria-label={row.name} aria-busy={!settled}>
      <div className={css['top']}>
        <h2>
          <EditText label="Name" value={row.name} disabled={!may} onStore={(name) => acts.rename(row, name)} />
        </h2>
        <WayChanges of={of} row={row} {...(may && { onChange: (some) => acts.change(row, some) })} />
      </div>
      <Figures of={data} error={error} than={present ?? null} />
      {may && (
        <p className={css['acts']}>
          <Button look="main" onClick={() => void acts.apply(row)}>
            Put in force
          </Button>{' '}
          <Button onClick={() => void acts.drop(row)}>Drop</Button>
        </p>
      )}
    </section>
  )
}

interface FiguresProps {
  readonly of: WayFigures | undefined
  readonly error: Error | null
  readonly than: WayFigures | null
}

function Figures({ of, error, than }: FiguresProps) {
  if (error && !of)
    return (
      <p role="alert" className={css['figure']}>
        {sentenceOf(error)}
      </p>
    )
  if (!of) return <p className={css['figure']}>Working it out…</p>
  return (
    <>
      <dl>
        {figures.map((figure) => (
          <div key={figure.name} className={css['figure']}>
            <dt className="hidden">{figure.name}</dt>
            <dd>
              <b>{figure.text(of)}</b> {than && <Change figure={figure} of={of} than={than} />}
              {figure.small && <small title={figure.small(of)}>{figure.small(of)}</small>}
            </dd>
          </div>
        ))}
      </dl>
      {of.problems.length > 0 && (
        <p className={css['problem']}>
          {of.problems.length === 1 ? 'An item' : `${of.problems.length} items`} above the line cannot be planned:{' '}
          {of.problems[0]}
          {of.problems.length > 1 && '; …'}
        </p>
      )}
    </>
  )
}

function Change({ figure, of, than }: { figure: Figure; of: WayFigures; than: WayFigures }) {
  const [now, before] = [figure.value(of), figure.value(than)]
  if (now === null || before === null) return null
  const by = now - before
  if (Math.abs(by) < 1e-9) return <span className="quiet">as now</span>
  const better = figure.better === null ? undefined : by > 0 === (figure.better === 'more')
  return (
    <span className={css['change']} data-better={better}>
      {by > 0 ? '▲' : '▼'} {figure.change(Math.abs(by))}
      {better !== undefined && <span className="hidden">{better ? ', better' : ', worse'}</span>}
    </span>
  )
}
