import type { Contract } from '#core/lib/contract.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { scopeRefusal, type TokenLimit } from '#core/people/token.ts'
import type { Tx } from '#db/open.ts'
import type { Role } from '#core/people/contract.ts'
import { roleIn } from '#db/people/members.ts'
import type { PersonRow } from '#db/people/people.ts'
import type { ProjectRow } from '#db/projects/projects.ts'

const rank: Readonly<Record<Role, number>> = { viewer: 1, tester: 2, lead: 3 }

/** What a person may do in a project; a token limited to another project may do nothing there. */
export function roleOf(tx: Tx, { id }: Pick<ProjectRow, 'id'>, { person, limit }: Asker): Role | null {
  if (limit?.projectId != null && limit.projectId !== id) return null
  return person.administrator ? 'lead' : roleIn(tx, id, person.id)
}

/** Who asks, and what the token they ask with narrows their rights to. */
export interface Asker {
  readonly person: PersonRow
  readonly limit: TokenLimit | null
}

interface Asking {
  readonly asker: Asker | null
  readonly project: ProjectRow | undefined
  readonly role: Role | null
  readonly key: string | undefined
}

/** The permission matrix: what each contract asks of whom. What is not yours is answered as if it were not there. */
export function allow(contract: Contract, { asker, project, role, key }: Asking): void {
  const { permission } = contract
  if (permission === 'open') return
  if (!asker)
    throw new Refusal('not-signed-in', 'Your sign-in has ended. Sign in again; what is written on this page is kept.')
  if (key !== undefined && (!project || role === null))
    throw new Refusal('not-found', `There is no project ${key}, or you are not one of its people.`)
  const narrowed = asker.limit && scopeRefusal(asker.limit.scope, contract)
  if (narrowed) throw new Refusal('not-allowed', narrowed)
  if (permission === 'person') return
  if (permission === 'administrator') {
    if (!asker.person.administrator || asker.limit?.projectId != null)
      throw new Refusal('not-allowed', 'Only an administrator of this installation can do this.')
    return
  }
  if (role === null || rank[role] < rank[permission])
    throw new Refusal(
      'not-allowed',
      `This asks for the role ${permission}; here you are a ${role ?? 'guest'}. Ask a lead of the project.`,
    )
}
