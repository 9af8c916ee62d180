import * as contract from '#core/review/contract.ts'
import { on, type Route } from '#server/http/route.ts'
import { reviewCase } from './review-case.ts'
import { decideSuggestion, readSuggestion, startSuggestion, storeSuggestion } from './suggest-changes.ts'

/** What may be asked of this area, each endpoint once. */
export const reviewRoutes: readonly Route[] = [
  on(contract.startSuggestion, startSuggestion),
  on(contract.readSuggestion, readSuggestion),
  on(contract.storeSuggestion, storeSuggestion),
  on(contract.decideSuggestion, decideSuggestion),
  on(contract.reviewCase, reviewCase),
]
