import { type SQL, sql } from 'drizzle-orm'

// What hangs on an attempt `a`, as parts of statements.

/** Where its defects come from: those that are linked and there. */
export const defectsOf: SQL = sql`
  from defect_link l
  join defect d on d.id = l.defect_id
  where l.attempt_id = a.id and l.until_at is null and d.deleted_at is null`

/** How many files it has. */
export const evidenceCount: SQL = sql`
  (
    select count(*)
    from attachment f
    where f.owner_kind = 'attempt' and f.owner_id = a.id and f.deleted_at is null
  )`
