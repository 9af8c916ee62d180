import { undoImport as undoImportContract } from '#core/formats/contract.ts'
import { route } from '#server/http/route.ts'
import { undoImport } from '#server/formats/undo-import.ts'

export const POST = route(undoImportContract, undoImport)
