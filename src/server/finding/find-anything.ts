import type { findAnything as contract } from '#core/finding/contract.ts'
import { searchWords } from '#core/lib/filter.ts'
import type { Context } from '#server/http/context.ts'
import type { Answer, Input } from '#server/http/route.ts'
import { searchObjects } from '#db/finding/search.ts'

export const findAnything = ({ tx, project }: Context, { query }: Input<typeof contract>): Answer<typeof contract> => ({
  rows: searchObjects(tx, project.id, searchWords(query.q), query.limit),
})
