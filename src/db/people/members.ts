import { oneOf, rowsOf, text } from '#db/rows.ts'
import { roles } from '#core/people/contract.ts'
import { and, eq, sql } from 'drizzle-orm'
import type { Tx } from '#db/open.ts'
import { membership } from './tables.ts'

export function addMember(
  tx: Tx,
  projectId: number,
  personId: string,
  of: { role: 'viewer' | 'tester' | 'lead'; minutesPerDay?: number; skills?: readonly string[] },
): void {
  tx.insert(membership)
    .values({
      projectId,
      personId,
      role: of.role,
      minutesPerDay: of.minutesPerDay ?? 300,
      skills: (of.skills ?? []).join(','),
    })
    .run()
}

export const roleIn = (tx: Tx, projectId: number, personId: string): 'viewer' | 'tester' | 'lead' | null =>
  tx
    .select({ role: membership.role })
    .from(membership)
    .where(and(eq(membership.projectId, projectId), eq(membership.personId, personId)))
    .get()?.role ?? null

export const membersOf = (
  tx: Tx,
  projectId: number,
): { id: string; name: string; role: 'viewer' | 'tester' | 'lead' }[] =>
  rowsOf(
    tx,
    { id: text, name: text, role: oneOf(roles) },
    sql`
      select p.id, p.name, m.role
      from membership m
      join person p on p.id = m.person_id
      where m.project_id = ${projectId}
      order by p.name`,
  )

export const leadsOf = (tx: Tx, projectId: number): string[] =>
  membersOf(tx, projectId)
    .filter(({ role }) => role === 'lead')
    .map(({ id }) => id)
