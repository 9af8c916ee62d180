import type { Contract } from '#core/lib/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import type { Role } from '#core/people/contract.ts'
import { roleIn } from '#db/people/members.ts'
import type { PersonRow } from '#db/people/people.ts'
import type { ProjectRow } from '#db/projects/projects.ts'
import type { Services } from './services.ts'

const rank: Readonly<Record<Role, number>> = { viewer: 1, tester: 2, lead: 3 }

export const roleOf = ({ db }: Pick<Services, 'db'>, project: ProjectRow, person: PersonRow): Role | null =>
  person.administrator ? 'lead' : roleIn(db, project.id, person.id)

interface Asking {
  readonly person: PersonRow | null
  readonly project: ProjectRow | undefined
  readonly role: Role | null
  readonly key: string | undefined
}

/** The permission matrix: what each contract asks of whom. What is not yours is answered as if it were not there. */
export function allow({ permission }: Contract, { person, project, role, key }: Asking): void {
  if (permission === 'open') return
  if (!person)
    throw new Refusal('not-signed-in', 'Your sign-in has ended. Sign in again; what is written on this page is kept.')
  if (key !== undefined && (!project || role === null))
    throw new Refusal('not-found', `There is no project ${key}, or you are not one of its people.`)
  if (permission === 'person') return
  if (permission === 'administrator') {
    if (!person.administrator)
      throw new Refusal('not-allowed', 'Only an administrator of this installation can do this.')
    return
  }
  if (role === null || rank[role] < rank[permission])
    throw new Refusal(
      'not-allowed',
      `This asks for the role ${permission}; here you are a ${role ?? 'guest'}. Ask a lead of the project.`,
    )
}
