import { lazy, Suspense, useState } from 'react'
import { found, requirementAsks } from '#core/finding/asks.ts'
import { ownFieldDefinitions, requirementFields } from '#core/finding/fields.ts'
import type { Served } from '#core/lib/question.ts'
import type { Project } from '#core/projects/contract.ts'
import { type CoverageAnswer, readCoverage } from '#core/reports/contract.ts'
import {
  changeRequirements,
  deleteRequirements,
  listRequirements,
  orderRequirements,
  type RequirementRow,
  type RequirementSheet,
} from '#core/requirements/contract.ts'
import { requirementKinds } from '#core/requirements/requirement.ts'
import { ExportMenu } from '#ui/formats/ExportMenu.tsx'
import { useStandingImport } from '#ui/formats/useStandingImport.ts'
import { Button } from '#ui/kit/Button.tsx'
import { useLatest } from '#ui/kit/latest.ts'
import type { Outline, ServedList } from '#ui/list/List.tsx'
import { type Act, ListPage, Nothing } from '#ui/list/ListPage.tsx'
import { AskWords } from '#ui/list/Sentence.tsx'
import { go, scopeIn, scopeNames, useParams } from '#ui/shell/address.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'
import { useTestable } from '#ui/shell/testable.ts'
import { useDeleting, useMany } from '#ui/shell/many.ts'
import { useOwnFields } from '#ui/shell/own-columns.tsx'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import { ofBranches, SuiteOf } from '#ui/plans/NewSuite.tsx'
import { RunOf, runOfRequirements } from '#ui/runs/RunOf.tsx'
import { useRequirementColumns } from './columns.tsx'
import { FetchDialog } from './FetchDialog.tsx'
import { ManyRequirements } from './ManyRequirements.tsx'
import { outlineKeys } from './outline-keys.ts'
import { RequirementSheetView } from './RequirementSheet.tsx'
import { branchType, useMoving } from './useMoving.ts'
import { WriteRequirements } from './WriteRequirements.tsx'

// Large, and used seldom: it comes when it is asked for.
const ImportDialog = lazy(async () => ({ default: (await import('#ui/formats/ImportDialog.tsx')).ImportDialog }))

interface Initial {
  readonly list: ServedList<RequirementRow>
  readonly coverage: Served<CoverageAnswer>
  readonly sheet: Served<RequirementSheet> | null
}

export const RequirementsPage = ({ initial, ...shell }: ShellProps & { initial: Initial }) => (
  <Shell {...shell}>
    <Requirements initial={initial} />
  </Shell>
)

const outline: Outline<RequirementRow> = { depth: (row) => row.depth, strong: (row) => row.hasChildren }

type DialogName = 'lines' | 'import' | 'fetch'

function Requirements({ initial }: { initial: Initial }) {
  const { key, project } = useHere()
  const [dialog, setDialog] = useState<DialogName | null>(null)
  const [openRow, setOpenRow] = useState<RequirementRow | undefined>(undefined)
  const params = useParams('sort', 'group')
  const byOutline = !params.get('sort') && !params.get('group')
  const { coverage, setShown } = useCoverage(initial)
  const own = useOwnFields('requirement')
  const many = useMany(changeRequirements, { params: { key }, one: 'requirement', nothing: {} })
  const remove = useDeleting(deleteRequirements, { one: 'requirement', rest: ', with what was below' })
  const latest = useLatest(many)
  const columns = useRequirementColumns(coverage, own, (row, set) => void latest.current.set([row.id], set))
  const moving = useMoving()
  const acts = useRequirementActs(setDialog)
  return (
    <>
      <ListPage
        name="requirements"
        heading="Requirements"
        kinds={['requirement']}
        source={{ order: orderRequirements, rows: listRequirements, params: { key } }}
        served={initial.list}
        columns={columns}
        fields={[...requirementFields, ...ownFieldDefinitions(own)]}
        choices={choicesOf(project)}
        asks={useAsks()}
        lead={() => <Lead coverage={coverage} byOutline={byOutline} />}
        acts={acts}
        keysFor={(rows, open) => outlineKeys(rows, open, moving.move)}
        tools={<ExportMenu what="requirements" />}
        many={(ticked) => (
          <ManyRequirements ticked={ticked} many={many} fields={own} onDelete={() => void remove(ticked.ids)} />
        )}
        outline={byOutline ? outline : undefined}
        carrying={carryingOf(byOutline, project, moving)}
        onShown={setShown}
        onOpenRow={setOpenRow}
        noneFits="No requirement fits this filter."
        empty={
          <Nothing act={acts.find(({ id }) => id === 'new')}>
            Requirements say what the product must do. Write the first ones as lines, or bring a file in.
          </Nothing>
        }
        sheet={({ ref, close }) => (
          <RequirementSheetView key={ref} about={ref} served={initial.sheet} onClose={close} />
        )}
      />
      <Dialogs open={dialog} under={openRow} onClose={() => setDialog(null)} />
      {openRow && <SuiteOf seed={ofBranches([openRow])} word={null} />}
      {openRow && <RunOf seed={runOfRequirements([openRow])} word={null} />}
    </>
  )
}

const choicesOf = (project: Project) => ({
  owner: project.people.map(({ name }) => name),
  component: project.components,
  release: project.releases.map(({ name }) => name),
  iteration: project.iterations.map(({ name }) => name),
  kind: [...requirementKinds],
})

/** In the scope of an iteration there is one more question. */
function useAsks() {
  const iteration = useParams('iteration').get('iteration')
  return iteration
    ? [...requirementAsks, { words: `testable in ${iteration}`, filter: found('in scope') }]
    : requirementAsks
}

/** Rows are dragged on cases to be linked, and in the outline to other places. */
const carryingOf = (byOutline: boolean, { role }: Project, moving: ReturnType<typeof useMoving>) => ({
  drag: (dragged: readonly RequirementRow[]) => {
    const refs = dragged.map((row) => row.key).join(',')
    return { 'application/x-rovant-refs': refs, ...(byOutline && { [branchType]: refs }) }
  },
  drop:
    byOutline && role !== 'viewer'
      ? {
          type: branchType,
          on: (refs: string, row: RequirementRow, before: boolean) => void moving.place(refs, row, before),
        }
      : undefined,
})

/** The figures of the requirements in sight, in the scope of the address. */
function useCoverage(initial: Initial) {
  const { key } = useHere()
  const params = useParams(...scopeNames)
  const [shown, setShown] = useState<readonly number[]>(initial.list.rows.rows.slice(0, 60).map(({ id }) => id))
  const query = { ...scopeIn(params), ...(shown.length > 0 && { ids: shown.slice(0, 300).join(',') }) }
  const { data } = useAnswer(readCoverage, { params: { key }, query }, { served: initial.coverage, keep: true })
  return { coverage: data, setShown }
}

/** By outline, and how many of all want attention. */
function Lead({ coverage, byOutline }: { coverage: CoverageAnswer | undefined; byOutline: boolean }) {
  const [attention, uncovered] = [coverage?.attention.length ?? 0, coverage?.uncovered.length ?? 0]
  return (
    <>
      {' '}
      {byOutline ? (
        'by outline'
      ) : (
        <Button look="word" onClick={() => go({ params: { sort: null, group: null } })}>
          back to the outline
        </Button>
      )}
      {attention > 0 && (
        <>
          , of which <AskWords words={`${attention} need attention`} filter={found('uncovered', 'failing')} />
        </>
      )}
      {uncovered > 0 && (
        <>
          {' '}
          and <AskWords words={`${uncovered} have no case`} filter={found('uncovered')} />
        </>
      )}
    </>
  )
}

function useRequirementActs(open: (dialog: DialogName) => void): Act[] {
  const { project } = useHere()
  const repeat = useStandingImport('requirements')
  const fetch: Act = { id: 'fetch', button: 'Fetch', look: 'word', run: () => open('fetch') }
  const testable = useTestable()
  return [
    ...(project.role === 'viewer' ? [] : [fetch]),
    { id: 'import', button: 'Import', keys: 'Ctrl+i', hint: 'import a file', quiet: true, run: () => open('import') },
    {
      id: 'import-again',
      keys: 'Ctrl+Shift+i',
      hint: 'repeat the standing import',
      quiet: true,
      run: () => void repeat(),
    },
    testable,
    { id: 'new', button: 'Write lines', look: 'main', keys: 'n', hint: 'new', run: () => open('lines') },
  ]
}

function Dialogs(of: { open: DialogName | null; under: RequirementRow | undefined; onClose: () => void }) {
  switch (of.open) {
    case 'lines':
      return <WriteRequirements under={of.under} onClose={of.onClose} />
    case 'fetch':
      return <FetchDialog onClose={of.onClose} />
    case 'import':
      return (
        <Suspense>
          <ImportDialog what="requirements" onClose={of.onClose} />
        </Suspense>
      )
    case null:
      return null
  }
}
