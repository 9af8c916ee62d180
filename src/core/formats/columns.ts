/** What a column of a sheet may hold, per kind of thing, with the headers it is recognised by (lower case, no marks). */
const requirementHeaders = {
  title: ['title', 'name', 'requirement', 'summary', 'heading'],
  text: ['text', 'description', 'body', 'details', 'statement'],
  id: ['id', 'key', 'number', 'identifier', 'no'],
  parent: ['parent', 'parent id', 'parent key', 'parent title', 'under', 'belongs to'],
  risk: ['risk', 'risk score'],
  likelihood: ['likelihood', 'probability'],
  impact: ['impact', 'severity of failure', 'damage'],
  priority: ['priority', 'prio'],
  release: ['release', 'target release', 'testable from', 'fix version'],
  iteration: ['iteration', 'sprint', 'testable from iteration'],
  reference: ['outside reference', 'reference', 'ref', 'ticket', 'external id', 'outside', 'source'],
  kind: ['kind', 'type', 'category'],
  component: ['component', 'area', 'module'],
  state: ['state', 'status'],
  owner: ['owner', 'responsible', 'assignee'],
  tags: ['tags', 'tag', 'keywords'],
} as const
const caseHeaders = {
  title: ['case', 'case title', 'test case', 'title', 'name', 'case name', 'test case title', 'test case name', 'test'],
  id: ['id', 'key', 'case id', 'case key', 'test case id', 'identifier', 'no', 'number', 'tc', 'tc id'],
  action: ['action', 'step', 'steps', 'step action', 'test step', 'test steps', 'do', 'step description', 'procedure'],
  expected: ['expected', 'expected result', 'expected results', 'result', 'should be', 'expected outcome'],
  data: ['data', 'test data', 'input', 'values'],
  preconditions: ['preconditions', 'precondition', 'before', 'given', 'prerequisites'],
  objective: ['objective', 'purpose', 'description', 'aim', 'summary'],
  importance: ['importance', 'priority', 'weight'],
  type: ['type', 'kind'],
  component: ['component', 'area', 'module'],
  folder: ['folder', 'section', 'path', 'suite'],
  requirement: ['requirement', 'requirements', 'covers', 'proves', 'requirement key', 'requirement id'],
  estimate: ['estimate', 'minutes', 'duration', 'estimate min'],
  owner: ['owner', 'author', 'responsible'],
  automation: ['automation', 'execution'],
  tags: ['tags', 'tag', 'keywords', 'labels'],
  rows: ['data rows', 'examples', 'parameters'],
} as const

export type What = 'requirements' | 'cases'

/** Fields a column may be read as; a field of the project's own is `custom:` and its name. */
export const fieldsOf = (what: What): readonly string[] =>
  Object.keys(what === 'requirements' ? requirementHeaders : caseHeaders)

const plainHeader = (header: string): string =>
  header
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()

/** Which field each header stands for; a field is given to the first header that fits it, the rest stay unread. */
export function mapColumns(what: What, headers: readonly string[], custom: readonly string[] = []): (string | null)[] {
  const known: Readonly<Record<string, readonly string[]>> = what === 'requirements' ? requirementHeaders : caseHeaders
  const taken = new Set<string>()
  return headers.map((header) => {
    const plain = plainHeader(header)
    const own = custom.find((name) => plainHeader(name) === plain)
    const field =
      own === undefined
        ? Object.keys(known).find((each) => !taken.has(each) && known[each]?.includes(plain))
        : `custom:${own}`
    if (field === undefined || taken.has(field)) return null
    taken.add(field)
    return field
  })
}

/** Rows of steps make cases; anything else with a title is a list of requirements. `null` when no header is known. */
export function guessWhat(headers: readonly string[]): What | null {
  const asCases = mapColumns('cases', headers)
  if (asCases.includes('action') || asCases.includes('expected')) return 'cases'
  if (!mapColumns('requirements', headers).includes('title')) return asCases.includes('title') ? 'cases' : null
  return headers.some((header) => /\bcase\b/i.test(header)) ? 'cases' : 'requirements'
}

/** `A`, `B` … `Z`, `AA`: how a spreadsheet names its columns, from 0. */
export function columnName(index: number): string {
  const last = String.fromCharCode(65 + (index % 26))
  return index < 26 ? last : columnName(Math.floor(index / 26) - 1) + last
}

/** The other way round: `A` is 0. */
export const columnIndex = (name: string): number =>
  [...name].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0) - 1
