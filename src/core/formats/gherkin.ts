import { numberIn } from '#core/lib/key.ts'
import {
  AstBuilder,
  dialects,
  Errors,
  GherkinClassicTokenMatcher,
  GherkinInMarkdownTokenMatcher,
  Parser,
} from '@cucumber/gherkin'
import type { Background, DataTable, Examples, GherkinDocument, Scenario, Step } from '@cucumber/messages'
import { parametersIn, type StepText } from '#core/cases/steps.ts'
import { plainText } from '#core/lib/plain-text.ts'
import { type CaseRead, type FileRead, nothingRead, plainCase, type Problem } from './shapes.ts'

/** In the first comment of a file written here, in which steps keep their two sides and a feature is no folder. */
const mark = 'written by Rovant: Given is a precondition, Then belongs to the step before it'

/**
 * A feature file as cases: a scenario or outline is a case, its examples are data rows, backgrounds are preconditions,
 * tags of the feature and of rules count for each scenario. Every language of the official grammar; a step a step, the
 * outcome (Then) as expected result. Source: the Gherkin reference and grammar (cucumber.io/docs/gherkin).
 */
export function readGherkin(text: string): FileRead {
  const parsed = parse(text)
  if ('problems' in parsed) return { ...nothingRead, problems: parsed.problems }
  const { document } = parsed
  const feature = document.feature
  if (!feature) return { ...nothingRead, problems: [{ at: 'line 1', message: noFeature }] }
  const ours = document.comments.some((comment) => comment.text.includes(mark))
  const reader: Reader = { ours, language: feature.language, notices: [] }
  const above: Above = {
    folder: ours || feature.name === '' ? [] : [feature.name],
    tags: feature.tags.map(({ name }) => tagOf(name)),
    before: [],
  }
  const cases = walk(reader, feature.children, above)
  return {
    ...nothingRead,
    cases,
    notices: reader.notices,
    fields: [
      'title',
      'objective',
      'preconditions',
      'folder',
      'tags',
      'action',
      'expected',
      'data',
      'rows',
      ...(ours ? ['id', 'importance', 'requirement'] : []),
    ],
  }
}

const languages = Object.entries(dialects)
const begins = (line: string, words: readonly string[]): boolean => words.some((word) => line.startsWith(`${word}:`))
const headingText = (line: string): string => /^#{1,6}\s+(.*)$/.exec(line.trimStart())?.[1] ?? ''

/** The language of a feature that is written as headings and lists of Markdown; `null` for a plain one. */
const dressOf = (text: string): string | null => {
  const headings = text.split(/\r?\n/).map(headingText)
  const own = languages.filter(([, { feature }]) => headings.some((heading) => begins(heading, feature)))
  // English words stand in other languages too, where they are loans.
  return own.length === 0 ? null : (own.find(([name]) => name === 'en')?.[0] ?? own[0]?.[0] ?? null)
}

/** Is it a feature, or what would be one but for the line that says so? Scenarios with steps are nothing else. */
export function looksLikeFeature(text: string): boolean {
  const lines = text.split(/\r?\n/).map((line) => line.trim())
  return languages.some(([, dialect]) => {
    const { feature, scenario, scenarioOutline, background } = dialect
    if (lines.some((line) => begins(line, feature) || begins(headingText(line), feature))) return true
    const scenarios = [...scenario, ...scenarioOutline, ...background]
    const steps = [...dialect.given, ...dialect.when, ...dialect.then].filter((word) => word !== '* ')
    return (
      lines.some((line) => begins(line, scenarios) || begins(headingText(line), scenarios)) &&
      lines.some((line) => steps.some((word) => line.replace(/^[*-]\s+/, '').startsWith(word)))
    )
  })
}

/** White space of whatever kind as one space: a sentence that was set in columns reads as one. */
const collapsed = (text: string): string => text.replace(/\s+/g, ' ').trim()

function parse(text: string): { document: GherkinDocument } | { problems: Problem[] } {
  try {
    let next = 0
    const builder = new AstBuilder(() => String(next++))
    const dress = dressOf(text)
    const document =
      dress === null
        ? new Parser(builder, new GherkinClassicTokenMatcher()).parse(text)
        : new Parser(builder, new GherkinInMarkdownTokenMatcher(dress)).parse(text)
    return { document }
  } catch (error) {
    const all = error instanceof Errors.CompositeParserException ? error.errors : [error]
    // Where the feature is missing, every line after it is no fault of its own.
    const most = all[0] instanceof Error && all[0].message.includes('#FeatureLine') ? 1 : 50
    return { problems: all.slice(0, most).map((each) => problemOf(each)) }
  }
}

const noFeature = 'there is no feature in the file; it begins with a line such as “Feature: Booking”'

const unexpected = (wanted: string, got: string): string =>
  wanted.includes('#FeatureLine')
    ? `“${got.slice(0, 80)}” stands before any feature; the file begins with a line such as “Feature: Booking”`
    : `“${got.slice(0, 80)}” is not expected here`

function problemOf(error: unknown): Problem {
  const message = error instanceof Error ? error.message : 'cannot be read'
  const place = /^\((\d+):(\d+)\): /.exec(message)
  const rest = message.slice(place?.[0].length ?? 0)
  const got = /^expected: (.+), got '([\s\S]*)'$/.exec(rest)
  return {
    at: place ? `line ${place[1]}` : 'the file',
    message: got ? unexpected(got[1] ?? '', got[2] ?? '') : rest.slice(0, 200),
  }
}

interface Reader {
  readonly ours: boolean
  readonly language: string
  readonly notices: Problem[]
}
interface Above {
  readonly folder: readonly string[]
  readonly tags: readonly string[]
  readonly before: readonly string[]
}
interface Child {
  readonly background?: Background | undefined
  readonly scenario?: Scenario | undefined
  readonly rule?:
    | {
        readonly name: string
        readonly tags: readonly { readonly name: string }[]
        readonly children: readonly Child[]
      }
    | undefined
}

function walk(reader: Reader, children: readonly Child[], above: Above): CaseRead[] {
  let { before } = above
  return children.flatMap((child) => {
    if (child.background)
      before = [
        ...before,
        ...child.background.steps.map((step) =>
          `${step.keyword}${step.text}${argumentOf(step) === '' ? '' : `\n${argumentOf(step)}`}`.trim(),
        ),
      ]
    if (child.scenario) return [caseOf(reader, child.scenario, { ...above, before })]
    if (child.rule)
      return walk(reader, child.rule.children, {
        folder: [
          ...above.folder,
          ...(reader.ours ? child.rule.name.split(' / ') : [child.rule.name]).filter((name) => name !== ''),
        ],
        tags: [...above.tags, ...child.rule.tags.map(({ name }) => tagOf(name))],
        before,
      })
    return []
  })
}

const tagOf = (name: string): string => name.replace(/^@/, '')

function caseOf(reader: Reader, scenario: Scenario, above: Above): CaseRead {
  const names = new Map<string, string>()
  const place = `line ${scenario.location.line}`
  for (const { tableHeader } of scenario.examples)
    for (const { value } of tableHeader?.cells ?? [])
      if (!names.has(value)) names.set(value, parameterName(value, names))
  const withNames = (text: string): string =>
    text.replace(/<([^<>]+)>/g, (whole, name: string) => (names.has(name) ? `{${names.get(name) ?? name}}` : whole))
  const { steps, given } = stepsOf(reader, scenario.steps, withNames)
  const rows = scenario.examples.flatMap((each) => rowsOf(each, names))
  if (scenario.examples.some(({ tags }) => tags.length > 0))
    reader.notices.push({ at: place, message: 'tags of examples are not kept; data rows have none' })
  if (scenario.name === '') reader.notices.push({ at: place, message: 'has no name; it is called after its line' })
  const title = collapsed(withNames(scenario.name)) || `Scenario of line ${scenario.location.line}`
  const all = [...new Set([...above.tags, ...scenario.tags.map(({ name }) => tagOf(name))])]
  const own = reader.ours ? splitTags(all) : { id: '', importance: plainCase.importance, requirements: [], tags: all }
  const content = { preconditions: [...above.before, ...given].join('\n'), steps }
  return {
    ...plainCase,
    ...own,
    row: scenario.location.line,
    title: title.slice(0, 300),
    objective: plainLines(scenario.description),
    preconditions: content.preconditions,
    folder: above.folder,
    steps,
    parameters: [...new Set([...parametersIn(content), ...names.values()])],
    rows,
  }
}

const plainLines = (text: string): string =>
  text
    .split('\n')
    .map((line) => line.trim())
    .join('\n')
    .trim()

/** Letters, digits, spaces and lines are what a parameter's name is made of here. */
function parameterName(value: string, taken: ReadonlyMap<string, string>): string {
  const plain =
    value
      .replace(/[^\p{L}\p{N}_ -]/gu, '_')
      .replace(/^[^\p{L}_]+/u, '')
      .slice(0, 38) || 'value'
  const used = new Set(taken.values())
  return used.has(plain) ? `${plain}${used.size}` : plain
}

function rowsOf(examples: Examples, names: ReadonlyMap<string, string>): Record<string, string>[] {
  const header = examples.tableHeader?.cells.map(({ value }) => names.get(value) ?? value) ?? []
  return examples.tableBody.map((row) =>
    Object.fromEntries(row.cells.map(({ value }, index) => [header[index] ?? '', value])),
  )
}

function stepsOf(
  reader: Reader,
  steps: readonly Step[],
  withNames: (text: string) => string,
): { steps: StepText[]; given: string[] } {
  const dialect = dialects[reader.language] ?? dialects['en']
  let kind: 'context' | 'action' | 'outcome' = 'action'
  const out: { id: null; action: string; expected: string; data: string }[] = []
  const given: string[] = []
  for (const step of steps) {
    if (dialect?.given.includes(step.keyword) && step.keyword !== '* ') kind = 'context'
    else if (dialect?.when.includes(step.keyword) && step.keyword !== '* ') kind = 'action'
    else if (dialect?.then.includes(step.keyword) && step.keyword !== '* ') kind = 'outcome'
    else if (step.keyword === '* ') kind = 'action'
    const text = collapsed(withNames(step.text))
    const data = withNames(argumentOf(step))
    const last = out.at(-1)
    if (kind === 'context' && reader.ours) given.push(text)
    else if (kind === 'outcome' && reader.ours && last && last.expected === '') last.expected = text
    else
      out.push(
        kind === 'outcome'
          ? { id: null, action: '', expected: text, data }
          : { id: null, action: kind === 'context' ? `${step.keyword}${text}` : text, expected: '', data },
      )
  }
  return { steps: out, given }
}

/** A doc string as its text, a table as lines of cells between bars. */
function argumentOf(step: Step): string {
  if (step.docString) return step.docString.content
  return step.dataTable ? tableText(step.dataTable) : ''
}
const tableText = (table: DataTable): string =>
  table.rows.map(({ cells }) => `| ${cells.map(({ value }) => cellText(value)).join(' | ')} |`).join('\n')
const cellText = (value: string): string =>
  value.replaceAll('\\', '\\\\').replaceAll('|', '\\|').replaceAll('\n', '\\n')

/** What a tag of our own says besides: the case's key, its importance, the requirements it proves. */
function splitTags(tags: readonly string[]): Pick<CaseRead, 'id' | 'importance' | 'requirements' | 'tags'> {
  const importance =
    (['Critical', 'High', 'Medium', 'Low'] as const).find((each) => tags.includes(`importance:${each}`)) ?? 'Medium'
  return {
    id: tags.find((tag) => tag.startsWith('id:'))?.slice(3) ?? '',
    importance,
    requirements: tags.filter((tag) => numberIn('requirement', tag) > 0),
    tags: tags.filter((tag) => !/^(id|importance):/.test(tag) && numberIn('requirement', tag) === 0),
  }
}

export interface Written {
  readonly text: string
  /** What the format cannot hold, with how many objects lose it. */
  readonly left: readonly string[]
}

/** Cases as one feature file in English: a rule a folder, a scenario a case. What has no place in the format is named. */
export function writeGherkin(cases: readonly CaseRead[], feature: string): Written {
  const lost = new Map<string, number>()
  const lose = (what: string) => lost.set(what, (lost.get(what) ?? 0) + 1)
  const folders = [...new Set(cases.map(({ folder }) => folder.join(' / ')))].sort()
  const blocks = folders.flatMap((name) => {
    const own = cases.filter(({ folder }) => folder.join(' / ') === name).map((each) => scenarioText(each, lose))
    return name === '' ? own : [`Rule: ${name}`, ...own]
  })
  return {
    text: `# ${mark}\nFeature: ${oneLine(feature)}\n\n${blocks.join('\n\n')}\n`,
    left: [...lost].map(([what, count]) => `${what} (${count} ${count === 1 ? 'case' : 'cases'})`),
  }
}

const oneLine = (text: string): string => text.replace(/\s+/g, ' ').trim()

function scenarioText(of: CaseRead, lose: (what: string) => void): string {
  for (const [what, has] of [
    ['type', of.type !== ''],
    ['component', of.component !== ''],
    ['estimate', of.estimate !== null],
    ['owner', of.owner !== ''],
    ['automation', of.automation !== 'Manual'],
    ['own fields', Object.values(of.custom).some((value) => value !== '')],
  ] as const)
    if (has) lose(what)
  const tags = [...(of.id === '' ? [] : [`id:${of.id}`]), `importance:${of.importance}`, ...of.requirements, ...of.tags]
  const spaced = tags.filter((tag) => /\s|@/.test(tag) || tag === '')
  if (spaced.length > 0) lose('tags with spaces')
  const values = new Set(of.rows.length > 0 ? of.parameters : [])
  const withAngles = (text: string): string =>
    text.replace(/\{([^{}]+)\}/g, (whole, name: string) => (values.has(name) ? `<${name}>` : whole))
  const plain = (text: string, what: string): string => {
    const bare = plainText(text)
    if (bare !== text || /\n/.test(text)) lose(what)
    return withAngles(oneLine(bare))
  }
  const lines = [
    `  ${tags
      .filter((tag) => !spaced.includes(tag))
      .map((tag) => `@${tag}`)
      .join(' ')}`,
    `  ${of.rows.length > 0 ? 'Scenario Outline' : 'Scenario'}: ${plain(of.title, 'marks in the title')}`,
  ]
  if (of.objective !== '') lines.push(...describe(of.objective, lose))
  for (const line of plainText(of.preconditions).split('\n'))
    if (line.trim() !== '') lines.push(`    Given ${plain(line, 'marks in the preconditions')}`)
  for (const step of of.steps) {
    if (step.action !== '' || step.expected === '')
      lines.push(
        `    * ${plain(step.action, 'marks or line breaks in an action')}`,
        ...argumentLines(withAngles(step.data)),
      )
    if (step.expected !== '')
      lines.push(
        `    Then ${plain(step.expected, 'marks or line breaks in an expected result')}`,
        ...(step.action === '' ? argumentLines(withAngles(step.data)) : []),
      )
  }
  if (of.rows.length > 0)
    lines.push(
      '',
      '    Examples:',
      ...[of.parameters, ...of.rows.map((row) => of.parameters.map((name) => row[name] ?? ''))].map(
        (cells) => `      | ${cells.map(cellText).join(' | ')} |`,
      ),
    )
  return lines.join('\n')
}

/** A description may not look like a keyword line, a tag or a comment, or it would be read as one. */
function describe(objective: string, lose: (what: string) => void): string[] {
  const lines = plainLines(plainText(objective)).split('\n')
  const english = dialects['en']
  const words = english
    ? [
        ...english.scenario,
        ...english.scenarioOutline,
        ...english.examples,
        ...english.background,
        ...english.rule,
        ...english.given,
        ...english.when,
        ...english.then,
        ...english.and,
        ...english.but,
      ]
    : []
  const kept = lines.filter(
    (line) => line !== '' && !/^[@#|*"`]/.test(line) && !words.some((word) => line.startsWith(word.trim())),
  )
  if (kept.length < lines.length || plainLines(objective) !== lines.join('\n'))
    lose('lines of the objective that would be read as something else')
  return [...kept.map((line) => `    ${line}`), ...(kept.length > 0 ? [''] : [])]
}

function argumentLines(data: string): string[] {
  if (data === '') return []
  const fence = data.includes('"""') ? '```' : '"""'
  return [`      ${fence}`, ...data.split('\n').map((line) => `      ${line}`), `      ${fence}`]
}
