import {
  readOutside as readOutsideContract,
  fetchOutside as fetchOutsideContract,
} from '#core/requirements/contract.ts'
import { openRoute, route } from '#server/http/route.ts'
import { readOutside, fetchOutside } from '#server/requirements/outside.ts'

export const GET = route(readOutsideContract, readOutside)
export const POST = openRoute(fetchOutsideContract, fetchOutside)
