import { listTables as listTablesContract, createTable as createTableContract } from '#core/reuse/table-contract.ts'
import { route } from '#server/http/route.ts'
import { listTables, createTable } from '#server/reuse/keep-tables.ts'

export const GET = route(listTablesContract, listTables)
export const POST = route(createTableContract, createTable)
