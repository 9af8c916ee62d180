import { keyOf } from '#core/lib/key.ts'
import type { DesignedRow } from '#core/techniques/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { meter } from '#core/techniques/draft.ts'
import { type DesignOf, designs } from '#db/techniques/queries.ts'
import type { Db } from '#db/open.ts'
import { doing, type Doing } from '#server/workers/job.ts'
import { designedJob } from '#server/workers/questions.ts'

type Measured = Pick<DesignedRow['parts'][number], 'targets' | 'answered'>
const units = { boundaries: 'values', combos: 'combinations', decisions: 'rules', paths: 'targets' } as const
const mostKept = 2000

/** Coverage meters of models: measured on the thread of the long reads, and kept while neither model nor rows change. */
export function designJobs(db: Db): Doing[] {
  const kept = new Map<string, Measured>()
  const measure = ({ id, version, model, rows, said }: DesignOf['models'][number]): Measured => {
    const key = `${id} ${version} ${JSON.stringify([rows, said])}`
    const before = kept.get(key)
    if (before) return before
    if (kept.size > mostKept) kept.clear()
    const measured = metered({ model, rows, said })
    kept.set(key, measured)
    return measured
  }
  return [
    doing(designedJob, ({ projectId, number }) =>
      designs(db, projectId, number).map(({ id, number: own, models, checklist }) => {
        const parts = models.map((model) => ({
          model: model.id,
          technique: model.model.technique,
          name: model.name,
          unit: units[model.model.technique],
          ...measure(model),
        }))
        return {
          id,
          key: keyOf('requirement', own),
          parts,
          targets: parts.reduce((sum, { targets }) => sum + (targets ?? 0), 0),
          answered: parts.reduce((sum, { answered }) => sum + (answered ?? 0), 0),
          checklist,
        }
      }),
    ),
  ]
}

/** A model that cannot be measured as it stands has no figures, which is told from none. */
function metered({ model, rows, said }: Pick<DesignOf['models'][number], 'model' | 'rows' | 'said'>): Measured {
  try {
    const { targets, answered } = meter(model, rows, said)
    return { targets, answered }
  } catch (error) {
    if (error instanceof Refusal) return { targets: null, answered: null }
    throw error
  }
}
