import { useMemo, useState } from 'react'
import { suiteAsks } from '#core/finding/asks.ts'
import { suiteFields } from '#core/finding/fields.ts'
import { minutesText } from '#core/lib/figures.ts'
import type { Served } from '#core/lib/question.ts'
import {
  changeSuites,
  createSuite,
  deleteSuites,
  listSuites,
  orderSuites,
  type SuiteRow,
  type SuiteSet,
  type SuiteSheet,
} from '#core/plans/contract.ts'
import { suiteStates } from '#core/plans/state.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { useKept } from '#ui/kit/kept.tsx'
import { Field, TextInput } from '#ui/kit/Field.tsx'
import { Form } from '#ui/kit/Form.tsx'
import { useLatest } from '#ui/kit/latest.ts'
import { type Column, oneOf } from '#ui/list/columns.ts'
import { Count, KeyTitle } from '#ui/list/KeyTitle.tsx'
import type { ServedList } from '#ui/list/List.tsx'
import { type Act, ListPage, Nothing } from '#ui/list/ListPage.tsx'
import { SetTo } from '#ui/list/SetTo.tsx'
import { go } from '#ui/shell/address.ts'
import { useWrite } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useDeleting, useMany } from '#ui/shell/many.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { SuiteSheetView } from './SuiteSheet.tsx'

interface Initial {
  readonly list: ServedList<SuiteRow>
  readonly sheet: Served<SuiteSheet> | null
}

export const SuitesPage = ({ initial, ...shell }: ShellProps & { initial: Initial }) => (
  <Shell {...shell}>
    <Suites initial={initial} />
  </Shell>
)

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
  { name: 'cases', label: 'Cases', width: 50, align: 'end', cell: (row) => <Count of={row.cases} /> },
  { name: 'minutes', label: 'Work', width: 70, align: 'end', cell: (row) => minutesText(row.minutes) },
  { name: 'plans', label: 'Plans', width: 48, align: 'end', cell: (row) => row.inPlans || '' },
]

function Suites({ initial }: { initial: Initial }) {
  const { key, project } = useHere()
  const [making, setMaking] = useState(false)
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
        also={[<a href={`/p/${key}/plans`}>plans</a>]}
        acts={project.role === 'viewer' ? [] : [make]}
        many={({ ids, clear }) => (
          <>
            <SetTo
              label="State"
              words="set state"
              options={suiteStates}
              onSet={(state) => void many.set(ids, { state })}
            />
            {project.role === 'lead' && (
              <Button look="word" onClick={() => void remove(ids).then(clear)}>
                delete
              </Button>
            )}
          </>
        )}
        noneFits="No suite fits this filter."
        empty={
          <Nothing act={make}>
            A suite is a selection of cases. Tick cases in the <a href={`/p/${key}/cases`}>list of cases</a> and pin
            them to one, or make an empty one here.
          </Nothing>
        }
        sheet={({ ref, close }) => <SuiteSheetView key={ref} about={ref} served={initial.sheet} onClose={close} />}
      />
      {making && <NewSuite onClose={() => setMaking(false)} />}
    </>
  )
}

function NewSuite({ onClose }: { onClose: () => void }) {
  const { key } = useHere()
  const { attempt, busy } = useWrite(createSuite)
  const [title, setTitle, keeping] = useKept('suite.new', '')
  const store = async () => {
    const made = await attempt({ params: { key }, body: { title } })
    if (!made) return
    keeping.done()
    onClose()
    go({ path: `/p/${key}/${made.key}` })
  }
  return (
    <Dialog title="New suite" onClose={onClose} kept={keeping}>
      <Form onSend={() => void store()}>
        <Field label="Title">
          {(id) => <TextInput id={id} autoFocus value={title} onChange={(event) => setTitle(event.target.value)} />}
        </Field>
        <Button look="main" type="submit" disabled={busy || title.trim() === ''}>
          Make the suite
        </Button>
      </Form>
    </Dialog>
  )
}
