import { type Command, InvalidArgumentError } from 'commander'
import { boundaries } from '#core/techniques/boundaries.ts'
import { combosProblem, ruleText } from '#core/techniques/combos-model.ts'
import { type CombosAnswer, combine, finished } from '#core/techniques/combos.ts'
import { decisions, outcomeText } from '#core/techniques/decisions.ts'
import {
  boundariesModel,
  type Criterion,
  combosModel,
  type CombosModel,
  criteria,
  decisionsModel,
  existingRows,
  pathsModel,
} from '#core/techniques/models.ts'
import { statePathsFor, transitionText } from '#core/techniques/paths.ts'
import { inFile, read, table, tell } from './model-file.ts'
import { print } from './print.ts'

function whole(least: number, most: number): (text: string) => number {
  return (text) => {
    const value = Number(text)
    if (!Number.isInteger(value) || value < least || value > most)
      throw new InvalidArgumentError(`It is a whole number from ${least} to ${most}.`)
    return value
  }
}

const whenText = (when: Readonly<Record<string, readonly string[]>>): string =>
  Object.entries(when)
    .map(([name, values]) => `${name} ${values.join(' or ')}`)
    .join(', ') || 'always'

interface CombosOptions {
  readonly strength?: number
  readonly existing?: string
  readonly seed: number
  readonly moves?: number
  readonly json?: boolean
}

export function addTechniques(program: Command): void {
  addCombos(program)
  addBoundaries(program)
  addDecisions(program)
  addPaths(program)
}

function addCombos(program: Command): void {
  program
    .command('combos <model>')
    .description('rows that hold every combination of t values')
    .option('--strength <n>', '1 to 6; the model’s own when left out', whole(1, 6))
    .option('--existing <rows>', 'rows to keep and complete, as JSON')
    .option('--seed <n>', 'another seed, other rows', whole(0, 2 ** 31), 1)
    .option('--moves <n>', 'how long to search, in changes tried', whole(0, 1e9))
    .option('--json', 'one JSON document')
    .action(async (file: string, { strength, seed, moves, ...options }: CombosOptions) => {
      const model = await read(file, combosModel)
      const existing = options.existing === undefined ? [] : await read(options.existing, existingRows)
      const problem = () => combosProblem({ ...model, strength: strength ?? model.strength })
      const answer = await inFile(file, () => finished(combine(problem(), { existing, seed, moves })))
      tell(answer.notices)
      print(options.json, answer, () => combosText(model, answer))
    })
}

function combosText({ parameters, constraints }: CombosModel, answer: CombosAnswer): string[] {
  const { rows, existing, negative, adds, covered, tuples, infeasible } = answer
  const names = Object.keys(parameters)
  const addsText = (at: number): string => {
    if (at < existing.rows) return 'existing'
    return at >= rows.length - negative ? 'negative' : String(adds[at])
  }
  const rules = constraints.length > 0 ? ` by ${constraints.map(ruleText).join('; ')}` : ''
  return [
    ...table(
      ['', ...names, 'adds'],
      rows.map((row, at) => [String(at + 1), ...names.map((name) => row[name] ?? ''), addsText(at)]),
    ),
    `${rows.length} rows; ${covered} of ${tuples} tuples, ${infeasible} impossible${rules}`,
    ...(existing.rows > 0 ? [`${existing.rows} rows were there and hold ${existing.covered}`] : []),
  ]
}

function addBoundaries(program: Command): void {
  program
    .command('boundaries <model>')
    .description('values at the edges of partitions')
    .option('--json', 'one JSON document')
    .action(async (file: string, options: { json?: boolean }) => {
      const model = await read(file, boundariesModel)
      const answer = await inFile(file, () => boundaries(model))
      print(options.json, answer, () => [
        ...table(
          ['input', 'value', 'partition', '', 'why'],
          answer.cases.map(({ input, value, partition, valid, why }) => [
            input,
            String(value),
            partition ?? '–',
            valid ? 'valid' : 'invalid',
            why,
          ]),
        ),
        ...answer.gaps.map(({ input, from, to }) => `gap: ${input} ${from} to ${to} is in no partition`),
        ...answer.overlaps.map(
          ({ input, from, to, partitions }) => `overlap: ${input} ${from} to ${to} is in ${partitions.join(' and ')}`,
        ),
        `${answer.cases.length} values, ${answer.rows.length} rows`,
      ])
    })
}

function addDecisions(program: Command): void {
  program
    .command('decisions <model>')
    .description('what a decision table leaves out, says twice or contradicts')
    .option('--json', 'one JSON document')
    .action(async (file: string, options: { json?: boolean }) => {
      const model = await read(file, decisionsModel)
      const answer = await inFile(file, () => decisions(model))
      tell(answer.notices)
      print(options.json, answer, () => [
        `${answer.combinations} possible combinations, ${answer.complete ? 'all answered' : `${answer.missing.length} blocks of them not answered`}`,
        ...answer.missing.map((block) => `missing: ${whenText(block)}`),
        ...answer.conflicts.map(
          ({ rules: [a, b], example }) =>
            `conflict: rules ${a} and ${b}, for example ${Object.entries(example)
              .map(([name, value]) => `${name} ${value}`)
              .join(', ')}`,
        ),
        ...(answer.redundant.length > 0 ? [`redundant: rules ${answer.redundant.join(', ')}`] : []),
        ...(answer.merged ?? []).map(({ when, then }) => `${whenText(when)} → ${outcomeText(then)}`),
      ])
    })
}

function criterionNamed(text: string): Criterion {
  const known = criteria.find((each) => each === text)
  if (!known) throw new InvalidArgumentError(`It is one of ${criteria.join(', ')}.`)
  return known
}

/** So many of the events that must change nothing are named. */
const mostEvents = 20

function addPaths(program: Command): void {
  program
    .command('paths <model>')
    .description('paths through a state graph')
    .requiredOption('--criterion <c>', criteria.join(', '), criterionNamed)
    .option('--json', 'one JSON document')
    .action(async (file: string, options: { criterion: Criterion; json?: boolean }) => {
      const model = await read(file, pathsModel)
      const answer = await inFile(file, () => statePathsFor(model, options.criterion))
      tell(answer.notices)
      const textAt = (index: number) => transitionText(model.transitions[index]!)
      const events = answer.invalid.slice(0, mostEvents).map(({ state, event }) => `${event} in ${state}`)
      print(options.json, answer, () => [
        ...answer.paths.map((path, at) => `${at + 1}: ${path.map(textAt).join(', ')}`),
        `${answer.paths.length} paths, ${answer.steps} steps; ${answer.covered} of ${answer.of} ${options.criterion}`,
        ...answer.unreachable.map((index) => `unreachable: ${textAt(index)}`),
        `${answer.invalid.length} invalid events: ${events.join(', ')}${answer.invalid.length > mostEvents ? ' …' : ''}`,
      ])
    })
}
