import { eq } from 'drizzle-orm'
import { type Policy, policy as policyShape, samePolicy, usualPolicy } from '#core/projects/policy.ts'
import { recordIn } from '#db/json.ts'
import type { Tx } from '#db/open.ts'
import { policy } from './tables.ts'

type Stored = typeof policy.$inferSelect
const policyIn = ({ id: _id, projectId: _project, createdAt: _at, asked, ...rules }: Stored): Policy =>
  policyShape.parse({ ...rules, asked: recordIn(asked) })

/** A policy as it stands for good; none stored is the usual one. */
export function policyById(tx: Tx, id: number | null): Policy {
  const stored = id === null ? undefined : tx.select().from(policy).where(eq(policy.id, id)).get()
  return stored ? policyIn(stored) : usualPolicy
}

/** The row that says these rules: the one there is, else a new one. */
export function keepPolicy(tx: Tx, projectId: number, rules: Policy, now: number): number {
  const same = tx
    .select()
    .from(policy)
    .where(eq(policy.projectId, projectId))
    .all()
    .find((stored) => samePolicy(policyIn(stored), rules))
  return (
    same?.id ??
    tx
      .insert(policy)
      .values({ ...rules, asked: JSON.stringify(rules.asked), projectId, createdAt: now })
      .returning({ id: policy.id })
      .get().id
  )
}

/** Whose rules a run is executed under: its own, else its project's. */
export const policyIdOf = (
  run: { readonly policyId: number | null },
  project: { readonly policyId: number | null },
): number | null => run.policyId ?? project.policyId
