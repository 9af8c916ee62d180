import { linkDefect as linkDefectContract } from '#core/defects/contract.ts'
import { route } from '#server/http/route.ts'
import { linkDefect } from '#server/defects/keep-defects.ts'

export const POST = route(linkDefectContract, linkDefect)
