import {
  readTable as readTableContract,
  updateTable as updateTableContract,
  deleteTable as deleteTableContract,
} from '#core/reuse/table-contract.ts'
import { route } from '#server/http/route.ts'
import { readTable, updateTable, deleteTable } from '#server/reuse/keep-tables.ts'

export const GET = route(readTableContract, readTable)
export const PATCH = route(updateTableContract, updateTable)
export const DELETE = route(deleteTableContract, deleteTable)
