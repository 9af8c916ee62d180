import { setPriority } from 'node:os'
import type { Command } from 'commander'
import { Refusal } from '#core/lib/refusal.ts'
import { backUp, restoreInto } from '#server/installation/back-up.ts'
import { mendData, verifyData } from '#server/installation/verify-data.ts'
import { existingData } from './data.ts'
import { print } from './print.ts'

export function addKeep(program: Command): void {
  program
    .command('backup <out>')
    .description('a consistent backup, also while the application runs')
    .option('--data <dir>', 'data directory', 'data/main')
    .option('--with-key', 'with the key of the installation: who has the backup could then sign in as anybody')
    .option('--json', 'one JSON document')
    .action(async (out: string, options: { data: string; withKey?: boolean; json?: boolean }) => {
      existingData(options.data).close()
      // People at work go first.
      setPriority(10)
      const made = await backUp(options.data, out, { now: Date.now(), withKey: options.withKey ?? false })
      print(options.json, made, () => [
        `${out}: database of ${Math.round(made.bytes / 1024)} kB and ${made.files} evidence files`,
      ])
    })
  program
    .command('restore <in>')
    .description('restore a backup into an empty directory')
    .requiredOption('--data <dir>', 'data directory')
    .option('--json', 'one JSON document')
    .action(async (from: string, options: { data: string; json?: boolean }) => {
      await restoreInto(from, options.data)
      const problems = await verifyData(existingData(options.data), options.data)
      if (problems.length > 0)
        throw new Refusal(
          'refused',
          `${options.data}: restored, but ${problems.length} problems were found; the first: ${problems[0] ?? ''}`,
        )
      print(options.json, { ok: true }, () => [`${options.data}: restored and verified`])
    })
  program
    .command('verify')
    .description('integrity of database, files, results and search index')
    .option('--data <dir>', 'data directory', 'data/main')
    .option('--mend', 'make anew what is kept beside the truth: attempts, items, standing results, the search index')
    .option('--json', 'one JSON document')
    .action(async (options: { data: string; mend?: boolean; json?: boolean }) => {
      const store = existingData(options.data)
      if (options.mend) await mendData(store, options.data)
      const problems = await verifyData(store, options.data)
      print(options.json, { ok: problems.length === 0, problems }, () =>
        problems.length === 0 ? [`${options.data}: sound`] : problems,
      )
      if (problems.length > 0) process.exitCode = 1
    })
}
