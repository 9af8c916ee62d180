import { createLinks as createLinksContract } from '#core/cases/link-contract.ts'
import { route } from '#server/http/route.ts'
import { createLinks } from '#server/cases/link-cases.ts'

export const POST = route(createLinksContract, createLinks)
