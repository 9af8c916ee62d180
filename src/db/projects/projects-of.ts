import { eq } from 'drizzle-orm'
import type { Me } from '#core/people/contract.ts'
import type { Tx } from '#db/open.ts'
import { project } from './tables.ts'
import { membership } from '#db/people/tables.ts'
import type { PersonRow } from '#db/people/people.ts'

export const projectsOf = (tx: Tx, who: PersonRow): Me['projects'] =>
  tx
    .select({ key: project.key, name: project.name, product: project.product, role: membership.role })
    .from(membership)
    .innerJoin(project, eq(project.id, membership.projectId))
    .where(eq(membership.personId, who.id))
    .orderBy(project.id)
    .all()
