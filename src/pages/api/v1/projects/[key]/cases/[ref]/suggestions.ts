import { startSuggestion as startSuggestionContract } from '#core/cases/review-contract.ts'
import { route } from '#server/http/route.ts'
import { startSuggestion } from '#server/cases/suggest-changes.ts'

export const POST = route(startSuggestionContract, startSuggestion)
