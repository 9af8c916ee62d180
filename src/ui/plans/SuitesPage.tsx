import { useMemo, useState } from 'react'
import { counted, minutesText } from '#core/lib/figures.ts'
import { suiteAsks } from '#core/finding/asks.ts'
import { suiteFields } from '#core/finding/fields.ts'
import type { Served } from '#core/lib/question.ts'
import {
  changeSuites,
  deleteSuites,
  listSuites,
  orderSuites,
  type SuiteRow,
  type SuiteSet,
  type SuiteSheet,
} from '#core/plans/suite-contract.ts'
import { suiteStates } from '#core/plans/state.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { useLatest } from '#ui/kit/latest.ts'
import { type Column, oneOf } from '#ui/list/columns.ts'
import { Count, KeyTitle, Warn } from '#ui/list/KeyTitle.tsx'
import type { ServedList } from '#ui/list/List.tsx'
import { type Act, ListPage, Nothing, type Ticked } from '#ui/list/ListPage.tsx'
import { SetTo } from '#ui/list/SetTo.tsx'
import { go, useParams } from '#ui/shell/address.ts'
import { useHere } from '#ui/shell/here.ts'
import { type Many, useDeleting, useMany } from '#ui/shell/many.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { NewSuite } from './NewSuite.tsx'
import { AskInPlan, PlanTray, suitesType } from './PlanTray.tsx'
import { CloseIt, SuiteSheetView } from './SuiteSheet.tsx'

interface Initial {
  readonly list: ServedList<SuiteRow>
  readonly sheet: Served<SuiteSheet> | null
}

export const SuitesPage = ({ initial, ...shell }: ShellProps & { initial: Initial }) => (
  <Shell {...shell}>
    <Suites initial={initial} />
  </Shell>
)

const carrying = {
  drag: (dragged: readonly SuiteRow[]) => ({ [suitesType]: dragged.map(({ id }) => id).join(',') }),
}

const suiteColumns = (store: (row: SuiteRow, set: SuiteSet) => void): Column<SuiteRow>[] => [
  { name: 'title', label: 'Suite', width: 0, cell: (row) => <KeyTitle of={row} /> },
  {
    name: 'state',
    label: 'State',
    width: 76,
    cell: (row) => row.state,
    edit: oneOf(
      suiteStates,
      (row) => row.state,
      (row, state) => store(row, { state }),
    ),
  },
  { name: 'made', label: 'Made of', width: 150, sortable: false, wideOnly: true, cell: (row) => <Made of={row} /> },
  { name: 'cases', label: 'Cases', width: 50, align: 'end', cell: (row) => <Count of={row.cases} /> },
  {
    name: 'news',
    label: 'New',
    width: 48,
    align: 'end',
    sortable: false,
    cell: (row) => (row.news > 0 && row.news < row.cases ? `+${row.news}` : ''),
  },
  { name: 'minutes', label: 'Work', width: 70, align: 'end', cell: (row) => minutesText(row.minutes) },
  { name: 'plans', label: 'Plans', width: 48, align: 'end', cell: (row) => row.inPlans || '' },
]

const Made = ({ of }: { of: SuiteRow }) =>
  of.broken > 0 ? <Warn>{counted(of.broken, 'source')} broken</Warn> : <span className="quiet">{of.made}</span>

function Suites({ initial }: { initial: Initial }) {
  const { key, project } = useHere()
  const [making, setMaking] = useState(false)
  const [closing, setClosing] = useState<readonly number[]>([])
  const tray = useParams('tray').get('tray') === 'plans'
  const showTray = (shown: boolean) => go({ params: { tray: shown ? 'plans' : null } }, true)
  const many = useMany(changeSuites, { params: { key }, one: 'suite', nothing: {} })
  const remove = useDeleting(deleteSuites, { one: 'suite', rest: '; their cases stay' })
  const latest = useLatest(many)
  const columns = useMemo(() => suiteColumns((row, set) => void latest.current.set([row.id], set)), [])
  const make: Act = {
    id: 'new',
    button: 'New suite',
    look: 'main',
    keys: 'n',
    hint: 'new suite',
    run: () => setMaking(true),
  }
  return (
    <>
      <ListPage
        name="suites"
        heading="Suites"
        kinds={['suite']}
        source={{ order: orderSuites, rows: listSuites, params: { key } }}
        served={initial.list}
        columns={columns}
        fields={suiteFields}
        choices={{}}
        lead=": selections of cases that plans ask for"
        asks={suiteAsks}
        also={[
          <a href={`/p/${key}/plans`}>plans</a>,
          <Button look="word" onClick={() => showTray(!tray)}>
            plans beside
          </Button>,
        ]}
        beside={tray && <PlanTray onClose={() => showTray(false)} />}
        carrying={carrying}
        acts={project.role === 'viewer' ? [] : [make]}
        many={(ticked) => (
          <ManySuites ticked={ticked} many={many} onClosing={setClosing} onDelete={() => remove(ticked.ids)} />
        )}
        noneFits="No suite fits this filter."
        empty={<Empty make={make} />}
        sheet={({ ref, close }) => <SuiteSheetView key={ref} about={ref} served={initial.sheet} onClose={close} />}
      />
      {making && <NewSuite seed={{ title: '' }} onClose={() => setMaking(false)} />}
      {closing.length > 0 && (
        <CloseIt
          onClose={() => setClosing([])}
          onStore={async (closedReason) => {
            await many.set(closing, { state: 'Closed', closedReason })
            setClosing([])
          }}
        />
      )}
    </>
  )
}

/** What can be done with ticked suites. */
function ManySuites({
  ticked: { ids, clear },
  many,
  onClosing,
  onDelete,
}: {
  ticked: Ticked<SuiteRow>
  many: Many<SuiteSet>
  onClosing: (ids: readonly number[]) => void
  onDelete: () => Promise<unknown>
}) {
  const { project } = useHere()
  return (
    <>
      <SetTo
        label="State"
        words="set state"
        options={suiteStates}
        onSet={(state) => (state === 'Closed' ? onClosing(ids) : void many.set(ids, { state }))}
      />
      {project.role === 'lead' && (
        <Pop label="ask for in a plan" title="Ask for in a plan">
          <AskInPlan ids={ids} />
        </Pop>
      )}
      {project.role === 'lead' && (
        <Button look="word" onClick={() => void onDelete().then(clear)}>
          delete
        </Button>
      )}
    </>
  )
}

function Empty({ make }: { make: Act }) {
  const { key } = useHere()
  return (
    <Nothing act={make}>
      A suite is a selection of cases: pinned by hand, or brought by a rule, a branch of requirements or the minutes
      there are. Make an empty one here, or tick cases in the <a href={`/p/${key}/cases`}>list of cases</a>.
    </Nothing>
  )
}
