// Everything a newcomer needs: installs, builds, checks and proves. `N passed, N failed` stands alone on the last line.
// `npm test -- cases` proves one area alone: its unit tests in every layer, and the directions of imports.
import { spawn } from 'node:child_process'
import { existsSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import { ensureChromium, ensureInstalled, home } from './set-up.mjs'

const env = {
  ...process.env,
  ROVANT_HOME: home,
  ASTRO_TELEMETRY_DISABLED: '1',
  ASTRO_DISABLE_UPDATE_CHECK: 'true',
  NO_COLOR: '1',
}
let passed = 0
let failed = 0
const begun = Date.now()
const seconds = (from) => `${((Date.now() - from) / 1000).toFixed(1)} s`
const say = (text) => process.stdout.write(`${text}\n`)

/** Runs a command to its end; `onLine` hears what it says while it runs. */
const run = (args, onLine = () => undefined) =>
  new Promise((resolve) => {
    const child = spawn(process.execPath, args, { cwd: home, env })
    let said = ''
    let rest = ''
    const hear = (chunk) => {
      said += chunk
      const lines = (rest + chunk).split('\n')
      rest = lines.pop() ?? ''
      for (const line of lines) onLine(line)
    }
    child.stdout.setEncoding('utf8').on('data', hear)
    child.stderr.setEncoding('utf8').on('data', (chunk) => {
      said += chunk
    })
    child.on('close', (status) => {
      if (rest) onLine(rest)
      resolve({ status, said })
    })
  })

async function check(name, args) {
  const from = Date.now()
  const { status, said } = await run(args)
  if (status === 0) passed += 1
  else failed += 1
  say(`${status === 0 ? 'ok  ' : 'FAIL'} ${name}, ${seconds(from)}${status === 0 ? '' : `\n${said}`}`)
}

/** A part of the tests, with a line every half minute that shows it is going on. */
async function mocha(name, args) {
  const from = Date.now()
  let done = 0
  let wrong = 0
  let ended = false
  const alive = setInterval(() => say(`     ${name}: ${done} done so far, ${seconds(from)}`), 30_000)
  const onLine = (line) => {
    if (!line.startsWith('[')) return
    const [what, of] = JSON.parse(line)
    if (what === 'end') ended = true
    if (what === 'pass') done += 1
    if (what !== 'fail') return
    wrong += 1
    say(
      `FAIL ${name}: ${of.fullTitle}\n  ${String(of.err).slice(0, 1500)}\n${String(of.stack ?? '')
        .split('\n')
        .slice(1, 5)
        .join('\n')}`,
    )
  }
  const { said } = await run(['node_modules/mocha/bin/mocha.js', '--reporter', 'json-stream', ...args], (line) => {
    try {
      onLine(line)
    } catch {
      // What a test itself prints is no report.
    }
  })
  clearInterval(alive)
  passed += done
  failed += wrong
  if (ended) return say(`${wrong === 0 ? 'ok  ' : 'FAIL'} ${name}: ${done} passed, ${wrong} failed, ${seconds(from)}`)
  failed += 1
  say(`FAIL ${name} did not come to its end, ${seconds(from)}\n${said.slice(-4000)}`)
}

const checks = async () => {
  await check('lint', ['node_modules/eslint/bin/eslint.js', '.'])
  await check('form', ['node_modules/prettier/bin/prettier.cjs', '--check', '--log-level', 'warn', '.'])
  await check('nothing unused', ['node_modules/knip/bin/knip.js', '--no-progress'])
  await check('licences of what is shipped', ['--import', 'tsx', 'test/rules/licences.ts'])
  // Behind the others: it writes where the build writes, too.
  await check('types', ['node_modules/astro/astro.js', 'check', '--minimumSeverity', 'error'])
}

async function everything() {
  // Two processors, two rows of work that take about as long: what is seen needs the application built, most else does not.
  const built = run(['bin/build.mjs']).then(({ status, said }) => {
    if (status !== 0) throw new Error(said.slice(-4000))
  })
  const seen = async () => {
    await built
    if (ensureChromium()) await mocha('interface', ['--config', 'test/mocharc.journeys.json'])
    else {
      failed += 1
      say('FAIL interface: no browser')
    }
    await mocha('screens', ['--config', 'test/mocharc.screen.json'])
  }
  const rest = async () => {
    await checks()
    await mocha('unit', [])
    await built
    await mocha('api', ['--config', 'test/mocharc.http.json'])
  }
  await Promise.all([seen(), rest()])
}

/** The tests of one area in every layer that has it, those of the interface without a browser. */
async function oneArea(area) {
  const files = ['core', 'db', 'server', 'ui']
    .map((layer) => join('src', layer, area))
    .filter((folder) => existsSync(join(home, folder)))
    .flatMap((folder) => readdirSync(join(home, folder), { recursive: true }).map((file) => join(folder, file)))
  const [plain, screens] = [/\.test\.ts$/, /\.test\.tsx$/].map((kind) => files.filter((file) => kind.test(file)))
  if (plain.length + screens.length === 0)
    throw new Error(`no area ${area} has tests; the areas are the folders of src/core and src/server`)
  const config = ['--no-config', '--timeout', '30000', '--node-option', 'import=tsx']
  if (plain.length > 0) await mocha(area, [...config, ...plain])
  if (screens.length > 0)
    await mocha(`${area}, screens`, [...config, '--node-option', 'import=./test/screen/page.mjs', ...screens])
  await mocha('import rules', [...config, 'test/rules/imports.test.ts'])
}

try {
  ensureInstalled()
  const area = process.argv[2]
  await (area ? oneArea(area) : everything())
} catch (error) {
  failed += 1
  say(`FAIL set-up\n${String(error?.message ?? error)}`)
}
say(`All of it took ${seconds(begun)}.`)
say(`${passed} passed, ${failed} failed`)
process.exit(failed === 0 ? 0 : 1)
