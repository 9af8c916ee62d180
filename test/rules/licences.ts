import { createRequire } from 'node:module'
import { fileURLToPath } from 'node:url'
import { z } from 'zod'

const checker: { init: (options: object, done: (error: Error | null, found: unknown) => void) => void } = createRequire(
  import.meta.url,
)('license-checker-rseidelsohn')

/** Licences that may be shipped with a product that is not open itself. */
const allowed = [
  'MIT',
  'ISC',
  'BSD-2-Clause',
  'BSD-3-Clause',
  '0BSD',
  'Apache-2.0',
  'CC0-1.0',
  'CC-BY-4.0',
  'Unlicense',
  'BlueOak-1.0.0',
  'OFL-1.1',
  'Python-2.0',
  'MIT-0',
  'WTFPL',
  'Zlib',
  'MPL-2.0',
  'LGPL-3.0-or-later',
]
const licence = z.union([z.string(), z.array(z.string())])

checker.init(
  { start: fileURLToPath(new URL('../..', import.meta.url)), production: true, excludePrivatePackages: true },
  (error, found) => {
    if (error) throw error
    const packages = z.record(z.string(), z.object({ licenses: licence.optional() })).parse(found)
    const fits = (text: string): boolean =>
      text
        .replace(/[()*]/g, '')
        .split(/\s+OR\s+/i)
        .some((option) => option.split(/\s+AND\s+/i).every((part) => allowed.includes(part.trim())))
    const wrong = Object.entries(packages).filter(([, { licenses }]) => ![licenses ?? 'none'].flat().every(fits))
    for (const [name, { licenses }] of wrong)
      process.stderr.write(`${name}: ${String(licenses)} is not among the licences that may be shipped\n`)
    process.stdout.write(`${Object.keys(packages).length} packages\n`)
    process.exit(wrong.length === 0 && Object.keys(packages).length > 50 ? 0 : 1)
  },
)
