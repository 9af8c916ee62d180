import type { UnreadColumn } from '#core/formats/shapes.ts'
import { open, readFile as readBytes, stat, writeFile } from 'node:fs/promises'
import { existsSync } from 'node:fs'
import { basename } from 'node:path'
import type { Command } from 'commander'
import { type Mapping, mappingShape } from '#core/formats/mapping.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { readArchive, writeArchive } from '#server/formats/archive-file.ts'
import { exportAs } from '#server/formats/export-as.ts'
import { importAs, mappingNamed, tryImportAs } from '#server/formats/import-as.ts'
import { inspectFile } from '#server/formats/inspect-file.ts'
import { type FileFormat, fileFormats, mostFileBytes } from '#server/formats/read-file.ts'
import { existingData } from './data.ts'
import { print } from './print.ts'

async function read(file: string): Promise<Buffer> {
  const { size } = await stat(file)
  if (size > mostFileBytes)
    throw new Refusal(
      'too-large',
      `${file}: the file has ${Math.round(size / 1e6)} MB; at most ${mostFileBytes / 1e6} MB are read. Split it.`,
    )
  return readBytes(file)
}

function formatNamed(format: string | undefined): FileFormat | undefined {
  if (format === undefined) return undefined
  const known = fileFormats.find((each) => each === format)
  if (!known)
    throw new Refusal('invalid', `--format ${format}: the formats that are read are ${fileFormats.join(', ')}.`)
  return known
}

/** An archive may be larger than any other file: it is told by the name of its first entry, which stands at the beginning. */
async function looksLikeArchive(file: string): Promise<boolean> {
  const handle = await open(file)
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(100), 0, 100, 0)
    return buffer.subarray(0, bytesRead).includes('rovant-archive.json')
  } finally {
    await handle.close()
  }
}

/** A mapping from a file of JSON, or `undefined` when there is no file of that name. */
async function mappingIn(file: string): Promise<Mapping | undefined> {
  if (!existsSync(file)) return undefined
  let json: unknown
  try {
    json = JSON.parse(await readBytes(file, 'utf8'))
  } catch {
    throw new Refusal('invalid', `${file}: is no JSON.`)
  }
  const parsed = mappingShape.safeParse(json)
  if (!parsed.success)
    throw new Refusal(
      'invalid',
      `${file}: at ${parsed.error.issues[0]?.path.join('.') || 'the top'}: ${parsed.error.issues[0]?.message ?? 'is no mapping'}.`,
    )
  return parsed.data
}

const unreadText = ({ sheet, column, header, values, cells }: UnreadColumn): string =>
  `  column ${column}${header === '' ? '' : ` “${header}”`} of ${sheet} is not read: ${values.map((value) => `“${value}”`).join(', ')}${cells > values.length ? ' …' : ''}`

interface ImportOptions {
  readonly project: string
  readonly format?: string
  readonly mapping?: string
  readonly dryRun?: boolean
  readonly data: string
  readonly json?: boolean
}

async function inspectCommand(
  file: string,
  options: { format?: string; mapping?: string; json?: boolean },
): Promise<void> {
  const mapping = options.mapping === undefined ? undefined : await mappingIn(options.mapping)
  if (options.mapping !== undefined && !mapping)
    throw new Refusal('not-found', `${options.mapping}: there is no such file.`)
  const told = await inspectFile(await read(file), {
    format: formatNamed(options.format),
    mapping,
    what: mapping?.what,
  })
  print(options.json, told, () => [
    `${file}: ${told.format}, ${told.requirements === undefined ? `${told.cases ?? 0} cases with ${told.steps ?? 0} steps` : `${told.requirements} requirements`}${told.layout ? `, ${told.layout}` : ''}`,
    ...Object.entries(told.columns ?? {}).map(([column, field]) => `  column ${column} is read as ${field}`),
    ...told.unread.map(unreadText),
    ...told.notices.map(({ at, message }) => `  ${at}: ${message}`),
    ...told.problems.map(({ at, message }) => `  ${at}: ${message}`),
  ])
  if (told.problems.length > 0) process.exitCode = 1
}

export function addFiles(program: Command): void {
  program
    .command('inspect <file>')
    .description('say what an import of the file would read')
    .option('--format <name>', fileFormats.join(', '))
    .option('--mapping <file>', 'a mapping of columns, as JSON')
    .option('--json', 'one JSON document')
    .action(inspectCommand)
  program
    .command('import <file>')
    .description('import requirements or cases; what is there already is updated')
    .requiredOption('--project <key>', 'project')
    .option('--format <name>', fileFormats.join(', '))
    .option('--mapping <name-or-file>', 'a kept mapping, or one as JSON')
    .option('--dry-run', 'store nothing')
    .option('--data <dir>', 'data directory', 'data/main')
    .option('--json', 'one JSON document')
    .action(importCommand)
  program
    .command('export')
    .description('write requirements or cases to a file')
    .requiredOption('--project <key>', 'project')
    .requiredOption('--format <name>', 'csv, xlsx, gherkin, markdown, reqif, reqifz, pdf, rovant-archive')
    .option('--what <kind>', 'cases or requirements')
    .option('--out <file>', 'file to write')
    .option('--data <dir>', 'data directory', 'data/main')
    .action(async (options: { project: string; format: string; what?: string; out?: string; data: string }) => {
      const store = existingData(options.data)
      if (options.format === 'rovant-archive') {
        const out = options.out ?? `${options.project}.rovant.zip`
        const { rows, attachments } = await writeArchive(store, options.data, options.project, out)
        process.stderr.write(`${out} is written: ${rows} rows and ${attachments} attachments, with nothing left out.\n`)
        return store.close()
      }
      const made = await exportAs(store, options.project, { format: options.format, what: options.what })
      for (const each of made.left) process.stderr.write(`left out: ${each}\n`)
      if (options.out === undefined) process.stdout.write(made.bytes)
      else {
        await writeFile(options.out, made.bytes)
        process.stderr.write(`${options.out} is written.\n`)
      }
      store.close()
    })
}

async function importCommand(file: string, options: ImportOptions): Promise<void> {
  const archive =
    options.format === 'rovant-archive' || (options.format === undefined && (await looksLikeArchive(file)))
  const bytes = archive ? await readBytes(file) : await read(file)
  const store = existingData(options.data)
  if (archive) {
    const told = options.dryRun ? null : await readArchive(store, options.data, options.project, bytes)
    print(options.json, told ?? {}, () => [
      told
        ? `${options.project} is made of it: ${told.rows} rows and ${told.attachments} attachments`
        : `${file}: an archive of a whole project; nothing was stored (dry run)`,
    ])
    return store.close()
  }
  const mapping =
    options.mapping === undefined
      ? undefined
      : ((await mappingIn(options.mapping)) ?? mappingNamed(store, options.project, options.mapping))
  const of = {
    bytes,
    format: formatNamed(options.format),
    mapping,
    source: options.mapping !== undefined && !existsSync(options.mapping) ? options.mapping : basename(file),
  }
  try {
    if (options.dryRun) {
      const { counts, problems, unread } = await tryImportAs(store, options.project, of)
      print(options.json, { ...counts, problems, unread }, () => [
        `${file}: ${counts.new} new, ${counts.changed} changed, ${counts.unchanged} unchanged, ${counts.gone} gone; nothing was stored (dry run)`,
        ...unread.map(unreadText),
        ...problems.map(({ at, message }) => `  ${at}: ${message}`),
      ])
      if (problems.length > 0) process.exitCode = 1
      return
    }
    const { refs, counts, notices, unread } = await importAs(store, options.project, of)
    for (const column of unread) process.stderr.write(`${unreadText(column).trim()}\n`)
    for (const { at, message } of notices) process.stderr.write(`${at}: ${message}\n`)
    print(
      options.json,
      { imported: counts.new + counts.changed, ...counts, first: refs[0] ?? null, last: refs.at(-1) ?? null, unread },
      () => [
        `${counts.new} imported, ${counts.changed} changed, ${counts.unchanged} unchanged${refs.length > 0 ? `; ${refs[0] ?? ''} to ${refs.at(-1) ?? ''}` : ''}`,
      ],
    )
  } finally {
    store.close()
  }
}
