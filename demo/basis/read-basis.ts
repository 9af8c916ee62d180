import { type FaultId, faultIds } from '../../standins/crossing-desk/faults.ts'

/**
 * The requirements and cases of Crossing Desk, as lines. `#` begins a branch with its component; `##` a requirement with likelihood x
 * impact, kind, state, release and iteration it is testable from, owner and the issue outside it refers to; `>` its text; `risk:` why
 * the risk is so. `-` begins a case, with `!` for Critical, `+` for High and `~` for Low importance, `?` for a title that has no steps
 * yet. Indented below it: `before:` what must hold first, `@` a routine with its values, a step with what is done, `=>`, what is seen and, in angle brackets, the
 * fault that makes it fail; `=` the columns of its data, `|` a row of them; one that begins with `|!`
 * is where it fails, where it fails (with none marked every row does).
 */
export interface WrittenRequirement {
  readonly title: string
  readonly branch: string
  readonly component: string
  readonly likelihood: number
  readonly impact: number
  readonly kind: string
  readonly state: string
  readonly release: string
  readonly iteration: number
  readonly owner: string
  readonly reference: string
  readonly text: string
  readonly risk: string
}
export interface WrittenStep {
  readonly action: string
  readonly expected: string
  /** What makes it fail in the builds that have it. */
  readonly fault: FaultId | null
}
interface WrittenUse {
  readonly routine: string
  readonly values: readonly string[]
}
export interface WrittenCase {
  readonly title: string
  readonly importance: 'Critical' | 'High' | 'Medium' | 'Low'
  readonly before: string
  readonly draft: boolean
  readonly component: string
  readonly requirement: string
  readonly steps: readonly (WrittenStep | WrittenUse)[]
  readonly columns: readonly string[]
  readonly rows: readonly (readonly string[])[]
  /** Which of the rows fail where a fault is met, counted from 0; none named: all. */
  readonly failing: readonly number[]
}
export interface WrittenRoutine {
  readonly title: string
  readonly asks: readonly string[]
  readonly steps: readonly { readonly action: string; readonly expected: string }[]
}

type Open<T> = { -readonly [Key in keyof T]: T[Key] extends readonly (infer Each)[] ? Each[] : T[Key] }

const parted = (text: string, by: string): string[] => text.split(by).map((part) => part.trim())
const linesOf = (text: string): string[] => text.split('\n').filter((line) => line.trim() !== '')

/** Steps of a routine or a case: what is done, what is seen. */
function pairOf(line: string): { action: string; expected: string } {
  const [action = '', expected = ''] = parted(line, '=>')
  if (action === '' || expected === '') throw new Error(`this is no step: ${line}`)
  return { action, expected }
}

export function readRoutines(text: string): WrittenRoutine[] {
  const all: Open<WrittenRoutine>[] = []
  for (const line of linesOf(text)) {
    if (line.startsWith('# ')) {
      const [title = '', asks = ''] = parted(line.slice(2), '|')
      all.push({ title, asks: asks === '' ? [] : parted(asks, ','), steps: [] })
    } else all.at(-1)?.steps.push(pairOf(line))
  }
  return all
}

const importances = { '!': 'Critical', '+': 'High', '~': 'Low', '?': 'Medium' } as const

export function readBasis(text: string): { requirements: WrittenRequirement[]; cases: WrittenCase[] } {
  const requirements: Open<WrittenRequirement>[] = []
  const cases: Open<WrittenCase>[] = []
  let [branch, component] = ['', '']
  for (const line of linesOf(text)) {
    const requirement = requirements.at(-1)
    const own = cases.at(-1)
    if (line.startsWith('# ')) [branch = '', component = ''] = parted(line.slice(2), '|')
    else if (line.startsWith('## ')) requirements.push(requirementOf(line.slice(3), branch, component))
    else if (line.startsWith('> ') && requirement) requirement.text = line.slice(2).trim()
    else if (line.startsWith('risk:') && requirement) requirement.risk = line.slice(5).trim()
    else if (line.startsWith('- ') && requirement) cases.push(caseOf(line.slice(2), component, requirement.title))
    else if (line.startsWith('  ') && own) addTo(own, line.trim())
    else throw new Error(`this line has no place: ${line}`)
  }
  return { requirements, cases }
}

function requirementOf(line: string, branch: string, component: string): Open<WrittenRequirement> {
  const [title = '', risk = '', kind = '', state = '', from = '', owner = '', reference = ''] = parted(line, '|')
  const [likelihood = 0, impact = 0] = risk.split('x').map(Number)
  const [release = '', iteration = ''] = from.split('/')
  return {
    title,
    branch,
    component,
    likelihood,
    impact,
    kind,
    state,
    release,
    iteration: Number(iteration),
    owner,
    reference,
    text: '',
    risk: '',
  }
}

function caseOf(line: string, component: string, requirement: string): Open<WrittenCase> {
  const mark = line[0] as keyof typeof importances
  const marked = mark in importances
  return {
    title: marked ? line.slice(1) : line,
    importance: marked ? importances[mark] : 'Medium',
    before: '',
    draft: mark === '?',
    component,
    requirement,
    steps: [],
    columns: [],
    rows: [],
    failing: [],
  }
}

function addTo(own: Open<WrittenCase>, line: string): void {
  if (line.startsWith('before:')) own.before = line.slice(7).trim()
  else if (line.startsWith('= ')) own.columns = parted(line.slice(2), '|')
  else if (/^\|!? /.test(line)) {
    if (line.startsWith('|!')) own.failing.push(own.rows.length)
    own.rows.push(parted(line.slice(line.indexOf(' ')), '|'))
  } else if (line.startsWith('@ ')) {
    const [routine = '', values = ''] = parted(line.slice(2), ':')
    const rest = line.slice(line.indexOf(':') + 1)
    own.steps.push({ routine, values: values === '' ? [] : parted(rest, ';') })
  } else {
    const [, step = line, named] = /^(.*?)\s*(?:<([\w-]+)>)?$/.exec(line) ?? []
    own.steps.push({ ...pairOf(step), fault: named === undefined ? null : faultNamed(named) })
  }
}

function faultNamed(name: string): FaultId {
  const found = faultIds.find((id) => id === name)
  if (!found) throw new Error(`there is no fault ${name}`)
  return found
}
