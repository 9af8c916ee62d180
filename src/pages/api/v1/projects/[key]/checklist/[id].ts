import { tickChecklist as tickChecklistContract } from '#core/techniques/contract.ts'
import { route } from '#server/http/route.ts'
import { tickChecklist } from '#server/techniques/keep-checklist.ts'

export const PATCH = route(tickChecklistContract, tickChecklist)
