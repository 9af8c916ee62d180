import { automations, importances } from '#core/cases/case.ts'
import type { CaseRow } from '#core/cases/contract.ts'
import type { Project } from '#core/projects/contract.ts'
import type { Column } from '#ui/list/columns.ts'
import { peopleOptions, shortName } from '#ui/shell/People.tsx'

export function caseColumns(
  project: Project,
  store: (row: CaseRow, set: Record<string, unknown>) => void,
): Column<CaseRow>[] {
  return [
    {
      name: 'title',
      label: 'Case',
      width: 0,
      cell: (row) => (
        <>
          <span className="key quiet">{row.key}</span>&ensp;{row.title}
          {row.retired && <span className="quiet"> (retired)</span>}
        </>
      ),
    },
    {
      name: 'importance',
      label: 'Importance',
      width: 72,
      cell: (row) =>
        row.importance === 'Critical' ? <b style={{ color: 'var(--danger)' }}>Critical</b> : row.importance,
      edit: {
        kind: 'choice',
        options: importances,
        value: (row) => row.importance,
        store: (row, importance) => store(row, { importance }),
      },
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
    {
      name: 'steps',
      label: 'Steps',
      width: 38,
      align: 'end',
      wideOnly: true,
      cell: (row) => (row.steps === 0 ? <b style={{ color: 'var(--danger)' }}>0</b> : row.steps),
    },
    {
      name: 'requirements',
      label: 'Links',
      width: 40,
      align: 'end',
      cell: (row) => (row.requirements === 0 ? <b style={{ color: 'var(--danger)' }}>0</b> : row.requirements),
    },
    {
      name: 'estimate',
      label: 'Min',
      width: 32,
      align: 'end',
      wideOnly: true,
      cell: (row) => row.estimate ?? '',
      edit: {
        kind: 'number',
        value: (row) => String(row.estimate ?? ''),
        store: (row, value) => store(row, { estimate: /^\d+$/.test(value) ? Number(value) : null }),
      },
    },
    {
      name: 'owner',
      label: 'Owner',
      width: 70,
      wideOnly: true,
      cell: (row) => <span className="quiet">{shortName(row.owner)}</span>,
      edit: {
        kind: 'choice',
        options: peopleOptions(project),
        value: (row) => project.people.find(({ name }) => name === row.owner)?.id ?? '',
        store: (row, ownerId) => store(row, { ownerId: ownerId || null }),
      },
    },
    {
      name: 'component',
      label: 'Component',
      width: 90,
      usual: false,
      cell: (row) => row.component,
      edit: { kind: 'text', value: (row) => row.component, store: (row, component) => store(row, { component }) },
    },
    { name: 'folder', label: 'Folder', width: 140, usual: false, cell: (row) => row.folder ?? '' },
    {
      name: 'type',
      label: 'Type',
      width: 90,
      usual: false,
      cell: (row) => row.type,
      edit: { kind: 'text', value: (row) => row.type, store: (row, type) => store(row, { type }) },
    },
    {
      name: 'automation',
      label: 'Automation',
      width: 84,
      usual: false,
      cell: (row) => row.automation,
      edit: {
        kind: 'choice',
        options: automations,
        value: (row) => row.automation,
        store: (row, automation) => store(row, { automation }),
      },
    },
  ]
}
