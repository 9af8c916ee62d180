import {
  readSuggestion as readSuggestionContract,
  storeSuggestion as storeSuggestionContract,
  decideSuggestion as decideSuggestionContract,
} from '#core/review/contract.ts'
import { route } from '#server/http/route.ts'
import { readSuggestion, storeSuggestion, decideSuggestion } from '#server/review/suggest-changes.ts'

export const GET = route(readSuggestionContract, readSuggestion)
export const PUT = route(storeSuggestionContract, storeSuggestion)
export const POST = route(decideSuggestionContract, decideSuggestion)
