import { readImport as readImportContract } from '#core/formats/contract.ts'
import { route } from '#server/http/route.ts'
import { readImport } from '#server/formats/import-jobs.ts'

export const GET = route(readImportContract, readImport)
