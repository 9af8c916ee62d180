import {
  casesPerCombination,
  type DecisionCase,
  decisionsWithoutWrong,
  filledIn,
  fulfils,
  outcomeText,
  wrongRules,
} from './decisions.ts'
import { against, type Asking, type DraftAnswer, type Proposed } from './draft-answer.ts'
import { type DraftModel, type DraftRow, rowText } from './draft-row.ts'
import type { DecisionsModel } from './models.ts'

const mostCombinationCases = 2000

type Typed = Extract<DraftModel, { technique: 'decisions' }>

/** The table with rules that nothing fulfils in the places of those that are wrong. */
function withWrongUnmet(body: DecisionsModel): DecisionsModel {
  const wrong = wrongRules(body)
  const [name = ''] = Object.keys(body.conditions)
  return { ...body, rules: body.rules.map((rule, at) => (wrong.has(at) ? { ...rule, when: { [name]: [] } } : rule)) }
}

interface Rules extends Asking {
  readonly cases: readonly DecisionCase[]
  readonly goalOf: (each: Pick<DecisionCase, 'when' | 'rule'>) => string
}

/** Each rule is to be tried, or each combination that a rule answers. */
export function decisionsAsked({ body: typed, per }: Typed, answer = decisionsWithoutWrong(typed)): Rules {
  const body = withWrongUnmet(typed)
  const names = Object.keys(body.conditions)
  const cases = per === 'rule' ? answer.cases : casesPerCombination(body, mostCombinationCases)
  const goalOf: Rules['goalOf'] = (each) =>
    per === 'rule' ? String(each.rule) : JSON.stringify(names.map((name) => each.when[name]))
  const goals = (row: DraftRow): string[] | string => {
    const wrong =
      names.find((name) => !body.conditions[name]!.includes(row[name] ?? '')) ??
      Object.keys(row).find((name) => !names.includes(name))
    if (wrong)
      return row[wrong] === undefined
        ? `says nothing of ${wrong}`
        : `${wrong} ${row[wrong]} is not in the table any more`
    if (body.impossible.some((terms) => fulfils(terms, row))) return 'is marked as impossible now'
    const rules = body.rules.flatMap(({ when }, rule) => (fulfils(when, row) ? [rule] : []))
    return rules.length === 0 ? [] : rules.map((rule) => goalOf({ when: row, rule }))
  }
  return { cases, goals, goalOf, all: new Set(cases.map(goalOf)) }
}

export function decisionsDraft(typed: Typed, accepted: readonly DraftRow[]): DraftAnswer {
  const { body, per } = typed
  const answer = decisionsWithoutWrong(body)
  const asked = decisionsAsked(typed, answer)
  const { cases, goals, goalOf } = asked
  const { standing, answered } = against(accepted, asked)
  const taken = new Set(answered)
  const proposed = cases.flatMap((each): Proposed[] => {
    if (taken.has(goalOf(each))) return []
    // Rules that overlap can share one case.
    const fresh = [goals(each.when)].flat().filter((goal) => !taken.has(goal))
    for (const goal of fresh) taken.add(goal)
    return [
      {
        row: each.when,
        adds: fresh.length,
        negative: false,
        why: `rule ${each.rule + 1}: ${outcomeText(filledIn(each.then)) || 'no outcome yet'}`,
        steps: [{ action: `With ${rowText(each.when)}`, expected: outcomeText(filledIn(each.then)) }],
      },
    ]
  })
  const notices = [
    ...answer.notices,
    ...(per === 'combination' && cases.length === mostCombinationCases
      ? [{ at: 'rules', message: `One case per combination stops at ${mostCombinationCases}; take one per rule.` }]
      : []),
  ]
  return {
    proposed,
    standing,
    targets: asked.all.size,
    answered: answered.size,
    unit: per === 'rule' ? ['rule', 'rules'] : ['combination', 'combinations'],
    notices,
    detail: { technique: 'decisions', answer },
  }
}
