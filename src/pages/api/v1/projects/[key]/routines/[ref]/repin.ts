import { repinUses as repinUsesContract } from '#core/cases/routine-contract.ts'
import { route } from '#server/http/route.ts'
import { repinUses } from '#server/cases/repin-uses.ts'

export const POST = route(repinUsesContract, repinUses)
