import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import type { Command } from 'commander'
import { home } from './data.ts'

/** The benchmarks are a program of their own: they start servers and measure them from outside. */
export function addBench(program: Command): void {
  program
    .command('bench')
    .description('the benchmarks, each as a ratio to its stated baseline')
    .option('--json', 'one JSON document')
    .option('--quick', 'smaller data and fewer samples')
    .option('--samples <n>', 'samples of each request, 3000 where nothing is said')
    .option(
      '--only <name>',
      'one part: verdicts, lists, coverage, suites, runs, line, load, stalls, files, browser, techniques, schedule, drafting, pages, demo, kills',
    )
    .option('--part <words>', 'of the stalls only what has these words in its name')
    .action((_options: unknown, command: Command) => {
      const { status } = spawnSync(
        process.execPath,
        ['--import', 'tsx', join(home, 'bench/main.ts'), ...command.parent!.args.slice(1)],
        { stdio: 'inherit', cwd: home, env: { ...process.env, ROVANT_HOME: home } },
      )
      process.exitCode = status ?? 1
    })
}
