import { restoreObject as restoreObjectContract } from '#core/history/contract.ts'
import { route } from '#server/http/route.ts'
import { restoreObject } from '#server/history/restore-object.ts'

export const POST = route(restoreObjectContract, restoreObject)
