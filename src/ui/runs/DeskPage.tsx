import { plainly, type FinalVerdict } from '#core/lib/verdict.ts'
import type { Served } from '#core/lib/question.ts'
import { useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { type Desk, addEvidence, readDesk, startAttempt } from '#core/runs/contract.ts'
import { minutesText } from '#core/lib/figures.ts'
import { call, sentenceOf } from '#ui/call.ts'
import { LogDefect } from '#ui/defects/LogDefect.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Shown } from '#ui/kit/RichText.tsx'
import { go, scopeSearch, useAddress } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { DeskSide } from './DeskSide.tsx'
import css from './Desk.module.css'
import { StepLadder } from './StepLadder.tsx'
import { useClock } from './useClock.ts'
import { useDesk } from './useDesk.ts'
import { QueueRest, rowVerdict, Override, Needs } from './DeskParts.tsx'
import { usePastedFiles } from './usePastedFiles.ts'

export const DeskPage = ({ initial, ...shell }: ShellProps & { initial: Served<Desk> }) => (
  <Shell {...shell}>
    <AtDesk initial={initial} />
  </Shell>
)

function AtDesk({ initial }: { initial: Served<Desk> }) {
  const { key } = useHere()
  const { path, params } = useAddress()
  const id = Number(/\/desk\/(\d+)/.exec(path)?.[1] ?? initial.answer.item.id)
  const query = params.get('mine') === 'no' ? {} : { mine: 'yes' as const }
  const { data, error } = useAnswer(readDesk, { params: { key, id }, query }, { served: initial })
  if (error && !data)
    return (
      <p className={css['lost']} role="alert">
        {sentenceOf(error)} <a href={`/p/${key}/runs`}>To the runs</a>
      </p>
    )
  return data ? <DeskFor key={id} desk={data} /> : null
}

const verdictKeys: readonly (readonly [key: string, verdict: FinalVerdict])[] = [
  ['p', 'Passed'],
  ['f', 'Failed'],
  ['b', 'Blocked'],
  ['s', 'Skipped'],
  ['i', 'Inconclusive'],
]

function DeskFor({ desk }: { desk: Desk }) {
  const { key } = useHere()
  const { params } = useAddress()
  const client = useQueryClient()
  const refresh = () => void client.invalidateQueries({ queryKey: ['readDesk'] })
  const own = useDesk(desk, refresh)
  const [asking, setAsking] = useState<'defect' | FinalVerdict | null>(null)
  const file = useRef<HTMLInputElement>(null)
  const shown = own.attempt ?? desk.preview
  const step = shown.steps[own.at.step]
  const seconds = useClock(own.attempt?.id ?? null, own.attempt?.seconds ?? 0)
  const queueAt = desk.queue.findIndex(({ id }) => id === desk.item.id)
  const openItem = (id: number | undefined) => {
    if (id !== undefined) go({ path: `/p/${key}/desk/${id}` })
    else notify('That was the last item of the queue.')
  }
  const nextItem = () =>
    openItem(
      (
        desk.queue.slice(queueAt + 1).find(({ verdict }) => verdict === 'Not run' || verdict === 'In progress') ??
        desk.queue[queueAt + 1]
      )?.id,
    )
  const attach = async (blob: File) => {
    const attempt = await own.begin()
    if (!attempt) return
    try {
      const evidence = await call(addEvidence, {
        params: { key, id: attempt.id },
        query: { row: own.at.row, name: blob.name || 'picture.png', ...(step?.id != null && { step: step.id }) },
        file: blob,
      })
      own.patch((before) => ({ ...before, evidence: [...before.evidence, evidence] }))
      notify(`${evidence.name} is kept with step ${own.at.step + 1}.`)
    } catch (error) {
      notify(sentenceOf(error), { tone: 'problem' })
    }
  }
  usePastedFiles(attach)
  const markWhole = async (verdict: FinalVerdict) => {
    const failed = own.attempt?.marks.some((mark) => mark.verdict === 'Failed')
    if (failed && (verdict === 'Passed' || verdict === 'Skipped')) setAsking(verdict)
    else if (await own.whole(verdict, null)) notify(`The whole item is ${verdict}.`)
  }
  const values = shown.rows[own.at.row - 1] ?? {}
  useKeys([
    ...verdictKeys.map(([letter, verdict]) => ({
      id: `desk-${verdict}`,
      keys: letter,
      label: verdict.toLowerCase(),
      run: () => own.mark(plainly(verdict)),
    })),
    ...verdictKeys.map(([letter, verdict]) => ({
      id: `desk-all-${verdict}`,
      keys: `Shift+${letter}`,
      label: `whole item ${verdict.toLowerCase()}`,
      quiet: true,
      run: () => void markWhole(verdict),
    })),
    {
      id: 'desk-next',
      keys: 'Enter',
      label: 'next',
      run: () => {
        if (!own.next()) nextItem()
      },
    },
    { id: 'desk-up', keys: 'ArrowUp', label: 'step up', quiet: true, run: () => own.go(own.at.step - 1) },
    { id: 'desk-down', keys: 'ArrowDown', label: 'step down', quiet: true, run: () => own.go(own.at.step + 1) },
    {
      id: 'desk-row-left',
      keys: 'ArrowLeft',
      label: 'data row before',
      quiet: true,
      run: () => own.go(own.at.step, own.at.row - 1),
    },
    {
      id: 'desk-row-right',
      keys: 'ArrowRight',
      label: 'data row after',
      quiet: true,
      run: () => own.go(own.at.step, own.at.row + 1),
    },
    {
      id: 'desk-comment',
      keys: 'c',
      label: 'comment',
      run: () => document.querySelector<HTMLElement>('[data-happened]')?.focus(),
    },
    { id: 'desk-evidence', keys: 'v', label: 'evidence', run: () => file.current?.click() },
    { id: 'desk-defect', keys: 'd', label: 'defect', run: () => setAsking('defect') },
    { id: 'desk-copy', keys: '.', label: 'copy value', run: () => void copyNext(values) },
    { id: 'desk-undo', keys: 'u', label: 'undo', run: own.undo },
    { id: 'desk-next-item', keys: 'PageDown', label: 'next item', quiet: true, run: nextItem },
    {
      id: 'desk-previous-item',
      keys: 'PageUp',
      label: 'previous item',
      quiet: true,
      run: () => openItem(desk.queue[queueAt - 1]?.id),
    },
    { id: 'desk-again', keys: 'r', label: 'run it again', quiet: true, run: () => void again() },
  ])
  const again = async () => {
    try {
      const made = await call(startAttempt, { params: { key, id: desk.item.id }, body: {} })
      notify(`A new attempt is started on ${made.build}; the one before is kept.`)
      refresh()
    } catch (error) {
      notify(sentenceOf(error), { tone: 'problem' })
    }
  }
  const rows = shown.rows.length
  return (
    <div
      className={css['desk']}
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault()
        const dropped = event.dataTransfer.files[0]
        if (dropped) void attach(dropped)
      }}
    >
      <section className={css['main']} aria-label="Execution">
        <header className={css['head']}>
          <h1>
            {desk.case.title}{' '}
            <a className="key quiet" href={`/p/${key}/${desk.case.key}${scopeSearch(params)}`}>
              {desk.case.key}
            </a>{' '}
            {own.attempt && <span className="key quiet">v{own.attempt.version}</span>}
          </h1>
          <p>
            {desk.place.at > 0
              ? `Item ${desk.place.at} of ${desk.place.of}`
              : desk.item.assignee
                ? `Item of ${desk.item.assignee}`
                : 'Item of nobody yet'}{' '}
            in <a href={`/p/${key}/${desk.run.key}`}>{desk.run.title}</a>, on <b>{desk.item.environment}</b>, build{' '}
            <span className="key">{own.attempt?.build ?? desk.run.build}</span>;{' '}
            <span role="timer" aria-label="Time spent">
              {Math.floor(seconds / 60)}:{String(seconds % 60).padStart(2, '0')}
            </span>{' '}
            of {minutesText(desk.item.minutes)}
            {rows > 1 && (
              <>
                ; data row <b>{own.at.row}</b> of {rows}{' '}
                {shown.rows.map((_, index) => (
                  <button
                    key={index}
                    type="button"
                    aria-label={`Data row ${index + 1}`}
                    onClick={() => own.go(0, index + 1)}
                  >
                    <Mark verdict={rowVerdict(own.attempt, index + 1)} size={12} />
                  </button>
                ))}
              </>
            )}
            {own.attempt && own.attempt.verdict !== 'Not run' && (
              <>
                ; as a whole <Mark verdict={own.attempt.verdict} /> <b>{own.attempt.verdict}</b>
                {own.attempt.override && <> (overridden: {own.attempt.override})</>}
              </>
            )}
          </p>
          {desk.run.state !== 'Open' && (
            <p className={css['note']} role="status">
              The run is {desk.run.state}; it can be read, not executed.
            </p>
          )}
          {own.waiting.count > 0 && own.waiting.problem && (
            <p className={css['note']} role="alert">
              {own.waiting.problem} {own.waiting.count} {own.waiting.count === 1 ? 'verdict waits' : 'verdicts wait'}{' '}
              here.
            </p>
          )}
        </header>
        <div className={css['scroll']}>
          <Needs desk={desk} />
          {shown.preconditions !== '' && (
            <div className={css['before']}>
              <span className="quiet">before</span> <Shown inline html={shown.preconditions} />
            </div>
          )}
          {shown.steps.length === 0 ? (
            <p className={css['empty']}>
              This case has no steps. Give the whole item its verdict with <kbd>Shift</kbd> and <kbd>p</kbd>{' '}
              <kbd>f</kbd> <kbd>b</kbd> <kbd>s</kbd> <kbd>i</kbd>, or{' '}
              <a href={`/p/${key}/${desk.case.key}`}>write its steps</a>.
            </p>
          ) : (
            <StepLadder own={own} shown={shown} values={values} verdictKeys={verdictKeys} />
          )}
        </div>
        <footer className={css['queue']}>
          <span className="quiet">then</span>
          {desk.queue
            .slice(queueAt + 1)
            .filter(({ verdict }) => verdict === 'Not run')
            .slice(0, 2)
            .map((item) => (
              <button key={item.id} type="button" onClick={() => openItem(item.id)}>
                <span className="key quiet">{item.case}</span> {item.title}{' '}
                <span className="quiet">{item.minutes} min</span>
              </button>
            ))}
          <QueueRest
            queue={desk.queue
              .slice(queueAt + 1)
              .filter(({ verdict }) => verdict === 'Not run')
              .slice(2)}
          />
        </footer>
      </section>
      <DeskSide
        desk={desk}
        attempt={own.attempt}
        onEvidence={() => file.current?.click()}
        onDefect={() => setAsking('defect')}
        onRemoved={(removed) =>
          own.patch((before) => ({ ...before, evidence: before.evidence.filter(({ id }) => id !== removed) }))
        }
        stepId={step?.id ?? null}
        row={own.at.row}
        onLinked={refresh}
        onAgain={() => void again()}
      />
      <input
        ref={file}
        type="file"
        hidden
        aria-label="Evidence file"
        onChange={(event) => {
          const chosen = event.target.files?.[0]
          if (chosen) void attach(chosen)
          event.target.value = ''
        }}
      />
      {asking === 'defect' && (
        <LogDefect
          begin={own.begin}
          row={own.at.row}
          step={step?.id ?? null}
          onClose={() => setAsking(null)}
          onDone={refresh}
        />
      )}
      {asking !== null && asking !== 'defect' && (
        <Override
          verdict={asking}
          onClose={() => setAsking(null)}
          onGive={(reason) => void own.whole(asking, reason).then(() => setAsking(null))}
        />
      )}
    </div>
  )
}

let copied = -1
/** Copies the next data value; where the browser gives no clipboard (no TLS), it says the value instead. */
async function copyNext(values: Readonly<Record<string, string>>): Promise<void> {
  const entries = Object.entries(values)
  if (entries.length === 0) return notify('This row has no data values.')
  copied = (copied + 1) % entries.length
  const [name = '', value = ''] = entries[copied] ?? []
  try {
    await navigator.clipboard.writeText(value)
    notify(`${name} is copied: ${value}`)
  } catch {
    notify(`The browser gives no clipboard without TLS. ${name}: ${value}`)
  }
}
