import * as contract from '#core/finding/contract.ts'
import { on, type Route } from '#server/http/route.ts'
import { findAnything } from './find-anything.ts'
import { deleteView, listViews, saveView } from './keep-views.ts'

/** What may be asked of this area, each endpoint once. */
export const findingRoutes: readonly Route[] = [
  on(contract.findAnything, findAnything),
  on(contract.listViews, listViews),
  on(contract.saveView, saveView),
  on(contract.deleteView, deleteView),
]
