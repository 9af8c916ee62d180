import { type ReactNode, useCallback, useMemo, useState } from 'react'
import type { Project } from '#core/projects/contract.ts'
import { counted, minutesText } from '#core/lib/figures.ts'
import { hasEnded } from '#core/runs/state.ts'
import {
  drawRunLine,
  holdAtLine,
  type LineAnswer,
  readLine,
  readOwnLine,
  readPlanLine,
} from '#core/schedule/contract.ts'
import type { HeldSide } from '#core/schedule/held.ts'
import { sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { dayText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { go, useParams } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { shortName } from '#ui/shell/people.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { inTurn } from '#ui/shell/undoable.ts'
import css from './CutLine.module.css'
import { GiveDialog } from './GiveDialog.tsx'
import { LevelDialog } from './LevelDialog.tsx'
import { byRun, lineSums, notesOf } from './line-figures.ts'
import { LineHead, whatIfAt } from './LineHead.tsx'
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
  const params = useParams('run', 'plan', 'mine', 'minutes')
  const [run, plan, mine] = [params.get('run') ?? '', params.get('plan') ?? '', params.get('mine') !== null]
  const typed = params.get('minutes')
  const query = typed === null ? {} : { minutes: Number(typed) }
  const [ofRun, ofPlan] = [run !== '', run === '' && plan !== '']
  const ofDay = !ofRun && !ofPlan && mine
  const answers = [
    useAnswer(readLine, { params: { key, ref: run }, query }, { keep: true, enabled: ofRun }),
    useAnswer(readPlanLine, { params: { key, ref: plan }, query }, { keep: true, enabled: ofPlan }),
    useAnswer(readOwnLine, { params: { key }, query }, { keep: true, enabled: ofDay }),
  ] as const
  const { data, error, settled } = answers[ofRun ? 0 : ofPlan ? 1 : 2]
  if (!ofRun && !ofPlan && !ofDay)
    return (
      <Waiting>
        Open a run or a plan and choose “Cut line” there, or look at <a href={`/p/${key}/runs/line?mine`}>my day</a>.
      </Waiting>
    )
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

/** Which rows are chosen, and what is open. */
function useLine(of: LineAnswer) {
  const { project } = useHere()
  const [row, setRow] = useState(0)
  const [ticked, setTicked] = useState<ReadonlySet<number>>(new Set())
  const [open, setOpen] = useState<LineOpen | null>(null)
  const [given, setGiven] = useState<readonly number[]>([])
  const sums = useMemo(() => lineSums(of), [of])
  const notes = useMemo(() => notesOf(of, slipWords(project)), [of])
  const chosen = useMemo(
    () => (ticked.size > 0 ? of.ids.filter((id) => ticked.has(id)) : of.ids.slice(row, row + 1)),
    [of, ticked, row],
  )
  const done = () => {
    setTicked(new Set())
    setOpen(null)
  }
  const give = (ids: readonly number[]) => {
    setGiven(ids)
    setOpen('give')
  }
  const why = useCallback(() => setOpen('why'), [])
  return { row, setRow, ticked, setTicked, open, setOpen, given, give, why, chosen, done, sums, notes }
}

function Line({ of, settled }: { of: LineAnswer; settled: boolean }) {
  const { project } = useHere()
  const [run] = of.runs
  // Of several runs one works at each by itself; the days of a run that has ended are not planned any more.
  const may = project.role === 'lead' && of.about.kind !== 'day' && of.runs.some(({ state }) => !hasEnded(state))
  const only = may && of.about.kind === 'run' && run ? run.key : null
  const state = useLine(of)
  const { row, setRow, ticked, setTicked, open, setOpen, given, give, why, chosen, done, sums, notes } = state
  const acts = useLineActs(of)
  const draw = (next: number) => acts.draw(sums.minutes[next] ?? 0)
  useLineKeys({
    ...{ of, may, only, row },
    hold: (side) => void acts.hold(chosen, side).then(done),
    open: (what) => (what === 'give' ? give(chosen) : setOpen(what)),
    move: draw,
  })
  return (
    <div className={css['page']}>
      <section className={css['main']} aria-label="Items by worth" aria-busy={!settled}>
        <LineHead of={of} may={may} acts={acts} onLevel={() => setOpen('level')} />
        <Noted of={of} notes={notes} row={row} onRow={setRow} />
        {of.ids.length === 0 ? (
          <p className={css['empty']}>{nothing[of.about.kind]}</p>
        ) : (
          <LineRows
            of={of}
            sums={sums}
            notes={notes}
            row={row}
            ticked={ticked}
            may={may}
            onRow={setRow}
            onTick={setTicked}
            onDraw={draw}
            onWhy={why}
          />
        )}
        <Stake of={of} />
      </section>
      <TeamDays of={of} may={may} chosen={chosen} onGive={give} />
      {open === 'why' && <WhyDialog of={of} row={row} onClose={() => setOpen(null)} />}
      {open === 'give' && <GiveDialog of={of} ids={given} onClose={done} />}
      {open === 'level' && only && <LevelDialog of={of} run={only} onClose={() => setOpen(null)} />}
    </div>
  )
}

/** Drawing the line stores it; who may not only looks, and the address says where. */
function useLineActs(of: LineAnswer) {
  const { key, project } = useHere()
  const drawing = useWrite(drawRunLine)
  const holding = useWrite(holdAtLine)
  const ref = of.about.kind === 'run' && project.role === 'lead' ? of.about.key : null
  const store = async (minutes: number | null) => {
    if (ref === null) return undefined
    const told = await drawing.attempt({ params: { key, ref }, body: { minutes } })
    if (told) go({ params: { minutes: null } }, true)
    return told
  }
  const draw = async (minutes: number | null) => {
    if (ref === null) return go({ params: { minutes: minutes === null ? null : String(minutes) } })
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
    const back: (() => Promise<unknown>)[] = []
    for (const { ref: own, ids: chosen } of byRun(of, ids)) {
      const params = { key, ref: own }
      const told = await holding.attempt({ params, body: { sides: [{ ids: chosen, side }] } })
      if (told) back.push(() => holding.attempt({ params, body: { sides: told.before } }))
    }
    if (back.length > 0)
      notify(`${counted(ids.length, 'item')} ${side === null ? 'left to the line' : `kept ${side} it`}.`, {
        undo: () => void inTurn(back),
      })
  }
  return { draw: (minutes: number | null) => void draw(minutes), hold }
}
export type LineActs = ReturnType<typeof useLineActs>

const nothing = {
  run: 'Nothing is left to do in this run.',
  plan: 'Nothing is left to do: no run of this plan goes on, or all of them are done.',
  day: 'Nothing is yours to do now: no open run has an item for you that waits for nothing.',
} as const

const slipWords = (project: Project) => (slip: LineAnswer['slipped'][number]) => {
  const name = shortName(project.people.find(({ id }) => id === slip.person)?.name ?? '')
  return `slipped from ${dayText(slip.day)}${name && `, ${name}`}`
}

interface NotedProps {
  readonly of: LineAnswer
  readonly notes: ReadonlyMap<number, string>
  readonly row: number
  readonly onRow: (row: number) => void
}

/** What slipped and what cannot be, counted, with the way to the next of them. */
function Noted({ of, notes, row, onRow }: NotedProps) {
  const whole = of.problems.filter(({ item }) => item === null)
  const wrong = of.problems.length - whole.length
  const said = [
    ...(of.slipped.length > 0 ? [`${counted(of.slipped.length, 'item')} slipped from days that are over`] : []),
    ...(wrong > 0 ? [`${counted(wrong, 'item')} cannot be planned as ${wrong === 1 ? 'it is' : 'they are'}`] : []),
  ]
  if (said.length + whole.length === 0) return null
  const next = () => {
    const noted = of.ids.flatMap((id, at) => (notes.has(id) ? [at] : []))
    const to = noted.find((at) => at > row) ?? noted[0]
    if (to !== undefined) onRow(to)
  }
  return (
    <p className={css['noted']} role="status">
      {whole.map(({ words }) => words).join(' ')}
      {said.length > 0 && (
        <>
          {said.join('; ')} ·{' '}
          <Button look="word" onClick={next}>
            to the next of them
          </Button>
        </>
      )}
    </p>
  )
}

interface KeysOf {
  readonly of: LineAnswer
  readonly may: boolean
  /** The one run that can be levelled. */
  readonly only: string | null
  readonly row: number
  readonly hold: (side: HeldSide | null) => void
  readonly open: (what: LineOpen) => void
  readonly move: (at: number) => void
}

function useLineKeys({ of, may, only, row, hold, open, move }: KeysOf): void {
  const { key } = useHere()
  const held = of.held[row] ?? null
  const to = (next: number) => () => move(Math.max(0, Math.min(of.ids.length, next)))
  useKeys([
    { id: 'line-why', keys: 'w', label: 'why this worth', run: () => open('why') },
    { id: 'line-up', keys: 'Shift+ArrowUp', label: 'move the line', run: to(of.above - 1) },
    { id: 'line-down', keys: 'Shift+ArrowDown', label: 'line down', quiet: true, run: to(of.above + 1) },
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
        ]
      : []),
    ...(only === null
      ? []
      : [
          { id: 'line-level', keys: 'Ctrl+Enter', label: 'level', run: () => open('level') },
          { id: 'line-what-if', keys: 'x', label: 'what if', run: () => location.assign(whatIfAt(key, only)) },
        ]),
  ])
}

/** Which requirements only what is below would touch, and which criteria would be met if everything passed, and are not with what is above alone. */
function Stake({ of: { criteria, requirements } }: { of: LineAnswer }) {
  const { key } = useHere()
  if (criteria.of === 0 && requirements.above + requirements.below === 0) return null
  return (
    <section className={css['stake']} aria-label="At stake">
      <p>
        {counted(requirements.above, 'requirement')} touched above the line
        {requirements.below > 0 && (
          <>
            , <b>{requirements.below} only below it</b>
          </>
        )}
        .{' '}
        {criteria.of > 0 &&
          criteria.stake.length === 0 &&
          `No criterion is at stake below; ${criteria.met} of ${criteria.of} met if all above passes.`}
        {criteria.stake.length > 0 && (
          <>
            <b>{counted(criteria.stake.length, 'criterion', 'criteria')} at stake</b> below the line:
          </>
        )}
      </p>
      {criteria.stake.length > 0 && (
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
      )}
    </section>
  )
}
