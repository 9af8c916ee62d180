import * as contract from '#core/defects/contract.ts'
import { joinDeleted, joinParts } from '#server/finding/change-many.ts'
import { on, onMany, type Route } from '#server/http/route.ts'
import {
  changeDefects,
  deleteDefects,
  linkDefect,
  listDefects,
  orderDefects,
  readDefect,
  updateDefect,
} from './keep-defects.ts'
import { createDefect, draftDefectFrom } from './log-defect.ts'

/** What may be asked of this area, each endpoint once. */
export const defectRoutes: readonly Route[] = [
  on(contract.listDefects, listDefects),
  on(contract.orderDefects, orderDefects),
  on(contract.draftDefectFrom, draftDefectFrom),
  on(contract.createDefect, createDefect),
  on(contract.readDefect, readDefect),
  on(contract.updateDefect, updateDefect),
  onMany(contract.changeDefects, changeDefects, joinParts),
  on(contract.linkDefect, linkDefect),
  onMany(contract.deleteDefects, deleteDefects, joinDeleted),
]
