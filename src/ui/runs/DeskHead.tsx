import { verdictsByRow } from '#core/runs/attempt.ts'
import type { Desk, DeskAttempt } from '#core/runs/desk-contract.ts'
import { counted, minutesText } from '#core/lib/figures.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { momentText } from '#ui/kit/moment.ts'
import { useHere, useTo } from '#ui/shell/here.ts'
import { SaidMark } from '#ui/shell/SaidMark.tsx'
import { asCore } from './desk-attempt.ts'
import css from './Desk.module.css'
import { TimeSpent } from './TimeSpent.tsx'
import { useClock } from './useClock.ts'
import type { useDesk } from './useDesk.ts'

type Own = ReturnType<typeof useDesk>

/** What is being executed, where, for how long, and what is known of it as a whole. */
export function DeskHead({ desk, own, rows }: { desk: Desk; own: Own; rows: number }) {
  const { key } = useHere()
  const to = useTo()
  const seconds = useClock(own.attempt)
  return (
    <header className={css['head']}>
      <h1>
        {desk.case.title}{' '}
        <a className="key quiet" href={to(desk.case.key)}>
          {desk.case.key}
        </a>{' '}
        {own.attempt && <span className="key quiet">v{own.attempt.version}</span>}
      </h1>
      <p>
        {placeOf(desk)} in <a href={`/p/${key}/${desk.run.key}`}>{desk.run.title}</a>, on <b>{desk.item.environment}</b>
        , build <span className="key">{own.attempt?.build ?? desk.installed?.name ?? desk.run.build}</span>;{' '}
        <TimeSpent own={own} seconds={seconds} /> of {minutesText(desk.item.minutes)}
        {rows > 1 && <DataRows own={own} rows={rows} />}
        <Whole own={own} />
      </p>
      <NotOpen of={desk.run} />
      {(own.attempt?.policy ?? desk.run.policy).decides === 'tester' && !own.attempt?.whole && (
        <p className={css['hint']}>
          You decide: what is said of steps is a note, until the whole item has its verdict (<kbd>Shift</kbd> and its
          letter, or <kbd>w</kbd>).
        </p>
      )}
      {own.attempt?.doubt && (
        <p className={css['note']}>
          This attempt is doubted: {own.attempt.doubt}. Its verdict is kept and is not current.
        </p>
      )}
      <Odd of={own.attempt?.odd ?? null} />
      {desk.item.stands && (
        <p className={css['note']}>
          What counts here is another attempt’s verdict: <Mark verdict={desk.item.stands} label={false} />{' '}
          {desk.item.stands}.
        </p>
      )}
      <Unsent waiting={own.waiting} />
    </header>
  )
}

/** What may still be done in a run that is not open. */
const NotOpen = ({ of: { state, amendUntil } }: { of: Desk['run'] }) =>
  state === 'Open' ? null : (
    <p className={css['note']} role="status">
      {amendUntil !== null && amendUntil > Date.now()
        ? `The run is ${state}; you may amend its results until ${momentText(amendUntil)}.`
        : `The run is ${state}; it can be read, not executed.`}
    </p>
  )

const placeOf = ({ place, item }: Desk): string => {
  if (place.at > 0) return `Item ${place.at} of ${place.of}`
  return item.assignee ? `Item of ${item.assignee}` : 'Item of nobody yet'
}

function DataRows({ own, rows }: { own: Own; rows: number }) {
  const verdicts = own.attempt ? verdictsByRow(asCore(own.attempt)) : []
  return (
    <>
      ; data row <b>{own.at.row}</b> of {rows}{' '}
      {Array.from({ length: rows }, (_, index) => (
        <button key={index} type="button" aria-label={`Data row ${index + 1}`} onClick={() => own.go(0, index + 1)}>
          <Mark verdict={verdicts[index] ?? 'Not run'} size={12} />
        </button>
      ))}
    </>
  )
}

function Whole({ own: { attempt } }: { own: Own }) {
  if (!attempt || attempt.verdict === 'Not run') return null
  return (
    <>
      ; as a whole <SaidMark verdict={attempt.verdict} word={attempt.word} /> <b>{attempt.word ?? attempt.verdict}</b>
      {attempt.override && <> (overridden: {attempt.override})</>}
    </>
  )
}

/** Verdicts of the attempt whose time or arrival is not what one expects. */
function Odd({ of }: { of: DeskAttempt['odd'] | null }) {
  const parts = [
    of?.late && `${counted(of.late, 'verdict')} came after the run was closed and had been given before: counted`,
    of?.amended && `${counted(of.amended, 'verdict')} given after the close, amending the result: counted`,
    of?.afterClose && `${counted(of.afterClose, 'verdict')} given after the close: kept, not counted`,
    of?.doubtful && `${counted(of.doubtful, 'verdict')} with a time that could not be: told by arrival`,
  ].filter(Boolean)
  return parts.length === 0 ? null : <p className={css['note']}>{parts.join('; ')}.</p>
}

const Unsent = ({ waiting: { count, problem } }: { waiting: Own['waiting'] }) =>
  count > 0 && problem ? (
    <p className={css['note']} role="alert">
      {problem} {count} {count === 1 ? 'verdict waits' : 'verdicts wait'} here.
    </p>
  ) : null
