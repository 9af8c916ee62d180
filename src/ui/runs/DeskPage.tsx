import { useEffect, useRef } from 'react'
import type { Served } from '#core/lib/question.ts'
import { type Desk, readDesk } from '#core/runs/desk-contract.ts'
import { sentenceOf } from '#ui/call.ts'
import { LogDefect } from '#ui/defects/LogDefect.tsx'
import { useAddress } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useNextBest } from '#ui/shell/NextBest.tsx'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { BuildAsked, BuildNote } from './BuildAsked.tsx'
import { BeforeSteps } from './BeforeSteps.tsx'
import { Asks } from './Asks.tsx'
import { useDeskKeys } from './desk-keys.ts'
import { DeskHead } from './DeskHead.tsx'
import { DeskQueue } from './DeskQueue.tsx'
import { DeskSide } from './DeskSide.tsx'
import css from './Desk.module.css'
import { Override } from './Override.tsx'
import { type Sayable, sayables } from './sayable.ts'
import { SayWhole } from './SayWhole.tsx'
import { StepLadder } from './StepLadder.tsx'
import { type DeskActs, useDeskActs } from './useDeskActs.ts'
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

function DeskFor({ desk }: { desk: Desk }) {
  const acts = useDeskActs(desk)
  const { own } = acts
  const shown = own.attempt ?? desk.preview
  const values = shown.rows[own.at.row - 1] ?? {}
  const { key, project } = useHere()
  const ofSteps = sayables(project.verdictKinds, 'forSteps')
  const ofItems = sayables(project.verdictKinds, 'forItems')
  usePastedFiles(acts.attach)
  const nextBest = useNextBest(desk.item.id)
  useDeskKeys(own, acts, { values, ofSteps, ofItems, toRun: `/p/${key}/${desk.run.key}?full=yes` })
  useAfterVerdict(own.attempt?.final ?? false, acts.nextItem)
  return (
    <div
      className={css['desk']}
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault()
        const dropped = event.dataTransfer.files[0]
        if (dropped) void acts.attach(dropped)
      }}
    >
      {nextBest}
      <section className={css['main']} aria-label="Execution">
        <DeskHead desk={desk} own={own} rows={shown.rows.length} />
        <div className={css['scroll']}>
          <Asks desk={desk} acts={acts} />
          <BuildNote desk={desk} of={own.build} />
          <BeforeSteps desk={desk} preconditions={shown.preconditions} />
          {shown.steps.length === 0 ? (
            <NoSteps of={desk.case.key} />
          ) : (
            <StepLadder own={own} shown={shown} values={values} ofSteps={ofSteps} />
          )}
        </div>
        <DeskQueue rest={acts.rest} onOpen={acts.open} />
      </section>
      <DeskSide desk={desk} acts={acts} stepId={shown.steps[own.at.step]?.id ?? null} />
      <EvidenceFile acts={acts} />
      <BuildAsked desk={desk} of={own.build} />
      <Asked acts={acts} ofItems={ofItems} item={desk.item.id} step={shown.steps[own.at.step]?.id ?? null} />
    </div>
  )
}

/** Goes on at once when the item has its verdict, for whoever wants that. */
function useAfterVerdict(final: boolean, next: () => void): void {
  const { me } = useHere()
  const before = useRef(final)
  useEffect(() => {
    if (final && !before.current && me.afterVerdict === 'at once') next()
    before.current = final
  }, [final])
}

function NoSteps({ of }: { of: string }) {
  const { key } = useHere()
  return (
    <p className={css['empty']}>
      This case has no steps. Give the whole item its verdict with <kbd>Shift</kbd> and <kbd>p</kbd> <kbd>f</kbd>{' '}
      <kbd>b</kbd> <kbd>s</kbd> <kbd>i</kbd>, or <a href={`/p/${key}/${of}`}>write its steps</a>.
    </p>
  )
}

const EvidenceFile = ({ acts }: { acts: DeskActs }) => (
  <input
    ref={acts.file}
    type="file"
    hidden
    aria-label="Evidence file"
    onChange={(event) => {
      const chosen = event.target.files?.[0]
      if (chosen) void acts.attach(chosen)
      event.target.value = ''
    }}
  />
)

function Asked({
  acts: { own, asking, ask, refresh, markWhole },
  ofItems,
  item,
  step,
}: {
  acts: DeskActs
  ofItems: readonly Sayable[]
  item: number
  step: number | null
}) {
  const close = () => ask(null)
  if (asking === null) return null
  if (asking === 'whole')
    return (
      <SayWhole
        all={ofItems}
        onClose={close}
        onSay={(of) => {
          close()
          markWhole(of)
        }}
      />
    )
  if (asking === 'defect')
    return (
      <LogDefect
        place={`${item}.${own.at.row}.${step ?? ''}`}
        begin={own.begin}
        row={own.at.row}
        step={step}
        onClose={close}
        onDone={refresh}
      />
    )
  return (
    <Override
      verdict={asking.label}
      place={`${item}.${own.at.row}`}
      onClose={close}
      onGive={(reason) => void own.whole(asking, reason).then(close)}
    />
  )
}
