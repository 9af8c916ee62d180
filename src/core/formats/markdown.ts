import { commaList } from '#core/lib/comma-list.ts'
import { automations, importances } from '#core/cases/case.ts'
import { parametersIn, type StepText, arrowParts } from '#core/cases/steps.ts'
import { plainText } from '#core/lib/plain-text.ts'
import { requirementKinds, requirementStates } from '#core/requirements/requirement.ts'
import { readRows, writeRows } from './data-rows.ts'
import { priorityFrom, riskFrom } from './read-requirements.ts'
import {
  type CaseRead,
  childIndexes,
  type FileRead,
  nothingRead,
  plainCase,
  plainRequirement,
  type Problem,
  requirementFields,
  type RequirementRead,
} from './shapes.ts'

interface Section {
  readonly line: number
  readonly depth: number
  readonly title: string
  readonly parent: Section | null
  readonly lines: { readonly line: number; readonly text: string }[]
}

const caseFields = [
  'id',
  'title',
  'folder',
  'objective',
  'preconditions',
  'action',
  'expected',
  'data',
  'rows',
  'importance',
  'type',
  'component',
  'owner',
  'estimate',
  'automation',
  'requirement',
  'tags',
]

/**
 * Markdown by its headings. A section with a numbered list (or one whose heading is followed by attributes of a case) is a
 * case, the headings above it are its folders; where no section has one, every heading is a requirement and the
 * headings below it its children. Attributes stand as `- name: value` lines right below a heading.
 */
export function readMarkdown(text: string): FileRead {
  const sections = sectionsOf(text)
  if (sections.length === 0)
    return {
      ...nothingRead,
      problems: [{ at: 'line 1', message: 'there is no heading in the file; a case or a requirement begins with one' }],
    }
  const problems: Problem[] = []
  if (sections.some(isCase)) {
    const cases = sections
      .filter((section) => isCase(section) || !sections.some(({ parent }) => parent === section))
      .map((section) => caseOf(section, problems))
    return { ...nothingRead, cases, problems, fields: caseFields }
  }
  const index = new Map(sections.map((section, at) => [section, at]))
  const requirements = sections.map((section) =>
    requirementOf(section, section.parent ? (index.get(section.parent) ?? null) : null, problems),
  )
  return { ...nothingRead, requirements, problems, fields: requirementFields }
}

function sectionsOf(text: string): Section[] {
  const sections: Section[] = []
  let fence: string | null = null
  text.split(/\r?\n/).forEach((written, index) => {
    const mark = /^\s*(`{3,}|~{3,})/.exec(written)?.[1]
    if (mark !== undefined) fence = fence === null ? mark : written.trim().startsWith(fence) ? null : fence
    const heading = fence === null ? /^(#{1,6})\s+(.*?)(?:\s+#+)?\s*$/.exec(written) : null
    if (!heading) {
      sections.at(-1)?.lines.push({ line: index + 1, text: written })
      return
    }
    const depth = heading[1]?.length ?? 1
    const parent =
      sections.findLast(
        (each, at) =>
          each.depth < depth &&
          sections.slice(at + 1).every((later) => later.depth >= depth || later.depth > each.depth),
      ) ?? null
    sections.push({ line: index + 1, depth, title: unescaped(heading[2] ?? ''), parent, lines: [] })
  })
  return sections
}

const numbered = /^(\d{1,3})[.)]\s+(.*)$/
const isCase = ({ lines }: Section): boolean =>
  splitFence(lines).prose.some(({ text }) => numbered.test(text) || /^- importance: /i.test(text))

const marks = '[\\\\`*_{}[\\]()#+\\-.!|<>~:=⇒→]'
/** A backslash before a mark says that it is none. */
const unescaped = (text: string): string => text.replace(new RegExp(`\\\\(${marks})`, 'g'), '$1')
const escaped = (text: string): string =>
  text
    .replace(new RegExp(`\\\\(?=${marks})`, 'g'), '\\\\')
    .replace(/\\$/, '\\\\')
    .replace(/(^|\s)(=>|⇒|→)(?=\s|$)/g, '$1\\$2')
    .replace(/^(\d{1,3})(?=[.)](\s|$))/, '$1\\')
    .replace(/#$/, '\\#')
    .replace(/^(?=[#>+\-*`~|])/, '\\')

interface Body {
  readonly attributes: Readonly<Record<string, { readonly value: string; readonly line: number }>>
  readonly rest: readonly { readonly line: number; readonly text: string }[]
}

const attributeNames = [
  'id',
  'kind',
  'component',
  'state',
  'risk',
  'priority',
  'release',
  'iteration',
  'reference',
  'owner',
  'tags',
  'importance',
  'type',
  'estimate',
  'automation',
  'requirements',
]

/** Attribute lines right below the heading, and what comes after them. */
function bodyOf(section: Section): Body {
  const attributes: Record<string, { value: string; line: number }> = {}
  let at = 0
  for (; at < section.lines.length; at++) {
    const text = section.lines[at]?.text ?? ''
    if (text.trim() === '') continue
    const attribute = /^- ([a-z]+): (.*)$/i.exec(text)
    const name = attribute?.[1]?.toLowerCase() ?? ''
    if (!attribute || !attributeNames.includes(name)) break
    attributes[name] = { value: unescaped((attribute[2] ?? '').trim()), line: section.lines[at]?.line ?? 0 }
  }
  return { attributes, rest: section.lines.slice(at) }
}

interface Reader extends Body {
  readonly problems: Problem[]
}
const valueOf = (reader: Reader, name: string): string => reader.attributes[name]?.value ?? ''
function choice<T extends string>(reader: Reader, name: string, choices: readonly T[], usual: T): T {
  const text = valueOf(reader, name)
  const known = choices.find((each) => each.toLowerCase() === text.toLowerCase())
  if (text !== '' && known === undefined)
    reader.problems.push({
      at: `line ${reader.attributes[name]?.line ?? 0}`,
      message: `“${text.slice(0, 60)}” is none of ${choices.join(', ')}`,
    })
  return known ?? usual
}
const listOf = (reader: Reader, name: string): string[] => commaList(valueOf(reader, name))

function titleOf(section: Section, problems: Problem[]): string {
  if (section.title === '') problems.push({ at: `line ${section.line}`, message: 'the heading has no text' })
  if (section.title.length > 300)
    problems.push({ at: `line ${section.line}`, message: 'the heading is longer than 300 characters' })
  return section.title
}

function requirementOf(section: Section, parent: number | null, problems: Problem[]): RequirementRead {
  const reader = { ...bodyOf(section), problems }
  const risk = valueOf(reader, 'risk')
  const grades = risk === '' ? null : riskFrom(risk)
  if (risk !== '' && !grades)
    problems.push({
      at: `line ${reader.attributes['risk']?.line ?? 0}`,
      message: `“${risk}” is no risk; write likelihood × impact such as 4x5`,
    })
  return {
    ...plainRequirement,
    row: section.line,
    title: titleOf(section, problems),
    id: valueOf(reader, 'id'),
    text: paragraphs(reader.rest),
    parent,
    likelihood: grades?.likelihood ?? null,
    impact: grades?.impact ?? null,
    priority: priorityOf(reader),
    kind: choice(reader, 'kind', requirementKinds, 'Function'),
    state: choice(reader, 'state', requirementStates, 'Draft'),
    component: valueOf(reader, 'component'),
    release: valueOf(reader, 'release'),
    iteration: valueOf(reader, 'iteration'),
    reference: valueOf(reader, 'reference'),
    owner: valueOf(reader, 'owner'),
    tags: listOf(reader, 'tags'),
  }
}

function priorityOf(reader: Reader): number | null {
  const text = valueOf(reader, 'priority')
  const priority = priorityFrom(text)
  if (text !== '' && priority === null)
    reader.problems.push({
      at: `line ${reader.attributes['priority']?.line ?? 0}`,
      message: `“${text.slice(0, 60)}” is no priority; write 1 (first) to 5 (last)`,
    })
  return priority
}

const paragraphs = (lines: Body['rest']): string =>
  lines
    .map(({ text }) => unescaped(text))
    .join('\n')
    .replace(/\n{3,}/g, '\n\n')
    .trim()

/** Paragraphs before the list are the objective, those after “Before:” the preconditions, a fenced block the data rows. */
function caseOf(section: Section, problems: Problem[]): CaseRead {
  const reader = { ...bodyOf(section), problems }
  const { fenced, prose } = splitFence(reader.rest)
  const first = prose.findIndex(({ text }) => numbered.test(text))
  const above = first < 0 ? prose : prose.slice(0, first)
  const before = above.findIndex(({ text }) => /^before:/i.test(text.trim()))
  const objective = paragraphs(before < 0 ? above : above.slice(0, before))
  const preconditions =
    before < 0
      ? ''
      : paragraphs(
          above
            .slice(before)
            .map((each, index) =>
              index === 0 ? { ...each, text: each.text.trim().replace(/^before:\s*/i, '') } : each,
            ),
        )
  const steps = first < 0 ? [] : stepsOf(prose.slice(first))
  const rows = readRows(fenced.map(({ text }) => text).join('\n'))
  if (typeof rows === 'string') problems.push({ at: `line ${fenced[0]?.line ?? section.line}`, message: rows })
  const estimate = valueOf(reader, 'estimate')
  if (estimate !== '' && !/^[1-9]\d{0,3}$/.test(estimate))
    problems.push({
      at: `line ${reader.attributes['estimate']?.line ?? 0}`,
      message: `“${estimate}” is not a number of minutes`,
    })
  const folder: string[] = []
  for (let at = section.parent; at; at = at.parent) if (!isCase(at)) folder.unshift(at.title)
  const values = typeof rows === 'string' ? [] : rows
  return {
    ...plainCase,
    row: section.line,
    title: titleOf(section, problems),
    id: valueOf(reader, 'id'),
    objective,
    preconditions,
    folder,
    steps,
    rows: values,
    parameters: [...new Set([...parametersIn({ preconditions, steps }), ...values.flatMap((row) => Object.keys(row))])],
    importance: choice(reader, 'importance', importances, 'Medium'),
    automation: choice(reader, 'automation', automations, 'Manual'),
    type: valueOf(reader, 'type'),
    component: valueOf(reader, 'component'),
    owner: valueOf(reader, 'owner'),
    estimate: /^[1-9]\d{0,3}$/.test(estimate) ? Number(estimate) : null,
    requirements: listOf(reader, 'requirements'),
    tags: listOf(reader, 'tags'),
  }
}

/** The fenced block of data rows, and all other lines. */
function splitFence(lines: Body['rest']): { fenced: Body['rest']; prose: Body['rest'] } {
  const from = lines.findIndex(({ text }) => text.trim() === '```rows')
  if (from < 0) return { fenced: [], prose: lines }
  const end = lines.findIndex(({ text }, at) => at > from && text.trim() === '```')
  const until = end < 0 ? lines.length : end
  return { fenced: lines.slice(from + 1, until), prose: [...lines.slice(0, from), ...lines.slice(until + 1)] }
}

/** Numbered lines are actions; below each, indented `expected:` and `data:` (or the first other line as the result). */
function stepsOf(lines: Body['rest']): StepText[] {
  const steps: { id: null; action: string; expected: string; data: string }[] = []
  for (const { text } of lines) {
    const item = numbered.exec(text)
    const last = steps.at(-1)
    const [, mark = '', name, value = ''] = /^\s+([-*+]\s+)?(?:(expected(?: result)?|data): ?)?(.*)$/i.exec(text) ?? []
    if (item) {
      const [action, expected] = arrowParts(item[2] ?? '', /\s+(?:=>|⇒|→)\s+/)
      steps.push({ id: null, action: unescaped(action.trim()), expected: unescaped(expected.trim()), data: '' })
    } else if (last && text.trim() !== '' && /^\s/.test(text)) {
      const field = name?.toLowerCase() === 'data' ? 'data' : name !== undefined || mark !== '' ? 'expected' : 'action'
      last[field] = [last[field], unescaped(value.trim())].filter((part) => part !== '').join('\n')
    }
  }
  return steps
}

const plainLine = (text: string): string =>
  escaped(
    plainText(text)
      .replace(/\s*[\r\n\t]\s*/g, ' ')
      .trim(),
  )
const attribute = (name: string, value: string): string[] => (value === '' ? [] : [`- ${name}: ${plainLine(value)}`])
const written = (text: string): string =>
  plainText(text)
    .split('\n')
    .map((line) => escaped(line.trim()))
    .join('\n')

/** Cases as Markdown: a heading a folder, a heading a case, its steps as a numbered list. */
export function writeMarkdownCases(cases: readonly CaseRead[]): string {
  const blocks: string[] = []
  let open: readonly string[] = []
  for (const each of [...cases].sort((a, b) => byText(a.folder.join('\u0000'), b.folder.join('\u0000')))) {
    const shared = each.folder.findIndex((name, depth) => open[depth] !== name)
    each.folder.forEach((name, depth) => {
      if (shared >= 0 && depth >= shared) blocks.push(`${'#'.repeat(Math.min(5, depth + 1))} ${plainLine(name)}`)
    })
    open = each.folder
    blocks.push(caseText(each))
  }
  return `${blocks.join('\n\n')}\n`
}

const byText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0)

function caseText(of: CaseRead): string {
  const head = [
    `###### ${plainLine(of.title)}`,
    '',
    ...attribute('id', of.id),
    `- importance: ${of.importance}`,
    ...attribute('type', of.type),
    ...attribute('component', of.component),
    ...attribute('owner', of.owner),
    ...attribute('estimate', of.estimate === null ? '' : String(of.estimate)),
    ...(of.automation === 'Manual' ? [] : attribute('automation', of.automation)),
    ...attribute('requirements', of.requirements.join(', ')),
    ...attribute('tags', of.tags.join(', ')),
  ]
  const objective = of.objective === '' ? [] : ['', written(of.objective)]
  const preconditions = of.preconditions === '' ? [] : ['', `Before: ${written(of.preconditions)}`]
  const steps = of.steps.map(({ action, expected, data }, index) =>
    [
      `${index + 1}. ${plainLine(action)}`,
      ...(expected === '' ? [] : [`   - expected: ${plainLine(expected)}`]),
      ...(data === '' ? [] : [`   - data: ${plainLine(data)}`]),
    ].join('\n'),
  )
  const rows = of.rows.length === 0 ? [] : ['', '```rows', writeRows(of.parameters, of.rows), '```']
  return [...head, ...objective, ...preconditions, ...(steps.length > 0 ? ['', ...steps] : []), ...rows].join('\n')
}

/** Requirements as Markdown: headings as deep as the outline; deeper than six levels stay at the sixth, and that is told. */
export function writeMarkdownRequirements(requirements: readonly RequirementRead[]): { text: string; left: string[] } {
  const depths: number[] = []
  requirements.forEach(({ parent }, index) => {
    depths[index] = typeof parent === 'number' ? (depths[parent] ?? 0) + 1 : 0
  })
  const ordered = outline(requirements)
  const blocks = ordered.map((index) => {
    const of = requirements[index]
    if (!of) return ''
    const head = [
      `${'#'.repeat(Math.min(6, (depths[index] ?? 0) + 1))} ${plainLine(of.title)}`,
      '',
      ...attribute('id', of.id),
      ...attribute('kind', of.kind),
      ...attribute('component', of.component),
      ...attribute('state', of.state),
      ...attribute('risk', of.likelihood === null || of.impact === null ? '' : `${of.likelihood}x${of.impact}`),
      ...attribute('priority', of.priority === null ? '' : String(of.priority)),
      ...attribute('release', of.release),
      ...attribute('iteration', of.iteration),
      ...attribute('reference', of.reference),
      ...attribute('owner', of.owner),
      ...attribute('tags', of.tags.join(', ')),
    ]
    return [...head, ...(of.text === '' ? [] : ['', written(of.text)])].join('\n')
  })
  const deep = depths.filter((depth) => depth > 5).length
  return { text: `${blocks.join('\n\n')}\n`, left: deep > 0 ? [`levels below the sixth (${deep} requirements)`] : [] }
}

/** Indexes in outline order: each before what is below it, which the order of a file need not be. */
function outline(requirements: readonly RequirementRead[]): number[] {
  const children = childIndexes(requirements)
  const below = (parent: number | null): number[] =>
    (children.get(parent) ?? []).flatMap((index) => [index, ...below(index)])
  return below(null)
}
