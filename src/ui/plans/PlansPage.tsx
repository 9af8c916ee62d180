import { useState } from 'react'
import { planAsks } from '#core/finding/asks.ts'
import { planFields } from '#core/finding/fields.ts'
import type { Served } from '#core/lib/question.ts'
import { listPlans, orderPlans, type PlanRow, type PlanSheet } from '#core/plans/contract.ts'
import type { Column } from '#ui/list/columns.ts'
import { KeyTitle } from '#ui/list/KeyTitle.tsx'
import type { ServedList } from '#ui/list/List.tsx'
import { type Act, ListPage, Nothing } from '#ui/list/ListPage.tsx'
import { go } from '#ui/shell/address.ts'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { NewPlan } from './NewPlan.tsx'
import { PlanSheetView } from './PlanSheet.tsx'

interface Initial {
  readonly list: ServedList<PlanRow>
  readonly sheet: Served<PlanSheet> | null
}

export const PlansPage = ({ initial, ...shell }: ShellProps & { initial: Initial }) => (
  <Shell {...shell}>
    <Plans initial={initial} />
  </Shell>
)

const count = (name: string, label: string, width: number, of: (row: PlanRow) => number): Column<PlanRow> => ({
  name,
  label,
  width,
  align: 'end',
  sortable: false,
  cell: of,
})

const columns: readonly Column<PlanRow>[] = [
  { name: 'title', label: 'Plan', width: 0, cell: (row) => <KeyTitle of={row} /> },
  { name: 'state', label: 'State', width: 80, cell: (row) => row.state },
  {
    name: 'release',
    label: 'For',
    width: 110,
    cell: (row) => `${row.release}${row.iteration ? `, ${row.iteration}` : ''}`,
  },
  { ...count('suites', 'Suites', 46, ({ suites }) => suites), wideOnly: true },
  count('cases', 'Cases', 44, ({ cases }) => cases),
  { ...count('environments', 'Env.', 36, ({ environments }) => environments), wideOnly: true },
  { ...count('runs', 'Runs', 36, ({ runs }) => runs), wideOnly: true },
]

function Plans({ initial }: { initial: Initial }) {
  const { key, project } = useHere()
  const [making, setMaking] = useState(false)
  const start: Act = {
    id: 'new',
    button: 'New plan',
    look: 'main',
    keys: 'n',
    hint: 'new plan',
    run: () => setMaking(true),
  }
  return (
    <>
      <ListPage
        name="plans"
        heading="Plans"
        kinds={['plan']}
        source={{ order: orderPlans, rows: listPlans, params: { key } }}
        served={initial.list}
        columns={columns}
        fields={planFields}
        choices={{ release: project.releases.map(({ name }) => name) }}
        asks={planAsks}
        lead=": what is tested for a release, why, and where"
        also={[<a href={`/p/${key}/suites`}>suites</a>]}
        acts={[start]}
        noneFits="No plan fits this filter."
        empty={
          <Nothing act={{ ...start, button: 'Start a plan' }}>
            A plan says what is tested for a release, with which suites and where.
          </Nothing>
        }
        whole
        sheet={({ ref, close }) => <PlanSheetView key={ref} about={ref} served={initial.sheet} onClose={close} />}
      />
      {making && <NewPlan onClose={() => setMaking(false)} onMade={(made) => go({ path: `/p/${key}/${made}` })} />}
    </>
  )
}
