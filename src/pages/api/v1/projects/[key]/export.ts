import { exportFile as exportFileContract } from '#core/formats/contract.ts'
import { openRoute } from '#server/http/route.ts'
import { exportFile } from '#server/formats/export-file.ts'

export const GET = openRoute(exportFileContract, exportFile)
