import { importFile as importFileContract, listImports as listImportsContract } from '#core/formats/contract.ts'
import { openRoute, route } from '#server/http/route.ts'
import { importFile } from '#server/formats/import-file.ts'
import { listImports } from '#server/formats/keep-imports.ts'

export const POST = openRoute(importFileContract, importFile)
export const GET = route(listImportsContract, listImports)
