import { endLink as endLinkContract } from '#core/cases/contract.ts'
import { route } from '#server/http/route.ts'
import { endLink } from '#server/cases/link-cases.ts'

export const DELETE = route(endLinkContract, endLink)
