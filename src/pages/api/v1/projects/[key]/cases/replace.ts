import { replaceText as replaceTextContract } from '#core/formats/contract.ts'
import { openRoute } from '#server/http/route.ts'
import { replaceText } from '#server/formats/replace-text.ts'

export const POST = openRoute(replaceTextContract, replaceText)
