import type { Role } from '#core/lib/rights.ts'
import { nameOf } from '#db/people/people.ts'
import type { Context } from '#server/http/context.ts'

interface Given {
  readonly person: string
  readonly before: Role | null
  readonly role: Role | null
}

/** Says in the history of the project and among the security events that somebody got, changed or lost their role. */
export function roleGiven(context: Context, { person, before, role }: Given): void {
  if (before === role) return
  const { tx, project } = context
  const name = nameOf(tx, person) ?? person
  context.change({
    kind: 'project',
    id: project.id,
    ref: project.key,
    action: before === null ? 'person brought in' : role === null ? 'person taken out' : 'role changed',
    detail: { [name]: [before, role] },
  })
  const told =
    role === null
      ? `${name} is no longer of ${project.key}`
      : `${name} is ${role} in ${project.key}${before === null ? '' : `, was ${before}`}`
  context.secure({ kind: 'role', told, person })
}
