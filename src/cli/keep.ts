import { setPriority } from 'node:os'
import type { Command } from 'commander'
import { Refusal } from '#core/lib/refusal.ts'
import { backUp, restoreInto } from '#server/installation/back-up.ts'
import { drill } from '#server/installation/drill.ts'
import { noteBackup } from '#server/installation/note-backup.ts'
import { backUpNow } from '#server/installation/scheduled-backups.ts'
import { mendData, verifyData } from '#server/installation/verify-data.ts'
import { existingData, home } from './data.ts'
import { print } from './print.ts'

export function addKeep(program: Command): void {
  addBackup(program)
  addTrying(program)
  addVerify(program)
}

function addBackup(program: Command): void {
  program
    .command('backup <out>')
    .description('a consistent backup, also while the application runs')
    .option('--data <dir>', 'data directory', 'data/main')
    .option('--with-key', 'with the key of the installation: who has the backup could then sign in as anybody')
    .option('--json', 'one JSON document')
    .action(async (out: string, options: { data: string; withKey?: boolean; json?: boolean }) => {
      const store = existingData(options.data)
      noteBackup(store.db, out, options.withKey ?? false)
      store.close()
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
}

/** Backups of a directory of them, and whether one would do. */
function addTrying(program: Command): void {
  program
    .command('keep-backups <dir>')
    .description('makes a backup into a directory of them, tries it by a drill, and keeps the newest')
    .option('--data <dir>', 'data directory', 'data/main')
    .option('--keep <n>', 'how many sound ones stay', '14')
    .option('--json', 'one JSON document')
    .action(async (into: string, options: { data: string; keep: string; json?: boolean }) => {
      existingData(options.data).close()
      setPriority(10)
      const out = await backUpNow(
        { data: options.data, into, keep: Math.max(1, Number(options.keep)), home },
        Date.now(),
      )
      print(options.json, { backup: out }, () => [`${out}: made, and sound when it was tried`])
    })
  program
    .command('drill <in>')
    .description('tries a backup: restores it into a scratch directory, verifies it there, takes the directory away')
    .option('--json', 'one JSON document')
    .action(async (from: string, options: { json?: boolean }) => {
      const tried = await drill(from, home)
      print(options.json, { ok: tried.problems.length === 0, ...tried }, () =>
        tried.problems.length === 0
          ? [
              `${from}: sound after ${tried.seconds} s: ${tried.projects} projects, ${tried.cases} cases, ${tried.attempts} attempts`,
            ]
          : [...tried.problems],
      )
      if (tried.problems.length > 0) process.exitCode = 1
    })
}

function addVerify(program: Command): void {
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
