import { z } from 'zod'
import { type ActStored, casesNow, dropContents, dropWaiting, finishAct } from '#db/formats/imports.ts'
import type { Tx } from '#db/open.ts'

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

export const changedBy = ({ changed }: Pick<ActStored, 'changed'>): StoredBefore[] =>
  beforeShape.parse(JSON.parse(changed))

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

/** Ends an act that changes cases one after the other, wherever it stands: it has changed what is done, and what waited for the rest goes. */
export function settleAct<B extends { readonly id: number }>(
  tx: Tx,
  act: number,
  { intended, done }: { readonly intended: readonly B[]; readonly done: readonly B[] },
): void {
  if (done.length === 0) return dropWaiting(tx, act)
  const ids = new Set(done.map(({ id }) => id))
  dropContents(
    tx,
    act,
    intended.map(({ id }) => id).filter((id) => !ids.has(id)),
  )
  finishAct(tx, act, { made: [], changed: done })
}
