import { and, eq, isNull } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { savedView } from './tables.ts'

export const listViews = (
  tx: Tx,
  projectId: number,
  list: string,
  personId: string,
): { id: number; name: string; shared: boolean; mine: boolean; query: string }[] =>
  tx
    .select()
    .from(savedView)
    .where(and(eq(savedView.projectId, projectId), eq(savedView.list, list), isNull(savedView.deletedAt)))
    .orderBy(savedView.name)
    .all()
    .filter((view) => view.shared || view.ownerId === personId)
    .map(({ id, name, shared, ownerId, query }) => ({ id, name, shared, mine: ownerId === personId, query }))

export const addView = (
  tx: Tx,
  of: { projectId: number; list: string; name: string; ownerId: string; shared: boolean; query: string },
): number => tx.insert(savedView).values(of).returning({ id: savedView.id }).get().id

export const hideView = (tx: Tx, projectId: number, id: number, personId: string, now: number): number =>
  tx
    .update(savedView)
    .set({ deletedAt: now })
    .where(and(eq(savedView.id, id), eq(savedView.projectId, projectId), eq(savedView.ownerId, personId)))
    .run().changes
