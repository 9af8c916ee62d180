import { useEffect, useState } from 'react'
import { withValues } from '#core/cases/steps.ts'
import { plainText } from '#core/lib/plain-text.ts'
import type { Desk, DeskAttempt } from '#core/runs/desk-contract.ts'
import { useKeys } from '#ui/kit/keys.ts'
import { Shown } from '#ui/kit/RichText.tsx'
import { useParams } from '#ui/shell/address.ts'
import { useHere } from '#ui/shell/here.ts'
import { SaidMark } from '#ui/shell/SaidMark.tsx'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import css from './Beside.module.css'
import { sayables } from './sayable.ts'
import { type Cell, mostBeside, useBeside } from './useBeside.ts'
import { useClock } from './useClock.ts'

export const BesidePage = (shell: ShellProps) => (
  <Shell {...shell}>
    <Beside />
  </Shell>
)

type Own = ReturnType<typeof useBeside>

/** One case in up to four environments, a column each. */
function Beside() {
  const { key } = useHere()
  const asked = (useParams('items').get('items') ?? '').split(',').map(Number)
  const ids = [...new Set(asked.filter((id) => Number.isInteger(id) && id > 0))].slice(0, mostBeside)
  const own = useBeside(ids)
  if (own.problem !== null)
    return (
      <p className={css['lost']} role="alert">
        {own.problem} <a href={`/p/${key}/runs`}>To the runs</a>
      </p>
    )
  if (ids.length === 0)
    return (
      <p className={css['lost']}>
        Tick up to four items of one case in a <a href={`/p/${key}/runs`}>run</a>, and choose “side by side”.
      </p>
    )
  return own.desks ? <Columns own={own} desks={own.desks} /> : null
}

const shownOf = (own: Own, desk: Desk): DeskAttempt | Desk['preview'] => own.attempts[desk.item.id] ?? desk.preview

function Columns({ own, desks }: { own: Own; desks: readonly Desk[] }) {
  const { key } = useHere()
  const [first] = desks
  const here = desks[own.at.column]
  useClock(here ? (own.attempts[here.item.id] ?? null) : null)
  useBesideKeys(own)
  if (!first) return null
  const longest = desks.map((desk) => shownOf(own, desk)).reduce((a, b) => (b.steps.length > a.steps.length ? b : a))
  const rows = Math.max(1, longest.rows.length)
  const versions = new Set(desks.map((desk) => shownOf(own, desk).version))
  const others = desks.filter((desk) => desk.case.key !== first.case.key)
  return (
    <section className={css['beside']} aria-label="Side by side">
      <header className={css['head']}>
        <h1>
          {first.case.title} <span className="key quiet">{first.case.key}</span>
        </h1>
        <p>
          Side by side in <a href={`/p/${key}/${first.run.key}?full=yes`}>{first.run.title}</a>
          {rows > 1 && (
            <>
              ; data row <b>{own.at.row}</b> of {rows}
            </>
          )}
          {versions.size > 1 && '; the columns are on different versions of the case'}
          <span role="status"> {own.stored}</span>
        </p>
        {others.length > 0 && (
          <p role="alert">
            {others.map((desk) => desk.case.key).join(', ')} is another case; only items of one case stand side by side.
          </p>
        )}
      </header>
      {others.length === 0 && <Table own={own} desks={desks} longest={longest} />}
    </section>
  )
}

function Table({ own, desks, longest }: { own: Own; desks: readonly Desk[]; longest: DeskAttempt | Desk['preview'] }) {
  const { key } = useHere()
  const values = longest.rows[own.at.row - 1] ?? {}
  return (
    <div className={css['scroll']}>
      <table className={css['table']} role="grid" aria-label="Steps and environments">
        <thead>
          <tr>
            <th>Step</th>
            {desks.map((desk, column) => {
              const attempt = own.attempts[desk.item.id]
              return (
                <th key={desk.item.id} data-here={column === own.at.column || undefined}>
                  <a href={`/p/${key}/desk/${desk.item.id}?mine=no`}>{desk.item.environment}</a>
                  <span className="key quiet">{attempt?.build ?? desk.installed?.name ?? desk.run.build}</span>
                  <SaidMark verdict={attempt?.verdict ?? 'Not run'} word={attempt?.word ?? null} />
                </th>
              )
            })}
          </tr>
        </thead>
        <tbody>
          {longest.steps.map((step, at) => (
            <tr key={step.id} aria-current={at === own.at.step ? 'step' : undefined}>
              <td className={css['step']}>
                <span className="quiet">{at + 1}</span> <Shown inline html={withValues(step.action, values)} />
                {at === own.at.step && (
                  <p className={css['expected']}>
                    <span className="quiet">should be</span> <Shown inline html={withValues(step.expected, values)} />
                    {step.data !== '' && (
                      <>
                        {' '}
                        <span className="quiet">data</span> <Shown inline html={withValues(step.data, values)} />
                      </>
                    )}
                  </p>
                )}
              </td>
              {desks.map((desk, column) => (
                <Place key={desk.item.id} own={own} desk={desk} cell={{ column, row: own.at.row, step: at }} />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {longest.steps.length === 0 && <p>This case has no steps; give each its verdict at its own desk.</p>}
      <What key={`${own.at.column}.${own.at.row}.${own.at.step}`} own={own} desks={desks} />
    </div>
  )
}

function markAt(own: Own, desk: Desk, { row, step }: Cell) {
  const shown = shownOf(own, desk)
  const id = shown.steps[step]?.id
  const mark = own.attempts[desk.item.id]?.marks.find((each) => each.row === row && each.step === id)
  return { there: id !== undefined, mark }
}

function Place({ own, desk, cell }: { own: Own; desk: Desk; cell: Cell }) {
  const { there, mark } = markAt(own, desk, cell)
  const here = cell.column === own.at.column && cell.step === own.at.step
  if (!there) return <td className="quiet">not in its version</td>
  return (
    <td className={css['cell']} data-here={here || undefined}>
      <button
        type="button"
        tabIndex={-1}
        aria-label={`Step ${cell.step + 1} in ${desk.item.environment}`}
        onClick={() => own.go(cell)}
      >
        <SaidMark verdict={mark?.verdict ?? 'Not run'} word={mark?.word ?? null} label={false} />{' '}
        {mark ? (mark.word ?? mark.verdict) : <span className="hidden">Not run</span>}{' '}
        {mark?.comment ? <span className="quiet">{plainText(mark.comment)}</span> : null}
      </button>
    </td>
  )
}

/** What happened in the cell one is in. */
function What({ own, desks }: { own: Own; desks: readonly Desk[] }) {
  const desk = desks[own.at.column]
  const known = desk ? plainText(markAt(own, desk, own.at).mark?.comment ?? '') : ''
  const [text, setText] = useState(known)
  useEffect(() => setText(known), [known])
  const cell = own.at
  return (
    <label className={css['what']}>
      <span>what happened in {desk?.item.environment}</span>
      <textarea
        data-happened
        rows={2}
        value={text}
        placeholder="as expected, unless you write it here"
        onChange={(event) => setText(event.target.value)}
        onBlur={() => {
          if (text !== known) void own.comment(cell, text)
        }}
        onKeyDown={(event) => {
          if (event.key !== 'Escape' && (event.key !== 'Enter' || event.shiftKey)) return
          event.preventDefault()
          event.currentTarget.blur()
        }}
      />
    </label>
  )
}

function useBesideKeys(own: Own): void {
  const { project } = useHere()
  const { column, row, step } = own.at
  const said = sayables(project.verdictKinds, 'forSteps')
  const quiet = (id: string, keys: string, label: string, run: () => void) => ({
    id: `beside-${id}`,
    keys,
    label,
    quiet: true,
    run,
  })
  useKeys([
    ...said.map((of) => ({
      id: `beside-${of.label}`,
      keys: of.key,
      label: of.label.toLowerCase(),
      run: () => own.mark(of.said),
    })),
    ...said.flatMap((of) =>
      of.word === null
        ? [
            quiet(`all-${of.label}`, `Shift+${of.key}`, `${of.label.toLowerCase()} in all`, () =>
              own.mark(of.said, true),
            ),
          ]
        : [],
    ),
    quiet('up', 'ArrowUp', 'step up', () => own.go({ step: step - 1 })),
    quiet('down', 'ArrowDown', 'step down', () => own.go({ step: step + 1 })),
    quiet('left', 'ArrowLeft', 'column before', () => own.go({ column: column - 1 })),
    quiet('right', 'ArrowRight', 'column after', () => own.go({ column: column + 1 })),
    quiet('row-before', 'PageUp', 'data row before', () => own.go({ row: row - 1, step: 0 })),
    quiet('row-after', 'PageDown', 'data row after', () => own.go({ row: row + 1, step: 0 })),
    {
      id: 'beside-comment',
      keys: 'c',
      label: 'comment',
      run: () => document.querySelector<HTMLElement>('[data-happened]')?.focus(),
    },
  ])
}
