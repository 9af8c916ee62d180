import { lazy, Suspense, useMemo, useState } from 'react'
import { type CoverageAnswer, readCoverage } from '#core/reports/contract.ts'
import {
  bulkRequirements,
  deleteRequirements,
  listRequirements,
  moveRequirement,
  orderRequirements,
  type RequirementRow,
  type RequirementSheet,
  writeRequirementLines,
} from '#core/requirements/contract.ts'
import { requirementKinds, requirementStates } from '#core/requirements/requirement.ts'
import { ownFieldDefinitions, requirementFields } from '#core/finding/fields.ts'
import { listCustomFields } from '#core/projects/custom.ts'
import { restoreObject } from '#core/history/contract.ts'
import type { OutputOf } from '#core/lib/contract.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { useLatest } from '#ui/kit/latest.ts'
import { Lines } from '#ui/kit/Lines.tsx'
import { notify } from '#ui/kit/notices.tsx'
import { Split } from '#ui/kit/Split.tsx'
import { List } from '#ui/list/List.tsx'
import { go, scopeIn, scopeNames, useParams } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { ExportMenu } from '#ui/formats/ExportMenu.tsx'
import { useStandingImport } from '#ui/formats/useStandingImport.ts'
import { type BulkEdit, BulkFields } from '#ui/shell/BulkFields.tsx'
import { ownColumns } from '#ui/shell/own-columns.tsx'
import { peopleOptions } from '#ui/shell/People.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { usePaging, useSheet } from '#ui/shell/useSheet.ts'
import { tellChanged, tellDeleted } from '#ui/shell/tell-many.ts'
import { FetchDialog } from './FetchDialog.tsx'
import { priorities, requirementColumns, targetChoices, targetsIn } from './columns.tsx'
import { RequirementSheetView } from './RequirementSheet.tsx'

// Large, and used seldom: it comes when it is asked for.
const ImportDialog = lazy(async () => ({ default: (await import('#ui/formats/ImportDialog.tsx')).ImportDialog }))

interface Initial {
  readonly order: OutputOf<typeof orderRequirements>
  readonly rows: OutputOf<typeof listRequirements>
  readonly coverage: CoverageAnswer
  readonly sheet: RequirementSheet | null
}

export const RequirementsPage = ({ initial, ...shell }: ShellProps & { initial: Initial }) => (
  <Shell {...shell}>
    <Requirements initial={initial} />
  </Shell>
)

function Requirements({ initial }: { initial: Initial }) {
  const { key, project } = useHere()
  const params = useParams(...scopeNames, 'sort', 'group')
  const scope = scopeIn(params)
  const { ref, full, open, close } = useSheet(['requirement'], 'requirements')
  const [shown, setShown] = useState<readonly number[]>(initial.rows.rows.slice(0, 60).map(({ id }) => id))
  const [dialog, setDialog] = useState<'lines' | 'import' | 'fetch' | null>(null)
  const { data: coverage = initial.coverage } = useAnswer(
    readCoverage,
    { params: { key }, query: { ...scope, ...(shown.length > 0 && { ids: shown.slice(0, 300).join(',') }) } },
    { keep: true },
  )
  const [rows, setRows] = useState<readonly RequirementRow[]>(initial.rows.rows)
  const writes = useRequirementWrites()
  const { data: defined } = useAnswer(listCustomFields, { params: { key } })
  const own = (defined?.rows ?? []).filter(({ owner }) => owner === 'requirement')
  const latestWrites = useLatest(writes)
  const columns = useMemo(
    () => [
      ...requirementColumns(
        new Map(coverage.nodes.map((node) => [node.id, node])),
        project,
        (row, set) => void latestWrites.current.set([row.id], set),
      ),
      ...ownColumns<RequirementRow>(own, project),
    ],
    [coverage, project, defined],
  )
  const repeat = useStandingImport('requirements')
  usePaging(rows, ref, open)
  useKeys([
    { id: 'new', keys: 'n', label: 'new', run: () => setDialog('lines') },
    { id: 'import', keys: 'Ctrl+i', label: 'import a file', quiet: true, run: () => setDialog('import') },
    {
      id: 'import-again',
      keys: 'Ctrl+Shift+i',
      label: 'repeat the standing import',
      quiet: true,
      run: () => void repeat(),
    },
    ...(ref === null ? [] : outlineKeys(rows, ref, writes.move)),
  ])
  const openRow = rows.find((row) => row.key === ref)
  const byOutline = !params.get('sort') && !params.get('group')
  const show = (filter: object | null) => go({ params: { filter: filter === null ? null : JSON.stringify(filter) } })
  return (
    <>
      <Split
        label="Requirements"
        full={full}
        index={
          <List
            name="requirements"
            label="Requirements"
            heading={<h1>Requirements</h1>}
            columns={columns}
            fields={[...requirementFields, ...ownFieldDefinitions(own)]}
            drag={(dragged) => ({
              'application/x-rovant-refs': dragged.map((row) => row.key).join(','),
              ...(byOutline && { [branchType]: dragged.map((row) => row.key).join(',') }),
            })}
            drop={
              byOutline && project.role !== 'viewer'
                ? {
                    type: branchType,
                    on: (dropped, row, before) =>
                      writes.place(
                        dropped.split(',').filter((each) => each !== row.key),
                        row,
                        before,
                      ),
                  }
                : undefined
            }
            choices={{
              owner: project.people.map(({ name }) => name),
              component: project.components,
              release: project.releases.map(({ name }) => name),
              iteration: project.iterations.map(({ name }) => name),
              kind: [...requirementKinds],
            }}
            order={orderRequirements}
            rows={listRequirements}
            params={{ key }}
            asOrder={(answer) => answer}
            pick={(answer) => {
              return answer.rows
            }}
            initial={initial}
            openId={openRow?.id ?? null}
            onOpen={(row, wide) => open(row.key, wide)}
            onShown={(ids) => {
              setShown(ids)
            }}
            onRows={setRows}
            indent={byOutline ? (row) => row.depth : undefined}
            strong={byOutline ? (row) => row.hasChildren : undefined}
            sentence={(n, all) => (
              <>
                <Button look="word" onClick={() => show(null)}>
                  {n === all ? `All ${all}` : `${n} of ${all}`}
                </Button>{' '}
                {byOutline ? (
                  <>by outline</>
                ) : (
                  <Button look="word" onClick={() => go({ params: { sort: null, group: null } })}>
                    back to the outline
                  </Button>
                )}
                {coverage.attention.length > 0 && (
                  <>
                    , of which{' '}
                    <Button
                      look="word"
                      onClick={() => show({ field: 'finding', op: 'is', values: ['uncovered', 'failing'] })}
                    >
                      {coverage.attention.length} need attention
                    </Button>
                  </>
                )}
                {coverage.uncovered.length > 0 && (
                  <>
                    {' '}
                    and{' '}
                    <Button look="word" onClick={() => show({ field: 'finding', op: 'is', values: ['uncovered'] })}>
                      {coverage.uncovered.length} have no case
                    </Button>
                  </>
                )}
                ; show{' '}
                <Button look="word" onClick={() => show({ field: 'suspect', op: 'above', values: [0] })}>
                  suspect
                </Button>
                ,{' '}
                {(['never run', 'failing', 'stale'] as const).map((each) => (
                  <span key={each}>
                    <Button look="word" onClick={() => show({ field: 'finding', op: 'is', values: [each] })}>
                      {each}
                    </Button>
                    ,{' '}
                  </span>
                ))}
                {params.get('iteration') && (
                  <>
                    <Button look="word" onClick={() => show({ field: 'finding', op: 'is', values: ['in scope'] })}>
                      testable in {params.get('iteration')}
                    </Button>
                    ,{' '}
                  </>
                )}{' '}
                <Button look="word" onClick={() => show({ field: 'owner', op: 'is empty', values: [] })}>
                  owned by nobody
                </Button>
              </>
            )}
            actions={
              <span style={{ display: 'flex', gap: 10, alignItems: 'center' }}>
                <ExportMenu what="requirements" />
                {project.role !== 'viewer' && (
                  <Button look="word" onClick={() => setDialog('fetch')}>
                    Fetch
                  </Button>
                )}
                <Button onClick={() => setDialog('import')}>Import</Button>
                <Button look="main" onClick={() => setDialog('lines')}>
                  Write lines
                </Button>
              </span>
            }
            bulk={(ids, clear) => (
              <>
                <Choice
                  label="State"
                  value="state"
                  options={[{ value: 'state', label: 'set state' }, ...requirementStates]}
                  onChoose={(state) => void writes.set(ids, { state })}
                />
                <Choice
                  label="Owner"
                  value="owner"
                  options={[{ value: 'owner', label: 'set owner' }, ...peopleOptions(project)]}
                  onChoose={(ownerId) => void writes.set(ids, { ownerId: ownerId || null })}
                />
                <Choice
                  label="Kind"
                  value="kind"
                  options={[{ value: 'kind', label: 'set kind' }, ...requirementKinds]}
                  onChoose={(kind) => void writes.set(ids, { kind })}
                />
                <Choice
                  label="Priority"
                  value="x"
                  options={[{ value: 'x', label: 'set priority' }, ...priorities]}
                  onChoose={(priority) => void writes.set(ids, { priority: priority === '' ? null : Number(priority) })}
                />
                <Choice
                  label="Testable from"
                  value="x"
                  options={[{ value: 'x', label: 'testable from' }, ...targetChoices(project)]}
                  onChoose={(value) => void writes.set(ids, { targets: targetsIn(value) })}
                />
                <BulkFields fields={own} onEdit={(edit) => void writes.edit(ids, edit)} />
                <Button
                  look="word"
                  onClick={() => {
                    void writes.remove(ids)
                    clear()
                  }}
                >
                  Delete
                </Button>
              </>
            )}
            noneFits={
              <>
                No requirement fits this filter.{' '}
                <Button look="word" onClick={() => go({ params: { filter: null, text: null } })}>
                  Take the filter away
                </Button>
              </>
            }
            empty={
              <>
                Requirements say what the product must do. Write the first ones as lines, or bring a file in.
                <br />
                <br />
                <Button look="main" onClick={() => setDialog('lines')}>
                  Write lines
                </Button>
              </>
            }
          />
        }
        sheet={
          ref === null ? null : (
            <RequirementSheetView
              key={ref}
              about={ref}
              initial={initial.sheet?.key === ref ? initial.sheet : undefined}
              onClose={close}
            />
          )
        }
      />
      {dialog === 'lines' && <WriteLines under={openRow} onClose={() => setDialog(null)} onMade={open} />}
      {dialog === 'fetch' && <FetchDialog onClose={() => setDialog(null)} />}
      {dialog === 'import' && (
        <Suspense>
          <ImportDialog what="requirements" onClose={() => setDialog(null)} />
        </Suspense>
      )}
    </>
  )
}

function useRequirementWrites() {
  const { key } = useHere()
  const bulk = useWrite(bulkRequirements)
  const removing = useWrite(deleteRequirements)
  const restoring = useWrite(restoreObject)
  const moving = useWrite(moveRequirement)
  const set = async (ids: readonly number[], to: Record<string, unknown>) => {
    tellChanged(await bulk.attempt({ params: { key }, body: { ids: [...ids], set: to } }), 'requirements', (body) =>
      bulk.attempt({ params: { key }, body }),
    )
  }
  const edit = async (ids: readonly number[], to: BulkEdit) => {
    tellChanged(
      await bulk.attempt({ params: { key }, body: { ids: [...ids], set: {}, ...to } }),
      'requirements',
      (body) => bulk.attempt({ params: { key }, body }),
    )
  }
  const remove = async (ids: readonly number[]) => {
    tellDeleted(
      await removing.attempt({ params: { key }, body: { ids: [...ids] } }),
      'requirements deleted, with what was below them',
      (refs) => restoring.attempt({ params: { key }, body: { refs } }),
    )
  }
  const move = (ref: string, under: number | null, before: number | null) =>
    void moving.attempt({ params: { key, ref }, body: { under, before } })
  /** Branches dragged elsewhere keep their order among themselves. */
  const place = async (refs: readonly string[], row: RequirementRow, before: boolean) => {
    for (const ref of refs)
      if (
        !(await moving.attempt({
          params: { key, ref },
          body: before ? { under: row.parent, before: row.id } : { under: row.id, before: null },
        }))
      )
        return
    notify(
      `${refs.join(', ')} ${refs.length === 1 ? 'stands' : 'stand'} ${before ? 'before' : 'below'} ${row.key} now.`,
    )
  }
  return {
    set,
    edit,
    remove,
    move,
    place: (refs: readonly string[], row: RequirementRow, before: boolean) => void place(refs, row, before),
  }
}

/** What a row of the outline carries to a place in it. */
const branchType = 'application/x-rovant-branch'

/** Alt and the arrows move a branch: up, down, out, in; the keyboard's twin of dragging. */
function outlineKeys(
  rows: readonly RequirementRow[],
  ref: string,
  move: (ref: string, under: number | null, before: number | null) => void,
) {
  const own = rows.find(({ key }) => key === ref)
  const siblings = rows.filter(({ parent }) => parent === own?.parent)
  const at = siblings.findIndex(({ key }) => key === ref)
  const parent = rows.find(({ id }) => id === own?.parent)
  if (!own) return []
  return [
    {
      id: 'move-up',
      keys: 'Alt+ArrowUp',
      label: 'move up',
      quiet: true,
      run: () => {
        const before = siblings[at - 1]
        if (before) move(ref, own.parent, before.id)
      },
    },
    {
      id: 'move-down',
      keys: 'Alt+ArrowDown',
      label: 'move down',
      quiet: true,
      run: () => {
        if (siblings[at + 1]) move(ref, own.parent, siblings[at + 2]?.id ?? null)
      },
    },
    {
      id: 'move-in',
      keys: 'Alt+ArrowRight',
      label: 'indent',
      quiet: true,
      run: () => {
        const above = siblings[at - 1]
        if (above) move(ref, above.id, null)
      },
    },
    {
      id: 'move-out',
      keys: 'Alt+ArrowLeft',
      label: 'outdent',
      quiet: true,
      run: () => {
        if (parent)
          move(
            ref,
            parent.parent,
            rows.filter((row) => row.parent === parent.parent)[
              rows.filter((row) => row.parent === parent.parent).indexOf(parent) + 1
            ]?.id ?? null,
          )
      },
    },
  ]
}

function WriteLines({
  under,
  onClose,
  onMade,
}: {
  under: RequirementRow | undefined
  onClose: () => void
  onMade: (ref: string) => void
}) {
  const { key, project } = useHere()
  const params = useParams('release')
  const [place, setPlace] = useState(under ? String(under.id) : '')
  const usual =
    project.releases.find(({ name }) => name === params.get('release')) ??
    project.releases.find(({ state }) => state === 'In test')
  const [release, setRelease] = useState(usual ? String(usual.id) : '')
  const { attempt } = useWrite(writeRequirementLines)
  return (
    <Dialog title="Write requirements as lines" onClose={onClose} wide>
      <p className="quiet" style={{ marginBlockEnd: 8 }}>
        A line a requirement; Tab indents it below the one above. They go{' '}
        <Choice
          label="Where"
          value={place}
          options={[
            { value: '', label: 'at the top' },
            ...(under ? [{ value: String(under.id), label: `under ${under.key} ${under.title}` }] : []),
          ]}
          onChoose={setPlace}
        />{' '}
        and are testable from{' '}
        <Choice
          label="Release"
          value={release}
          options={[
            { value: '', label: 'any release' },
            ...project.releases.map(({ id, name }) => ({ value: String(id), label: `Release ${name}` })),
          ]}
          onChoose={setRelease}
        />
        .
      </p>
      <Lines
        label="Requirements, a line each"
        placeholder={'Fares and concessions\n\tLargest reduction wins\n\tIslander concession'}
        action="Store"
        autoFocus
        rows={8}
        onStore={async (lines) => {
          const made = await attempt({
            params: { key },
            body: {
              lines,
              under: place === '' ? null : Number(place),
              release: release === '' ? null : Number(release),
            },
          })
          if (!made) return false
          notify(
            `${made.keys.length === 1 ? made.keys[0] : `${made.keys.length} requirements, ${made.keys[0]} to ${made.keys.at(-1)},`} stored.`,
          )
          onClose()
          if (made.keys[0]) onMade(made.keys[0])
          return true
        }}
      />
    </Dialog>
  )
}
