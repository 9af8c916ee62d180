import { and, eq, isNull } from 'drizzle-orm'
import { finalVerdict, type VerdictKind } from '#core/lib/verdict.ts'
import type { Tx } from '#db/open.ts'
import { verdictKind } from './tables.ts'

/** The project's own verdicts, in the order they were made. */
export const verdictKinds = (tx: Tx, projectId: number): VerdictKind[] =>
  tx
    .select()
    .from(verdictKind)
    .where(and(eq(verdictKind.projectId, projectId), isNull(verdictKind.deletedAt)))
    .orderBy(verdictKind.id)
    .all()
    .map(({ word, countsAs, final, forItems, forSteps }) => ({
      word,
      countsAs: finalVerdict.parse(countsAs),
      final,
      forItems,
      forSteps,
    }))
