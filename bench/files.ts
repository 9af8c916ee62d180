import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import excel from 'exceljs'
import { addProject } from '#db/projects/projects.ts'
import { importAs } from '#server/formats/import-as.ts'
import { inspectFile } from '#server/formats/inspect-file.ts'
import { openStore } from '#server/installation/store.ts'
import { home } from '../test/server.ts'
import { xlsxOf } from '../test/workbooks.ts'
import { type Measured, ms, quantile, type Setting, timed } from './measure.ts'

const cases = 5000
const stepsEach = 6

/** Inspecting and importing a workbook, against the fastest way the spreadsheet library reads the same cells; interleaved. */
export async function benchFiles(setting: Setting): Promise<Measured[]> {
  const table = [['Case', 'Action', 'Expected', 'Data', 'Importance', 'Folder']]
  for (let own = 0; own < cases; own++)
    for (let step = 0; step < stepsEach; step++)
      table.push([
        `Made-up case ${own}`,
        `Do the thing ${step} of ${own}`,
        `The thing ${step} is done for ${own}`,
        `value ${step}`,
        step === 0 ? 'High' : '',
        step === 0 ? `Branch ${own % 40}` : '',
      ])
  const bytes = await xlsxOf({ Cases: table })
  const [streamed, loaded, inspected, imported]: [number[], number[], number[], number[]] = [[], [], [], []]
  const rounds = setting.samples < 1000 ? 3 : 7
  for (let round = 0; round < rounds; round++) {
    await timed(streamed, () => readStreamed(bytes))
    await timed(loaded, () => readLoaded(bytes))
    await timed(inspected, async () => {
      const told = await inspectFile(bytes, {})
      if (told.cases !== cases || told.steps !== cases * stepsEach)
        throw new Error(`${told.cases} cases with ${told.steps} steps were read`)
    })
    const store = openStore(mkdtempSync(join(tmpdir(), 'rovant-import-')), home)
    addProject(store.db, { key: 'BENCH', name: 'Bench', product: 'Bench', createdAt: 0 })
    await timed(imported, async () => {
      const done = await importAs(store, 'BENCH', { bytes, source: 'bench' })
      if (done.counts.new !== cases) throw new Error(`${done.counts.new} were imported`)
    })
    store.close()
  }
  const memory = await memoryOfImport(bytes)
  const fastest = Math.min(quantile(streamed, 0.5), quantile(loaded, 0.5))
  const row = (name: string, of: readonly number[], most: number): Measured => {
    const ratio = quantile(of, 0.5) / fastest
    return {
      name,
      met: ratio <= most,
      figures: { p50: quantile(of, 0.5), baseline: fastest, ratio },
      text: `p50 ${ms(quantile(of, 0.5))} = ${ratio.toFixed(2)} × the library’s fastest read of the same cells (${ms(fastest)}; ${rounds} rounds; aim ${most} ×)`,
    }
  }
  return [
    row(`inspect a workbook of ${cases} cases × ${stepsEach} steps`, inspected, 2),
    row('import the same workbook', imported, 3),
    {
      name: 'memory while it is imported',
      met: memory < 600e6,
      figures: { bytes: memory },
      text: `${Math.round(memory / 1e6)} MB resident at most in the command of its own (aim 600 MB)`,
    },
  ]
}

async function readStreamed(bytes: Buffer): Promise<number> {
  let letters = 0
  for await (const sheet of new excel.stream.xlsx.WorkbookReader(Readable.from(bytes), {
    sharedStrings: 'cache',
    worksheets: 'emit',
    styles: 'ignore',
    hyperlinks: 'ignore',
    entries: 'emit',
  }))
    for await (const row of sheet)
      row.eachCell((cell) => {
        letters += String(cell.value).length
      })
  return letters
}

async function readLoaded(bytes: Buffer): Promise<number> {
  const book = new excel.Workbook()
  await book.xlsx.read(Readable.from(bytes))
  let letters = 0
  book.worksheets[0]?.eachRow((row) =>
    row.eachCell((cell) => {
      letters += cell.text.length
    }),
  )
  return letters
}

/** The most memory the import command held, as the system counts it. */
async function memoryOfImport(bytes: Buffer): Promise<number> {
  const data = mkdtempSync(join(tmpdir(), 'rovant-import-'))
  const store = openStore(data, home)
  addProject(store.db, { key: 'BENCH', name: 'Bench', product: 'Bench', createdAt: 0 })
  store.close()
  const file = join(data, 'bench.xlsx')
  writeFileSync(file, bytes)
  const child = spawn(
    process.execPath,
    [join(home, 'dist/cli/main.mjs'), 'import', file, '--project', 'BENCH', '--data', data],
    { env: { ...process.env, ROVANT_HOME: home }, stdio: ['ignore', 'ignore', 'inherit'] },
  )
  let most = 0
  const watch = setInterval(() => {
    most = Math.max(most, residentOf(child.pid ?? 0))
  }, 20)
  const code = await new Promise((resolve) => child.once('exit', resolve))
  clearInterval(watch)
  if (code !== 0) throw new Error(`the import ended with ${String(code)}`)
  return most
}

function residentOf(pid: number): number {
  try {
    return Number(/VmHWM:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) * 1024
  } catch {
    return 0
  }
}
