import { useEffect, useState } from 'react'
import { counted, minutesText } from '#core/lib/figures.ts'
import { loadOf } from '#core/schedule/load.ts'
import { type LevelAnswer, type LineAnswer, levelRun, placeOnDays, restoreOnDays } from '#core/schedule/contract.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { dayText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { PickFoot } from '#ui/kit/Pick.tsx'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { shortName } from '#ui/shell/people.ts'
import css from './CutLine.module.css'

/** Asks for a levelling as soon as it is open, and again when the one before does not hold any more. */
function useLevelling(ref: string) {
  const { key } = useHere()
  const [round, setRound] = useState(0)
  const [told, setTold] = useState<LevelAnswer | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  useEffect(() => {
    const stop = new AbortController()
    setTold(null)
    call(levelRun, { params: { key, ref }, body: { above: true }, signal: stop.signal })
      .then(setTold)
      .catch((error: unknown) => {
        if (!stop.signal.aborted) setProblem(sentenceOf(error))
      })
    return () => stop.abort()
  }, [round])
  return { told, problem, again: () => setRound(round + 1) }
}

/** What levelling would change, before anything is: put in force as a whole, or dropped. */
export function LevelDialog({ of, run, onClose }: { of: LineAnswer; run: string; onClose: () => void }) {
  const { key } = useHere()
  const { told, problem, again } = useLevelling(run)
  const [changed, setChanged] = useState(false)
  const placing = useWrite(placeOnDays)
  const restoring = useWrite(restoreOnDays)
  const params = { key, ref: run }
  const apply = async () => {
    if (!told) return
    const done = await placing.attempt({ params, body: { basis: told.basis, places: told.places } })
    if (!done) {
      setChanged(true)
      again()
      return
    }
    notify(
      `${counted(told.places.length, 'item')} on the team’s days; ${counted(done.told, 'item')} new there or moved.`,
      {
        undo: () => void restoring.attempt({ params, body: done.before }),
      },
    )
    onClose()
  }
  return (
    <Dialog title="Level over the team" onClose={onClose} wide>
      {problem && <p role="alert">{problem}</p>}
      {changed && told && <p role="status">The run has changed since; this is worked out with that.</p>}
      {!told && !problem && <p role="status">Working out who does what on which day… Esc stops it.</p>}
      {told && (
        <>
          <Sums of={told} line={of} />
          <Loads of={told} line={of} />
          <NoPlace of={told} line={of} />
        </>
      )}
      <PickFoot>
        <Button look="main" onClick={() => void apply()} disabled={!told || placing.busy || told.places.length === 0}>
          Put it in force
        </Button>{' '}
        <Button onClick={onClose}>Drop it</Button>
      </PickFoot>
    </Dialog>
  )
}

const Sums = ({ of, line }: { of: LevelAnswer; line: LineAnswer }) => (
  <p>
    <b>{counted(of.places.length, 'item')}</b> of {line.above} above the line find a place: {of.placed} new, {of.moved}{' '}
    moved, {of.stays} left where {of.stays === 1 ? 'it is' : 'they are'}, begun or pinned
    {of.taken > 0 && `, ${of.taken} taken off`}. Worth {of.worth.toFixed(0)} of at most {of.bound.toFixed(0)} that any
    valid plan of them reaches ({of.bound > 0 ? ((100 * of.worth) / of.bound).toFixed(1) : '100'} %).
  </p>
)

/** Load per person and day, as it would be, beside as it is. */
function Loads({ of, line }: { of: LevelAnswer; line: LineAnswer }) {
  const then = loadOf(of.places)
  return (
    <div className={css['loads']} tabIndex={0} role="region" aria-label="Load as it would be">
      <table>
        <thead>
          <tr>
            <th scope="col">Tester</th>
            {line.days.map((day) => (
              <th key={day} scope="col">
                {dayText(day)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {line.hands.map((hand) => (
            <tr key={hand.id}>
              <th scope="row">{shortName(hand.name)}</th>
              {line.days.map((day, at) => {
                const [now, next] = [hand.placed[at] ?? 0, then(hand.id, day)]
                return (
                  <td key={day} data-changed={now !== next || undefined}>
                    {next === 0 ? '–' : minutesText(next)}
                    {now !== next && <small> was {minutesText(now)}</small>}
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

const mostNamed = 12

function NoPlace({ of, line }: { of: LevelAnswer; line: LineAnswer }) {
  if (of.cutTotal === 0) return null
  const at = new Map(line.ids.map((id, index) => [id, index]))
  return (
    <section aria-label="Without a place">
      <h3>{counted(of.cutTotal, 'item')} above the line find no place</h3>
      <ul className={css['cut']}>
        {of.cut.slice(0, mostNamed).map(({ item, why }) => (
          <li key={item}>
            <span className="key">{line.keys[at.get(item) ?? -1]}</span> {line.titles[at.get(item) ?? -1]}:{' '}
            <span className="quiet">{why}</span>
          </li>
        ))}
        {of.cutTotal > mostNamed && <li className="quiet">and {of.cutTotal - mostNamed} more</li>}
      </ul>
    </section>
  )
}
