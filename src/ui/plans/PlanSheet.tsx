import type { Served } from '#core/lib/question.ts'
import { useState } from 'react'
import { listSuites, type PlanSheet, readPlan, updatePlan } from '#core/plans/contract.ts'
import { planStates } from '#core/plans/state.ts'
import { counted, minutesText, percent, percentText } from '#core/lib/figures.ts'
import { NewRun } from '#ui/runs/NewRun.tsx'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { Pop } from '#ui/kit/Pop.tsx'
import { RichText } from '#ui/kit/RichText.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { History } from '#ui/shell/History.tsx'
import { Lost } from '#ui/shell/Lost.tsx'
import { useHere } from '#ui/shell/here.ts'
import css from '#ui/shell/sheet.module.css'

interface Props {
  readonly about: string
  readonly served: Served<PlanSheet> | null
  readonly onClose: () => void
}

export function PlanSheetView({ about, served, onClose }: Props) {
  const { key, project } = useHere()
  const { data: of, error } = useAnswer(readPlan, { params: { key, ref: about } }, { served })
  const { attempt } = useWrite(updatePlan)
  const suites = useAnswer(listSuites, { params: { key }, query: { limit: 200 } }).data?.rows ?? []
  const [opening, setOpening] = useState(false)
  useKeys([{ id: 'open-run', keys: 'o', label: 'open a run', run: () => setOpening(true) }])
  if (error && !of) return <Lost error={error} onClose={onClose} />
  if (!of) return null
  const set = (body: Parameters<typeof attempt>[0]['body']) =>
    void attempt({ params: { key, ref: of.key }, body, version: of.version })
  const toggle = (list: readonly { id: number }[], id: number) =>
    (list.some((each) => each.id === id) ? list.filter((each) => each.id !== id) : [...list, { id }]).map(
      (each) => each.id,
    )
  const slots = of.cases * Math.max(1, of.environmentList.length)
  return (
    <article className={css['sheet']} aria-label={`${of.key} ${of.title}`}>
      <div className={css['head']}>
        <h2>
          <EditText label="Title" value={of.title} onStore={(title) => set({ title })} />
        </h2>
        <Button look="main" onClick={() => setOpening(true)}>
          Open a run
        </Button>
      </div>
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
        onStore={(objective) => set({ objective })}
      />
      <div className={css['figures']}>
        <div className={css['figure']}>
          <p>Cases</p>
          <p>
            <b>{of.cases}</b>
          </p>
        </div>
        <div className={css['figure']}>
          <p>Slots asked for</p>
          <p>
            <b>{slots}</b>
          </p>
          <p className="quiet">in {counted(Math.max(1, of.environmentList.length), 'environment')}</p>
        </div>
        <div className={css['figure']}>
          <p>One pass takes</p>
          <p>
            <b>{minutesText(of.minutes * Math.max(1, of.environmentList.length))}</b>
          </p>
        </div>
      </div>
      <section className={css['part']}>
        <div className={css['partHead']}>
          <h3>Suites</h3>
          <Pop title="Suites" label="choose suites">
            {suites.map((suite) => (
              <p key={suite.id}>
                <label>
                  <input
                    type="checkbox"
                    checked={of.suiteList.some(({ id }) => id === suite.id)}
                    onChange={() => set({ suites: toggle(of.suiteList, suite.id) })}
                  />{' '}
                  {suite.title}
                </label>
              </p>
            ))}
          </Pop>
        </div>
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
      </section>
      <section className={css['part']}>
        <div className={css['partHead']}>
          <h3>Environments</h3>
          <Pop title="Environments" label="choose environments">
            {project.environments
              .filter(({ isAny }) => !isAny)
              .map(({ id, name }) => (
                <p key={id}>
                  <label>
                    <input
                      type="checkbox"
                      checked={of.environmentList.some((each) => each.id === id)}
                      onChange={() => set({ environments: toggle(of.environmentList, id) })}
                    />{' '}
                    {name}
                  </label>
                </p>
              ))}
          </Pop>
        </div>
        <p>
          {of.environmentList.length === 0
            ? 'Any: one slot a case that any environment answers.'
            : of.environmentList.map(({ name }) => name).join(' · ')}
        </p>
      </section>
      <section className={css['part']}>
        <h3>Runs</h3>
        {of.runList.length === 0 && <p className="quiet">No run yet.</p>}
        <ul className={css['rows']}>
          {of.runList.map((run) => (
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
      </section>
      <History about={of.key} />
      {opening && (
        <NewRun
          plan={{
            id: of.id,
            title: of.title,
            releaseId: of.releaseId,
            environments: of.environmentList.map(({ id }) => id),
          }}
          onClose={() => setOpening(false)}
        />
      )}
    </article>
  )
}
