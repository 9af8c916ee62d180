import { listTables as listTablesContract, createTable as createTableContract } from '#core/cases/routine-contract.ts'
import { route } from '#server/http/route.ts'
import { listTables, createTable } from '#server/cases/keep-tables.ts'

export const GET = route(listTablesContract, listTables)
export const POST = route(createTableContract, createTable)
