import { restoreObject as restoreObjectContract } from '#core/people/contract.ts'
import { route } from '#server/http/route.ts'
import { restoreObject } from '#server/people/restore-object.ts'

export const POST = route(restoreObjectContract, restoreObject)
