import { updateLink as updateLinkContract, endLink as endLinkContract } from '#core/cases/link-contract.ts'
import { route } from '#server/http/route.ts'
import { updateLink, endLink } from '#server/cases/link-cases.ts'

export const PATCH = route(updateLinkContract, updateLink)
export const DELETE = route(endLinkContract, endLink)
