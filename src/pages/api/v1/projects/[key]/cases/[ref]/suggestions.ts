import { startSuggestion as startSuggestionContract } from '#core/review/contract.ts'
import { route } from '#server/http/route.ts'
import { startSuggestion } from '#server/review/suggest-changes.ts'

export const POST = route(startSuggestionContract, startSuggestion)
