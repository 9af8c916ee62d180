import { and, asc, eq, isNull, max } from 'drizzle-orm'
import { finalVerdict, type OwnVerdict, type VerdictKind } from '#core/lib/verdict.ts'
import type { VerdictReason } from '#core/projects/policy.ts'
import type { Tx } from '#db/open.ts'
import { verdictKind, verdictReason } from './tables.ts'

/** The project's own verdicts, in their order. */
export const verdictKinds = (tx: Tx, projectId: number): OwnVerdict[] =>
  tx
    .select()
    .from(verdictKind)
    .where(and(eq(verdictKind.projectId, projectId), isNull(verdictKind.deletedAt)))
    .orderBy(asc(verdictKind.position), asc(verdictKind.id))
    .all()
    .map(({ id, word, countsAs, final, forItems, forSteps, sign, tint, retiredAt }) => ({
      id,
      word,
      countsAs: finalVerdict.parse(countsAs),
      final,
      forItems,
      forSteps,
      sign,
      tint,
      retiredAt,
    }))

export function addVerdictKind(tx: Tx, projectId: number, of: VerdictKind): number {
  const last = tx
    .select({ position: max(verdictKind.position) })
    .from(verdictKind)
    .where(eq(verdictKind.projectId, projectId))
    .get()
  return tx
    .insert(verdictKind)
    .values({ ...of, projectId, position: (last?.position ?? 0) + 1 })
    .returning({ id: verdictKind.id })
    .get().id
}
export const saveVerdictKind = (
  tx: Tx,
  id: number,
  edit: Partial<Pick<typeof verdictKind.$inferSelect, 'forItems' | 'forSteps' | 'sign' | 'tint' | 'retiredAt'>>,
): void => void tx.update(verdictKind).set(edit).where(eq(verdictKind.id, id)).run()
/** Puts the project's own verdicts into this order. */
export function orderVerdictKinds(tx: Tx, projectId: number, ids: readonly number[]): void {
  for (const [at, id] of ids.entries())
    tx.update(verdictKind)
      .set({ position: at + 1 })
      .where(and(eq(verdictKind.id, id), eq(verdictKind.projectId, projectId)))
      .run()
}

/** What may be given as a reason for which verdict, in order, retired ones too. */
export const verdictReasons = (tx: Tx, projectId: number): VerdictReason[] =>
  tx
    .select({
      id: verdictReason.id,
      verdict: verdictReason.verdict,
      word: verdictReason.word,
      retiredAt: verdictReason.retiredAt,
    })
    .from(verdictReason)
    .where(eq(verdictReason.projectId, projectId))
    .orderBy(asc(verdictReason.position), asc(verdictReason.id))
    .all()

export const addVerdictReason = (tx: Tx, projectId: number, of: Pick<VerdictReason, 'verdict' | 'word'>): number =>
  tx
    .insert(verdictReason)
    .values({ ...of, projectId })
    .returning({ id: verdictReason.id })
    .get().id
export const retireVerdictReason = (tx: Tx, id: number, retiredAt: number | null): void =>
  void tx.update(verdictReason).set({ retiredAt }).where(eq(verdictReason.id, id)).run()
