import { isRecord } from '#core/lib/record.ts'
import { z } from 'zod'
import {
  boundariesModel,
  checkModel,
  combosModel,
  decisionsModel,
  pathsModel,
  readModel,
} from '#core/techniques/models.ts'
import type { DraftInput } from '#core/techniques/draft.ts'
import { Refusal } from '#core/lib/refusal.ts'

/** A model file as the commands read it; which technique it is for is told by what it names. */
export function readModelFile(json: string): DraftInput {
  const data = readModel(z.unknown(), json)
  const has = (name: string): boolean => isRecord(data) && Object.hasOwn(data, name)
  if (has('transitions')) return { technique: 'paths', body: checkModel(pathsModel, data) }
  if (has('conditions')) return { technique: 'decisions', body: checkModel(decisionsModel, data) }
  if (has('inputs')) return { technique: 'boundaries', body: checkModel(boundariesModel, data) }
  if (has('parameters')) return { technique: 'combos', body: checkModel(combosModel, data) }
  throw new Refusal('invalid', 'This is no model: it names neither parameters, inputs, conditions nor transitions.')
}
