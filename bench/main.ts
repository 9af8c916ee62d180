import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { home, rovant, startServer } from '../test/server.ts'
import { benchBrowser } from './browser.ts'
import { benchCoverage } from './coverage.ts'
import { benchDemo } from './demo.ts'
import { benchDrafting } from './drafting.ts'
import { benchFiles } from './files.ts'
import { benchKills } from './kills.ts'
import { benchLine } from './line.ts'
import { benchLists } from './lists.ts'
import { benchLoad } from './load.ts'
import { benchPages } from './pages.ts'
import { type Measured, processors, takenSince, type Setting, signedIn } from './measure.ts'
import { benchStalls } from './stalls.ts'
import { benchRuns } from './runs.ts'
import { benchSchedule } from './schedule.ts'
import { benchSuites } from './suites.ts'
import { benchTechniques } from './techniques.ts'
import { benchVerdicts } from './verdicts.ts'

const flags = process.argv.slice(2)
const quick = flags.includes('--quick')
const only = flags.includes('--only') ? flags[flags.indexOf('--only') + 1] : undefined
const size = quick ? { cases: 5000, attempts: 50_000 } : { cases: 50_000, attempts: 1_000_000 }
const data = join(home, 'data', `bench-${size.cases}`)
const say = (text: string) => process.stderr.write(`${text}\n`)

const told = ({ met, name, text }: Measured): string =>
  `${met === null ? '    ' : met ? 'met ' : 'MISS'} ${name}: ${text}`
function finish(measured: readonly Measured[]): never {
  process.stdout.write(
    flags.includes('--json')
      ? `${JSON.stringify({ size, measured })}\n`
      : measured.map((each) => `${told(each)}\n`).join(''),
  )
  process.exit(measured.every(({ met }) => met !== false) ? 0 : 1)
}
if (only === 'techniques') {
  // Nothing of this needs a server or its data.
  finish(await benchTechniques())
}
if (only === 'schedule') finish(await benchSchedule(quick ? 3 : 6))
if (only === 'demo') finish(await benchDemo())
const part = flags.includes('--part') ? flags[flags.indexOf('--part') + 1] : undefined
if (only === 'stalls') finish(await benchStalls({ say }, part))
if (only === 'kills') finish(await benchKills(quick ? 20 : 200, say))
if (!existsSync(join(data, 'rovant.db'))) {
  say(`Making ${size.cases} cases and ${size.attempts} attempts …`)
  const made = await rovant([
    'fixture',
    '--cases',
    String(size.cases),
    '--attempts',
    String(size.attempts),
    '--data',
    data,
  ])
  if (made.code !== 0) throw new Error(made.err)
  say(made.out.trim())
}
const server = await startServer({ command: 'serve', data, env: { ROVANT_CHECK_ANSWERS: '0' } })
const setting: Setting = {
  url: server.url,
  data,
  cookie: await signedIn(server.url),
  samples: Number(flags.includes('--samples') ? flags[flags.indexOf('--samples') + 1] : quick ? 300 : 3000),
  say,
}
const parts: readonly (readonly [name: string, run: (setting: Setting) => Promise<Measured[]>])[] = [
  ['verdicts', benchVerdicts],
  ['lists', benchLists],
  ['coverage', benchCoverage],
  ['suites', benchSuites],
  ['runs', benchRuns],
  ['line', benchLine],
  ['load', benchLoad],
  ['stalls', benchStalls],
  ['files', benchFiles],
  ['browser', benchBrowser],
  ['techniques', benchTechniques],
  ['schedule', () => benchSchedule(quick ? 3 : 6)],
  ['drafting', benchDrafting],
  ['pages', benchPages],
  ['demo', benchDemo],
  ['kills', () => benchKills(quick ? 20 : 200, say)],
]
const measured: Measured[] = []
for (const [name, run] of parts) {
  if (only !== undefined && only !== name) continue
  say(`${name} …`)
  const clock = processors()
  const own = await run(setting)
  for (const each of own) say(`  ${told(each)}`)
  const taken = takenSince(clock)
  if (taken !== null && taken > 0.02) say(`  a host took ${(100 * taken).toFixed(0)} % of the processors meanwhile`)
  measured.push(...own)
}
await server.stop()
finish(measured)
