import type { Project } from '#core/projects/contract.ts'
import type { Option } from '#ui/kit/Choice.tsx'
import { now } from '#ui/kit/moment.ts'
import { type CellEdit, oneOf } from '#ui/list/columns.ts'

export const peopleOptions = (project: Project, nobody = 'nobody'): Option[] => [
  { value: '', label: nobody },
  ...project.people.map(({ id, name, ended }) => ({ value: id, label: ended ? `${name}, no longer here` : name })),
]

/** An owner chosen where a list shows who it is. */
export const ownerEdit = <T extends { readonly owner: string | null }>(
  project: Project,
  store: (row: T, set: { ownerId: string | null }) => void,
): CellEdit<T> =>
  oneOf(
    peopleOptions(project),
    (row) => project.people.find(({ name }) => name === row.owner)?.id ?? '',
    (row, ownerId) => store(row, { ownerId: ownerId || null }),
  )

/** `Mira K.`: enough to know who, short enough for a list. */
export const shortName = (name: string | null): string =>
  name === null ? '' : name.replace(/^(\S+)\s+(\S).*$/, '$1 $2.')

/** A difference of time as people say it. */
export function ago(at: number, from = now()): string {
  const minutes = Math.round((from - at) / 60_000)
  if (minutes < 1) return 'just now'
  if (minutes < 60) return `${minutes} min ago`
  if (minutes < 48 * 60) return `${Math.round(minutes / 60)} h ago`
  return `${Math.round(minutes / 1440)} days ago`
}
