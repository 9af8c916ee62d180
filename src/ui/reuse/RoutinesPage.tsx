import { lazy, Suspense, useState } from 'react'
import { routineFields } from '#core/finding/fields.ts'
import {
  deleteRoutines,
  listRoutines,
  orderRoutines,
  type RoutineRow,
  type RoutineSheet,
} from '#core/reuse/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { routineAsks } from '#core/finding/asks.ts'
import type { Served } from '#core/lib/question.ts'
import type { Column } from '#ui/list/columns.ts'
import { KeyTitle } from '#ui/list/KeyTitle.tsx'
import type { ServedList } from '#ui/list/List.tsx'
import { type Act, ListPage, Nothing } from '#ui/list/ListPage.tsx'
import { useDeleting } from '#ui/shell/many.ts'
import { go } from '#ui/shell/address.ts'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { NewRoutine } from './NewRoutine.tsx'
import { RoutineSheetView } from './RoutineSheet.tsx'

const RepeatsDialog = lazy(async () => ({ default: (await import('./RepeatsDialog.tsx')).RepeatsDialog }))

interface Initial {
  readonly list: ServedList<RoutineRow>
  readonly sheet: Served<RoutineSheet> | null
}

export const RoutinesPage = ({ initial, ...shell }: ShellProps & { initial: Initial }) => (
  <Shell {...shell}>
    <Routines initial={initial} />
  </Shell>
)

const columns: readonly Column<RoutineRow>[] = [
  { name: 'title', label: 'Routine', width: 0, cell: (row) => <KeyTitle of={row} /> },
  { name: 'steps', label: 'Steps', width: 44, align: 'end', cell: (row) => row.steps },
  {
    name: 'uses',
    label: 'Used in',
    width: 52,
    align: 'end',
    cell: (row) => (row.uses === 0 ? <span className="quiet">nowhere</span> : row.uses),
  },
  {
    name: 'behind',
    label: 'Behind',
    width: 52,
    align: 'end',
    cell: (row) => (row.behind === 0 ? '' : <b>{row.behind}</b>),
  },
  {
    name: 'version',
    label: 'Version',
    width: 56,
    sortable: false,
    cell: (row) => <span className="key">{row.versionName ?? ''}</span>,
  },
]

type Asked = 'new' | 'repeats' | null

function Routines({ initial }: { initial: Initial }) {
  const { key, project } = useHere()
  const [dialog, setDialog] = useState<Asked>(null)
  const remove = useDeleting(deleteRoutines, { one: 'routine' })
  const { repeats, make } = routineActs(setDialog)
  return (
    <>
      <ListPage
        name="routines"
        heading="Routines"
        kinds={['routine']}
        source={{ order: orderRoutines, rows: listRoutines, params: { key } }}
        served={initial.list}
        columns={columns}
        fields={routineFields}
        choices={{}}
        lead={
          <>
            , steps that <a href={`/p/${key}/cases`}>cases</a> insert
          </>
        }
        asks={routineAsks}
        acts={project.role === 'viewer' ? [repeats] : [repeats, make]}
        many={({ ids, clear }) => (
          <Button look="word" onClick={() => void remove(ids).then(clear)}>
            delete
          </Button>
        )}
        noneFits="No routine fits this filter."
        empty={
          <Nothing act={{ ...repeats, button: 'Find steps that cases repeat' }}>
            A routine is a few steps with a name, such as “Sign in as a clerk”, that many cases insert. Changed once, it
            is offered everywhere.
          </Nothing>
        }
        sheet={({ ref, close }) => <RoutineSheetView key={ref} about={ref} served={initial.sheet} onClose={close} />}
      />
      <Dialogs asked={dialog} onClose={() => setDialog(null)} />
    </>
  )
}

const routineActs = (ask: (asked: Asked) => void): { repeats: Act; make: Act } => ({
  repeats: { id: 'repeats', button: 'Find repeats', run: () => ask('repeats') },
  make: { id: 'new', button: 'New routine', look: 'main', keys: 'n', hint: 'new', run: () => ask('new') },
})

function Dialogs({ asked, onClose }: { asked: Asked; onClose: () => void }) {
  const { key } = useHere()
  if (asked === null) return null
  if (asked === 'repeats')
    return (
      <Suspense>
        <RepeatsDialog onClose={onClose} />
      </Suspense>
    )
  return (
    <NewRoutine
      onClose={onClose}
      onMade={(made) => {
        onClose()
        go({ path: `/p/${key}/${made}` })
      }}
    />
  )
}
