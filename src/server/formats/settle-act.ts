import { z } from 'zod'
import { type ActStored, casesNow, dropContents, dropWaiting, finishAct } from '#db/formats/imports.ts'
import type { Tx } from '#db/open.ts'
import { inSets } from '#server/http/going.ts'
import type { Store } from './import-read.ts'

const target = z.object({ release: z.number(), iteration: z.number().nullable() })
const beforeShape = z.array(
  z.object({
    id: z.number(),
    version: z.number(),
    set: z.record(z.string(), z.unknown()),
    tags: z.array(z.string()).optional(),
    values: z.record(z.string(), z.array(z.string())).optional(),
    targets: z.array(target).optional(),
    content: z.string().optional(),
    /** What its title became, where an act changed that alone. */
    title: z.string().optional(),
  }),
)

/** What an object said before an act, as it is stored. */
export type StoredBefore = z.infer<typeof beforeShape>[number]

export const changedBy = (act: Pick<ActStored, 'changed'>): StoredBefore[] => beforesIn(storedChanges(act))
/** The same, not looked at yet: of thousands that takes longer than may be taken at once. */
export const storedChanges = ({ changed }: Pick<ActStored, 'changed'>): unknown[] =>
  z.array(z.unknown()).parse(JSON.parse(changed))
export const beforesIn = (stored: readonly unknown[]): StoredBefore[] => beforeShape.parse(stored)

/** Which of what an act was about to change it changed, told by what is stored: the process ended in the midst of it. */
export function reachedOf(tx: Tx, intended: readonly StoredBefore[]): StoredBefore[] {
  const now = casesNow(
    tx,
    intended.map(({ id }) => id),
  )
  return intended.filter(({ id, version, content, title }) => {
    const own = now.get(id)
    if (!own || own.version !== version) return (own?.version ?? 0) > version
    // Somebody else’s edit may have made the same version.
    return (content === undefined || own.content === content) && (title === undefined || own.title === title)
  })
}

interface Settled<B> {
  readonly intended: readonly B[]
  readonly done: readonly B[]
}

/** Ends an act that changes cases one after the other, wherever it stands: it has changed what is done, and what waited for the rest goes, in sets. */
export async function settleAct<B extends { readonly id: number }>(
  store: Store,
  act: number,
  { intended, done }: Settled<B>,
): Promise<void> {
  await inSets(restOf(intended, done), (some) => {
    store(({ tx }) => dropContents(tx, act, some))
    return true
  })
  store(({ tx }) => endSettled(tx, act, done))
}

/** The same at once, while nobody is there yet. */
export function settleAtOnce(tx: Tx, act: number, { intended, done }: Settled<StoredBefore>): void {
  dropContents(tx, act, restOf(intended, done))
  endSettled(tx, act, done)
}

function restOf<B extends { readonly id: number }>(intended: readonly B[], done: readonly B[]): number[] {
  const ids = new Set(done.map(({ id }) => id))
  return intended.map(({ id }) => id).filter((id) => !ids.has(id))
}

/** An act that changed nothing has not been. */
const endSettled = (tx: Tx, act: number, done: readonly unknown[]): void =>
  done.length === 0 ? dropWaiting(tx, act) : finishAct(tx, act, { made: [], changed: done })
