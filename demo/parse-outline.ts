/** One case of the demo, as its line says. */
interface DemoCase {
  readonly title: string
  readonly importance: 'Critical' | 'High' | 'Medium' | 'Low'
  readonly written: boolean
}
interface DemoRequirement {
  readonly title: string
  readonly likelihood: number
  readonly impact: number
  readonly kind: string
  readonly state: 'Draft' | 'Agreed' | 'Done' | 'Dropped'
  readonly release: string
  readonly iteration: number
  readonly owner: string
  readonly text: string
  readonly cases: readonly DemoCase[]
}
export interface DemoBranch {
  readonly title: string
  readonly component: string
  readonly requirements: readonly DemoRequirement[]
}

const marks = { '!': 'Critical', '+': 'High', '~': 'Low' } as const

/** The demo's lines as branches, requirements and cases. */
export function parseOutline(text: string): DemoBranch[] {
  const branches: {
    title: string
    component: string
    requirements: (Omit<DemoRequirement, 'cases'> & { cases: DemoCase[] })[]
  }[] = []
  for (const line of text.split('\n').filter((each) => each !== '')) {
    const parts = line
      .replace(/^[#-]+ ?/, '')
      .split(' | ')
      .map((part) => part.trim())
    if (line.startsWith('# ')) branches.push({ title: parts[0] ?? '', component: parts[1] ?? '', requirements: [] })
    else if (line.startsWith('## ')) branches.at(-1)?.requirements.push(requirementOf(line.slice(3)))
    else
      branches
        .at(-1)
        ?.requirements.at(-1)
        ?.cases.push(caseOf(line.slice(2)))
  }
  return branches
}

function requirementOf(line: string) {
  const [title = '', risk = '', kind = '', state = '', target = '', owner = '', text = ''] = line
    .split('|')
    .map((part) => part.trim())
  const [likelihood = 3, impact = 3] = risk.split('x').map(Number)
  const [release = '', iteration = '1'] = target.split('/')
  const known = (['Draft', 'Agreed', 'Done', 'Dropped'] as const).find((each) => each === state) ?? 'Agreed'
  return {
    title,
    likelihood,
    impact,
    kind,
    state: known,
    release,
    iteration: Number(iteration),
    owner,
    text,
    cases: [],
  }
}

function caseOf(line: string): DemoCase {
  const mark = Object.entries(marks).find(([char]) => line.startsWith(char))
  const written = !line.startsWith('?')
  return { title: mark || !written ? line.slice(1) : line, importance: mark?.[1] ?? 'Medium', written }
}
