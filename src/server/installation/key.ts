import { randomBytes } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

/** The key of the installation, which signs cookies and seals secrets: made once per data directory and kept beside the database. */
export function keyOf(data: string): string {
  const file = join(data, 'secret')
  if (!existsSync(file)) writeFileSync(file, randomBytes(32).toString('hex'), { mode: 0o600 })
  return readFileSync(file, 'utf8').trim()
}
