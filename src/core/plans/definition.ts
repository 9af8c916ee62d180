import { z } from 'zod'
import { planParts } from './state.ts'

/**
 * One thing a plan says. `name` is what it is said of and stays the same while what is said changes; objects stand under their keys,
 * so that their being reworded changes nothing of the plan.
 */
export const saying = z.object({
  part: z.enum(planParts),
  /** Such as `Risk` or `Suite`. */
  kind: z.string(),
  name: z.string(),
  said: z.string(),
})
export type Saying = z.infer<typeof saying>

/** What became of a saying; `null` where there was none, or is none any more. */
export const definitionChange = saying
  .omit({ said: true })
  .extend({ before: z.string().nullable(), after: z.string().nullable() })
export type DefinitionChange = z.infer<typeof definitionChange>

const keyOf = ({ part, kind, name }: Saying): string => JSON.stringify([part, kind, name])

/** Sayings by what they are said of; several of the same are told apart by their order. */
function byKey(all: readonly Saying[]): Map<string, Saying> {
  const seen = new Map<string, number>()
  return new Map(
    all.map((each) => {
      const key = keyOf(each)
      const n = (seen.get(key) ?? 0) + 1
      seen.set(key, n)
      return [n === 1 ? key : `${key}${n}`, each]
    }),
  )
}

/** What changed from one definition of a plan to another, part by part; nothing where they say the same in another order. */
export function definitionChanges(before: readonly Saying[], after: readonly Saying[]): DefinitionChange[] {
  const [was, is] = [byKey(before), byKey(after)]
  const changed: DefinitionChange[] = []
  for (const key of new Set([...was.keys(), ...is.keys()])) {
    const [old, now] = [was.get(key), is.get(key)]
    const of = old ?? now
    if (of && old?.said !== now?.said)
      changed.push({
        part: of.part,
        kind: of.kind,
        name: of.name,
        before: old?.said ?? null,
        after: now?.said ?? null,
      })
  }
  return planParts.flatMap((part) => changed.filter((each) => each.part === part))
}

/** The kinds of what changed, each once, in lower case: `suite, risk`. */
export const changedKinds = (changes: readonly DefinitionChange[]): string =>
  [...new Set(changes.map(({ kind }) => kind.toLowerCase()))].join(', ')

/** What a definition says as part by part of plain lines, for a reader with no screen. */
export const sayingLine = ({ kind, name, said }: Saying): string =>
  [kind, name, said].filter((part) => part !== '').join(': ')
