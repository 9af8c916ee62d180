import { useEffect, useState } from 'react'
import { counted, minutesText } from '#core/lib/figures.ts'
import { composeItems, composeRun, type ComposedAnswer, type ComposedRow } from '#core/runs/compose-contract.ts'
import { type RunReason, runReasons } from '#core/runs/compose.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { dayText, todayIn } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import css from './Compose.module.css'
import { ComposeRows } from './ComposeRows.tsx'
import { ComposeSource, OnlyWhere } from './ComposeSource.tsx'
import { JoinRun } from './JoinRun.tsx'
import { NewRun } from './NewRun.tsx'
import { type ComposeAsked, type Out, pageSize, placeOf, queryOf, useCompose } from './useCompose.ts'

export const ComposePage = (shell: ShellProps) => (
  <Shell {...shell}>
    <Compose />
  </Shell>
)

const explains: Readonly<Record<RunReason, string>> = {
  failed: 'by what is known now',
  stuck: 'blocked, inconclusive, freed since',
  'basis changed': 'requirement, case, data, build, defect fixed',
  'too old': 'past the project’s days, or two builds since',
  'never tried': 'no result on any build up to this one',
}

/** A run out of what is known: by reasons, narrowed, trimmed row by row, opened as one of its own or joined to one that is open. */
function Compose() {
  const { key, project } = useHere()
  const [asked, set] = useCompose()
  const [out, setOut] = useState<Out>(new Map())
  const [open, setOpen] = useState<Opened | null>(null)
  const query = queryOf(asked)
  const { data, error, settled } = useAnswer(
    composeRun,
    { params: { key }, query: { ...query, limit: pageSize } },
    { keep: true, enabled: asked.build !== null },
  )
  // What was taken out of another selection says nothing of this one.
  useEffect(() => setOut(new Map()), [JSON.stringify([query.runs, query.plan, query.build])])
  const may = project.role === 'lead'
  const left = (data?.total ?? 0) - out.size
  const toggle = (reason: RunReason) => set({ reasons: toggled(asked.reasons, reason) })
  useComposeKeys({ toggle, may: may && left > 0, open: setOpen })
  if (asked.build === null) return <p className={css['empty']}>There is no build yet; add one in the set-up.</p>
  return (
    <div className={css['page']}>
      <section className={css['side']} aria-label="What is asked for">
        <h1>What again?</h1>
        <ComposeSource asked={asked} set={set} />
        <Reasons chosen={asked.reasons} counts={data?.counts} onToggle={toggle} />
        <OnlyWhere
          asked={asked}
          set={set}
          fits={data?.looked}
          open={open === 'only'}
          onOpen={(on) => setOpen(on ? 'only' : null)}
        />
        {data && <Sums of={data} out={out} />}
      </section>
      <section className={css['rows']} aria-label="What would be executed" aria-busy={!settled}>
        <Head left={left} build={asked.build.name} may={may} onOpen={setOpen} />
        {error && !data && <p role="alert">{sentenceOf(error)}</p>}
        {data && <Found asked={asked} of={data} out={out} setOut={setOut} />}
      </section>
      {data && (open === 'run' || open === 'join') && (
        <Making as={open} asked={asked} shown={data} out={out} onClose={() => setOpen(null)} />
      )}
    </div>
  )
}

type Opened = 'only' | 'run' | 'join'

const toggled = (reasons: readonly RunReason[], reason: RunReason): RunReason[] =>
  reasons.includes(reason) ? reasons.filter((each) => each !== reason) : [...reasons, reason]

function useComposeKeys({
  toggle,
  may,
  open,
}: {
  toggle: (reason: RunReason) => void
  may: boolean
  open: (what: Opened) => void
}): void {
  useKeys([
    ...runReasons.map((reason, at) => ({
      id: `reason-${at + 1}`,
      keys: String(at + 1),
      label: at === 0 ? 'reasons, 1 to 5' : reason,
      quiet: at > 0,
      run: () => toggle(reason),
    })),
    { id: 'only-where', keys: '/', label: 'only where', run: () => open('only') },
    ...(may
      ? [
          { id: 'join', keys: 'j', label: 'join a run', run: () => open('join') },
          { id: 'open-run', keys: 'Ctrl+Enter', label: 'open', run: () => open('run') },
        ]
      : []),
  ])
}

const Head = ({
  left,
  build,
  may,
  onOpen,
}: {
  left: number
  build: string
  may: boolean
  onOpen: (what: Opened) => void
}) => (
  <header>
    <div>
      <h2>{left === 0 ? 'Nothing is chosen' : `These ${left}, and why`}</h2>
      <p className="quiet">the mark is what is known now, judged on {build}</p>
    </div>
    {may && (
      <span className={css['acts']}>
        <Button disabled={left === 0} onClick={() => onOpen('join')}>
          Join an open run
        </Button>
        <Button look="main" disabled={left === 0} onClick={() => onOpen('run')}>
          Open as a run
        </Button>
      </span>
    )}
  </header>
)

function Found({
  asked,
  of,
  out,
  setOut,
}: {
  asked: ComposeAsked
  of: ComposedAnswer
  out: Out
  setOut: (out: Out) => void
}) {
  if (of.total === 0)
    return (
      <p className={css['empty']}>
        {asked.reasons.length === 0
          ? 'Choose a reason: they add up.'
          : of.looked === 0
            ? 'Nothing fits: take away what it is narrowed by, or choose another run.'
            : `Of ${counted(of.looked, 'case and environment', 'cases and environments')} none is there for ${asked.reasons.join(', ')}.`}
      </p>
    )
  const toggle = (row: ComposedRow) => {
    const next = new Map(out)
    if (!next.delete(placeOf(row))) next.set(placeOf(row), row.minutes)
    setOut(next)
  }
  return <ComposeRows query={queryOf(asked)} first={of} out={out} onToggle={toggle} />
}

function Reasons({
  chosen,
  counts,
  onToggle,
}: {
  chosen: readonly RunReason[]
  counts: ComposedAnswer['counts'] | undefined
  onToggle: (reason: RunReason) => void
}) {
  return (
    <ul className={css['reasons']}>
      {runReasons.map((reason, at) => (
        <li key={reason} data-on={chosen.includes(reason) || undefined}>
          <label>
            <kbd>{at + 1}</kbd>
            <input type="checkbox" checked={chosen.includes(reason)} onChange={() => onToggle(reason)} />
            <span>
              <b>{reason}</b>
              <small>{explains[reason]}</small>
            </span>
            <b>{counts?.[reason] ?? ''}</b>
          </label>
        </li>
      ))}
    </ul>
  )
}

function Sums({ of, out }: { of: ComposedAnswer; out: Out }) {
  const taken = [...out.values()].reduce((sum, minutes) => sum + minutes, 0)
  return (
    <dl className={css['sums']}>
      <dt>told by one reason</dt>
      <dd>{of.one}</dd>
      <dt>told by two or more</dt>
      <dd>{of.several}</dd>
      <dt>taken out by hand</dt>
      <dd>{out.size}</dd>
      <dt data-sum>{counted(of.total - out.size, 'item')}</dt>
      <dd data-sum>{minutesText(of.minutes - taken)}</dd>
    </dl>
  )
}

type Slot = { readonly case: number; readonly environment: number; readonly reasons: RunReason[] }

/** Made of exactly what is shown: where something happened meanwhile it says so, and makes nothing. */
function Making({
  as,
  asked,
  shown,
  out,
  onClose,
}: {
  as: 'run' | 'join'
  asked: ComposeAsked
  shown: ComposedAnswer
  out: Out
  onClose: () => void
}) {
  const { key, project } = useHere()
  const [slots, setSlots] = useState<readonly Slot[] | null>(null)
  const query = queryOf(asked)
  useEffect(() => {
    call(composeItems, { params: { key }, query }).then(
      (all) => {
        const isSame = all.mark === shown.mark
        if (isSame && all.total === all.items.length)
          return setSlots(all.items.filter((each) => !out.has(placeOf(each))))
        notify(
          isSame
            ? `A run has at most ${all.items.length} items; narrow what is chosen.`
            : 'Something happened meanwhile, so that it is not the same any more. Look again, and then make it.',
        )
        onClose()
      },
      (error: unknown) => {
        notify(sentenceOf(error))
        onClose()
      },
    )
  }, [])
  if (!slots || !asked.build) return null
  if (as === 'join') return <JoinRun slots={slots} onClose={onClose} />
  return (
    <NewRun
      plan={null}
      known={{
        title: `Again on ${asked.build.name}, ${dayText(todayIn(project))}`,
        build: asked.build.id,
        releaseId: asked.build.release,
      }}
      slots={slots}
      composed={{
        runs: [...asked.runs],
        plan: asked.plan,
        reasons: [...asked.reasons],
        words: asked.words,
        filter: asked.filter === null ? '' : JSON.stringify(asked.filter),
      }}
      onClose={onClose}
    />
  )
}
