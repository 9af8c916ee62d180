import { z } from 'zod'
import { counted } from '#core/lib/figures.ts'
import { boundaries, type BoundaryCase } from './boundaries.ts'
import { combosProblem } from './combos-model.ts'
import { combine, type CombosAnswer } from './combos.ts'
import { survey } from './combos-survey.ts'
import { heldBy } from './held-tuples.ts'
import {
  casesPerCombination,
  type DecisionCase,
  decisionsWithoutWrong,
  filledIn,
  fulfils,
  outcomeText,
  wrongRules,
} from './decisions.ts'
import type { BoundariesModel, CombosModel, DecisionsModel } from './models.ts'
import { turned } from './sense.ts'
import { draftModel, type DraftModel, type DraftRow, sameRow, rowText } from './draft-row.ts'
import { against, type DraftAnswer, type Proposed, spare, type Standing } from './draft-answer.ts'
import { pathsDraft } from './draft-paths.ts'

export type DraftInput = z.input<typeof draftModel>

export interface DraftProgress {
  /** Share of the targets that the rows hold so far. */
  readonly covered: number
  readonly rows: number
  readonly answer?: DraftAnswer
}

const mostCombinationCases = 2000
const tupleNames = ['', 'value', 'pair', 'triple', 'quadruple', 'quintuple', 'sextuple']

/**
 * The cases a model yields beside those accepted from it, with a reason for each, and what has become of the accepted ones.
 * A generator: combinations get better while it runs; the others answer at once.
 * `said`: what each accepted row said when it was accepted (`senseOf`), in the same order; one that says the opposite by now answers nothing.
 */
export function* draft(
  model: DraftModel,
  accepted: readonly DraftRow[],
  said: readonly (string | null)[] = [],
): Generator<DraftProgress, DraftAnswer> {
  const why = accepted.map((row, at) => turned(model, row, said[at]))
  const whole = (answer: DraftAnswer): DraftAnswer => ({ ...answer, standing: withTurned(answer.standing, why) })
  const search = draftOf(
    model,
    accepted.filter((_, at) => why[at] === null),
  )
  for (;;) {
    const step = search.next()
    if (step.done) return whole(step.value)
    yield { ...step.value, ...(step.value.answer && { answer: whole(step.value.answer) }) }
  }
}

/** The standing of all accepted rows, from that of those that did not turn. */
function withTurned(standing: readonly Standing[], why: readonly (string | null)[]): Standing[] {
  let next = 0
  return why.map((each) => (each === null ? (standing[next++] ?? spare) : { state: 'changed', why: each }))
}

function* draftOf(model: DraftModel, accepted: readonly DraftRow[]): Generator<DraftProgress, DraftAnswer> {
  if (model.technique === 'combos') return yield* combosDraft(model.body, accepted)
  const answer = atOnce(model, accepted)
  yield { covered: 1, rows: answer.proposed.length, answer }
  return answer
}

type AtOnce = Exclude<DraftModel, { technique: 'combos' }>
function atOnce(model: AtOnce, accepted: readonly DraftRow[]): DraftAnswer {
  switch (model.technique) {
    case 'boundaries':
      return boundariesDraft(model.body, accepted)
    case 'decisions':
      return decisionsDraft(model.body, model.per, accepted)
    case 'paths':
      return pathsDraft(model, accepted)
  }
}

/** Targets of a model, and how many of them accepted rows answer: the coverage meter, without any search. */
export function meter(
  model: DraftModel,
  accepted: readonly DraftRow[],
  said: readonly (string | null)[] = [],
): { readonly targets: number; readonly answered: number } {
  const kept = accepted.filter((row, at) => turned(model, row, said[at]) === null)
  if (model.technique === 'combos') {
    const problem = combosProblem(model.body)
    return heldBy(problem, survey(problem, kept))
  }
  const { targets, answered } = atOnce(model, kept)
  return { targets, answered }
}

function* combosDraft(body: CombosModel, accepted: readonly DraftRow[]): Generator<DraftProgress, DraftAnswer> {
  const problem = combosProblem(body)
  const names = problem.names
  const known = survey(problem, accepted)
  const held = heldBy(problem, known)
  const refusal = new Map(
    held.refused.map(({ at, message }) => [
      Number(/\d+/.exec(at)?.[0]),
      message.replace(/^Row \d+ is not counted: /, ''),
    ]),
  )
  const standing = accepted.map((row, at): Standing => {
    const missing = names.find((name) => row[name] === undefined)
    if (refusal.has(at)) return { state: 'gone', why: refusal.get(at)! }
    return { state: 'kept', why: missing ? `says nothing of ${missing}` : 'kept' }
  })
  const usable = accepted.filter((_, at) => !refusal.has(at))
  const one = tupleNames[problem.strength]!
  const finish = (answer: CombosAnswer): DraftAnswer => {
    const ordinaryKept = usable.filter(
      (row) => !names.some((name) => body.negative[name]?.includes(row[name] ?? '')),
    ).length
    const ends = answer.rows.length - answer.negative
    const fresh = answer.rows
      .map((row, at) => ({ row, at }))
      .filter(({ row, at }) => at >= ordinaryKept && !(at >= ends && usable.some((own) => sameRow(own, row))))
    return {
      proposed: fresh.map(({ row, at }): Proposed => {
        const bad = at >= ends ? names.find((name) => body.negative[name]?.includes(row[name]!)) : undefined
        return {
          row,
          adds: answer.adds[at]!,
          negative: bad !== undefined,
          why: bad ? `${bad} ${row[bad]!}, alone among ordinary values` : counted(answer.adds[at]!, `new ${one}`),
          steps: [{ action: `With ${rowText(row)}`, expected: bad ? `${row[bad]!} is refused` : '' }],
        }
      }),
      standing,
      targets: held.targets,
      answered: held.answered,
      unit: [one, `${one}s`],
      notices: answer.notices.filter(({ at }) => !at.startsWith('existing')),
      detail: { technique: 'combos', answer },
    }
  }
  const search = combine(problem, {}, known)
  for (;;) {
    const step = search.next()
    if (step.done) return finish(step.value)
    const { covered, rows, answer } = step.value
    yield { covered, rows, ...(answer && { answer: finish(answer) }) }
  }
}

function boundariesDraft(body: BoundariesModel, accepted: readonly DraftRow[]): DraftAnswer {
  const answer = boundaries(body)
  const names = Object.keys(body.inputs)
  const goal = (input: string, value: unknown): string => `${input}=${String(value)}`
  const caseOf = new Map(answer.cases.map((each) => [goal(each.input, each.value), each]))
  // An invalid value counts only where it stands alone.
  const goals = (row: DraftRow): string[] | string => {
    const unknown = Object.keys(row).find((name) => !names.includes(name))
    if (unknown) return `there is no input ${unknown} any more`
    const held = names.map((name) => caseOf.get(goal(name, row[name])))
    const bad = held.filter((each) => each?.valid === false)
    return bad.length > 1
      ? []
      : (bad.length === 1 ? bad : held).flatMap((each) => (each ? [goal(each.input, each.value)] : []))
  }
  const { standing, answered } = against(accepted, { goals, all: new Set(caseOf.keys()) })
  const taken = new Set(answered)
  const proposed = answer.rows.flatMap((full): Proposed[] => {
    const row = Object.fromEntries(names.map((name) => [name, String(full[name])]))
    const fresh = [goals(row)].flat().filter((each) => !taken.has(each))
    for (const each of fresh) taken.add(each)
    if (fresh.length === 0) return []
    const held = fresh.map((each) => caseOf.get(each)!)
    const first =
      full['invalid'] === null ? undefined : caseOf.get(goal(String(full['invalid']), full[String(full['invalid'])]))
    return [
      {
        row,
        adds: fresh.length,
        negative: first !== undefined,
        why: (first ? [first] : held).map((each) => `${each.input} ${each.value}: ${each.why}`).join('; '),
        steps: [
          {
            action: `Enter ${names.map((name) => valueText(body, name, row[name]!)).join(', ')}`,
            expected: first
              ? `It is refused: ${first.input} ${first.value} is ${first.partition === null ? 'outside all partitions' : first.partition}`
              : acceptedAs(
                  names.map((name) => caseOf.get(goal(name, row[name]))),
                  names,
                ),
          },
        ],
      },
    ]
  })
  return {
    proposed,
    standing,
    targets: caseOf.size,
    answered: answered.size,
    unit: ['value', 'values'],
    notices: [],
    detail: { technique: 'boundaries', answer },
  }
}

const valueText = (body: BoundariesModel, name: string, value: string): string =>
  `${name} ${value}${body.inputs[name]?.unit ? ` ${body.inputs[name].unit}` : ''}`
const acceptedAs = (held: readonly (BoundaryCase | undefined)[], names: readonly string[]): string =>
  `It is accepted: ${held.map((each, at) => `${names[at]!} as ${each?.partition ?? 'given'}`).join(', ')}`

/** The table with rules that nothing fulfils in the places of those that are wrong. */
function withWrongUnmet(body: DecisionsModel): DecisionsModel {
  const wrong = wrongRules(body)
  const [name = ''] = Object.keys(body.conditions)
  return { ...body, rules: body.rules.map((rule, at) => (wrong.has(at) ? { ...rule, when: { [name]: [] } } : rule)) }
}

function decisionsDraft(
  typed: DecisionsModel,
  per: 'rule' | 'combination',
  accepted: readonly DraftRow[],
): DraftAnswer {
  const answer = decisionsWithoutWrong(typed)
  const body = withWrongUnmet(typed)
  const names = Object.keys(body.conditions)
  const cases: readonly DecisionCase[] = per === 'rule' ? answer.cases : casesPerCombination(body, mostCombinationCases)
  const goalOf = (each: Pick<DecisionCase, 'when' | 'rule'>): string =>
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
  const { standing, answered } = against(accepted, { goals, all: new Set(cases.map(goalOf)) })
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
    targets: new Set(cases.map(goalOf)).size,
    answered: answered.size,
    unit: per === 'rule' ? ['rule', 'rules'] : ['combination', 'combinations'],
    notices,
    detail: { technique: 'decisions', answer },
  }
}
