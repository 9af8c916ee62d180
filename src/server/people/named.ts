import { Refusal } from '#core/lib/refusal.ts'
import { knownPerson } from '#db/people/people.ts'
import { findProject } from '#db/projects/projects.ts'
import type { Context } from '#server/http/context.ts'

export function projectNamed({ tx }: Pick<Context, 'tx'>, key: string) {
  const project = findProject(tx, key)
  if (!project) throw new Refusal('not-found', `There is no project ${key} here; nothing was changed.`)
  return project
}

/** Anybody of this installation, whatever stands with them. */
export function personOfHere({ tx }: Pick<Context, 'tx'>, id: string) {
  const known = knownPerson(tx, id)
  if (!known) throw new Refusal('not-found', 'That person is not one of this installation.')
  return known
}
