import { counted, minutesText, sumOf } from '#core/lib/figures.ts'
import { updateRun } from '#core/runs/contract.ts'
import type { LineAnswer } from '#core/schedule/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { dayText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useEdit } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from './CutLine.module.css'
import type { LineActs } from './CutLinePage.tsx'
import { minutesTyped } from './line-figures.ts'

interface Props {
  readonly of: LineAnswer
  readonly may: boolean
  readonly acts: LineActs
  readonly onLevel: () => void
}

export const lineAt = (key: string, about: { readonly kind: 'run' | 'plan'; readonly ref: string }): string =>
  `/p/${key}/runs/line?${about.kind}=${about.ref}`
export const whatIfAt = (key: string, run: string): string => `/p/${key}/runs/what-if?run=${run}`

/** What the line is drawn over, its days, and the work against the hours. */
export function LineHead(props: Props) {
  const { of, acts, may, onLevel } = props
  const { key } = useHere()
  const { about } = of
  const only = about.kind === 'run'
  return (
    <header className={css['head']}>
      <div>
        <h1>
          {about.title}{' '}
          {about.key && (
            <a className="key quiet" href={`/p/${key}/${about.key}`}>
              {about.key}
            </a>
          )}
        </h1>
        <p>
          {only ? <DaysOfRun {...props} /> : <Runs of={of} />} · {counted(of.ids.length, 'item')} open,{' '}
          {minutesText(sumOf(of.minutes, (each) => each))} for <Hours of={of} acts={acts} />
        </p>
      </div>
      {may && only && (
        <div className={css['acts']}>
          <Button onClick={() => location.assign(whatIfAt(key, about.key ?? ''))}>What if…</Button>
          <Button look="main" onClick={onLevel} disabled={of.ids.length === 0 || of.days.length === 0}>
            Level over the team
          </Button>
        </div>
      )}
    </header>
  )
}

function DaysOfRun({ of, may }: Props) {
  const { key } = useHere()
  const [run] = of.runs
  const edit = useEdit(updateRun, { key, ref: run?.key ?? '' }, run ?? { version: 0 })
  if (!run) return null
  return (
    <>
      {run.state} · {dayText(run.startOn)} –{' '}
      {may ? (
        <input
          type="date"
          className={css['until']}
          aria-label="Last day"
          value={run.endOn}
          min={run.startOn}
          onChange={(event) => event.target.value !== '' && void edit({ endOn: event.target.value })}
        />
      ) : (
        dayText(run.endOn)
      )}
    </>
  )
}

/** The runs it is drawn over, each a way to its own line: there it is levelled. */
function Runs({ of: { about, runs } }: { of: LineAnswer }) {
  const { key } = useHere()
  if (about.kind === 'day') return <>{dayText(about.startOn)}</>
  if (runs.length === 0) return <>No run of it goes on</>
  return (
    <>
      {runs.map((run, at) => (
        <span key={run.key}>
          {at > 0 && ', '}
          <a href={lineAt(key, { kind: 'run', ref: run.key })} title={run.title}>
            {run.key}
          </a>
        </span>
      ))}{' '}
      · until {dayText(about.endOn)}
    </>
  )
}

function Hours({ of, acts }: { of: LineAnswer; acts: LineActs }) {
  const hours = (text: string) => {
    const minutes = minutesTyped(text)
    if (minutes === null) notify(`“${text}” is no number of hours; type 44, 44.5 or 7 h 30.`, { tone: 'problem' })
    else acts.draw(minutes)
  }
  const [mine, there] = of.about.kind === 'day' ? [' that I have today', 'I have'] : [' of hands', 'the team has']
  return (
    <>
      <span className={css['hours']}>
        <EditText label="Hours above the line" value={minutesText(of.line)} onStore={hours} />
      </span>
      {of.line === of.hours && !of.drawn ? (
        mine
      ) : (
        <>
          {' '}
          ·{' '}
          <Button look="word" onClick={() => acts.draw(null)}>
            {there} {minutesText(of.hours)}
          </Button>
        </>
      )}
    </>
  )
}
