import { lazy, Suspense, useState } from 'react'
import { bulkCases, type CaseRow, type CaseSheet, createLinks, deleteCases, listCases, listFolders, orderCases } from '#core/cases/contract.ts'
import { automations, importances } from '#core/cases/case.ts'
import { caseFields } from '#core/finding/fields.ts'
import type { OutputOf } from '#core/lib/contract.ts'
import { restoreObject } from '#core/people/contract.ts'
import { createSuite, listSuites, pinCases } from '#core/plans/contract.ts'
import { ExportMenu } from '#ui/formats/ExportMenu.tsx'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { useKeys } from '#ui/kit/keys.ts'
import { notify } from '#ui/kit/notices.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { Split } from '#ui/kit/Split.tsx'
import { List } from '#ui/list/List.tsx'
import { CaseWriter, LinkBox } from '#ui/requirements/RequirementSheet.tsx'
import { go, useAddress } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { peopleOptions } from '#ui/shell/People.tsx'
import { useHere } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { usePaging, useSheet } from '#ui/shell/useSheet.ts'
import { tellChanged, tellDeleted } from '#ui/shell/tell-many.ts'
import { CaseSheetView } from './CaseSheet.tsx'
import { caseColumns } from './columns.tsx'

// Large, and used seldom: it comes when it is asked for.
const ReplaceDialog = lazy(async () => ({ default: (await import('./ReplaceDialog.tsx')).ReplaceDialog }))
const ImportDialog = lazy(async () => ({ default: (await import('#ui/formats/ImportDialog.tsx')).ImportDialog }))

interface Initial {
  readonly order: OutputOf<typeof orderCases>
  readonly rows: OutputOf<typeof listCases>
  readonly sheet: CaseSheet | null
}

export const CasesPage = ({ initial, ...shell }: ShellProps & { initial: Initial }) => <Shell {...shell}><Cases initial={initial} /></Shell>

function Cases({ initial }: { initial: Initial }) {
  const { key, project } = useHere()
  const { params } = useAddress()
  const { ref, full, open, close } = useSheet(['TC'], 'cases')
  const [dialog, setDialog] = useState<'lines' | 'import' | 'replace' | null>(null)
  const [replaceIds, setReplaceIds] = useState<readonly number[]>([])
  const [rows, setRows] = useState<readonly CaseRow[]>(initial.rows.rows)
  const { data: folders } = useAnswer(listFolders, { params: { key } })
  const writes = useCaseWrites()
  usePaging(rows, ref, open)
  useKeys([{ id: 'new', keys: 'n', label: 'new', run: () => setDialog('lines') }, { id: 'replace', keys: 'Ctrl+h', label: 'find and replace', quiet: true, run: () => { setReplaceIds([]); setDialog('replace') } }, { id: 'import', keys: 'Ctrl+i', label: 'import a file', quiet: true, run: () => setDialog('import') }])
  const show = (filter: object | null) => go({ params: { filter: filter === null ? null : JSON.stringify(filter), text: null } })
  const folderNames = [...new Set(folders?.rows.map(({ name }) => name) ?? [])]
  return (
    <>
      <Split
        label="Cases" full={full}
        index={
          <List
            name="cases" label="Cases" heading={<h1>Cases</h1>} columns={caseColumns(project, (row, set) => void writes.set([row.id], set))} fields={caseFields}
            choices={{ owner: project.people.map(({ name }) => name), component: project.components, folder: folderNames, type: ['Functional', 'Load', 'Accessibility', 'Security'] }}
            order={orderCases} rows={listCases} params={{ key }} asOrder={(answer) => answer} pick={(answer) => answer.rows} initial={initial} openId={rows.find((row) => row.key === ref)?.id ?? null} onOpen={(row, wide) => open(row.key, wide)} onRows={setRows}
            sentence={(n, all) => (
              <>
                <Button look="word" onClick={() => show(null)}>{n === all ? `All ${all}` : `${n} of ${all}`}</Button>; show <Button look="word" onClick={() => show({ field: 'state', op: 'is', values: ['In review'] })}>in review</Button>, <Button look="word" onClick={() => show({ field: 'requirements', op: 'is', values: [0] })}>with no requirement</Button>, <Button look="word" onClick={() => show({ field: 'steps', op: 'is', values: [0] })}>with no step</Button>, <Button look="word" onClick={() => show({ field: 'attempts', op: 'is', values: [0] })}>never executed</Button>
              </>
            )}
            actions={<span style={{ display: 'flex', gap: 10, alignItems: 'center' }}><Button look="word" onClick={() => { setReplaceIds([]); setDialog('replace') }}>Replace</Button><ExportMenu what="cases" /><Button onClick={() => setDialog('import')}>Import</Button><Button look="main" onClick={() => setDialog('lines')}>Write lines</Button></span>}
            bulk={(ids, clear) => <BulkBar ids={ids} clear={clear} onReplace={() => { setReplaceIds(ids); setDialog('replace') }} writes={writes} folders={folders?.rows ?? []} people={peopleOptions(project)} refs={rows.filter(({ id }) => ids.includes(id)).map((row) => row.key)} />}
            empty={params.get('filter') || params.get('text') ? <>No case fits this filter. <Button look="word" onClick={() => show(null)}>Take the filter away</Button></> : <>Cases say how the product is tested. Write titles as lines; indented lines become steps.<br /><br /><Button look="main" onClick={() => setDialog('lines')}>Write lines</Button></>}
          />
        }
        sheet={ref === null ? null : <CaseSheetView key={ref} about={ref} initial={initial.sheet?.key === ref ? initial.sheet : undefined} onClose={close} />}
      />
      {dialog === 'lines' && <Dialog title="Write cases as lines" onClose={() => setDialog(null)} wide><p className="quiet" style={{ marginBlockEnd: 8 }}>A line a case. Lines indented below it are its steps, written <code>action =&gt; expected</code>.</p><CaseWriter requirement={null} /></Dialog>}
      {dialog === 'replace' && <Suspense><ReplaceDialog ids={replaceIds} onClose={() => setDialog(null)} /></Suspense>}
      {dialog === 'import' && <Suspense><ImportDialog what="cases" onClose={() => setDialog(null)} /></Suspense>}
    </>
  )
}

type Writes = ReturnType<typeof useCaseWrites>

function BulkBar({ ids, clear, onReplace, writes, folders, people, refs }: { ids: readonly number[]; clear: () => void; onReplace: () => void; writes: Writes; folders: readonly { id: number; name: string }[]; people: { value: string; label: string }[]; refs: readonly string[] }) {
  return (
    <>
      <Choice label="Importance" value="x" options={[{ value: 'x', label: 'importance' }, ...importances]} onChoose={(importance) => void writes.set(ids, { importance })} />
      <Choice label="Owner" value="x" options={[{ value: 'x', label: 'owner' }, ...people]} onChoose={(ownerId) => void writes.set(ids, { ownerId: ownerId || null })} />
      <Choice label="Folder" value="x" options={[{ value: 'x', label: 'folder' }, ...folders.map(({ id, name }) => ({ value: String(id), label: name }))]} onChoose={(folderId) => void writes.set(ids, { folderId: Number(folderId) })} />
      <Choice label="Automation" value="x" options={[{ value: 'x', label: 'automation' }, ...automations]} onChoose={(automation) => void writes.set(ids, { automation })} />
      <Pop label="pin to a suite" title="Pin to a suite"><PinTo ids={ids} refs={refs} /></Pop>
      <Pop label="link" title="Link to a requirement"><LinkBox prefix="RQ" onLink={(to) => writes.link(to, refs)} /></Pop>
      <ExportMenu what="cases" ids={ids} />
      <Button look="word" onClick={onReplace}>find and replace</Button>
      <Button look="word" onClick={() => { void writes.set(ids, { retired: true }); clear() }}>retire</Button>
      <Button look="word" onClick={() => { void writes.remove(ids); clear() }}>delete</Button>
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
      {data?.rows.map((suite) => <Button key={suite.key} look="word" onClick={async () => { const done = await pinning.attempt({ params: { key, ref: suite.key }, body: { add: [...refs] } }); if (done) notify(`${suite.title} now holds ${done.cases} cases.`) }}>{suite.title} <span className="quiet">{suite.cases}</span></Button>)}
      <form style={{ display: 'flex', gap: 8 }} onSubmit={async (event) => { event.preventDefault(); const made = await making.attempt({ params: { key }, body: { title, cases: [...ids] } }); if (made) { notify(`${made.key} ${title} is made, with ${ids.length} cases.`); setTitle('') } }}>
        <input aria-label="Title of a new suite" placeholder="A new suite…" value={title} onChange={(event) => setTitle(event.target.value)} style={{ border: '1px solid var(--line-strong)', borderRadius: 3, padding: '3px 6px', background: 'var(--surface)' }} />
        <Button type="submit" disabled={title.trim() === ''}>Make it</Button>
      </form>
    </div>
  )
}

function useCaseWrites() {
  const { key } = useHere()
  const bulk = useWrite(bulkCases)
  const removing = useWrite(deleteCases)
  const restoring = useWrite(restoreObject)
  const linking = useWrite(createLinks)
  const set = async (ids: readonly number[], to: Record<string, unknown>) => {
    tellChanged(await bulk.attempt({ params: { key }, body: { ids: [...ids], set: to } }), 'cases', (body) => bulk.attempt({ params: { key }, body }))
  }
  const remove = async (ids: readonly number[]) => {
    tellDeleted(await removing.attempt({ params: { key }, body: { ids: [...ids] } }), 'cases deleted', (refs) => restoring.attempt({ params: { key }, body: { refs } }))
  }
  const link = async (requirements: readonly string[], cases: readonly string[]) => {
    const done = await linking.attempt({ params: { key }, body: { requirements: [...requirements], cases: [...cases] } })
    if (done) notify(`${done.made} links made.`)
  }
  return { set, remove, link }
}
