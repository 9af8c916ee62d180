import { storeWorkingCopy as storeWorkingCopyContract } from '#core/cases/contract.ts'
import { route } from '#server/http/route.ts'
import { storeWorkingCopy } from '#server/cases/store-working-copy.ts'

export const PUT = route(storeWorkingCopyContract, storeWorkingCopy)
