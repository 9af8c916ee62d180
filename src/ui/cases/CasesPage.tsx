import { lazy, Suspense, useMemo, useState } from 'react'
import { type CaseRow, type CaseSheet, changeCases, deleteCases, listCases, orderCases } from '#core/cases/contract.ts'
import { listFolders } from '#core/cases/folder-contract.ts'
import { caseAsks } from '#core/finding/asks.ts'
import { allCaseFields } from '#core/finding/fields.ts'
import type { Served } from '#core/lib/question.ts'
import { ExportMenu } from '#ui/formats/ExportMenu.tsx'
import { useStandingImport } from '#ui/formats/useStandingImport.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Dialog } from '#ui/kit/Dialog.tsx'
import { useLatest } from '#ui/kit/latest.ts'
import type { ServedList } from '#ui/list/List.tsx'
import { type Act, ListPage, Nothing } from '#ui/list/ListPage.tsx'
import { go, scopeNames, useParams } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useTestable } from '#ui/shell/testable.ts'
import { useDeleting, useMany } from '#ui/shell/many.ts'
import { useCaseChoices } from '#ui/shell/case-choices.ts'
import { useOwnFields } from '#ui/shell/own-columns.tsx'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { CaseSheetView } from './CaseSheet.tsx'
import { CaseWriter } from './CaseWriter.tsx'
import { useCaseColumns } from './columns.tsx'
import { FolderTree } from './FolderTree.tsx'
import { ManyCases } from './ManyCases.tsx'
import { ofList, SuiteOf } from '#ui/plans/NewSuite.tsx'
import { RunOf, runOfShown } from '#ui/runs/RunOf.tsx'
import { SuiteTray } from '#ui/plans/SuiteTray.tsx'

// Large, and used seldom: it comes when it is asked for.
const ReplaceDialog = lazy(async () => ({ default: (await import('./ReplaceDialog.tsx')).ReplaceDialog }))
const RepeatsDialog = lazy(async () => ({ default: (await import('#ui/reuse/RepeatsDialog.tsx')).RepeatsDialog }))
const ImportDialog = lazy(async () => ({ default: (await import('#ui/formats/ImportDialog.tsx')).ImportDialog }))

interface Initial {
  readonly list: ServedList<CaseRow>
  readonly sheet: Served<CaseSheet> | null
}

export const CasesPage = ({ initial, ...shell }: ShellProps & { initial: Initial }) => (
  <Shell {...shell}>
    <Cases initial={initial} />
  </Shell>
)

type Open =
  { readonly dialog: 'lines' | 'import' | 'repeats' } | { readonly dialog: 'replace'; readonly ids: readonly number[] }

const caseTypes = ['Functional', 'Load', 'Accessibility', 'Security']
const carrying = {
  drag: (dragged: readonly CaseRow[]) => ({
    'application/x-rovant-ids': dragged.map(({ id }) => id).join(','),
    'application/x-rovant-refs': dragged.map((row) => row.key).join(','),
  }),
}

function Cases({ initial }: { initial: Initial }) {
  const { key } = useHere()
  const params = useParams('tree', 'text', 'filter', ...scopeNames)
  const beside = params.get('tree')
  const [open, setOpen] = useState<Open | null>(null)
  const folders = useAnswer(listFolders, { params: { key } }).data?.rows ?? []
  const choices = useCaseChoices()
  const own = useOwnFields('case')
  const ofRequirements = useOwnFields('requirement')
  const fields = useMemo(() => allCaseFields({ case: own, requirement: ofRequirements }), [own, ofRequirements])
  const many = useMany(changeCases, { params: { key }, one: 'case', nothing: {} })
  const remove = useDeleting(deleteCases, { one: 'case' })
  const latest = useLatest(many)
  const columns = useCaseColumns(own, (row, set) => void latest.current.set([row.id], set))
  const acts = useCaseActs(setOpen)
  const show = (tray: 'yes' | 'suites') => go({ params: { tree: beside === tray ? null : tray } }, true)
  const hide = () => go({ params: { tree: null } }, true)
  return (
    <>
      <ListPage
        name="cases"
        heading="Cases"
        kinds={['case']}
        source={{ order: orderCases, rows: listCases, params: { key } }}
        served={initial.list}
        columns={columns}
        fields={fields}
        choices={{
          ...choices,
          folder: [...new Set(folders.map(({ name }) => name))],
          type: caseTypes,
        }}
        asks={caseAsks}
        also={otherWays(key, show, setOpen)}
        acts={acts}
        tools={<ExportMenu what="cases" />}
        beside={beside === 'yes' ? <FolderTree onClose={hide} /> : beside === 'suites' && <SuiteTray onClose={hide} />}
        carrying={carrying}
        many={(ticked) => (
          <ManyCases
            {...{ ticked, many, folders }}
            fields={own}
            onReplace={() => setOpen({ dialog: 'replace', ids: ticked.ids })}
            onDelete={() => void remove(ticked.ids)}
          />
        )}
        noneFits="No case fits this filter."
        empty={
          <Nothing act={acts.find(({ id }) => id === 'new')}>
            Cases say how the product is tested. Write titles as lines; indented lines become steps.
          </Nothing>
        }
        sheet={({ ref, close }) => <CaseSheetView key={ref} about={ref} served={initial.sheet} onClose={close} />}
      />
      <Dialogs open={open} onClose={() => setOpen(null)} />
      <OfShown params={params} fields={fields} />
    </>
  )
}

/** The keys that make a suite or a run of all that is typed and filtered, or of a saved view. */
function OfShown({ params, fields }: { params: URLSearchParams; fields: ReturnType<typeof allCaseFields> }) {
  const { key } = useHere()
  if (!params.get('text') && !params.get('filter')) return null
  return (
    <>
      <SuiteOf seed={ofList(params, fields)} word={null} />
      <RunOf seed={runOfShown(key, params)} word={null} />
    </>
  )
}

/** Other ways into the cases. */
const otherWays = (key: string, show: (tray: 'yes' | 'suites') => void, open: (open: Open) => void) => [
  <Button look="word" onClick={() => show('yes')}>
    folders
  </Button>,
  <Button look="word" onClick={() => show('suites')}>
    suites
  </Button>,
  <a href={`/p/${key}/routines`}>routines</a>,
  <Button look="word" onClick={() => open({ dialog: 'repeats' })}>
    repeats
  </Button>,
]

function useCaseActs(open: (open: Open) => void): Act[] {
  const repeat = useStandingImport('cases')
  const testable = useTestable()
  return [
    {
      id: 'replace',
      button: 'Replace',
      look: 'word',
      keys: 'Ctrl+h',
      hint: 'find and replace',
      quiet: true,
      run: () => open({ dialog: 'replace', ids: [] }),
    },
    {
      id: 'import',
      button: 'Import',
      keys: 'Ctrl+i',
      hint: 'import a file',
      quiet: true,
      run: () => open({ dialog: 'import' }),
    },
    {
      id: 'import-again',
      keys: 'Ctrl+Shift+i',
      hint: 'repeat the standing import',
      quiet: true,
      run: () => void repeat(),
    },
    testable,
    { id: 'new', button: 'Write lines', look: 'main', keys: 'n', hint: 'new', run: () => open({ dialog: 'lines' }) },
  ]
}

function Dialogs({ open, onClose }: { open: Open | null; onClose: () => void }) {
  switch (open?.dialog) {
    case 'lines':
      return <WriteCases onClose={onClose} />
    case 'repeats':
      return (
        <Suspense>
          <RepeatsDialog onClose={onClose} />
        </Suspense>
      )
    case 'replace':
      return (
        <Suspense>
          <ReplaceDialog ids={open.ids} onClose={onClose} />
        </Suspense>
      )
    case 'import':
      return (
        <Suspense>
          <ImportDialog what="cases" onClose={onClose} />
        </Suspense>
      )
    case undefined:
      return null
  }
}

function WriteCases({ onClose }: { onClose: () => void }) {
  const folder = useParams('folder').get('folder')
  return (
    <Dialog title="Write cases as lines" onClose={onClose} wide>
      <p className="quiet" style={{ marginBlockEnd: 8 }}>
        A line a case. Lines indented below it are its steps, written <code>action =&gt; expected</code>.
      </p>
      <CaseWriter requirement={null} folder={folder === null ? null : Number(folder)} choosing />
    </Dialog>
  )
}
