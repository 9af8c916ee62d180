import { confirmLink as confirmLinkContract } from '#core/cases/link-contract.ts'
import { route } from '#server/http/route.ts'
import { confirmLink } from '#server/cases/link-cases.ts'

export const POST = route(confirmLinkContract, confirmLink)
