import { counted, groupedText } from '#core/lib/figures.ts'
import { type FieldProblem, Refusal } from '#core/lib/refusal.ts'
import { seeded } from '#core/lib/random.ts'
import type { CombosModel, CombosRule, Notice } from './models.ts'
import { type Clause, type Literal, Solver } from './solver.ts'
import { mostTuples, subsetsOf, tuplesOf } from './targets.ts'
import type { Weights } from './search.ts'

/** A model with names and values replaced by numbers. Negative values come after the ordinary ones. */
export interface CombosProblem {
  readonly names: readonly string[]
  readonly values: readonly (readonly string[])[]
  /** How many of the values are ordinary. */
  readonly levels: Int32Array
  readonly subsets: readonly (readonly number[])[]
  readonly strength: number
  readonly plain: boolean
  readonly solver: Solver | null
  readonly weights: Weights
  readonly notices: readonly Notice[]
}

const list = (values: readonly string[]): string =>
  values.length < 2 ? (values[0] ?? '') : `${values.slice(0, -1).join(', ')} or ${values.at(-1)}`
const side = (terms: Readonly<Record<string, readonly string[]>>): string =>
  Object.entries(terms)
    .map(([name, values]) => `${name} is ${list(values)}`)
    .join(' and ')

/** A rule in words: `when vehicle is freight, payment is account or voucher`; `never class first with vehicle freight`. */
export function ruleText(rule: CombosRule): string {
  if ('forbid' in rule)
    return `never ${Object.entries(rule.forbid)
      .map(([name, values]) => `${name} ${list(values)}`)
      .join(' with ')}`
  return Object.keys(rule.if).length === 0 ? side(rule.then) : `when ${side(rule.if)}, ${side(rule.then)}`
}

/** What is found in a model while it is numbered. */
interface Found {
  readonly problems: FieldProblem[]
  readonly notices: Notice[]
}

/**
 * Checks a model and numbers it. Throws one refusal that names every place that is wrong; what can be mended by itself is
 * mended with a notice.
 */
export function combosProblem(model: CombosModel): CombosProblem {
  const found: Found = { problems: [], notices: [] }
  const names = Object.keys(model.parameters)
  const values = names.map((name) => [...model.parameters[name]!, ...(model.negative[name] ?? [])])
  checkParameters(model, found)
  const clauses = clausesOf(model, names, values, found)
  checkStronger(model, found)
  const [first] = found.problems
  if (first) throw new Refusal('invalid', `The model cannot be combined: ${first.message}`, { fields: found.problems })
  const strength = Math.min(model.strength, names.length)
  if (strength < model.strength)
    found.notices.push({
      at: 'strength',
      message: `Strength ${model.strength} of ${counted(names.length, 'parameter')} is taken as ${strength}.`,
    })
  const levels = Int32Array.from(names, (name) => model.parameters[name]!.length)
  const subsets = subsetsAsked(model, names, strength, levels)
  const sizes = Int32Array.from(values, (all) => all.length)
  const solver = clauses.length > 0 ? new Solver(sizes, clauses) : null
  if (solver) refuseContradiction(model, solver, levels)
  return {
    names,
    values,
    levels,
    subsets,
    strength,
    plain: subsets.every(({ length }) => length === strength),
    solver,
    weights: names.map((name) => {
      const own = model.weights[name]
      return own && model.parameters[name]!.map((value) => own[value] ?? 1)
    }),
    notices: found.notices,
  }
}

/** Every parameter has values, each of them once; negative values are of parameters there are. */
function checkParameters({ parameters, negative }: CombosModel, { problems, notices }: Found): void {
  if (Object.keys(parameters).length === 0)
    problems.push({
      field: 'parameters',
      message: 'The model has no parameters yet. Write one, such as device: phone, desk.',
    })
  for (const [name, own] of Object.entries(parameters)) {
    if (own.length === 0) problems.push({ field: `parameters.${name}`, message: `${name} has no values.` })
    if (own.length === 1)
      notices.push({ at: `parameters.${name}`, message: `${name} has one value only, so nothing is combined with it.` })
  }
  for (const name of Object.keys(negative))
    if (!Object.hasOwn(parameters, name))
      problems.push({ field: `negative.${name}`, message: `There is no parameter ${name}.` })
  for (const [name, own] of Object.entries(parameters)) {
    const placed = [
      ...own.map((value, at) => ({ value, field: `parameters.${name}[${at}]` })),
      ...(negative[name] ?? []).map((value, at) => ({ value, field: `negative.${name}[${at}]` })),
    ]
    const seen = new Set<string>()
    for (const { value, field } of placed) {
      if (seen.has(value)) problems.push({ field, message: `${name} has the value ${value} twice.` })
      seen.add(value)
    }
  }
}

/** The rules as clauses: no row may hold all literals of one. */
function clausesOf(
  { constraints }: CombosModel,
  names: readonly string[],
  values: readonly (readonly string[])[],
  { problems }: Found,
): Clause[] {
  const literalsOf = (terms: Readonly<Record<string, readonly string[]>>, path: string, opposite: boolean): Literal[] =>
    Object.entries(terms).flatMap(([name, wanted]) => {
      const column = names.indexOf(name)
      const known = values[column]
      if (!known) {
        problems.push({ field: `${path}.${name}`, message: `There is no parameter ${name}.` })
        return []
      }
      for (const value of wanted)
        if (!known.includes(value))
          problems.push({ field: `${path}.${name}`, message: `${name} has no value ${value}.` })
      return [{ column, holds: Uint8Array.from(known, (value) => (wanted.includes(value) !== opposite ? 1 : 0)) }]
    })
  return constraints.flatMap((rule, at) => {
    const path = `constraints[${at}]`
    if ('forbid' in rule) {
      if (Object.keys(rule.forbid).length === 0)
        problems.push({ field: `${path}.forbid`, message: 'The rule forbids nothing in particular.' })
      return [{ rule: at, literals: literalsOf(rule.forbid, `${path}.forbid`, false) }]
    }
    if (Object.keys(rule.then).length === 0)
      problems.push({ field: `${path}.then`, message: 'The rule says nothing after “then”.' })
    const given = literalsOf(rule.if, `${path}.if`, false)
    // A parameter on both sides would stand twice in one clause, which the solver reads as one condition.
    return literalsOf(rule.then, `${path}.then`, true).map((each) => ({ rule: at, literals: merged([...given, each]) }))
  })
}

/** Groups of a strength of their own are of parameters there are; more than all of them are not combined. */
function checkStronger({ parameters, stronger }: CombosModel, { problems, notices }: Found): void {
  for (const { of, strength } of stronger) {
    for (const name of of)
      if (!Object.hasOwn(parameters, name))
        problems.push({ field: 'stronger', message: `There is no parameter ${name}.` })
    if (strength > of.length)
      notices.push({
        at: 'stronger',
        message: `Strength ${strength} of ${counted(of.length, 'parameter')} is taken as ${of.length}.`,
      })
  }
}

const merged = (literals: readonly Literal[]): Literal[] => {
  const byColumn = new Map<number, Literal>()
  for (const { column, holds } of literals) {
    const other = byColumn.get(column)
    byColumn.set(column, { column, holds: other ? holds.map((mark, at) => mark & other.holds[at]!) : holds })
  }
  return [...byColumn.values()]
}

function subsetsAsked(model: CombosModel, names: readonly string[], strength: number, levels: Int32Array): number[][] {
  const asked = [
    { of: [...names.keys()], strength },
    ...model.stronger
      .map(({ of, strength: own }) => ({
        of: [...new Set(of)].map((name) => names.indexOf(name)).sort((a, b) => a - b),
        strength: Math.min(own, of.length),
      }))
      .filter((each) => each.strength > strength),
  ]
  for (const { of, strength: own } of asked) {
    // Counted before they are listed: the list itself could be too long to hold.
    const tuples = of.reduce(
      (sums, column) => sums.map((sum, size) => sum + (size > 0 ? sums[size - 1]! * levels[column]! : 0)),
      [1, ...new Array<number>(own).fill(0)],
    )[own]!
    if (tuples > mostTuples)
      throw new Refusal(
        'too-large',
        `Strength ${own} over these ${counted(of.length, 'parameter')} asks for ${groupedText(tuples)} tuples; at most ${groupedText(mostTuples)} are computed. Take a lower strength, or fewer values.`,
        { fields: [{ field: own === strength ? 'strength' : 'stronger', message: 'too many tuples' }] },
      )
  }
  const subsets = new Map<string, number[]>()
  for (const { of, strength: own } of asked) for (const subset of subsetsOf(of, own)) subsets.set(subset.join(), subset)
  if (tuplesOf([...subsets.values()], levels) > mostTuples)
    throw new Refusal(
      'too-large',
      'The stronger groups together ask for too many tuples. Take a lower strength, or fewer values.',
      { fields: [{ field: 'stronger', message: 'too many tuples' }] },
    )
  return [...subsets.values()]
}

/** Names a minimal set of rules that no row can keep together, found by leaving out one rule after the other. */
function refuseContradiction(model: CombosModel, solver: Solver, levels: Int32Array): void {
  const open = new Int32Array(levels.length).fill(-1)
  const possible = (rules: ReadonlySet<number>): boolean =>
    new Solver(
      solver.levels,
      solver.clauses.filter(({ rule }) => rules.has(rule)),
    ).complete(open, levels, seeded(1)) !== null
  const needed = new Set(model.constraints.keys())
  if (possible(needed)) return
  for (const rule of [...needed]) {
    needed.delete(rule)
    if (possible(needed)) needed.add(rule)
  }
  const fields = [...needed].map((rule) => ({
    field: `constraints[${rule}]`,
    message: ruleText(model.constraints[rule]!),
  }))
  throw new Refusal(
    'refused',
    needed.size === 1
      ? 'No row can keep this rule.'
      : `No row can keep these ${needed.size} rules together; without any one of them there are rows.`,
    { fields },
  )
}
