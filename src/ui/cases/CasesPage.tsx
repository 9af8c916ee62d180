import { lazy, Suspense, useMemo, useState } from 'react'
import { bulkCases, type CaseRow, type CaseSheet, deleteCases, listCases, orderCases } from '#core/cases/contract.ts'
import { createLinks } from '#core/cases/link-contract.ts'
import { listFolders } from '#core/cases/folder-contract.ts'
import { automations, importances } from '#core/cases/case.ts'
import { duplicateCases, sendCases } from '#core/reuse/copy-contract.ts'
import { caseFields, ownFieldDefinitions } from '#core/finding/fields.ts'
import { type CustomField, listCustomFields } from '#core/projects/custom.ts'
import type { OutputOf } from '#core/lib/contract.ts'
import { restoreObject } from '#core/history/contract.ts'
import { createSuite, listSuites, pinCases } from '#core/plans/contract.ts'
import { ExportMenu } from '#ui/formats/ExportMenu.tsx'
import { useStandingImport } from '#ui/formats/useStandingImport.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { TextInput } from '#ui/kit/Field.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { useLatest } from '#ui/kit/latest.ts'
import { notify } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { Split } from '#ui/kit/Split.tsx'
import { List } from '#ui/list/List.tsx'
import { CaseWriter, LinkBox } from '#ui/requirements/RequirementSheet.tsx'
import { go, useParams } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { type BulkEdit, BulkFields } from '#ui/shell/BulkFields.tsx'
import { ownColumns } from '#ui/shell/own-columns.tsx'
import { peopleOptions } from '#ui/shell/People.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { usePaging, useSheet } from '#ui/shell/useSheet.ts'
import { tellChanged, tellDeleted } from '#ui/shell/tell-many.ts'
import { CaseSheetView } from './CaseSheet.tsx'
import { caseColumns } from './columns.tsx'
import treeCss from './FolderTree.module.css'
import { FolderTree } from './FolderTree.tsx'

// Large, and used seldom: it comes when it is asked for.
const ReplaceDialog = lazy(async () => ({ default: (await import('./ReplaceDialog.tsx')).ReplaceDialog }))
const RepeatsDialog = lazy(async () => ({ default: (await import('#ui/reuse/RepeatsDialog.tsx')).RepeatsDialog }))
const ImportDialog = lazy(async () => ({ default: (await import('#ui/formats/ImportDialog.tsx')).ImportDialog }))

interface Initial {
  readonly order: OutputOf<typeof orderCases>
  readonly rows: OutputOf<typeof listCases>
  readonly sheet: CaseSheet | null
}

export const CasesPage = ({ initial, ...shell }: ShellProps & { initial: Initial }) => (
  <Shell {...shell}>
    <Cases initial={initial} />
  </Shell>
)

function Cases({ initial }: { initial: Initial }) {
  const { key, project } = useHere()
  const params = useParams('tree', 'folder')
  const { ref, full, open, close } = useSheet(['case'], 'cases')
  const [dialog, setDialog] = useState<'lines' | 'import' | 'replace' | 'repeats' | null>(null)
  const [replaceIds, setReplaceIds] = useState<readonly number[]>([])
  const [rows, setRows] = useState<readonly CaseRow[]>(initial.rows.rows)
  const { data: folders } = useAnswer(listFolders, { params: { key } })
  const { data: defined } = useAnswer(listCustomFields, { params: { key } })
  const own = (defined?.rows ?? []).filter(({ owner }) => owner === 'case')
  const tree = params.get('tree') === 'yes'
  const writes = useCaseWrites()
  const latestWrites = useLatest(writes)
  const columns = useMemo(
    () => [
      ...caseColumns(project, (row, set) => void latestWrites.current.set([row.id], set)),
      ...ownColumns<CaseRow>(own, project),
    ],
    [project, defined],
  )
  const repeat = useStandingImport('cases')
  usePaging(rows, ref, open)
  useKeys([
    { id: 'new', keys: 'n', label: 'new', run: () => setDialog('lines') },
    {
      id: 'replace',
      keys: 'Ctrl+h',
      label: 'find and replace',
      quiet: true,
      run: () => {
        setReplaceIds([])
        setDialog('replace')
      },
    },
    { id: 'import', keys: 'Ctrl+i', label: 'import a file', quiet: true, run: () => setDialog('import') },
    {
      id: 'import-again',
      keys: 'Ctrl+Shift+i',
      label: 'repeat the standing import',
      quiet: true,
      run: () => void repeat(),
    },
  ])
  const show = (filter: object | null) =>
    go({ params: { filter: filter === null ? null : JSON.stringify(filter), text: null, folder: null } })
  const folderNames = [...new Set(folders?.rows.map(({ name }) => name) ?? [])]
  return (
    <>
      <Split
        label="Cases"
        full={full}
        index={
          <div className={treeCss['page']}>
            {tree && <FolderTree onClose={() => go({ params: { tree: null } }, true)} />}
            <div>
              <List
                name="cases"
                label="Cases"
                heading={<h1>Cases</h1>}
                columns={columns}
                fields={[...caseFields, ...ownFieldDefinitions(own)]}
                drag={(dragged) => ({
                  'application/x-rovant-ids': dragged.map(({ id }) => id).join(','),
                  'application/x-rovant-refs': dragged.map((row) => row.key).join(','),
                })}
                choices={{
                  owner: project.people.map(({ name }) => name),
                  component: project.components,
                  folder: folderNames,
                  type: ['Functional', 'Load', 'Accessibility', 'Security'],
                }}
                order={orderCases}
                rows={listCases}
                params={{ key }}
                asOrder={(answer) => answer}
                pick={(answer) => answer.rows}
                initial={initial}
                openId={rows.find((row) => row.key === ref)?.id ?? null}
                onOpen={(row, wide) => open(row.key, wide)}
                onRows={setRows}
                sentence={(n, all) => (
                  <>
                    <Button look="word" onClick={() => show(null)}>
                      {n === all ? `All ${all}` : `${n} of ${all}`}
                    </Button>
                    ; show{' '}
                    <Button look="word" onClick={() => show({ field: 'state', op: 'is', values: ['In review'] })}>
                      in review
                    </Button>
                    ,{' '}
                    <Button look="word" onClick={() => show({ field: 'requirements', op: 'is', values: [0] })}>
                      with no requirement
                    </Button>
                    ,{' '}
                    <Button look="word" onClick={() => show({ field: 'steps', op: 'is', values: [0] })}>
                      with no step
                    </Button>
                    ,{' '}
                    <Button look="word" onClick={() => show({ field: 'finding', op: 'is', values: ['never run'] })}>
                      never run
                    </Button>
                    ,{' '}
                    <Button look="word" onClick={() => show({ field: 'finding', op: 'is', values: ['failing'] })}>
                      failing
                    </Button>
                    ,{' '}
                    <Button look="word" onClick={() => show({ field: 'finding', op: 'is', values: ['stale'] })}>
                      stale
                    </Button>
                    ;{' '}
                    <Button look="word" onClick={() => go({ params: { tree: tree ? null : 'yes' } }, true)}>
                      folders
                    </Button>
                    , <a href={`/p/${key}/routines`}>routines</a>,{' '}
                    <Button look="word" onClick={() => setDialog('repeats')}>
                      repeats
                    </Button>
                  </>
                )}
                actions={
                  <span style={{ display: 'flex', gap: 10, alignItems: 'center' }}>
                    <Button
                      look="word"
                      onClick={() => {
                        setReplaceIds([])
                        setDialog('replace')
                      }}
                    >
                      Replace
                    </Button>
                    <ExportMenu what="cases" />
                    <Button onClick={() => setDialog('import')}>Import</Button>
                    <Button look="main" onClick={() => setDialog('lines')}>
                      Write lines
                    </Button>
                  </span>
                }
                bulk={(ids, clear) => (
                  <BulkBar
                    fields={own}
                    ids={ids}
                    clear={clear}
                    onReplace={() => {
                      setReplaceIds(ids)
                      setDialog('replace')
                    }}
                    writes={writes}
                    folders={folders?.rows ?? []}
                    people={peopleOptions(project)}
                    refs={rows.filter(({ id }) => ids.includes(id)).map((row) => row.key)}
                  />
                )}
                noneFits={
                  <>
                    No case fits this filter.{' '}
                    <Button look="word" onClick={() => show(null)}>
                      Take the filter away
                    </Button>
                  </>
                }
                empty={
                  <>
                    Cases say how the product is tested. Write titles as lines; indented lines become steps.
                    <br />
                    <br />
                    <Button look="main" onClick={() => setDialog('lines')}>
                      Write lines
                    </Button>
                  </>
                }
              />
            </div>
          </div>
        }
        sheet={
          ref === null ? null : (
            <CaseSheetView
              key={ref}
              about={ref}
              initial={initial.sheet?.key === ref ? initial.sheet : undefined}
              onClose={close}
            />
          )
        }
      />
      {dialog === 'lines' && (
        <Dialog title="Write cases as lines" onClose={() => setDialog(null)} wide>
          <p className="quiet" style={{ marginBlockEnd: 8 }}>
            A line a case. Lines indented below it are its steps, written <code>action =&gt; expected</code>.
          </p>
          <CaseWriter
            requirement={null}
            folder={params.get('folder') === null ? null : Number(params.get('folder'))}
            choosing
          />
        </Dialog>
      )}
      {dialog === 'repeats' && (
        <Suspense>
          <RepeatsDialog onClose={() => setDialog(null)} />
        </Suspense>
      )}
      {dialog === 'replace' && (
        <Suspense>
          <ReplaceDialog ids={replaceIds} onClose={() => setDialog(null)} />
        </Suspense>
      )}
      {dialog === 'import' && (
        <Suspense>
          <ImportDialog what="cases" onClose={() => setDialog(null)} />
        </Suspense>
      )}
    </>
  )
}

type Writes = ReturnType<typeof useCaseWrites>

function BulkBar({
  fields,
  ids,
  clear,
  onReplace,
  writes,
  folders,
  people,
  refs,
}: {
  fields: readonly CustomField[]
  ids: readonly number[]
  clear: () => void
  onReplace: () => void
  writes: Writes
  folders: readonly { id: number; name: string }[]
  people: { value: string; label: string }[]
  refs: readonly string[]
}) {
  return (
    <>
      <Choice
        label="Importance"
        value="x"
        options={[{ value: 'x', label: 'importance' }, ...importances]}
        onChoose={(importance) => void writes.set(ids, { importance })}
      />
      <Choice
        label="Owner"
        value="x"
        options={[{ value: 'x', label: 'owner' }, ...people]}
        onChoose={(ownerId) => void writes.set(ids, { ownerId: ownerId || null })}
      />
      <Choice
        label="Folder"
        value="x"
        options={[
          { value: 'x', label: 'folder' },
          ...folders.map(({ id, name }) => ({ value: String(id), label: name })),
        ]}
        onChoose={(folderId) => void writes.set(ids, { folderId: Number(folderId) })}
      />
      <Choice
        label="Automation"
        value="x"
        options={[{ value: 'x', label: 'automation' }, ...automations]}
        onChoose={(automation) => void writes.set(ids, { automation })}
      />
      <Pop label="type, component, estimate" title="Type, component and estimate">
        <PlainFields onSet={(set) => void writes.set(ids, set)} />
      </Pop>
      <BulkFields fields={fields} onEdit={(edit) => void writes.edit(ids, edit)} />
      <Pop label="pin to a suite" title="Pin to a suite">
        <PinTo ids={ids} refs={refs} />
      </Pop>
      <Pop label="link" title="Link to a requirement">
        <LinkBox to="requirement" onLink={(to) => writes.link(to, refs)} />
      </Pop>
      <ExportMenu what="cases" ids={ids} />
      <Button look="word" onClick={onReplace}>
        find and replace
      </Button>
      <Button look="word" onClick={() => void writes.duplicate(ids)}>
        duplicate
      </Button>
      <Pop label="to another project" title="To another project">
        <SendTo ids={ids} onSent={clear} />
      </Pop>
      <Button
        look="word"
        onClick={() => {
          void writes.set(ids, { retired: true })
          clear()
        }}
      >
        retire
      </Button>
      <Button
        look="word"
        onClick={() => {
          void writes.remove(ids)
          clear()
        }}
      >
        delete
      </Button>
    </>
  )
}

function PinTo({ ids, refs }: { ids: readonly number[]; refs: readonly string[] }) {
  const { key } = useHere()
  const { data } = useAnswer(listSuites, { params: { key }, query: { limit: 200 } })
  const pinning = useWrite(pinCases)
  const making = useWrite(createSuite)
  const [title, setTitle] = useState('')
  return (
    <div style={{ display: 'grid', gap: 6, justifyItems: 'start' }}>
      {data?.rows.map((suite) => (
        <Button
          key={suite.key}
          look="word"
          onClick={async () => {
            const done = await pinning.attempt({ params: { key, ref: suite.key }, body: { add: [...refs] } })
            if (done) notify(`${suite.title} now holds ${done.cases} cases.`)
          }}
        >
          {suite.title} <span className="quiet">{suite.cases}</span>
        </Button>
      ))}
      <form
        style={{ display: 'flex', gap: 8 }}
        onSubmit={async (event) => {
          event.preventDefault()
          const made = await making.attempt({ params: { key }, body: { title, cases: [...ids] } })
          if (made) {
            notify(`${made.key} ${title} is made, with ${ids.length} cases.`)
            setTitle('')
          }
        }}
      >
        <input
          aria-label="Title of a new suite"
          placeholder="A new suite…"
          value={title}
          onChange={(event) => setTitle(event.target.value)}
          style={{
            border: '1px solid var(--line-strong)',
            borderRadius: 3,
            padding: '3px 6px',
            background: 'var(--surface)',
          }}
        />
        <Button type="submit" disabled={title.trim() === ''}>
          Make it
        </Button>
      </form>
    </div>
  )
}

/** Fields that are typed, for all ticked rows; an empty estimate is open. */
function PlainFields({ onSet }: { onSet: (set: Record<string, unknown>) => void }) {
  const [draft, setDraft] = useState({ type: '', component: '', estimate: '' })
  const row = (
    name: 'type' | 'component' | 'estimate',
    label: string,
    set: () => Record<string, unknown>,
    fits = true,
  ) => (
    <form
      key={name}
      style={{ display: 'flex', gap: 8 }}
      onSubmit={(event) => {
        event.preventDefault()
        if (fits) onSet(set())
      }}
    >
      <TextInput
        aria-label={label}
        placeholder={label}
        value={draft[name]}
        onChange={(event) => setDraft({ ...draft, [name]: event.target.value })}
      />
      <Button type="submit" disabled={!fits}>
        Set
      </Button>
    </form>
  )
  return (
    <div style={{ display: 'grid', gap: 8, inlineSize: 300 }}>
      {row('type', 'Type', () => ({ type: draft.type.trim() }), draft.type.trim() !== '')}
      {row('component', 'Component', () => ({ component: draft.component.trim() }))}
      {row(
        'estimate',
        'Estimate in minutes',
        () => ({ estimate: draft.estimate.trim() === '' ? null : Number(draft.estimate) }),
        /^\s*([1-9]\d{0,3})?\s*$/.test(draft.estimate),
      )}
    </div>
  )
}

function SendTo({ ids, onSent }: { ids: readonly number[]; onSent: () => void }) {
  const { key, me } = useHere()
  const { attempt, busy } = useWrite(sendCases)
  const others = me.projects.filter((project) => project.key !== key && project.role !== 'viewer')
  const [to, setTo] = useState(others[0]?.key ?? '')
  const send = async (move: boolean) => {
    const done = await attempt({ params: { key }, body: { ids: [...ids], project: to, move } })
    if (!done) return
    notify(
      `${done.keys.length} ${done.keys.length === 1 ? 'case' : 'cases'} ${move ? 'moved' : 'copied'} to ${to}, as ${done.keys[0] ?? ''}${done.keys.length > 1 ? ` to ${done.keys.at(-1) ?? ''}` : ''}.${done.left.length > 0 ? ` Not taken along: ${done.left.join('; ')}.` : ''}`,
    )
    if (move) onSent()
  }
  if (others.length === 0) return <p className="quiet">There is no other project in which you may write.</p>
  return (
    <div style={{ display: 'flex', gap: 10, alignItems: 'baseline' }}>
      <Choice
        label="Project"
        value={to}
        options={others.map((project) => ({ value: project.key, label: project.name }))}
        onChoose={setTo}
      />
      <Button disabled={busy} onClick={() => void send(false)}>
        Copy
      </Button>
      <Button disabled={busy} onClick={() => void send(true)}>
        Move
      </Button>
    </div>
  )
}

function useCaseWrites() {
  const { key } = useHere()
  const bulk = useWrite(bulkCases)
  const removing = useWrite(deleteCases)
  const restoring = useWrite(restoreObject)
  const linking = useWrite(createLinks)
  const duplicating = useWrite(duplicateCases)
  const set = async (ids: readonly number[], to: Record<string, unknown>) => {
    tellChanged(await bulk.attempt({ params: { key }, body: { ids: [...ids], set: to } }), 'cases', (body) =>
      bulk.attempt({ params: { key }, body }),
    )
  }
  const remove = async (ids: readonly number[]) => {
    tellDeleted(await removing.attempt({ params: { key }, body: { ids: [...ids] } }), 'cases deleted', (refs) =>
      restoring.attempt({ params: { key }, body: { refs } }),
    )
  }
  const edit = async (ids: readonly number[], to: BulkEdit) => {
    tellChanged(await bulk.attempt({ params: { key }, body: { ids: [...ids], set: {}, ...to } }), 'cases', (body) =>
      bulk.attempt({ params: { key }, body }),
    )
  }
  const duplicate = async (ids: readonly number[]) => {
    const done = await duplicating.attempt({ params: { key }, body: { ids: [...ids] } })
    if (done)
      notify(`${done.keys.length} copies made, ${done.keys[0] ?? ''} to ${done.keys.at(-1) ?? ''}.`, {
        undo: () => void removing.attempt({ params: { key }, body: { ids: done.ids } }),
      })
  }
  const link = async (requirements: readonly string[], cases: readonly string[]) => {
    const done = await linking.attempt({
      params: { key },
      body: { requirements: [...requirements], cases: [...cases] },
    })
    if (done) notify(`${done.made} links made.`)
  }
  return { set, edit, remove, link, duplicate }
}
