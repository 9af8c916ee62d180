import { useMemo } from 'react'
import { automations, importances } from '#core/cases/case.ts'
import type { CaseRow, CaseSet } from '#core/cases/contract.ts'
import type { CustomField } from '#core/projects/custom.ts'
import type { Project } from '#core/projects/contract.ts'
import { type Column, oneOf, typed } from '#ui/list/columns.ts'
import { Count, KeyTitle, Warn } from '#ui/list/KeyTitle.tsx'
import { useHere } from '#ui/shell/here.ts'
import { ownColumns } from '#ui/shell/own-columns.tsx'
import { ownerEdit, shortName } from '#ui/shell/people.ts'
import { withMinutes } from '#ui/shell/minutes.ts'

type Store = (row: CaseRow, set: CaseSet) => void

/** The columns of cases with the project's own; made anew only when what they are made from changes. */
export function useCaseColumns(own: readonly CustomField[], store: Store): readonly Column<CaseRow>[] {
  const { project } = useHere()
  return useMemo(() => [...caseColumns(project, store), ...ownColumns<CaseRow>(own, project)], [project, own])
}

function caseColumns(project: Project, store: Store): Column<CaseRow>[] {
  return [
    {
      name: 'title',
      label: 'Case',
      width: 0,
      cell: (row) => <KeyTitle of={row}>{row.retired && <span className="quiet"> (retired)</span>}</KeyTitle>,
    },
    {
      name: 'importance',
      label: 'Importance',
      width: 72,
      cell: (row) => (row.importance === 'Critical' ? <Warn>Critical</Warn> : row.importance),
      edit: oneOf(
        importances,
        (row) => row.importance,
        (row, importance) => store(row, { importance }),
      ),
    },
    {
      name: 'state',
      label: 'State',
      width: 100,
      cell: (row) => (
        <>
          {row.state} <span className="key quiet">{row.versionName ?? ''}</span>
        </>
      ),
    },
    { name: 'steps', label: 'Steps', width: 38, align: 'end', wideOnly: true, cell: (row) => <Count of={row.steps} /> },
    { name: 'requirements', label: 'Links', width: 40, align: 'end', cell: (row) => <Count of={row.requirements} /> },
    {
      name: 'estimate',
      label: 'Min',
      width: 32,
      align: 'end',
      wideOnly: true,
      cell: (row) => row.estimate ?? '',
      edit: typed(
        (row) => String(row.estimate ?? ''),
        (row, value) => withMinutes(value, (estimate) => store(row, { estimate })),
      ),
    },
    {
      name: 'owner',
      label: 'Owner',
      width: 70,
      wideOnly: true,
      cell: (row) => <span className="quiet">{shortName(row.owner)}</span>,
      edit: ownerEdit(project, store),
    },
    ...seldomColumns(store),
  ]
}

const seldomColumns = (store: Store): Column<CaseRow>[] => [
  {
    name: 'component',
    label: 'Component',
    width: 90,
    usual: false,
    cell: (row) => row.component,
    edit: typed(
      (row) => row.component,
      (row, component) => store(row, { component }),
    ),
  },
  { name: 'folder', label: 'Folder', width: 140, usual: false, cell: (row) => row.folder ?? '' },
  {
    name: 'type',
    label: 'Type',
    width: 90,
    usual: false,
    cell: (row) => row.type,
    edit: typed(
      (row) => row.type,
      (row, type) => store(row, { type }),
    ),
  },
  {
    name: 'automation',
    label: 'Automation',
    width: 84,
    usual: false,
    cell: (row) => row.automation,
    edit: oneOf(
      automations,
      (row) => row.automation,
      (row, automation) => store(row, { automation }),
    ),
  },
]
