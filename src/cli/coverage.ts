import type { Command } from 'commander'
import { percentText, percent, shareText } from '#core/lib/figures.ts'
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

export function addCoverage(program: Command): void {
  program
    .command('coverage')
    .description('coverage of a project in a scope')
    .requiredOption('--project <key>')
    .option('--release <name>')
    .option('--iteration <name>')
    .option('--build <name>')
    .option('--environment <name>')
    .option('--as-of <instant>', 'such as 2026-11-20T12:00:00Z')
    .option('--data <dir>', 'data directory', 'data/main')
    .option('--json', 'one JSON document')
    .action((options: Options) => {
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
