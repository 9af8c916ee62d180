import { chmodSync, existsSync, mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { Refusal } from '#core/lib/refusal.ts'
import { dropLeftovers } from '#server/formats/leftovers.ts'
import { dropComing } from '#server/integrations/coming.ts'
import { type Store, openStore } from '#server/installation/store.ts'

export const home = process.env['ROVANT_HOME'] ?? process.cwd()

/** Opens a data directory, made and migrated where needed. */
export function openData(data: string): Store {
  mkdirSync(data, { recursive: true })
  const store = openStore(data, home)
  // One that was made before files were kept to oneself.
  for (const name of ['rovant.db', 'rovant.db-wal', 'rovant.db-shm', 'secret'])
    if (existsSync(join(data, name))) chmodSync(join(data, name), 0o600)
  return store
}

/** The same for who will serve it: what a cut-off import or upload left is taken out, which nobody else may do while one is running. */
export function openToServe(data: string): Store {
  const store = openData(data)
  dropLeftovers(store)
  dropComing(data)
  return store
}

/** The same for a directory that has to be there already. */
export function existingData(data: string): Store {
  if (!existsSync(`${data}/rovant.db`))
    throw new Refusal(
      'not-found',
      `${data}: there is no Rovant database here. Start “rovant serve --data ${data}” or “rovant demo” first.`,
    )
  return openData(data)
}
