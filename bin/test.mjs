// Everything a newcomer needs: installs, builds, checks and proves. `N passed, N failed` stands alone on the last line.
import { spawnSync } from 'node:child_process'
import { ensureBuilt, ensureChromium, ensureInstalled, home } from './set-up.mjs'

let passed = 0
let failed = 0
const note = (name, ok, text = '') => {
  if (ok) passed += 1
  else failed += 1
  process.stdout.write(`${ok ? 'ok  ' : 'FAIL'} ${name}\n${ok ? '' : `${text}\n`}`)
}
const env = {
  ...process.env,
  ROVANT_HOME: home,
  ASTRO_TELEMETRY_DISABLED: '1',
  ASTRO_DISABLE_UPDATE_CHECK: 'true',
  NO_COLOR: '1',
}

function check(name, args) {
  const { status, stdout, stderr } = spawnSync(process.execPath, args, {
    cwd: home,
    env,
    encoding: 'utf8',
    maxBuffer: 64e6,
  })
  note(name, status === 0, `${stdout}${stderr}`)
}

function mocha(name, args) {
  const { stdout, stderr } = spawnSync(
    process.execPath,
    ['node_modules/mocha/bin/mocha.js', '--reporter', 'json', ...args],
    { cwd: home, env, encoding: 'utf8', maxBuffer: 256e6 },
  )
  const start = stdout.lastIndexOf('{\n  "stats"')
  if (start < 0) return note(name, false, `${stdout.slice(-4000)}${stderr.slice(-4000)}`)
  const report = JSON.parse(stdout.slice(start))
  passed += report.stats.passes
  failed += report.stats.failures
  process.stdout.write(
    `${report.stats.failures === 0 ? 'ok  ' : 'FAIL'} ${name}: ${report.stats.passes} passed, ${report.stats.failures} failed, ${(report.stats.duration / 1000).toFixed(1)} s\n`,
  )
  for (const { fullTitle, err } of report.failures)
    process.stdout.write(
      `  ${fullTitle}\n    ${String(err.message ?? '').slice(0, 1500)}\n${String(err.stack ?? '')
        .split('\n')
        .slice(1, 5)
        .join('\n')}\n`,
    )
}

try {
  ensureInstalled()
  ensureBuilt()
  const browser = ensureChromium()
  check('types', ['node_modules/astro/astro.js', 'check', '--minimumSeverity', 'error'])
  check('lint', ['node_modules/eslint/bin/eslint.js', '.'])
  check('licences of what is shipped', ['--import', 'tsx', 'test/rules/licences.ts'])
  mocha('unit', [])
  mocha('api', ['--config', 'test/mocharc.http.json'])
  if (browser) mocha('interface', ['--config', 'test/mocharc.journeys.json'])
  else note('interface', false, 'no browser')
} catch (error) {
  note('set-up', false, String(error?.message ?? error))
}
process.stdout.write(`${passed} passed, ${failed} failed\n`)
process.exit(failed === 0 ? 0 : 1)
