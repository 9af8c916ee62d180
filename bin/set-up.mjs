// Plain Node, no packages: what a fresh machine needs before anything else can run.
import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

export const home = dirname(dirname(fileURLToPath(import.meta.url)))
const quiet = { ...process.env, ASTRO_TELEMETRY_DISABLED: '1', ASTRO_DISABLE_UPDATE_CHECK: 'true', ROVANT_HOME: home }

/** Runs a command in the checkout; its output goes to standard error, so that `--json` stays clean. */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, {
    cwd: home,
    env: { ...quiet, ...options.env },
    stdio: ['ignore', options.out ?? 2, 2],
  })
  if (error) process.stderr.write(`${command}: ${error.message}\n`)
  return status ?? 1
}

/** Installs the packages when the lock file or Node has changed since the last time. */
export function ensureInstalled() {
  const stamp = join(home, 'node_modules', '.rovant-stamp')
  const wanted = createHash('sha256')
    .update(readFileSync(join(home, 'package-lock.json')))
    .update(process.version)
    .digest('hex')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return
  process.stderr.write('Installing packages; the database module is compiled once, which takes a few minutes …\n')
  if (run('npm', ['ci', '--no-audit', '--no-fund']) !== 0)
    throw new Error('the packages could not be installed; see above')
  writeFileSync(stamp, wanted)
}

/** Builds the application when a source is newer than the build. */
export function ensureBuilt() {
  const stamp = join(home, 'dist', '.rovant-stamp')
  const newest = Math.max(
    ...['src', 'build', 'demo', 'bench', 'standins', 'astro.config.ts', 'package-lock.json'].map((part) =>
      newestIn(join(home, part)),
    ),
  )
  if (existsSync(stamp) && statSync(stamp).mtimeMs >= newest) return
  process.stderr.write('Building …\n')
  if (run('node', ['node_modules/astro/astro.js', 'build', '--silent']) !== 0)
    throw new Error('the application could not be built; see above')
  if (run('node', ['--import', 'tsx', 'build/bundle-cli.ts']) !== 0)
    throw new Error('the commands could not be built; see above')
  mkdirSync(dirname(stamp), { recursive: true })
  writeFileSync(stamp, new Date().toISOString())
}

function newestIn(path) {
  if (!existsSync(path)) return 0
  const own = statSync(path)
  if (!own.isDirectory()) return own.mtimeMs
  return Math.max(
    0,
    ...readdirSync(path)
      .filter((name) => !name.endsWith('.test.ts') && !name.endsWith('.test.tsx'))
      .map((name) => newestIn(join(path, name))),
  )
}

const debianChromium = '/usr/bin/chromium'

/** Debian's Chromium, installed where this process may do so; otherwise a sentence that says what to do. */
export function ensureChromium() {
  if (existsSync(debianChromium) || process.env.ROVANT_CHROMIUM) return true
  if (process.getuid?.() !== 0) {
    process.stderr.write(
      'Chromium is missing: install Debian’s package “chromium”, or name a browser in ROVANT_CHROMIUM.\n',
    )
    return false
  }
  process.stderr.write('Installing Chromium …\n')
  return (
    run('apt-get', ['update', '-qq']) === 0 &&
    run('apt-get', ['install', '-y', '-qq', 'chromium'], { env: { DEBIAN_FRONTEND: 'noninteractive' } }) === 0
  )
}
