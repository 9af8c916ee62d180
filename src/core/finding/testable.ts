import type { Filter } from '#core/lib/filter.ts'
import { found } from './asks.ts'

/** What a list asks when it shows only what can be tested. */
interface Asked {
  /** Of the scope; `null` for all of the release. */
  readonly iteration: string | null
  readonly filter: Filter | null
}

const inScope = found('in scope')
const isOurs = (filter: Filter): boolean => JSON.stringify(filter) === JSON.stringify(inScope)

/** The filter without ours; `null` when nothing else was asked. */
function others(filter: Filter | null): Filter | null {
  if (filter === null || isOurs(filter)) return null
  if (!('all' in filter)) return filter
  const rest = filter.all.filter((each) => !isOurs(each))
  return rest.length > 1 ? { all: rest } : (rest[0] ?? null)
}

const asks = ({ filter }: Asked): boolean =>
  filter !== null && (isOurs(filter) || ('all' in filter && filter.all.some(isOurs)))

/**
 * What can be tested in the first iteration, the second, …, in the whole release, and everything again: the next of these.
 * Whatever else the list is asked stays.
 */
export function nextTestable(now: Asked, iterations: readonly string[]): Asked & { readonly says: string } {
  const rest = others(now.filter)
  const steps = [...iterations, null]
  const at = asks(now) ? steps.indexOf(now.iteration) : -1
  if (asks(now) && at === steps.length - 1) return { iteration: null, filter: rest, says: 'Everything is shown again.' }
  const iteration = steps[at + 1] ?? null
  const more = rest === null ? [] : 'all' in rest ? rest.all : [rest]
  return {
    iteration,
    filter: more.length === 0 ? inScope : { all: [...more, inScope] },
    says: `What can be tested in ${iteration ?? 'the whole release'}.`,
  }
}
