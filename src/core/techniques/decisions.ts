import { groupBy } from '#core/lib/group.ts'
import { type FieldProblem, Refusal } from '#core/lib/refusal.ts'
import { type Block, Blocks } from './blocks.ts'
import { type Diagram, Diagrams } from './diagram.ts'
import { fewestBlocks } from './merge-rules.ts'
import type { DecisionRule, DecisionsModel, Notice } from './models.ts'

type Combination = Readonly<Record<string, string>>
export type ValueBlock = Readonly<Record<string, readonly string[]>>

export interface DecisionCase {
  readonly when: Combination
  readonly then: DecisionRule['then']
  readonly rule: number
}

export interface DecisionsAnswer {
  readonly complete: boolean
  /** Possible ones. */
  readonly combinations: number
  readonly missing: readonly ValueBlock[]
  readonly conflicts: readonly { readonly rules: readonly [number, number]; readonly example: Combination }[]
  /** Rules that can all be dropped together without changing anything. */
  readonly redundant: readonly number[]
  readonly merged: readonly DecisionRule[] | null
  readonly cases: readonly DecisionCase[]
  readonly notices: readonly Notice[]
}

/** More conflicts than this are not listed one by one. */
const mostConflicts = 1000
const mostMissing = 20_000

interface Table {
  readonly names: readonly string[]
  /** Values that every rule treats alike stand as one; for each condition the groups, each with the person's values. */
  readonly groups: readonly (readonly (readonly string[])[])[]
  readonly blocks: Blocks
  readonly sets: Diagrams
  readonly rules: readonly Block[]
  readonly impossible: readonly Block[]
}

function tableOf(model: DecisionsModel): Table {
  refuseWrong(model)
  const names = Object.keys(model.conditions)
  const groups = names.map((name) => alikeValues(model, name))
  const blocks = new Blocks(groups.map((own) => own.map(({ length }) => length)))
  const blockOf = (term: ValueBlock): Block =>
    blocks.of(
      names.map((name, condition) =>
        groups[condition]!.flatMap((group, at) =>
          term[name] === undefined || term[name].includes(group[0]!) ? [at] : [],
        ),
      ),
    )
  return {
    names,
    groups,
    blocks,
    sets: new Diagrams(blocks),
    rules: model.rules.map(({ when }) => blockOf(when)),
    impossible: model.impossible.map(blockOf),
  }
}

/** The values of a condition, those together that every rule treats alike. */
function alikeValues({ conditions, rules, impossible }: DecisionsModel, name: string): string[][] {
  const terms = [...rules.map(({ when }) => when), ...impossible]
  const signature = (value: string) =>
    terms.map((each) => (each[name] === undefined || each[name].includes(value) ? '1' : '0')).join('')
  return [...groupBy(conditions[name]!, signature).values()]
}

/** What is wrong with each rule by itself, by its place. */
export const wrongRules = (model: DecisionsModel): ReadonlyMap<number, string> =>
  new Map(
    model.rules.flatMap(({ when }, at) => {
      const [problem] = termProblems(model, when, `rules[${at}].when`)
      return problem ? [[at, problem.message] as const] : []
    }),
  )

/** One refusal that names every place of a table that is wrong. */
function refuseWrong(model: DecisionsModel): void {
  const problems = [
    ...conditionProblems(model),
    ...model.rules.flatMap(({ when }, at) => termProblems(model, when, `rules[${at}].when`)),
    ...model.impossible.flatMap((terms, at) => termProblems(model, terms, `impossible[${at}]`)),
  ]
  const [first] = problems
  if (first) throw new Refusal('invalid', `The table cannot be checked: ${first.message}`, { fields: problems })
}

function conditionProblems({ conditions }: DecisionsModel): FieldProblem[] {
  if (Object.keys(conditions).length === 0)
    return [{ field: 'conditions', message: 'The table has no conditions yet. Write one, such as resident: yes, no.' }]
  return Object.entries(conditions).flatMap(([name, values]) =>
    values.flatMap((value, at) =>
      values.indexOf(value) < at
        ? [{ field: `conditions.${name}[${at}]`, message: `${name} has the value ${value} twice.` }]
        : [],
    ),
  )
}

/** What a rule names that the table does not have. */
const termProblems = ({ conditions }: DecisionsModel, terms: ValueBlock, path: string): FieldProblem[] =>
  Object.entries(terms).flatMap(([name, values]): FieldProblem[] => {
    const field = `${path}.${name}`
    const known = Object.hasOwn(conditions, name) ? conditions[name] : undefined
    if (!known) return [{ field, message: `There is no condition ${name}.` }]
    if (values.length === 0) return [{ field, message: `${name} has no value here; leave the condition out for any.` }]
    return values
      .filter((value) => !known.includes(value))
      .map((value) => ({ field, message: `${name} has no value ${value}.` }))
  })

const valuesOf = ({ names, groups, blocks }: Table, block: Block): ValueBlock =>
  Object.fromEntries(
    names.map((name, condition) => [name, blocks.values(block, condition).flatMap((at) => groups[condition]![at]!)]),
  )
const exampleOf = ({ names, groups }: Table, values: readonly number[]): Combination =>
  Object.fromEntries(names.map((name, condition) => [name, groups[condition]![values[condition]!]![0]!]))

/** What a rule leads to, in one text: rules lead to the same when these are the same. */
export const outcomeText = (then: DecisionRule['then']): string =>
  Object.entries(then)
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([name, value]) => `${name}: ${String(value)}`)
    .join(', ')

/** The parts of an outcome that are filled in. */
export const filledIn = (then: DecisionRule['then']): DecisionRule['then'] =>
  Object.fromEntries(Object.entries(then).filter(([, value]) => value !== '' && value !== null))

/** Does a combination fulfil these terms? A condition they leave out may have any value. */
export const fulfils = (terms: ValueBlock, row: Combination): boolean =>
  Object.entries(terms).every(([name, values]) => values.includes(row[name] ?? ''))

/** What a rule asks for, without conditions that may have any value, or that the model has no more. */
export function whenOf(model: DecisionsModel, block: ValueBlock): ValueBlock {
  return Object.fromEntries(
    Object.entries(block).filter(([name, values]) => values.length < (model.conditions[name]?.length ?? 0)),
  )
}

/**
 * The same of a table some of whose rules name what it does not have: those are left aside and told, the others keep their places.
 */
export function decisionsWithoutWrong(model: DecisionsModel): DecisionsAnswer {
  const wrong = wrongRules(model)
  if (wrong.size === 0) return decisions(model)
  const places = [...model.rules.keys()].filter((at) => !wrong.has(at))
  const place = (at: number): number => places[at]!
  const answer = decisions({ ...model, rules: places.map((at) => model.rules[at]!) })
  return {
    ...answer,
    conflicts: answer.conflicts.map(({ rules: [a, b], example }) => ({ rules: [place(a), place(b)], example })),
    redundant: answer.redundant.map(place),
    // Rules merged now would be without those left aside.
    merged: null,
    cases: answer.cases.map((each) => ({ ...each, rule: place(each.rule) })),
    notices: [
      ...[...wrong].map(([at, message]) => ({ at: rulePath(at), message: `${message} The rule is left aside.` })),
      ...answer.notices.map((notice) => ({
        ...notice,
        at: notice.at.replace(/\d+/, (at) => String(place(Number(at)))),
      })),
    ],
  }
}

const rulePath = (at: number): string => `rules[${at}]`

/**
 * What a decision table says of all combinations of its conditions: which no rule answers, which two rules answer differently,
 * which rules say nothing of their own, and the fewest rules that mean the same. Combinations are never listed one by one: sets
 * of them are decision diagrams, so that a million are answered like a hundred.
 */
export function decisions(model: DecisionsModel): DecisionsAnswer {
  const table = tableOf(model)
  const { blocks, sets, rules, impossible } = table
  const notices: Notice[] = []
  const never = sets.union(impossible)
  const combinations = sets.count(sets.without(1, never))
  if (combinations === 0) notices.push({ at: 'impossible', message: 'Every combination is marked as impossible.' })
  const missing: ValueBlock[] = []
  const open = sets.without(sets.without(1, never), sets.union(rules))
  for (const block of sets.parts(open)) {
    if (missing.push(valuesOf(table, block)) < mostMissing) continue
    notices.push({
      at: 'rules',
      message: `${sets.count(open)} combinations are missing; the first ${mostMissing} blocks of them are listed.`,
    })
    break
  }
  const outcomes = model.rules.map(({ then }) => outcomeText(then))
  const conflicts: DecisionsAnswer['conflicts'][number][] = []
  for (let a = 0; a < rules.length && conflicts.length <= mostConflicts; a++)
    for (let b = a + 1; b < rules.length && conflicts.length <= mostConflicts; b++) {
      const met = outcomes[a] === outcomes[b] ? null : blocks.meet(rules[a]!, rules[b]!)
      const example = met ? sets.outside(never, met) : null
      if (example) conflicts.push({ rules: [a, b], example: exampleOf(table, example) })
    }
  if (conflicts.length > mostConflicts)
    notices.push({
      at: 'rules',
      message: `More than ${mostConflicts} pairs of rules conflict; the rest is not listed.`,
    })
  const redundant: number[] = []
  for (const outcome of new Set(outcomes)) {
    const own = [...rules.keys()]
      .filter((at) => outcomes[at] === outcome)
      .sort((a, b) => blocks.size(rules[a]!) - blocks.size(rules[b]!) || b - a)
    const idle = sets.idle(
      own.map((at) => rules[at]!),
      never,
    )
    redundant.push(...own.filter((_, at) => idle[at]))
  }
  redundant.sort((a, b) => a - b)
  const kept = new Set([...rules.keys()].filter((at) => !redundant.includes(at)))
  return {
    complete: open === 0,
    combinations,
    missing,
    conflicts,
    redundant,
    merged: conflicts.length > 0 ? null : mergedRules(model, table, outcomes, kept),
    cases: casesOf(model, table, never, notices),
    notices,
  }
}

function mergedRules(
  model: DecisionsModel,
  table: Table,
  outcomes: readonly string[],
  kept: ReadonlySet<number>,
): DecisionRule[] {
  const { sets, rules, impossible } = table
  return [...new Set(outcomes)].flatMap((outcome) => {
    const own = [...kept].filter((at) => outcomes[at] === outcome).sort((a, b) => a - b)
    if (own.length === 0) return []
    return fewestBlocks(
      sets,
      own.map((at) => rules[at]!),
      impossible,
    ).map((block) => ({
      when: Object.fromEntries(
        Object.entries(whenOf(model, valuesOf(table, block))).map(([name, values]) => [name, [...values]]),
      ),
      then: model.rules[own[0]!]!.then,
    }))
  })
}

/** For each rule a combination that it alone answers, where there is one, else any possible one. */
function casesOf(model: DecisionsModel, table: Table, never: Diagram, notices: Notice[]): DecisionCase[] {
  const { sets, rules } = table
  const others = sets.others(rules)
  return rules.flatMap((rule, at) => {
    const alone = sets.outside(sets.either(others[at]!, never), rule) ?? sets.outside(never, rule)
    if (alone) return [{ when: exampleOf(table, alone), then: model.rules[at]!.then, rule: at }]
    notices.push({
      at: rulePath(at),
      message: 'The rule can never apply: all of its combinations are impossible.',
    })
    return []
  })
}

/** One case for every possible combination that a rule answers, the first such rule; at most `most` of them. The model is one that `decisions` took. */
export function casesPerCombination(model: DecisionsModel, most: number): DecisionCase[] {
  const names = Object.keys(model.conditions)
  const { rules } = model
  const holds = (terms: ValueBlock, row: Combination): boolean =>
    Object.entries(terms).every(([name, values]) => values.includes(row[name]!))
  const found: DecisionCase[] = []
  const walk = (row: Combination, at: number): void => {
    if (found.length >= most) return
    const name = names[at]
    if (name !== undefined) {
      for (const value of model.conditions[name]!) walk({ ...row, [name]: value }, at + 1)
      return
    }
    const rule = rules.findIndex(({ when }) => holds(when, row))
    if (rule >= 0 && !model.impossible.some((terms) => holds(terms, row)))
      found.push({ when: row, then: rules[rule]!.then, rule })
  }
  walk({}, 0)
  return found
}
