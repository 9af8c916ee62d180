import type { CoverageAnswer } from '#core/reports/contract.ts'
import type { Project } from '#core/projects/contract.ts'
import type { RequirementRow } from '#core/requirements/contract.ts'
import { requirementKinds, requirementStates } from '#core/requirements/requirement.ts'
import { shareText } from '#core/lib/figures.ts'
import { ResultBar } from '#ui/kit/ResultBar.tsx'
import type { Column } from '#ui/list/columns.ts'
import { peopleOptions, shortName } from '#ui/shell/People.tsx'

type Node = CoverageAnswer['nodes'][number]
const highRisk = 16

/** What is the matter with a requirement's results, in two words: the reason most of its slots share. */
export function freshnessWords(node: Node | undefined): string {
  if (!node) return ''
  const { figures, state } = node
  if (state === 'uncovered') return figures.drafted > 0 ? 'only drafted' : 'no case'
  if ((figures.verdicts['Not run'] ?? 0) === figures.slots) return 'not run'
  const reasons = Object.entries(figures.reasons).sort((a, b) => b[1] - a[1])
  const first = reasons[0]
  return first ? `${first[0]} (${first[1]})` : 'current'
}

export function requirementColumns(
  nodes: ReadonlyMap<number, Node>,
  project: Project,
  store: (row: RequirementRow, set: Record<string, unknown>) => void,
): Column<RequirementRow>[] {
  const grade = (name: 'likelihood' | 'impact' | 'priority', label: string): Column<RequirementRow> => ({
    name,
    label,
    width: 76,
    align: 'end',
    usual: false,
    cell: (row) => row[name] ?? '–',
    edit: {
      kind: 'choice',
      options: [{ value: '', label: 'open' }, '1', '2', '3', '4', '5'],
      value: (row) => String(row[name] ?? ''),
      store: (row, value) => store(row, { [name]: value === '' ? null : Number(value) }),
    },
  })
  return [
    {
      name: 'title',
      label: 'Requirement',
      width: 0,
      cell: (row) => (
        <>
          <span className="key quiet">{row.key}</span>&ensp;{row.title}
        </>
      ),
    },
    {
      name: 'risk',
      label: 'Risk',
      width: 42,
      align: 'end',
      cell: (row) =>
        row.hasChildren ? (
          ''
        ) : row.risk === null ? (
          <span className="quiet" title="No risk given; it counts as 9">
            9?
          </span>
        ) : (
          <span style={row.risk >= highRisk ? { color: 'var(--danger)', fontWeight: 700 } : undefined}>{row.risk}</span>
        ),
    },
    grade('likelihood', 'Likelihood'),
    grade('impact', 'Impact'),
    grade('priority', 'Priority'),
    {
      name: 'cases',
      label: 'Cases',
      width: 44,
      align: 'end',
      cell: (row) => {
        const n = nodes.get(row.id)?.figures.cases ?? row.cases
        return n === 0 && !row.hasChildren ? <b style={{ color: 'var(--danger)' }}>0</b> : n
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
    {
      name: 'state',
      label: 'State',
      width: 76,
      usual: false,
      cell: (row) => row.state,
      edit: {
        kind: 'choice',
        options: requirementStates,
        value: (row) => row.state,
        store: (row, state) => store(row, { state }),
      },
    },
    {
      name: 'kind',
      label: 'Kind',
      width: 86,
      usual: false,
      cell: (row) => row.kind,
      edit: {
        kind: 'choice',
        options: requirementKinds,
        value: (row) => row.kind,
        store: (row, kind) => store(row, { kind }),
      },
    },
    {
      name: 'component',
      label: 'Component',
      width: 96,
      usual: false,
      cell: (row) => row.component,
      edit: { kind: 'text', value: (row) => row.component, store: (row, component) => store(row, { component }) },
    },
    {
      name: 'owner',
      label: 'Owner',
      width: 90,
      usual: false,
      cell: (row) => shortName(row.owner),
      edit: {
        kind: 'choice',
        options: peopleOptions(project),
        value: (row) => project.people.find(({ name }) => name === row.owner)?.id ?? '',
        store: (row, ownerId) => store(row, { ownerId: ownerId || null }),
      },
    },
    {
      name: 'release',
      label: 'Testable from',
      width: 130,
      usual: false,
      cell: (row) => [row.release, row.iteration].filter((part) => part !== null).join(', '),
    },
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
}

/** Which of them comes first when there is not time for all; 1 before 5. */
export const priorities = [
  { value: '', label: 'no priority' },
  { value: '1', label: '1, first' },
  '2',
  '3',
  '4',
  { value: '5', label: '5, last' },
]

/** One release, from its start or from an iteration, as a choice for many requirements. */
export const targetChoices = ({ releases, iterations }: Project) => [
  { value: '', label: 'any release' },
  ...releases.flatMap((release) => [
    { value: `${release.id}/`, label: `Release ${release.name}` },
    ...iterations
      .filter((each) => each.release === release.id)
      .map(({ id, name }) => ({ value: `${release.id}/${id}`, label: `Release ${release.name} from ${name}` })),
  ]),
]
export function targetsIn(value: string): { release: number; iteration: number | null }[] {
  const [release = '', iteration = ''] = value.split('/')
  return release === '' ? [] : [{ release: Number(release), iteration: iteration === '' ? null : Number(iteration) }]
}
