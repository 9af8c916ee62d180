import type { Unit } from '#core/schedule/worth.ts'
import type { SharedTargets } from '#core/techniques/owner-sets.ts'
import type { Db } from '#db/open.ts'
import { designs } from '#db/techniques/queries.ts'
import { measureModel } from '#server/techniques/measure-model.ts'

/** Drafting targets of a requirement, over all its models. */
export interface Targets {
  readonly all: number
  readonly answered: number
  /** Which cases answer them; `null` where they are too many to be told apart. */
  readonly by: readonly SharedTargets[] | null
}

/** Requirement → its drafting targets; those that can be measured as they stand. */
export function targetsOf(db: Db, projectId: number): ReadonlyMap<number, Targets> {
  const found = new Map<number, Targets>()
  for (const { id, models } of designs(db, projectId, null)) {
    let [all, answered, by]: [number, number, readonly SharedTargets[] | null] = [0, 0, []]
    for (const model of models) {
      const own = measureModel(model)
      if (own.targets === null) continue
      all += own.targets
      answered += own.answered
      by = by && own.by && [...by, ...own.by]
    }
    if (all > 0) found.set(id, { all, answered, by })
  }
  return found
}

/** What a requirement is proved by: its drafting targets by the cases that prove it, else its cases. What no case answers, no item can prove. */
export function unitsOf(
  cases: readonly number[],
  targets: Targets | undefined,
): { readonly units: readonly Unit[]; readonly targets: number | null } {
  if (!targets) return { units: cases.map((each) => ({ cases: [each], n: 1 })), targets: null }
  const { all, answered, by } = targets
  if (!by) return { units: cases.map((each) => ({ cases: [each], n: answered / cases.length })), targets: all }
  const proving = new Set(cases)
  return {
    units: by.map(({ owners, targets: n }) => ({ cases: owners.filter((each) => proving.has(each)), n })),
    targets: all,
  }
}

/** How many drafting targets each case answers, of requirements it proves; only where they are told apart. */
export function targetsByCase(
  all: ReadonlyMap<number, Targets>,
  casesOf: (requirement: number) => readonly number[],
): ReadonlyMap<number, number> {
  const found = new Map<number, number>()
  for (const [id, { by }] of all) {
    const proving = new Set(casesOf(id))
    for (const { owners, targets } of by ?? [])
      owners.filter((each) => proving.has(each)).forEach((each) => found.set(each, (found.get(each) ?? 0) + targets))
  }
  return found
}
