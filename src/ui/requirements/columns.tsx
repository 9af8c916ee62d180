import { useMemo } from 'react'
import { shareText } from '#core/lib/figures.ts'
import type { CustomField } from '#core/projects/custom.ts'
import type { Project } from '#core/projects/contract.ts'
import type { CoverageAnswer } from '#core/reports/contract.ts'
import type { RequirementRow, RequirementSet } from '#core/requirements/contract.ts'
import { kindOf, requirementKinds, requirementStates } from '#core/requirements/requirement.ts'
import { ResultBar } from '#ui/kit/ResultBar.tsx'
import { type Column, oneOf, typed } from '#ui/list/columns.ts'
import { KeyTitle, Warn } from '#ui/list/KeyTitle.tsx'
import { useHere } from '#ui/shell/here.ts'
import { ownColumns } from '#ui/shell/own-columns.tsx'
import { ownerEdit, shortName } from '#ui/shell/people.ts'
import { freshnessWords } from './freshness-words.ts'
import { gradeIn, grades, gradeText } from './grades.ts'

type Node = CoverageAnswer['nodes'][number]
type Nodes = ReadonlyMap<number, Node>
type Store = (row: RequirementRow, set: RequirementSet) => void
const highRisk = 16

/** The columns of requirements with what the scope's results say; made anew only when that changes. */
export function useRequirementColumns(
  coverage: CoverageAnswer | undefined,
  own: readonly CustomField[],
  store: Store,
): readonly Column<RequirementRow>[] {
  const { project } = useHere()
  return useMemo(() => {
    const nodes = new Map((coverage?.nodes ?? []).map((node) => [node.id, node]))
    return [...figureColumns(nodes), ...fieldColumns(project, store), ...ownColumns<RequirementRow>(own, project)]
  }, [coverage, project, own])
}

const figureColumns = (nodes: Nodes): Column<RequirementRow>[] => [
  { name: 'title', label: 'Requirement', width: 0, cell: (row) => <KeyTitle of={row} /> },
  { name: 'risk', label: 'Risk', width: 42, align: 'end', cell: (row) => <Risk of={row} /> },
  {
    name: 'cases',
    label: 'Cases',
    width: 44,
    align: 'end',
    cell: (row) => {
      const n = nodes.get(row.id)?.figures.cases ?? row.cases
      return n === 0 && !row.hasChildren ? <Warn>0</Warn> : n
    },
  },
  {
    name: 'results',
    label: 'Results',
    width: 104,
    sortable: false,
    cell: (row) => {
      const node = nodes.get(row.id)
      return node ? <ResultBar {...node.figures} width={104} /> : null
    },
  },
  {
    name: 'freshness',
    label: 'Freshness',
    width: 118,
    sortable: false,
    cell: (row) => <span className="quiet">{freshnessWords(nodes.get(row.id))}</span>,
  },
  {
    name: 'passing',
    label: 'Passing',
    width: 66,
    align: 'end',
    sortable: false,
    usual: false,
    cell: (row) => shareText(nodes.get(row.id)?.figures.passing.plain.recorded ?? null),
  },
]

function Risk({ of }: { of: RequirementRow }) {
  if (of.hasChildren) return ''
  if (of.risk === null)
    return (
      <span className="quiet" title="No risk given; it counts as 9">
        9?
      </span>
    )
  return of.risk >= highRisk ? <Warn>{of.risk}</Warn> : of.risk
}

function grade(name: 'likelihood' | 'impact' | 'priority', label: string, store: Store): Column<RequirementRow> {
  return {
    name,
    label,
    width: 76,
    align: 'end',
    usual: false,
    cell: (row) => row[name] ?? '–',
    edit: oneOf(
      grades,
      (row) => gradeText(row[name]),
      (row, value) => store(row, { [name]: gradeIn(value) }),
    ),
  }
}

const fieldColumns = (project: Project, store: Store): Column<RequirementRow>[] => [
  ...gradeColumns(store),
  ...placeColumns(project, store),
  ...outsideColumns,
]

/** How it is graded, and what it is. */
const gradeColumns = (store: Store): Column<RequirementRow>[] => [
  grade('likelihood', 'Likelihood', store),
  grade('impact', 'Impact', store),
  grade('priority', 'Priority', store),
  {
    name: 'state',
    label: 'State',
    width: 76,
    usual: false,
    cell: (row) => row.state,
    edit: oneOf(
      requirementStates,
      (row) => row.state,
      (row, state) => store(row, { state }),
    ),
  },
  {
    name: 'kind',
    label: 'Kind',
    width: 86,
    usual: false,
    cell: (row) => row.kind,
    edit: oneOf(
      requirementKinds,
      (row) => kindOf(row.kind),
      (row, kind) => store(row, { kind }),
    ),
  },
]

/** Where it belongs, and to whom. */
const placeColumns = (project: Project, store: Store): Column<RequirementRow>[] => [
  {
    name: 'component',
    label: 'Component',
    width: 96,
    usual: false,
    cell: (row) => row.component,
    edit: typed(
      (row) => row.component,
      (row, component) => store(row, { component }),
    ),
  },
  {
    name: 'owner',
    label: 'Owner',
    width: 90,
    usual: false,
    cell: (row) => shortName(row.owner),
    edit: ownerEdit(project, store),
  },
  {
    name: 'release',
    label: 'Testable from',
    width: 130,
    usual: false,
    cell: (row) => [row.release, row.iteration].filter((part) => part !== null).join(', '),
  },
]

const outsideColumns: readonly Column<RequirementRow>[] = [
  {
    name: 'outside',
    label: 'Outside',
    width: 76,
    usual: false,
    cell: (row) => <span className="key">{row.outside}</span>,
  },
  { name: 'suspect', label: 'Suspect', width: 60, align: 'end', usual: false, cell: (row) => row.suspect || '' },
  { name: 'revision', label: 'Revision', width: 62, align: 'end', usual: false, cell: (row) => row.revision },
]
