import type { Command } from 'commander'
import { percentText, percent, shareText } from '#core/lib/figures.ts'
import { tallyWords } from '#core/plans/criteria-contract.ts'
import { readinessIn } from '#server/app/readiness-in.ts'
import { coverageIn } from '#server/reports/coverage-in.ts'
import { existingData } from './data.ts'
import { print } from './print.ts'

interface Options {
  readonly project: string
  readonly release?: string
  readonly iteration?: string
  readonly build?: string
  readonly environment?: string
  readonly asOf?: string
  readonly data: string
  readonly json?: boolean
}

/** A command that tells of a project in a scope. */
const scoped = (program: Command, name: string, description: string): Command =>
  program
    .command(name)
    .description(description)
    .requiredOption('--project <key>')
    .option('--release <name>')
    .option('--iteration <name>')
    .option('--build <name>')
    .option('--environment <name>')
    .option('--as-of <instant>', 'such as 2026-11-20T12:00:00Z')
    .option('--data <dir>', 'data directory', 'data/main')
    .option('--json', 'one JSON document')

export function addReports(program: Command): void {
  addCoverage(program)
  addReadiness(program)
}

function addReadiness(program: Command): void {
  scoped(program, 'readiness', 'the criteria of a scope’s plans, each with its figure').action(
    async (options: Options) => {
      const store = existingData(options.data)
      const answer = await readinessIn(store.db, options)
      print(options.json, answer, () => [
        `exit ${tallyWords(answer.exit)}; entry ${tallyWords(answer.entry)}`,
        ...answer.plans.flatMap(({ plan, criteria }) => [
          `${plan.key} ${plan.title}`,
          ...criteria.map(
            (own) =>
              `  ${own.outcome.padEnd(11)} ${own.figureText.padStart(6)}  ${own.words}${own.missing.total > 0 ? `; missing ${own.missing.total} ${own.missing.of}: ${own.missing.first.map(({ key }) => key).join(', ')}` : ''}`,
          ),
        ]),
      ])
      store.close()
    },
  )
}

function addCoverage(program: Command): void {
  scoped(program, 'coverage', 'coverage of a project in a scope').action((options: Options) => {
    const store = existingData(options.data)
    const answer = coverageIn(store.db, options)
    print(options.json, answer, () => {
      const { figures } = answer.total
      const { passing, fullyPassing } = figures
      return [
        `Release ${answer.scope.release ?? 'all'}, iteration ${answer.scope.iteration ?? 'all'}, build ${answer.scope.build ?? 'all'}, ${answer.scope.environment ?? 'all environments'}, as of ${new Date(answer.scope.asOf).toISOString()}`,
        `${figures.leaves} requirements, ${figures.uncovered} uncovered; ${figures.cases} cases, ${figures.slots} slots`,
        `passing          ${shareText(passing.plain.recorded)} as recorded, ${shareText(passing.plain.current)} on current results, ${shareText(passing.plain.confident)} weighted by confidence`,
        `passing by risk  ${shareText(passing.byRisk.recorded)}, ${shareText(passing.byRisk.current)}, ${shareText(passing.byRisk.confident)}`,
        `fully passing    ${shareText(fullyPassing.plain.recorded)}, ${shareText(fullyPassing.plain.current)}, ${shareText(fullyPassing.plain.confident)}`,
        `executed         ${percentText(percent(figures.executed.plain.recorded ?? 0, 1))} of slots`,
        ...answer.nodes.map(
          (node) =>
            `${'  '.repeat(node.depth)}${node.key.padEnd(7)} ${node.state.padEnd(12)} ${shareText(node.figures.passing.plain.recorded).padStart(6)} ${shareText(node.figures.passing.plain.current).padStart(6)}  ${node.title}`,
        ),
      ]
    })
    store.close()
  })
}
