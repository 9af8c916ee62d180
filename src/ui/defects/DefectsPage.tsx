import { useState } from 'react'
import {
  bulkDefects,
  type DefectRow,
  type DefectSheet,
  deleteDefects,
  listDefects,
  orderDefects,
} from '#core/defects/contract.ts'
import { defectStates, severities } from '#core/defects/state.ts'
import { defectFields } from '#core/finding/fields.ts'
import type { OutputOf } from '#core/lib/contract.ts'
import { restoreObject } from '#core/history/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { Split } from '#ui/kit/Split.tsx'
import { List } from '#ui/list/List.tsx'
import { go, useAddress } from '#ui/shell/address.ts'
import { useWrite } from '#ui/shell/answers.tsx'
import { peopleOptions, shortName } from '#ui/shell/People.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { usePaging, useSheet } from '#ui/shell/useSheet.ts'
import { tellChanged, tellDeleted } from '#ui/shell/tell-many.ts'
import { DefectSheetView } from './DefectSheet.tsx'
import { LogDefect } from './LogDefect.tsx'

interface Initial {
  readonly order: OutputOf<typeof orderDefects>
  readonly rows: OutputOf<typeof listDefects>
  readonly sheet: DefectSheet | null
}
export const DefectsPage = ({ initial, ...shell }: ShellProps & { initial: Initial }) => (
  <Shell {...shell}>
    <Defects initial={initial} />
  </Shell>
)

const openStates = defectStates.filter((state) => state !== 'Closed' && state !== 'Rejected')

function Defects({ initial }: { initial: Initial }) {
  const { key, project } = useHere()
  const { params } = useAddress()
  const { ref, full, open, close } = useSheet(['defect'], 'defects')
  const [rows, setRows] = useState<readonly DefectRow[]>(initial.rows.rows)
  const [logging, setLogging] = useState(false)
  const bulk = useWrite(bulkDefects)
  const removing = useWrite(deleteDefects)
  const restoring = useWrite(restoreObject)
  usePaging(rows, ref, open)
  useKeys([{ id: 'new', keys: 'n', label: 'new', run: () => setLogging(true) }])
  const set = async (ids: readonly number[], to: Record<string, unknown>) => {
    tellChanged(await bulk.attempt({ params: { key }, body: { ids: [...ids], set: to } }), 'defects', (body) =>
      bulk.attempt({ params: { key }, body }),
    )
  }
  const remove = async (ids: readonly number[]) => {
    tellDeleted(await removing.attempt({ params: { key }, body: { ids: [...ids] } }), 'defects deleted', (refs) =>
      restoring.attempt({ params: { key }, body: { refs } }),
    )
  }
  const show = (filter: object | null) => go({ params: { filter: filter === null ? null : JSON.stringify(filter) } })
  return (
    <>
      <Split
        label="Defects"
        full={full}
        index={
          <List
            name="defects"
            label="Defects"
            heading={<h1>Defects</h1>}
            fields={defectFields}
            choices={{
              owner: project.people.map(({ name }) => name),
              component: project.components,
              foundIn: project.builds.map(({ name }) => name),
              fixedIn: project.builds.map(({ name }) => name),
            }}
            order={orderDefects}
            rows={listDefects}
            params={{ key }}
            asOrder={(answer) => answer}
            pick={(answer) => answer.rows}
            initial={initial}
            onRows={setRows}
            openId={rows.find((row) => row.key === ref)?.id ?? null}
            onOpen={(row, wide) => open(row.key, wide)}
            columns={[
              {
                name: 'title',
                label: 'Defect',
                width: 0,
                cell: (row) => (
                  <>
                    <span className="key quiet">{row.key}</span>&ensp;{row.title}
                  </>
                ),
              },
              {
                name: 'severity',
                label: 'Severity',
                width: 66,
                cell: (row) =>
                  row.severity === 'Critical' ? <b style={{ color: 'var(--danger)' }}>Critical</b> : row.severity,
                edit: {
                  kind: 'choice',
                  options: severities,
                  value: (row) => row.severity,
                  store: (row, severity) => void set([row.id], { severity }),
                },
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
                edit: {
                  kind: 'choice',
                  options: ['1', '2', '3', '4', '5'],
                  value: (row) => String(row.priority),
                  store: (row, priority) => void set([row.id], { priority: Number(priority) }),
                },
              },
              { name: 'component', label: 'Component', width: 90, usual: false, cell: (row) => row.component },
              {
                name: 'owner',
                label: 'Owner',
                width: 80,
                usual: false,
                cell: (row) => shortName(row.owner),
                edit: {
                  kind: 'choice',
                  options: peopleOptions(project),
                  value: (row) => project.people.find(({ name }) => name === row.owner)?.id ?? '',
                  store: (row, ownerId) => void set([row.id], { ownerId: ownerId || null }),
                },
              },
            ]}
            sentence={(n, all) => (
              <>
                <Button look="word" onClick={() => show(null)}>
                  {n === all ? `All ${all}` : `${n} of ${all}`}
                </Button>
                ; show{' '}
                <Button look="word" onClick={() => show({ field: 'state', op: 'is', values: openStates })}>
                  open
                </Button>
                ,{' '}
                <Button look="word" onClick={() => show({ field: 'state', op: 'is', values: ['Ready to retest'] })}>
                  to retest
                </Button>
                ,{' '}
                <Button look="word" onClick={() => show({ field: 'results', op: 'is', values: [0] })}>
                  with no result
                </Button>
              </>
            )}
            actions={
              <Button look="main" onClick={() => setLogging(true)}>
                New defect
              </Button>
            }
            bulk={(ids, clear) => (
              <>
                <Choice
                  label="Severity"
                  value="x"
                  options={[{ value: 'x', label: 'severity' }, ...severities]}
                  onChoose={(severity) => void set(ids, { severity })}
                />
                <Choice
                  label="Owner"
                  value="x"
                  options={[{ value: 'x', label: 'owner' }, ...peopleOptions(project)]}
                  onChoose={(ownerId) => void set(ids, { ownerId: ownerId || null })}
                />
                <Choice
                  label="Priority"
                  value="x"
                  options={[{ value: 'x', label: 'priority' }, '1', '2', '3', '4', '5']}
                  onChoose={(priority) => void set(ids, { priority: Number(priority) })}
                />
                <Button
                  look="word"
                  onClick={() => {
                    void remove(ids)
                    clear()
                  }}
                >
                  delete
                </Button>
              </>
            )}
            empty={
              params.get('filter') || params.get('text') ? (
                <>
                  No defect fits this filter.{' '}
                  <Button look="word" onClick={() => go({ params: { filter: null, text: null } })}>
                    Take the filter away
                  </Button>
                </>
              ) : (
                <>
                  No defect yet. They come from the desk, filled in from the failing step; one seen elsewhere is
                  reported here.
                </>
              )
            }
          />
        }
        sheet={
          ref === null ? null : (
            <DefectSheetView
              key={ref}
              about={ref}
              initial={initial.sheet?.key === ref ? initial.sheet : undefined}
              onClose={close}
            />
          )
        }
      />
      {logging && <LogDefect onClose={() => setLogging(false)} onDone={open} />}
    </>
  )
}
