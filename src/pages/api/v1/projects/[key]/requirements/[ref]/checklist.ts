import { writeChecklist as writeChecklistContract } from '#core/techniques/contract.ts'
import { route } from '#server/http/route.ts'
import { writeChecklist } from '#server/techniques/keep-checklist.ts'

export const POST = route(writeChecklistContract, writeChecklist)
