import { readEvidence as readEvidenceContract, removeEvidence as removeEvidenceContract } from '#core/runs/contract.ts'
import { openRoute, route } from '#server/http/route.ts'
import { readEvidence, removeEvidence } from '#server/runs/keep-evidence.ts'

export const GET = openRoute(readEvidenceContract, readEvidence)
export const DELETE = route(removeEvidenceContract, removeEvidence)
