import { compareRevisions as compareRevisionsContract } from '#core/requirements/contract.ts'
import { route } from '#server/http/route.ts'
import { compareRevisions } from '#server/requirements/compare-revisions.ts'

export const GET = route(compareRevisionsContract, compareRevisions)
