import { keyOf } from '#core/lib/key.ts'
import { designs } from '#db/techniques/queries.ts'
import type { Db } from '#db/open.ts'
import { doing, type Doing } from '#server/workers/job.ts'
import { designedJob } from '#server/workers/questions.ts'
import { measureModel } from './measure-model.ts'

const units = { boundaries: 'values', combos: 'combinations', decisions: 'rules', paths: 'targets' } as const
/** Coverage meters of models, measured on the thread of the long reads. */
export function designJobs(db: Db): Doing[] {
  return [
    doing(designedJob, ({ projectId, number }) =>
      designs(db, projectId, number).map(({ id, number: own, models, checklist }) => {
        const parts = models.map((model) => {
          const { targets, answered } = measureModel(model)
          return {
            model: model.id,
            technique: model.model.technique,
            name: model.name,
            unit: units[model.model.technique],
            targets,
            answered,
          }
        })
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
