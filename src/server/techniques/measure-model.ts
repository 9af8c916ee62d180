import { Refusal } from '#core/lib/refusal.ts'
import { meter, type Metered } from '#core/techniques/meter.ts'
import type { DesignOf } from '#db/techniques/queries.ts'

type Model = DesignOf['models'][number]
/** Targets, how many of them cases answer, and which these are; `null` of a model that cannot be measured as it stands, which is told from none. */
type Measured = Metered | { readonly targets: null; readonly answered: null; readonly by: null }

const mostKept = 2000
const kept = new Map<string, Measured>()

/** The coverage meter of a model, kept while neither the model nor its rows change: whoever asks on a thread asks the same. */
export function measureModel({ id, version, model, rows, cases, said }: Model): Measured {
  // Its body tells it from one of the same number in another database of this process.
  const key = `${id} ${version} ${JSON.stringify([model, rows, cases, said])}`
  const before = kept.get(key)
  if (before) return before
  if (kept.size > mostKept) kept.clear()
  const measured = metered({ model, rows, cases, said })
  kept.set(key, measured)
  return measured
}

function metered({ model, rows, cases, said }: Pick<Model, 'model' | 'rows' | 'cases' | 'said'>): Measured {
  try {
    return meter(model, rows, said, cases)
  } catch (error) {
    if (error instanceof Refusal) return { targets: null, answered: null, by: null }
    throw error
  }
}
