import { listRevisions as listRevisionsContract } from '#core/requirements/contract.ts'
import { route } from '#server/http/route.ts'
import { listRevisions } from '#server/requirements/compare-revisions.ts'

export const GET = route(listRevisionsContract, listRevisions)
