import { findAnything as findAnythingContract } from '#core/finding/contract.ts'
import { route } from '#server/http/route.ts'
import { findAnything } from '#server/finding/find-anything.ts'

export const GET = route(findAnythingContract, findAnything)
