import { boundariesModel, combosModel, decisionsModel, pathsModel, readModel } from '#core/techniques/models.ts'
import type { DraftInput } from '#core/techniques/draft.ts'
import { Refusal } from '#core/lib/refusal.ts'

/** A model file as the commands read it; which technique it is for is told by what it names. */
export function readModelFile(json: string): DraftInput {
  const has = (name: string): boolean => {
    try {
      return Object.hasOwn(Object(JSON.parse(json)), name)
    } catch {
      return false
    }
  }
  if (has('transitions')) return { technique: 'paths', body: readModel(pathsModel, json) }
  if (has('conditions')) return { technique: 'decisions', body: readModel(decisionsModel, json) }
  if (has('inputs')) return { technique: 'boundaries', body: readModel(boundariesModel, json) }
  if (has('parameters')) return { technique: 'combos', body: readModel(combosModel, json) }
  throw new Refusal('invalid', 'This is no model: it names neither parameters, inputs, conditions nor transitions.')
}
