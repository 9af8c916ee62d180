import { repinUses as repinUsesContract } from '#core/reuse/contract.ts'
import { route } from '#server/http/route.ts'
import { repinUses } from '#server/reuse/repin-uses.ts'

export const POST = route(repinUsesContract, repinUses)
