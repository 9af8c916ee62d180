import * as contract from '#core/defects/contract.ts'
import { on, type Route } from '#server/http/route.ts'
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
  on(contract.changeDefects, changeDefects),
  on(contract.linkDefect, linkDefect),
  on(contract.deleteDefects, deleteDefects),
]
