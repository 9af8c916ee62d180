import { readFile, stat } from 'node:fs/promises'
import type { Command } from 'commander'
import { Refusal } from '#core/lib/refusal.ts'
import { inspectCsv } from '#server/formats/inspect-csv.ts'
import { mostCsvBytes, readCsv } from '#server/formats/read-csv.ts'
import { importAs } from '#server/formats/import-as.ts'
import { existingData, print } from './data.ts'

async function read(file: string): Promise<Buffer> {
  const { size } = await stat(file)
  if (size > mostCsvBytes) throw new Refusal('too-large', `${file}: the file has ${Math.round(size / 1e6)} MB; a CSV of at most ${mostCsvBytes / 1e6} MB is read. Split it.`)
  return readFile(file)
}

function refuseFormat(format: string | undefined): void {
  if (format !== undefined && format !== 'csv') throw new Refusal('invalid', `--format ${format}: this version reads csv.`)
}

export function addFiles(program: Command): void {
  program.command('inspect <file>').description('say what an import of the file would read').option('--format <name>', 'csv').option('--json', 'one JSON document')
    .action(async (file: string, options: { format?: string; json?: boolean }) => {
      refuseFormat(options.format)
      const told = inspectCsv(await read(file))
      print(options.json, told, () => [
        `${file}: ${told.format}, ${told.requirements === undefined ? `${told.cases} cases with ${told.steps} steps` : `${told.requirements} requirements`}`,
        ...told.columns.map(({ header, field }) => `  “${header}” ${field ? `is read as ${field}` : 'is not read'}`), ...told.problems.map(({ at, message }) => `  ${at}: ${message}`),
      ])
      if (told.problems.length > 0) process.exitCode = 1
    })
  program.command('import <file>').description('import requirements or cases').requiredOption('--project <key>', 'project').option('--format <name>', 'csv').option('--dry-run', 'store nothing').option('--data <dir>', 'data directory', 'data/main').option('--json', 'one JSON document')
    .action(async (file: string, options: { project: string; format?: string; dryRun?: boolean; data: string; json?: boolean }) => {
      refuseFormat(options.format)
      const bytes = await read(file)
      if (options.dryRun) return print(options.json, inspectCsv(bytes), () => [`${file}: nothing was stored (dry run)`])
      const store = existingData(options.data)
      const refs = await importAs(store, options.project, readCsv(bytes, null))
      print(options.json, { imported: refs.length, first: refs[0] ?? null, last: refs.at(-1) ?? null }, () => [`${refs.length} imported, ${refs[0] ?? ''} to ${refs.at(-1) ?? ''}`])
      store.close()
    })
}
