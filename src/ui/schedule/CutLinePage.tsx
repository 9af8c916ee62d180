import { type ReactNode, useEffect, useMemo, useState } from 'react'
import { counted, minutesText } from '#core/lib/figures.ts'
import { updateRun } from '#core/runs/contract.ts'
import { hasEnded } from '#core/runs/state.ts'
import { drawRunLine, holdAtLine, type LineAnswer, readLine } from '#core/schedule/contract.ts'
import type { HeldSide } from '#core/schedule/held.ts'
import { sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { dayText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { go, useParams } from '#ui/shell/address.ts'
import { useAnswer, useEdit, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import css from './CutLine.module.css'
import { GiveDialog } from './GiveDialog.tsx'
import { LevelDialog } from './LevelDialog.tsx'
import { lineSums, minutesTyped } from './line-figures.ts'
import { LineRows } from './LineRows.tsx'
import { TeamDays } from './TeamDays.tsx'
import { WhyDialog } from './WhyDialog.tsx'

export const CutLinePage = (shell: ShellProps) => (
  <Shell {...shell}>
    <CutLine />
  </Shell>
)

/** What the open items of a run are worth, the line where its time ends, what is given up below it, and the team's days. */
function CutLine() {
  const { key } = useHere()
  const params = useParams('run', 'minutes')
  const ref = params.get('run') ?? ''
  const typed = params.get('minutes')
  const minutes = typed === null ? {} : { minutes: Number(typed) }
  const { data, error, settled } = useAnswer(
    readLine,
    { params: { key, ref }, query: minutes },
    { keep: true, enabled: ref !== '' },
  )
  if (ref === '') return <Waiting>Open a run and choose “Cut line” there: it is drawn for one run.</Waiting>
  if (error && !data) return <Waiting alert>{sentenceOf(error)}</Waiting>
  if (!data) return <Waiting>Weighing what is still to do…</Waiting>
  return <Line of={data} settled={settled} />
}

const Waiting = ({ alert = false, children }: { alert?: boolean; children: ReactNode }) => (
  <div className={css['empty']}>
    <h1>Cut line</h1>
    <p role={alert ? 'alert' : undefined}>{children}</p>
  </div>
)

type LineOpen = 'why' | 'give' | 'level'

function Line({ of, settled }: { of: LineAnswer; settled: boolean }) {
  const { project } = useHere()
  const may = project.role === 'lead' && !hasEnded(of.run.state)
  const [row, setRow] = useState(0)
  const [ticked, setTicked] = useState<ReadonlySet<number>>(new Set())
  const [at, setAt] = useState(of.above)
  const [open, setOpen] = useState<LineOpen | null>(null)
  const sums = useMemo(() => lineSums(of), [of])
  const acts = useLineActs(of)
  // What is asked for now is answered: the line stands where the answer has it.
  useEffect(() => setAt(of.above), [of])
  const chosen = ticked.size > 0 ? of.ids.filter((id) => ticked.has(id)) : of.ids.slice(row, row + 1)
  const done = () => {
    setTicked(new Set())
    setOpen(null)
  }
  const hold = (side: HeldSide | null) => void acts.hold(chosen, side).then(done)
  useLineKeys({ of, may, row, at, hold, open: setOpen, move: (next) => acts.draw(sums.minutes[next] ?? 0) })
  return (
    <div className={css['page']}>
      <section className={css['main']} aria-label="Items by worth" aria-busy={!settled}>
        <Head of={of} may={may} acts={acts} onLevel={() => setOpen('level')} />
        {of.ids.length === 0 ? (
          <p className={css['empty']}>Nothing is left to do in this run.</p>
        ) : (
          <LineRows
            of={of}
            sums={sums}
            at={at}
            row={row}
            ticked={ticked}
            may={may}
            onRow={setRow}
            onTick={setTicked}
            onDrag={setAt}
            onDraw={(next) => acts.draw(sums.minutes[next] ?? 0)}
            onHours={acts.draw}
            onWhy={() => setOpen('why')}
          />
        )}
        <Stake of={of} />
      </section>
      <TeamDays of={of} may={may} chosen={chosen} />
      {open === 'why' && <WhyDialog of={of} row={row} onClose={() => setOpen(null)} />}
      {open === 'give' && <GiveDialog of={of} ids={chosen} onClose={done} />}
      {open === 'level' && <LevelDialog of={of} onClose={() => setOpen(null)} />}
    </div>
  )
}

/** Drawing the line stores it; who may not only looks, and the address says where. */
function useLineActs({ run }: LineAnswer) {
  const { key, project } = useHere()
  const drawing = useWrite(drawRunLine)
  const holding = useWrite(holdAtLine)
  const params = { key, ref: run.key }
  const store = async (minutes: number | null) => {
    const told = await drawing.attempt({ params, body: { minutes } })
    if (told) go({ params: { minutes: null } }, true)
    return told
  }
  const draw = async (minutes: number | null) => {
    if (project.role !== 'lead') return go({ params: { minutes: minutes === null ? null : String(minutes) } })
    const told = await store(minutes)
    if (told)
      notify(
        minutes === null
          ? 'The line stands where the team’s hours end.'
          : `The line stands at ${minutesText(minutes)}.`,
        {
          undo: () => void store(told.before),
        },
      )
  }
  const hold = async (ids: readonly number[], side: HeldSide | null) => {
    const told = await holding.attempt({ params, body: { sides: [{ ids: [...ids], side }] } })
    if (told)
      notify(`${counted(ids.length, 'item')} ${side === null ? 'left to the line' : `kept ${side} it`}.`, {
        undo: () => void holding.attempt({ params, body: { sides: told.before } }),
      })
  }
  return { draw: (minutes: number | null) => void draw(minutes), hold }
}
type LineActs = ReturnType<typeof useLineActs>

interface KeysOf {
  readonly of: LineAnswer
  readonly may: boolean
  readonly row: number
  readonly at: number
  readonly hold: (side: HeldSide | null) => void
  readonly open: (what: LineOpen) => void
  readonly move: (at: number) => void
}

function useLineKeys({ of, may, row, at, hold, open, move }: KeysOf): void {
  const held = of.held[row] ?? null
  const to = (next: number) => () => move(Math.max(0, Math.min(of.ids.length, next)))
  useKeys([
    { id: 'line-why', keys: 'w', label: 'why this worth', run: () => open('why') },
    { id: 'line-up', keys: 'Shift+ArrowUp', label: 'move the line', run: to(at - 1) },
    { id: 'line-down', keys: 'Shift+ArrowDown', label: 'line down', quiet: true, run: to(at + 1) },
    ...(may
      ? [
          { id: 'line-give', keys: 'g', label: 'give to a tester', run: () => open('give') },
          {
            id: 'line-out',
            keys: 'o',
            label: held === 'below' ? 'leave to the line' : 'leave out',
            run: () => hold(held === 'below' ? null : 'below'),
          },
          {
            id: 'line-in',
            keys: 'i',
            label: held === 'above' ? 'leave to the line' : 'keep in',
            run: () => hold(held === 'above' ? null : 'above'),
          },
          { id: 'line-level', keys: 'Ctrl+Enter', label: 'level', run: () => open('level') },
        ]
      : []),
  ])
}

interface HeadProps {
  readonly of: LineAnswer
  readonly may: boolean
  readonly acts: LineActs
  readonly onLevel: () => void
}

function Head({ of, may, acts, onLevel }: HeadProps) {
  const { key } = useHere()
  const { run } = of
  const edit = useEdit(updateRun, { key, ref: run.key }, run)
  const work = of.minutes.reduce((sum, each) => sum + each, 0)
  const hours = (text: string) => {
    const minutes = minutesTyped(text)
    if (minutes === null) notify(`“${text}” is no number of hours; type 44, 44.5 or 7 h 30.`, { tone: 'problem' })
    else acts.draw(minutes)
  }
  return (
    <header className={css['head']}>
      <div>
        <h1>
          {run.title}{' '}
          <a className="key quiet" href={`/p/${key}/${run.key}`}>
            {run.key}
          </a>
        </h1>
        <p>
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
          )}{' '}
          · {counted(of.ids.length, 'item')} open, {minutesText(work)} of work for{' '}
          <span className={css['hours']}>
            <EditText label="Hours above the line" value={minutesText(of.line)} onStore={hours} disabled={!may} />
          </span>
          {of.drawn ? (
            <>
              {' '}
              ·{' '}
              <Button look="word" onClick={() => acts.draw(null)}>
                the team has {minutesText(of.hours)}
              </Button>
            </>
          ) : (
            ' of hands'
          )}
        </p>
      </div>
      {may && (
        <Button look="main" onClick={onLevel} disabled={of.ids.length === 0 || of.days.length === 0}>
          Level over the team
        </Button>
      )}
    </header>
  )
}

/** Which criteria would be met if everything passed, and are not with what is above the line alone. */
function Stake({ of: { criteria } }: { of: LineAnswer }) {
  const { key } = useHere()
  if (criteria.of === 0) return null
  return (
    <section className={css['stake']} aria-label="Criteria at stake">
      {criteria.stake.length === 0 ? (
        <p>
          No criterion is at stake below the line; {criteria.met} of {criteria.of} met if all above it passes.
        </p>
      ) : (
        <>
          <p>
            <b>{counted(criteria.stake.length, 'criterion', 'criteria')} at stake</b> below the line:
          </p>
          <ul>
            {criteria.stake.map((each) => (
              <li key={`${each.plan} ${each.words}`}>
                <a href={`/p/${key}/${each.plan}`}>{each.words}</a>{' '}
                <span className="quiet">
                  {each.now} now, {each.above} with what is above, {each.all} with all
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  )
}
