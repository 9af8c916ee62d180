import {
  bulkDefects as bulkDefectsContract,
  createDefect as createDefectContract,
  listDefects as listDefectsContract,
} from '#core/defects/contract.ts'
import { route } from '#server/http/route.ts'
import { bulkDefects, listDefects } from '#server/defects/keep-defects.ts'
import { createDefect } from '#server/defects/log-defect.ts'

export const GET = route(listDefectsContract, listDefects)
export const POST = route(createDefectContract, createDefect)
export const PATCH = route(bulkDefectsContract, bulkDefects)
