import { listModelRevisions as listModelRevisionsContract } from '#core/techniques/contract.ts'
import { route } from '#server/http/route.ts'
import { listModelRevisions } from '#server/techniques/keep-models.ts'

export const GET = route(listModelRevisionsContract, listModelRevisions)
