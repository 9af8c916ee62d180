import { useState } from 'react'
import { listRuns, orderRuns, type RunRow, type RunSheet } from '#core/runs/contract.ts'
import { runFields } from '#core/finding/fields.ts'
import { minutesText, percent, percentText } from '#core/lib/figures.ts'
import type { OutputOf } from '#core/lib/contract.ts'
import { ResultBar } from '#ui/kit/ResultBar.tsx'
import { Split } from '#ui/kit/Split.tsx'
import { List } from '#ui/list/List.tsx'
import { dayText } from '#ui/shell/People.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { useSheet } from '#ui/shell/useSheet.ts'
import { RunSheetView } from './RunSheet.tsx'

interface Initial {
  readonly order: OutputOf<typeof orderRuns>
  readonly rows: OutputOf<typeof listRuns>
  readonly sheet: RunSheet | null
}
export const RunsPage = ({ initial, ...shell }: ShellProps & { initial: Initial }) => (
  <Shell {...shell}>
    <Runs initial={initial} />
  </Shell>
)

const noStale = {}

function Runs({ initial }: { initial: Initial }) {
  const { key, project } = useHere()
  const { ref, full, open, close } = useSheet(['run'], 'runs')
  const [rows, setRows] = useState<readonly RunRow[]>(initial.rows.rows)
  if (ref !== null)
    return (
      <RunSheetView
        key={ref}
        about={ref}
        initial={initial.sheet?.key === ref ? initial.sheet : undefined}
        onClose={close}
      />
    )
  return (
    <Split
      label="Runs"
      full={full}
      sheet={null}
      index={
        <List
          name="runs"
          label="Runs"
          heading={<h1>Runs</h1>}
          fields={runFields}
          choices={{
            state: ['Planned', 'Open', 'Closed', 'Aborted'],
            release: project.releases.map(({ name }) => name),
            build: project.builds.map(({ name }) => name),
          }}
          order={orderRuns}
          rows={listRuns}
          params={{ key }}
          asOrder={(answer) => answer}
          pick={(answer) => answer.rows}
          initial={initial}
          onRows={setRows}
          openId={null}
          onOpen={(row) => open(row.key)}
          columns={[
            {
              name: 'title',
              label: 'Run',
              width: 0,
              cell: (row) => (
                <>
                  <span className="key quiet">{row.key}</span>&ensp;{row.title}
                </>
              ),
            },
            {
              name: 'state',
              label: 'State',
              width: 70,
              cell: (row) => (row.state === 'Open' ? <b>Open</b> : row.state),
            },
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
          ]}
          sentence={(n, all) => (
            <>
              {n === all ? `All ${all}` : `${n} of ${all}`}, open ones first
              {rows.some(({ state }) => state === 'Open') ? '' : '; none is open'}
            </>
          )}
          empty={
            <>
              A run is a dated pass over a plan’s cases. Open one from a plan:{' '}
              <a href={`/p/${key}/plans`}>to the plans</a>.
            </>
          }
        />
      }
    />
  )
}
