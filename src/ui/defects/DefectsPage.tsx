import { useMemo, useState } from 'react'
import {
  changeDefects,
  type DefectRow,
  type DefectSet,
  type DefectSheet,
  deleteDefects,
  listDefects,
  orderDefects,
} from '#core/defects/contract.ts'
import { severities } from '#core/defects/state.ts'
import { defectAsks } from '#core/finding/asks.ts'
import { defectFields } from '#core/finding/fields.ts'
import type { Served } from '#core/lib/question.ts'
import type { Project } from '#core/projects/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useLatest } from '#ui/kit/latest.ts'
import { type Column, oneOf } from '#ui/list/columns.ts'
import { KeyTitle, Warn } from '#ui/list/KeyTitle.tsx'
import type { ServedList } from '#ui/list/List.tsx'
import { type Act, ListPage, type Ticked } from '#ui/list/ListPage.tsx'
import { SetTo } from '#ui/list/SetTo.tsx'
import { go } from '#ui/shell/address.ts'
import { useHere } from '#ui/shell/here.ts'
import { type Many, useDeleting, useMany } from '#ui/shell/many.ts'
import { ownerEdit, peopleOptions, shortName } from '#ui/shell/people.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { DefectSheetView } from './DefectSheet.tsx'
import { LogDefect } from './LogDefect.tsx'

interface Initial {
  readonly list: ServedList<DefectRow>
  readonly sheet: Served<DefectSheet> | null
}
export const DefectsPage = ({ initial, ...shell }: ShellProps & { initial: Initial }) => (
  <Shell {...shell}>
    <Defects initial={initial} />
  </Shell>
)

function Defects({ initial }: { initial: Initial }) {
  const { key, project } = useHere()
  const [logging, setLogging] = useState(false)
  const many = useMany(changeDefects, { params: { key }, one: 'defect', nothing: {} })
  const remove = useDeleting(deleteDefects, { one: 'defect' })
  const latest = useLatest(many)
  const columns = useMemo(() => defectColumns(project, (row, set) => void latest.current.set([row.id], set)), [project])
  const log: Act = {
    id: 'new',
    button: 'New defect',
    look: 'main',
    keys: 'n',
    hint: 'new',
    run: () => setLogging(true),
  }
  const builds = project.builds.map(({ name }) => name)
  return (
    <>
      <ListPage
        name="defects"
        heading="Defects"
        kinds={['defect']}
        source={{ order: orderDefects, rows: listDefects, params: { key } }}
        served={initial.list}
        columns={columns}
        fields={defectFields}
        choices={{
          owner: project.people.map(({ name }) => name),
          component: project.components,
          foundIn: builds,
          fixedIn: builds,
        }}
        asks={defectAsks}
        acts={[log]}
        many={(ticked) => <ManyDefects ticked={ticked} many={many} onDelete={() => void remove(ticked.ids)} />}
        noneFits="No defect fits this filter."
        empty="No defect yet. They come from the desk, filled in from the failing step; one seen elsewhere is reported here."
        sheet={({ ref, close }) => <DefectSheetView key={ref} about={ref} served={initial.sheet} onClose={close} />}
      />
      {logging && (
        <LogDefect place="new" onClose={() => setLogging(false)} onDone={(made) => go({ path: `/p/${key}/${made}` })} />
      )}
    </>
  )
}

const priorities = ['1', '2', '3', '4', '5'] as const

const defectColumns = (project: Project, store: (row: DefectRow, set: DefectSet) => void): Column<DefectRow>[] => [
  { name: 'title', label: 'Defect', width: 0, cell: (row) => <KeyTitle of={row} /> },
  {
    name: 'severity',
    label: 'Severity',
    width: 66,
    cell: (row) => (row.severity === 'Critical' ? <Warn>Critical</Warn> : row.severity),
    edit: oneOf(
      severities,
      (row) => row.severity,
      (row, severity) => store(row, { severity }),
    ),
  },
  { name: 'state', label: 'State', width: 104, cell: (row) => row.state },
  {
    name: 'foundIn',
    label: 'Found in',
    width: 90,
    wideOnly: true,
    cell: (row) => <span className="key">{row.foundIn ?? ''}</span>,
  },
  {
    name: 'fixedIn',
    label: 'Fixed in',
    width: 94,
    wideOnly: true,
    cell: (row) => <span className="key">{row.fixedIn ?? ''}</span>,
  },
  {
    name: 'results',
    label: 'Results',
    width: 52,
    align: 'end',
    wideOnly: true,
    cell: (row) => row.results || <span className="quiet">0</span>,
  },
  {
    name: 'priority',
    label: 'Priority',
    width: 54,
    align: 'end',
    usual: false,
    cell: (row) => row.priority,
    edit: oneOf(
      priorities,
      (row) => priorities.find((each) => Number(each) === row.priority) ?? '3',
      (row, priority) => store(row, { priority: Number(priority) }),
    ),
  },
  { name: 'component', label: 'Component', width: 90, usual: false, cell: (row) => row.component },
  {
    name: 'owner',
    label: 'Owner',
    width: 80,
    usual: false,
    cell: (row) => shortName(row.owner),
    edit: ownerEdit(project, store),
  },
]

/** What can be done with ticked defects. */
function ManyDefects({
  ticked: { ids, clear },
  many,
  onDelete,
}: {
  ticked: Ticked<DefectRow>
  many: Many<DefectSet>
  onDelete: () => void
}) {
  const { project } = useHere()
  const set = (to: DefectSet) => void many.set(ids, to)
  return (
    <>
      <SetTo label="Severity" options={severities} onSet={(severity) => set({ severity })} />
      <SetTo label="Owner" options={peopleOptions(project)} onSet={(ownerId) => set({ ownerId: ownerId || null })} />
      <SetTo label="Priority" options={priorities} onSet={(priority) => set({ priority: Number(priority) })} />
      <Button
        look="word"
        onClick={() => {
          onDelete()
          clear()
        }}
      >
        delete
      </Button>
    </>
  )
}
