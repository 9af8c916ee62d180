import { readDrafting as readDraftingContract } from '#core/techniques/contract.ts'
import { route } from '#server/http/route.ts'
import { readDrafting } from '#server/techniques/keep-models.ts'

export const GET = route(readDraftingContract, readDrafting)
