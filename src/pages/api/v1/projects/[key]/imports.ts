import { importFile as importFileContract } from '#core/formats/contract.ts'
import { openRoute } from '#server/http/route.ts'
import { importFile } from '#server/formats/import-file.ts'

export const POST = openRoute(importFileContract, importFile)
