import { duplicateCases as duplicateCasesContract } from '#core/cases/routine-contract.ts'
import { route } from '#server/http/route.ts'
import { duplicateCases } from '#server/cases/copy-cases.ts'

export const POST = route(duplicateCasesContract, duplicateCases)
