import { listMappings as listMappingsContract, keepMapping as keepMappingContract } from '#core/formats/contract.ts'
import { route } from '#server/http/route.ts'
import { listMappings, keepMapping } from '#server/formats/keep-imports.ts'

export const GET = route(listMappingsContract, listMappings)
export const PUT = route(keepMappingContract, keepMapping)
