import { roleIn } from '#db/people/members.ts'
import { Refusal } from '#core/lib/refusal.ts'
import { belongs } from '#db/projects/releases.ts'
import type { Context } from '#server/http/context.ts'

interface Named {
  readonly folderId?: unknown
  readonly ownerId?: unknown
  readonly assigneeId?: unknown
}

/** A folder or person named in an edit must be of this project; the database knows only whether they are there at all. */
export function refuseForeignEdit(
  { tx, project }: Pick<Context, 'tx' | 'project'>,
  { folderId, ...people }: Named,
): void {
  if (typeof folderId === 'number' && !belongs(tx, project.id, 'folder', folderId))
    throw new Refusal('invalid', 'That folder is not one of this project; nothing was changed.', {
      fields: [{ field: 'folderId', message: 'is not one of this project' }],
    })
  for (const field of ['ownerId', 'assigneeId'] as const) {
    const person = people[field]
    if (typeof person === 'string' && roleIn(tx, project.id, person) === null)
      throw new Refusal('invalid', 'That person is not one of this project’s; nothing was changed.', {
        fields: [{ field, message: 'is not one of this project’s people' }],
      })
  }
}

/** People named must be of this project, one by one. */
export function refuseForeignPeople({ tx, project }: Pick<Context, 'tx' | 'project'>, people: readonly string[]): void {
  if (people.some((person) => roleIn(tx, project.id, person) === null))
    throw new Refusal('invalid', 'One of these people is not of this project; nothing was stored.', {
      fields: [{ field: 'people', message: 'are not all of this project' }],
    })
}

/** Ids from outside must be of this project. */
export function refuseForeignIds(
  { tx, project }: Context,
  of: Partial<Record<'release' | 'build' | 'suite' | 'environment' | 'test_case' | 'plan', readonly number[]>>,
): void {
  for (const table of ['release', 'build', 'suite', 'environment', 'test_case', 'plan'] as const) {
    const stranger = (of[table] ?? []).find((id) => !belongs(tx, project.id, table, id))
    if (stranger !== undefined)
      throw new Refusal(
        'invalid',
        `There is no ${table.replace('test_', '')} ${stranger} in this project; nothing was stored.`,
      )
  }
}
