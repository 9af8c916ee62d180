import { duplicateCases as duplicateCasesContract } from '#core/reuse/copy-contract.ts'
import { route } from '#server/http/route.ts'
import { duplicateCases } from '#server/reuse/copy-cases.ts'

export const POST = route(duplicateCasesContract, duplicateCases)
