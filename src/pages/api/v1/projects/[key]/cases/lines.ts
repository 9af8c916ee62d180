import { writeCaseLines as writeCaseLinesContract } from '#core/cases/contract.ts'
import { route } from '#server/http/route.ts'
import { writeCaseLines } from '#server/cases/write-case-lines.ts'

export const POST = route(writeCaseLinesContract, writeCaseLines)
