import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { holdings } from '#db/installation/holdings.ts'
import { restoreInto } from './back-up.ts'
import { openStore } from './store.ts'
import { verifyData } from './verify-data.ts'

export interface Drilled {
  readonly problems: readonly string[]
  readonly projects: number
  readonly cases: number
  readonly attempts: number
  readonly seconds: number
}

/**
 * Restores a backup into a scratch directory, upgrades and verifies it there, and takes the directory away: what is not tried is not
 * known to be a backup. `home` is where the migrations are.
 */
export async function drill(from: string, home: string): Promise<Drilled> {
  const began = performance.now()
  const scratch = await mkdtemp(join(tmpdir(), 'rovant-drill-'))
  try {
    await restoreInto(from, scratch)
    const store = openStore(scratch, home)
    try {
      const problems = await verifyData(store, scratch)
      const held = holdings(store.db)
      const sum = (of: (each: (typeof held)[number]) => number) => held.reduce((all, each) => all + of(each), 0)
      return {
        problems,
        projects: held.length,
        cases: sum(({ cases }) => cases),
        attempts: sum(({ attempts }) => attempts),
        seconds: Math.round((performance.now() - began) / 100) / 10,
      }
    } finally {
      store.close()
    }
  } finally {
    await rm(scratch, { recursive: true, force: true })
  }
}
