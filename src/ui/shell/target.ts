import type { Project } from '#core/projects/contract.ts'
import type { Option } from '#ui/kit/Choice.tsx'

/** A release, from its start or from an iteration; the empty choice names none and reads `open`. */
export const targetChoices = (
  { releases, iterations }: Pick<Project, 'releases' | 'iterations'>,
  open: string,
  named: (release: string) => string = (release) => release,
): Option[] => [
  { value: '', label: open },
  ...releases.flatMap((release) => [
    { value: `${release.id}/`, label: named(release.name) },
    ...iterations
      .filter((each) => each.release === release.id)
      .map(({ id, name }) => ({ value: `${release.id}/${id}`, label: `${named(release.name)} from ${name}` })),
  ]),
]

/** What a choice names; nothing where it names none. */
export function targetIn(value: string): { release: number; iteration: number | null } | null {
  const [release = '', iteration = ''] = value.split('/')
  return release === '' ? null : { release: Number(release), iteration: iteration === '' ? null : Number(iteration) }
}
