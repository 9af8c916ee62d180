import { draftDefectFrom as draftDefectFromContract } from '#core/defects/contract.ts'
import { route } from '#server/http/route.ts'
import { draftDefectFrom } from '#server/defects/log-defect.ts'

export const GET = route(draftDefectFromContract, draftDefectFrom)
