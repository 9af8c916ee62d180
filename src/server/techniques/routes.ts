import * as contract from '#core/techniques/contract.ts'
import { on, onOpen, type Route } from '#server/http/route.ts'
import { acceptRows, decideRows } from './accept-rows.ts'
import { tickChecklist, writeChecklist } from './keep-checklist.ts'
import {
  createModel,
  deleteModel,
  exportModel,
  listModelRevisions,
  readDrafting,
  restoreModel,
  updateModel,
} from './keep-models.ts'
import { readDesigned } from './read-designed.ts'

/** What may be asked of this area, each endpoint once. */
export const techniqueRoutes: readonly Route[] = [
  on(contract.readDrafting, readDrafting),
  on(contract.createModel, createModel),
  on(contract.updateModel, updateModel),
  on(contract.deleteModel, deleteModel),
  on(contract.restoreModel, restoreModel),
  on(contract.listModelRevisions, listModelRevisions),
  on(contract.exportModel, exportModel),
  on(contract.acceptRows, acceptRows),
  on(contract.decideRows, decideRows),
  on(contract.writeChecklist, writeChecklist),
  on(contract.tickChecklist, tickChecklist),
  onOpen(contract.readDesigned, readDesigned),
]
