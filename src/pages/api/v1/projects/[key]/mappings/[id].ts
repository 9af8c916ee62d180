import { dropMapping as dropMappingContract } from '#core/formats/contract.ts'
import { route } from '#server/http/route.ts'
import { dropMapping } from '#server/formats/keep-imports.ts'

export const DELETE = route(dropMappingContract, dropMapping)
