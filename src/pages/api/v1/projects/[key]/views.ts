import { listViews as listViewsContract, saveView as saveViewContract } from '#core/finding/contract.ts'
import { route } from '#server/http/route.ts'
import { listViews, saveView } from '#server/finding/keep-views.ts'

export const GET = route(listViewsContract, listViews)
export const POST = route(saveViewContract, saveView)
