import { useState } from 'react'
import {
  createPlan,
  createSuite,
  listPlans,
  listSuites,
  orderPlans,
  type PlanRow,
  type PlanSheet,
  type SuiteSheet,
} from '#core/plans/contract.ts'
import { planFields } from '#core/finding/fields.ts'
import { counted, minutesText } from '#core/lib/figures.ts'
import type { OutputOf } from '#core/lib/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { notify } from '#ui/kit/notices.tsx'
import { Split } from '#ui/kit/Split.tsx'
import { List } from '#ui/list/List.tsx'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { useSheet } from '#ui/shell/useSheet.ts'
import { PlanSheetView } from './PlanSheet.tsx'
import css from './PlansPage.module.css'
import { SuiteSheetView } from './SuiteSheet.tsx'

interface Initial {
  readonly order: OutputOf<typeof orderPlans>
  readonly rows: OutputOf<typeof listPlans>
  readonly suites: OutputOf<typeof listSuites>
  readonly plan: PlanSheet | null
  readonly suite: SuiteSheet | null
}

export const PlansPage = ({ initial, ...shell }: ShellProps & { initial: Initial }) => (
  <Shell {...shell}>
    <Plans initial={initial} />
  </Shell>
)

function Plans({ initial }: { initial: Initial }) {
  const { key } = useHere()
  const { ref, full, open, close } = useSheet(['plan', 'suite'], 'plans')
  const [dialog, setDialog] = useState<'plan' | 'suite' | null>(null)
  const [planIds, setPlanIds] = useState<readonly PlanRow[]>(initial.rows.rows)
  const { data: suites = initial.suites } = useAnswer(
    listSuites,
    { params: { key }, query: { limit: 200 } },
    { initial: initial.suites },
  )
  useKeys([
    { id: 'new', keys: 'n', label: 'new plan', run: () => setDialog('plan') },
    { id: 'new-suite', keys: 's', label: 'new suite', run: () => setDialog('suite') },
  ])
  return (
    <>
      <Split
        label="Plans and suites"
        full={full}
        index={
          <>
            <div className={css['plans']}>
              <List
                name="plans"
                label="Plans"
                heading={<h1>Plans</h1>}
                fields={planFields}
                order={orderPlans}
                rows={listPlans}
                params={{ key }}
                asOrder={(answer) => answer}
                pick={(answer) => answer.rows}
                initial={initial}
                onRows={setPlanIds}
                openId={planIds.find((plan) => plan.key === ref)?.id ?? null}
                onOpen={(row, wide) => open(row.key, wide)}
                columns={[
                  {
                    name: 'title',
                    label: 'Plan',
                    width: 0,
                    cell: (row) => (
                      <>
                        <span className="key quiet">{row.key}</span>&ensp;{row.title}
                      </>
                    ),
                  },
                  { name: 'state', label: 'State', width: 80, cell: (row) => row.state },
                  {
                    name: 'release',
                    label: 'For',
                    width: 110,
                    cell: (row) => `${row.release}${row.iteration ? `, ${row.iteration}` : ''}`,
                  },
                  { name: 'cases', label: 'Cases', width: 44, align: 'end', sortable: false, cell: (row) => row.cases },
                  {
                    name: 'environments',
                    label: 'Env.',
                    width: 36,
                    align: 'end',
                    wideOnly: true,
                    sortable: false,
                    cell: (row) => row.environments,
                  },
                  {
                    name: 'runs',
                    label: 'Runs',
                    width: 36,
                    align: 'end',
                    wideOnly: true,
                    sortable: false,
                    cell: (row) => row.runs,
                  },
                ]}
                sentence={(n, all) => (
                  <>
                    {n === all ? counted(all, 'plan') : `${n} of ${counted(all, 'plan')}`}: what is tested for a
                    release, why, and where
                  </>
                )}
                actions={
                  <Button look="main" onClick={() => setDialog('plan')}>
                    New plan
                  </Button>
                }
                empty={
                  <>
                    A plan says what is tested for a release, with which suites and where.
                    <br />
                    <br />
                    <Button look="main" onClick={() => setDialog('plan')}>
                      Start a plan
                    </Button>
                  </>
                }
              />
            </div>
            <section className={css['suites']} aria-label="Suites">
              <header>
                <h2>Suites</h2>
                <Button onClick={() => setDialog('suite')}>New suite</Button>
              </header>
              {suites.rows.length === 0 && (
                <p className="quiet">
                  A suite is a selection of cases. Tick cases in the list of cases and pin them to one.
                </p>
              )}
              <ul>
                {suites.rows.map((suite) => (
                  <li key={suite.key} data-open={suite.key === ref || undefined}>
                    <button type="button" onClick={() => open(suite.key)}>
                      <span className="key quiet">{suite.key}</span> {suite.title}
                    </button>
                    <span className="quiet">{suite.state}</span>
                    <span>{counted(suite.cases, 'case')}</span>
                    <span className="quiet">{minutesText(suite.minutes)}</span>
                  </li>
                ))}
              </ul>
            </section>
          </>
        }
        sheet={
          ref === null ? null : ref.startsWith('PL') ? (
            <PlanSheetView
              key={ref}
              about={ref}
              initial={initial.plan?.key === ref ? initial.plan : undefined}
              suites={suites.rows}
              onClose={close}
            />
          ) : (
            <SuiteSheetView
              key={ref}
              about={ref}
              initial={initial.suite?.key === ref ? initial.suite : undefined}
              onClose={close}
            />
          )
        }
      />
      {dialog === 'plan' && <NewPlan suites={suites.rows} onClose={() => setDialog(null)} onMade={open} />}
      {dialog === 'suite' && <NewSuite onClose={() => setDialog(null)} onMade={open} />}
    </>
  )
}

function NewPlan({
  suites,
  onClose,
  onMade,
}: {
  suites: readonly { id: number; title: string; cases: number }[]
  onClose: () => void
  onMade: (ref: string) => void
}) {
  const { key, project } = useHere()
  const { attempt, busy } = useWrite(createPlan)
  const [title, setTitle] = useState('')
  const [release, setRelease] = useState(
    String(project.releases.find(({ state }) => state === 'In test')?.id ?? project.releases.at(-1)?.id ?? ''),
  )
  const [chosen, setChosen] = useState<readonly number[]>([])
  const [environments, setEnvironments] = useState<readonly number[]>([])
  const toggle = (list: readonly number[], id: number) =>
    list.includes(id) ? list.filter((each) => each !== id) : [...list, id]
  const store = async () => {
    const made = await attempt({
      params: { key },
      body: { title, release: Number(release), suites: [...chosen], environments: [...environments] },
    })
    if (!made) return
    notify(`${made.key} is started.`)
    onClose()
    onMade(made.key)
  }
  return (
    <Dialog title="New plan" onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          void store()
        }}
      >
        <Field label="Title">
          {(id) => <TextInput id={id} autoFocus value={title} onChange={(event) => setTitle(event.target.value)} />}
        </Field>
        <p>
          For{' '}
          <Choice
            label="Release"
            look="box"
            value={release}
            options={project.releases.map(({ id, name }) => ({ value: String(id), label: `Release ${name}` }))}
            onChoose={setRelease}
          />
        </p>
        <fieldset className={css['ticks']}>
          <legend>Suites</legend>
          {suites.map(({ id, title: name, cases }) => (
            <label key={id}>
              <input type="checkbox" checked={chosen.includes(id)} onChange={() => setChosen(toggle(chosen, id))} />{' '}
              {name} <span className="quiet">{cases}</span>
            </label>
          ))}
        </fieldset>
        <fieldset className={css['ticks']}>
          <legend>Environments (none: one slot a case that any environment answers)</legend>
          {project.environments
            .filter(({ isAny }) => !isAny)
            .map(({ id, name }) => (
              <label key={id}>
                <input
                  type="checkbox"
                  checked={environments.includes(id)}
                  onChange={() => setEnvironments(toggle(environments, id))}
                />{' '}
                {name}
              </label>
            ))}
        </fieldset>
        <Button look="main" type="submit" disabled={busy || title.trim() === '' || release === ''}>
          Start the plan
        </Button>
      </form>
    </Dialog>
  )
}

function NewSuite({ onClose, onMade }: { onClose: () => void; onMade: (ref: string) => void }) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(createSuite)
  const [title, setTitle] = useState('')
  const store = async () => {
    const made = await attempt({ params: { key }, body: { title } })
    if (!made) return
    onClose()
    onMade(made.key)
  }
  return (
    <Dialog title="New suite" onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          void store()
        }}
      >
        <Field label="Title">
          {(id) => <TextInput id={id} autoFocus value={title} onChange={(event) => setTitle(event.target.value)} />}
        </Field>
        <Button look="main" type="submit" disabled={busy || title.trim() === ''}>
          Make the suite
        </Button>
      </form>
    </Dialog>
  )
}
