import { addEvidence as addEvidenceContract } from '#core/runs/contract.ts'
import { openRoute } from '#server/http/route.ts'
import { addEvidence } from '#server/runs/keep-evidence.ts'

export const POST = openRoute(addEvidenceContract, addEvidence)
