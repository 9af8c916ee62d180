import type { DesignedRow } from '#core/techniques/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { meter } from '#core/techniques/draft.ts'
import type { DesignOf } from '#db/techniques/queries.ts'

type Model = DesignOf['models'][number]
/** Targets and how many of them cases answer; `null` of a model that cannot be measured as it stands, which is told from none. */
export type Measured = Pick<DesignedRow['parts'][number], 'targets' | 'answered'>

const mostKept = 2000
const kept = new Map<string, Measured>()

/** The coverage meter of a model, kept while neither the model nor its rows change: whoever asks on a thread asks the same. */
export function measureModel({ id, version, model, rows, said }: Model): Measured {
  // Its body tells it from one of the same number in another database of this process.
  const key = `${id} ${version} ${JSON.stringify([model, rows, said])}`
  const before = kept.get(key)
  if (before) return before
  if (kept.size > mostKept) kept.clear()
  const measured = metered({ model, rows, said })
  kept.set(key, measured)
  return measured
}

function metered({ model, rows, said }: Pick<Model, 'model' | 'rows' | 'said'>): Measured {
  try {
    const { targets, answered } = meter(model, rows, said)
    return { targets, answered }
  } catch (error) {
    if (error instanceof Refusal) return { targets: null, answered: null }
    throw error
  }
}
