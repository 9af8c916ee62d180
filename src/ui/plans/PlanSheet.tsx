import type { Served } from '#core/lib/question.ts'
import { type ReactNode, useState } from 'react'
import type { BodyOf } from '#core/lib/contract.ts'
import { type PlanSheet, readPlan, updatePlan } from '#core/plans/contract.ts'
import { listSuites } from '#core/plans/suite-contract.ts'
import { planStates } from '#core/plans/state.ts'
import { counted, minutesText, percent, percentText } from '#core/lib/figures.ts'
import { NewRun } from '#ui/runs/NewRun.tsx'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { Pop } from '#ui/kit/Pop.tsx'
import { RichText } from '#ui/kit/RichText.tsx'
import { useAnswer, useEdit } from '#ui/shell/answers.tsx'
import { History } from '#ui/shell/History.tsx'
import { Lost } from '#ui/shell/Lost.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Part, TitleHead } from '#ui/shell/SheetParts.tsx'
import css from '#ui/shell/sheet.module.css'

interface Props {
  readonly about: string
  readonly served: Served<PlanSheet> | null
  readonly onClose: () => void
}

type Edit = BodyOf<typeof updatePlan>
interface PartProps {
  readonly of: PlanSheet
  readonly set: (edit: Edit) => void
}

export function PlanSheetView({ about, served, onClose }: Props) {
  const { key } = useHere()
  const { data, error } = useAnswer(readPlan, { params: { key, ref: about } }, { served })
  if (error && !data) return <Lost error={error} onClose={onClose} />
  return data ? <Sheet of={data} /> : null
}

function Sheet({ of }: { of: PlanSheet }) {
  const { key } = useHere()
  const edit = useEdit(updatePlan, { key, ref: of.key }, of)
  const [opening, setOpening] = useState(false)
  useKeys([{ id: 'open-run', keys: 'o', label: 'open a run', run: () => setOpening(true) }])
  const set = (body: Edit) => void edit(body)
  return (
    <article className={css['sheet']} aria-label={`${of.key} ${of.title}`}>
      <TitleHead title={of.title} onStore={(title) => set({ title })}>
        <Button look="main" onClick={() => setOpening(true)}>
          Open a run
        </Button>
      </TitleHead>
      <p className={css['facts']}>
        <span className="key">{of.key}</span> is{' '}
        <Choice label="State" value={of.state} options={planStates} onChoose={(state) => set({ state })} />, for{' '}
        <b>Release {of.release}</b>
        {of.iteration && (
          <>
            , <b>{of.iteration}</b>
          </>
        )}
      </p>
      <RichText
        label="objective"
        html={of.objective}
        placeholder="Why is this tested, and when is it enough?"
        place={`${of.key}.objective`}
        onStore={(objective) => edit({ objective })}
      />
      <Figures of={of} />
      <Suites of={of} set={set} />
      <Environments of={of} set={set} />
      <Runs of={of.runList} />
      <History about={of.key} />
      {opening && (
        <NewRun
          plan={{
            id: of.id,
            title: of.title,
            releaseId: of.releaseId,
            environments: of.environmentList.map(({ id }) => id),
            unapproved: of.unapproved,
          }}
          onClose={() => setOpening(false)}
        />
      )}
    </article>
  )
}

const Figure = ({ title, value, note }: { title: string; value: ReactNode; note?: string }) => (
  <div className={css['figure']}>
    <p>{title}</p>
    <p>
      <b>{value}</b>
    </p>
    {note && <p className="quiet">{note}</p>}
  </div>
)

function Figures({ of }: { of: PlanSheet }) {
  const environments = Math.max(1, of.environmentList.length)
  return (
    <div className={css['figures']}>
      <Figure title="Cases" value={of.cases} />
      <Figure
        title="Slots asked for"
        value={of.cases * environments}
        note={`in ${counted(environments, 'environment')}`}
      />
      <Figure title="One pass takes" value={minutesText(of.minutes * environments)} />
    </div>
  )
}

interface Named {
  readonly id: number
  readonly name: string
}

/** Some of many, ticked in a panel; answers the ids of all that are ticked then. */
function Ticks({
  title,
  all,
  ticked,
  onTick,
}: {
  title: string
  all: readonly Named[]
  ticked: readonly { id: number }[]
  onTick: (ids: number[]) => void
}) {
  const ids = ticked.map(({ id }) => id)
  const toggle = (id: number) => onTick(ids.includes(id) ? ids.filter((each) => each !== id) : [...ids, id])
  return (
    <Pop title={title} label={`choose ${title.toLowerCase()}`}>
      {all.map(({ id, name }) => (
        <p key={id}>
          <label>
            <input type="checkbox" checked={ids.includes(id)} onChange={() => toggle(id)} /> {name}
          </label>
        </p>
      ))}
    </Pop>
  )
}

function Suites({ of, set }: PartProps) {
  const { key } = useHere()
  const { data } = useAnswer(listSuites, { params: { key }, query: { limit: 200 } })
  const all = (data?.rows ?? []).map(({ id, title }) => ({ id, name: title }))
  return (
    <Part
      title="Suites"
      act={<Ticks title="Suites" all={all} ticked={of.suiteList} onTick={(suites) => set({ suites })} />}
    >
      <ul className={css['rows']}>
        {of.suiteList.map((suite) => (
          <li key={suite.id}>
            <span />
            <span className="key">{suite.key}</span>
            <a href={`/p/${key}/${suite.key}`}>{suite.title}</a>
            <span className={css['note']}>{counted(suite.cases, 'case')}</span>
          </li>
        ))}
      </ul>
    </Part>
  )
}

function Environments({ of, set }: PartProps) {
  const { project } = useHere()
  const all = project.environments.filter(({ isAny }) => !isAny)
  const ticked = of.environmentList
  return (
    <Part
      title="Environments"
      act={<Ticks title="Environments" all={all} ticked={ticked} onTick={(environments) => set({ environments })} />}
    >
      <p>
        {ticked.length === 0
          ? 'Any: one slot a case that any environment answers.'
          : ticked.map(({ name }) => name).join(' · ')}
      </p>
    </Part>
  )
}

function Runs({ of }: { of: PlanSheet['runList'] }) {
  const { key } = useHere()
  return (
    <Part title="Runs">
      {of.length === 0 && <p className="quiet">No run yet.</p>}
      <ul className={css['rows']}>
        {of.map((run) => (
          <li key={run.key}>
            <span />
            <span className="key">{run.key}</span>
            <a href={`/p/${key}/${run.key}`}>{run.title}</a>
            <span className={css['note']}>
              {run.state}, {percentText(percent(run.done, run.items))} of {run.items}
            </span>
          </li>
        ))}
      </ul>
    </Part>
  )
}
