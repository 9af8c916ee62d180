import { z } from 'zod'
import { idsOf, type Owned } from './owned.ts'
import { id, line } from './shapes.ts'

/** So many are changed in one act. */
export const mostAtOnce = 20_000

/** Why the rest stayed as it was, where not all of many were done. */
export const stopped = z.string().optional()

/** A change of many: which, and what each is set to; `set` is all that may be set on the kind. */
export const manyBody = <Set extends z.ZodObject>(of: Owned, set: Set) => z.object({ ids: idsOf(of, mostAtOnce), set })

/** How many were changed, and what each was set to before: asked again with that, the change is taken back. */
export const manyAnswer = <Set extends z.ZodObject>(set: Set) =>
  z.object({ changed: z.number(), undo: z.array(z.object({ id, set })), stopped })

/** The keys of what was deleted; brought back by them. */
export const deletedAnswer = z.object({ refs: z.array(z.string()), stopped })

const tags = z.array(line(40)).max(50).default([])

/** Tags put on all of them, and taken from all. */
export const tagsOfMany = z.object({ add: tags, drop: tags }).default({ add: [], drop: [] })

/** What one of many was set to before. */
export interface Before<Set> {
  readonly id: number
  readonly set: Set
}

/** What a change of many answers. */
export interface ManyChanged<Set> {
  readonly changed: number
  readonly undo: Before<Set>[]
  readonly stopped?: string | undefined
}

/** Taking a change of many back asks once for all that were set alike before, not once for each. */
export function undoGroups<Set>(undo: readonly Before<Set>[]): { ids: number[]; set: Set }[] {
  const groups = new Map<string, { ids: number[]; set: Set }>()
  for (const { id: one, set } of undo) {
    const key = JSON.stringify(set)
    const group = groups.get(key)
    if (group) group.ids.push(one)
    else groups.set(key, { ids: [one], set })
  }
  return [...groups.values()]
}
