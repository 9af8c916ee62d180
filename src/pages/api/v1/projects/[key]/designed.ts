import { readDesigned as readDesignedContract } from '#core/techniques/contract.ts'
import { openRoute } from '#server/http/route.ts'
import { readDesigned } from '#server/techniques/read-designed.ts'

export const GET = openRoute(readDesignedContract, readDesigned)
