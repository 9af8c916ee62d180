import type { Block, Paper } from '#core/lib/paper.ts'
import { counted, minutesText, percent, percentText, shareText } from '#core/lib/figures.ts'
import { groupBy } from '#core/lib/group.ts'
import { plainText } from '#core/lib/plain-text.ts'
import type { PlanPrice } from './asks-contract.ts'
import { waySaid } from './ask-words.ts'
import type { PlanSheet } from './contract.ts'
import { type CriterionShown, type PlanCriteria, tallyWords } from './criteria-contract.ts'
import type { Saying } from './definition.ts'
import { type PlanPart, planParts, questions } from './state.ts'
import type { PlanVersionRow } from './versions-contract.ts'

/** Criteria as they are read: what rule each comes from does not matter. */
interface CriteriaRead extends Pick<PlanCriteria, 'exit' | 'entry'> {
  readonly criteria: readonly Omit<CriterionShown, 'rule'>[]
}
interface PaperOf {
  readonly plan: PlanSheet
  /** Nothing where its release is gone. */
  readonly criteria: CriteriaRead | null
  readonly price: PlanPrice | null
  readonly versions: readonly PlanVersionRow[]
  /** An instant as it reads in the project's time zone. */
  readonly moment: (at: number) => string
}

const heading = (text: string, level: 2 | 3 = 3): Block => ({ kind: 'heading', level, text })
const said = (text: string): Block[] => (text === '' ? [] : [{ kind: 'text', text }])
type Width = number | 'auto' | '*'
/** A table below its heading; nothing where it has no row. */
function table(
  title: string,
  columns: readonly (readonly [string, Width])[],
  rows: readonly (readonly string[])[],
): Block[] {
  if (rows.length === 0) return []
  return [heading(title), { kind: 'table', columns: columns.map(([name, width]) => ({ title: name, width })), rows }]
}

/** A plan as it stands, with its tables, criteria and signatures, to be read away from the screen. */
export function planPaper(of: PaperOf): Paper {
  const { plan } = of
  const parts: Readonly<Record<PlanPart, readonly Block[]>> = {
    why: why(plan),
    what: what(plan),
    where: where(plan, of.price),
    when: when(plan),
    enough: of.criteria ? enough(of.criteria) : [],
  }
  return {
    title: `${plan.key} ${plan.title}`,
    under: underOf(of),
    blocks: [
      ...planParts.flatMap((part) => [
        heading(questions[part], 2),
        ...(parts[part].length > 0 || (plan.parts[part] ?? '') !== '' ? parts[part] : said('Nothing is said yet.')),
        ...said(plainText(plan.parts[part] ?? '')),
      ]),
      ...signatures(of.versions, of.moment),
    ],
  }
}

function underOf({ plan, moment }: Pick<PaperOf, 'plan' | 'moment'>): string {
  const { signed } = plan
  const stale = signed && (signed.stale === '' ? 'it says the same still' : `changed since: ${signed.stale}`)
  return [
    plan.state,
    `for Release ${plan.release}${plan.iteration === null ? '' : `, ${plan.iteration}`}`,
    ...(plan.dueOn === null ? [] : [`due ${plan.dueOn}`]),
    ...(signed
      ? [`version ${signed.version} signed by ${signed.by.join(', ')} on ${moment(signed.at)}; ${stale ?? ''}`]
      : []),
  ].join(' · ')
}

const why = ({ objective, risks }: PlanSheet): Block[] => [
  ...said(plainText(objective)),
  ...table(
    'Risks',
    [
      ['Risk', '*'],
      ['Likelihood', 'auto'],
      ['Impact', 'auto'],
      ['Size', 'auto'],
      ['Answered by', 130],
    ],
    risks.map((risk) => [
      risk.title,
      String(risk.likelihood),
      String(risk.impact),
      String(risk.likelihood * risk.impact),
      risk.answers.map(({ key, title }) => `${key} ${title}`).join('\n'),
    ]),
  ),
]

const what = ({ suiteList, cases, minutes, branches, unproved }: PlanSheet): Block[] => [
  ...(suiteList.length === 0
    ? []
    : said(`${counted(cases, 'case')}, ${minutesText(minutes)} for one pass in one environment.`)),
  ...table(
    'Suites',
    [
      ['Key', 'auto'],
      ['Suite', '*'],
      ['Cases', 'auto'],
    ],
    suiteList.map((suite) => [suite.key, suite.title, String(suite.cases)]),
  ),
  ...table(
    'In and out of scope',
    [
      ['', 'auto'],
      ['Requirement', '*'],
      ['Why', '*'],
    ],
    branches.map(({ inside, key, title, reason }) => [inside ? 'in' : 'out', `${key} ${title}`, reason]),
  ),
  ...table(
    'Requirements that no suite proves',
    [
      ['Key', 'auto'],
      ['Requirement', '*'],
      ['Risk', 'auto'],
    ],
    unproved.map(({ key, title, risk }) => [key, title, risk === null ? 'not given' : String(risk)]),
  ),
]

function where({ environmentList, asks }: PlanSheet, price: PlanPrice | null): Block[] {
  const names = new Map(environmentList.map(({ id, name }) => [id, name]))
  const cost =
    price &&
    `It asks for ${counted(price.now.slots, 'slot')}, ${minutesText(price.now.minutes)} of execution. Passing now ${shareText(price.covered.now)} by risk; ${shareText(price.covered.then)} if all of it passed.`
  return [
    ...said(environmentList.length === 0 ? 'In any environment.' : environmentList.map(({ name }) => name).join('; ')),
    ...said(cost ?? ''),
    ...table(
      'What is asked for',
      [
        ['Of', '*'],
        ['In', '*'],
      ],
      asks.map(({ about, key, title, way, environments }) => [
        about === 'plan' ? 'all of the plan' : `${key} ${title}`,
        `${waySaid[way]}${environments === null ? '' : `: ${environments.map((id) => names.get(id) ?? '…').join('; ')}`}`,
      ]),
    ),
    ...table(
      'Requirements that lack environments',
      [
        ['Not asked for in', '*'],
        ['Requirements', '*'],
      ],
      [...groupBy(price?.lacking ?? [], ({ environments }) => environments.join('; '))].map(([environments, own]) => [
        environments,
        own.map(({ key }) => key).join(', '),
      ]),
    ),
  ]
}

const when = ({ people, milestones, runList }: PlanSheet): Block[] => [
  ...table(
    'People',
    [
      ['Name', 130],
      ['Part', '*'],
      ['Time until the due day', 'auto'],
    ],
    people.map(({ name, part, minutes }) => [name, part, minutes === null ? '' : minutesText(minutes)]),
  ),
  ...table(
    'Milestones',
    [
      ['Day', 'auto'],
      ['Milestone', '*'],
    ],
    milestones.map(({ on, title }) => [on, title]),
  ),
  ...table(
    'Runs',
    [
      ['Key', 'auto'],
      ['Run', '*'],
      ['State', 'auto'],
      ['Done', 'auto'],
    ],
    runList.map((run) => [
      run.key,
      run.title,
      run.state,
      `${percentText(percent(run.done, run.items))} of ${run.items}`,
    ]),
  ),
]

function enough({ criteria, exit, entry }: CriteriaRead): Block[] {
  const side = (which: CriterionShown['side']) =>
    criteria.filter((each) => each.side === which).map((each) => [each.words, each.figureText, outcomeOf(each)])
  const columns = [
    ['Criterion', '*'],
    ['Is', 'auto'],
    ['', 130],
  ] as const
  return [
    ...table(`Exit criteria: ${tallyWords(exit)}`, columns, side('exit')),
    ...table(`Entry criteria: ${tallyWords(entry)}`, columns, side('entry')),
  ]
}

const outcomeOf = ({ outcome, waiver, missing }: Pick<CriterionShown, 'outcome' | 'waiver' | 'missing'>): string =>
  outcome === 'waived' && waiver
    ? `waived by ${waiver.by ?? 'somebody'} until ${waiver.until}: ${waiver.reason}`
    : `${outcome}${missing.total > 0 && outcome !== 'met' ? `, ${missing.total} missing` : ''}`

const signatures = (versions: readonly PlanVersionRow[], moment: PaperOf['moment']): Block[] =>
  table(
    'Reviews and signatures',
    [
      ['Version', 'auto'],
      ['State', 'auto'],
      ['Who', 'auto'],
      ['Answer', 'auto'],
      ['Words', '*'],
      ['When', 'auto'],
    ],
    versions.flatMap((each) =>
      each.signatures.length === 0
        ? [[String(each.version), each.state, each.by ?? '', '', each.note, moment(each.at)]]
        : each.signatures.map(({ name, answer, words, at }) => [
            String(each.version),
            each.state,
            name,
            answer === 'approved' ? 'signed' : (answer ?? 'no answer'),
            words,
            at === null ? '' : moment(at),
          ]),
    ),
  )

/** A version of a plan as it was put up: everything it said then, and who signed it. */
export function versionPaper(of: {
  readonly plan: Pick<PlanSheet, 'key' | 'title'>
  readonly version: PlanVersionRow & { readonly definition: readonly Saying[] }
  readonly moment: (at: number) => string
}): Paper {
  const { version, moment } = of
  return {
    title: `${of.plan.key} ${of.plan.title}, version ${version.version}`,
    under: [
      version.state,
      `put up by ${version.by ?? 'somebody'} on ${moment(version.at)}`,
      counted(version.cases, 'case'),
      ...(version.note === '' ? [] : [version.note]),
    ].join(' · '),
    blocks: [
      ...planParts.flatMap((part): Block[] => {
        const own = version.definition.filter((each) => each.part === part)
        const rows = own.map(({ kind, name, said: words }) => [kind, name, words])
        const columns = [
          { title: 'What', width: 90 },
          { title: 'Of', width: '*' },
          { title: 'Said', width: '*' },
        ] as const
        return [
          heading(questions[part], 2),
          ...(rows.length === 0 ? said('Nothing was said.') : [{ kind: 'table' as const, columns, rows }]),
        ]
      }),
      ...signatures([version], moment),
    ],
  }
}
