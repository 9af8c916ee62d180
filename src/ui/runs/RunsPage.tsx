import { runAsks } from '#core/finding/asks.ts'
import { runFields } from '#core/finding/fields.ts'
import { minutesText, percent, percentText } from '#core/lib/figures.ts'
import type { Served } from '#core/lib/question.ts'
import { listRuns, orderRuns, type RunRow, type RunSheet } from '#core/runs/contract.ts'
import { ResultBar } from '#ui/kit/ResultBar.tsx'
import { dayText } from '#ui/kit/moment.ts'
import type { Column } from '#ui/list/columns.ts'
import { KeyTitle } from '#ui/list/KeyTitle.tsx'
import type { ServedList } from '#ui/list/List.tsx'
import { type Act, ListPage } from '#ui/list/ListPage.tsx'
import { scopeNames, scopeSearch, useParams } from '#ui/shell/address.ts'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { ManyRuns } from './ManyRuns.tsx'
import { RunSheetView } from './RunSheet.tsx'

interface Initial {
  readonly list: ServedList<RunRow>
  readonly sheet: Served<RunSheet> | null
}
export const RunsPage = ({ initial, ...shell }: ShellProps & { initial: Initial }) => (
  <Shell {...shell}>
    <Runs initial={initial} />
  </Shell>
)

const noStale = {}

const columns: readonly Column<RunRow>[] = [
  {
    name: 'title',
    label: 'Run',
    width: 0,
    cell: (row) => (
      <>
        <KeyTitle of={row} />
        {row.tags.length > 0 && <span className="quiet"> · {row.tags.join(', ')}</span>}
      </>
    ),
  },
  { name: 'state', label: 'State', width: 70, cell: (row) => (row.state === 'Open' ? <b>Open</b> : row.state) },
  { name: 'build', label: 'Build', width: 110, cell: (row) => <span className="key">{row.build}</span> },
  {
    name: 'window',
    label: 'Window',
    width: 130,
    sortable: false,
    cell: (row) => (
      <span className="quiet">
        {dayText(row.startOn)} – {dayText(row.endOn)}
      </span>
    ),
  },
  {
    name: 'results',
    label: 'Results',
    width: 150,
    sortable: false,
    cell: (row) => <ResultBar verdicts={row.verdicts} stale={noStale} slots={row.items} width={148} />,
  },
  {
    name: 'done',
    label: 'Done',
    width: 60,
    align: 'end',
    sortable: false,
    cell: (row) => percentText(percent(row.done, row.items)),
  },
  { name: 'items', label: 'Items', width: 50, align: 'end', sortable: false, cell: (row) => row.items },
  {
    name: 'minutes',
    label: 'Work',
    width: 70,
    align: 'end',
    sortable: false,
    cell: (row) => minutesText(row.minutes),
  },
]

function Runs({ initial }: { initial: Initial }) {
  const { key, project } = useHere()
  const params = useParams(...scopeNames)
  const again: Act = {
    id: 'again',
    button: 'What again?',
    keys: 'a',
    hint: 'what again',
    run: () => location.assign(`/p/${key}/runs/again${scopeSearch(params)}`),
  }
  const attempts: Act = {
    id: 'attempts',
    button: 'All attempts',
    keys: 'h',
    hint: 'all attempts',
    run: () => location.assign(`/p/${key}/runs/attempts${scopeSearch(params)}`),
  }
  const calendar: Act = {
    id: 'calendar',
    button: 'Calendar',
    keys: 'c',
    hint: 'calendar',
    run: () => location.assign(`/p/${key}/runs/calendar`),
  }
  const minutes: Act = {
    id: 'minutes',
    button: 'Minutes',
    keys: 'm',
    hint: 'minutes given and taken',
    run: () => location.assign(`/p/${key}/runs/minutes`),
  }
  return (
    <ListPage
      name="runs"
      heading="Runs"
      kinds={['run']}
      source={{ order: orderRuns, rows: listRuns, params: { key } }}
      served={initial.list}
      columns={columns}
      fields={runFields}
      choices={{
        release: project.releases.map(({ name }) => name),
        build: project.builds.map(({ name }) => name),
      }}
      asks={runAsks}
      lead={(rows) => `, open ones first${rows.some(({ state }) => state === 'Open') ? '' : '; none is open'}`}
      acts={[calendar, minutes, attempts, again]}
      many={(ticked) => <ManyRuns {...ticked} />}
      noneFits="No run fits this filter."
      empty={
        <>
          A run is a dated pass over a plan’s cases. Open one from a plan: <a href={`/p/${key}/plans`}>to the plans</a>.
        </>
      }
      whole
      sheet={({ ref, close }) => <RunSheetView key={ref} about={ref} served={initial.sheet} onClose={close} />}
    />
  )
}
