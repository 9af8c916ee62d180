import type { Project } from '#core/projects/contract.ts'
import type { Option } from '#ui/kit/Choice.tsx'

/** One release, from its start or from an iteration, as a choice for many requirements. */
export const targetChoices = ({ releases, iterations }: Pick<Project, 'releases' | 'iterations'>): Option[] => [
  { value: '', label: 'any release' },
  ...releases.flatMap((release) => [
    { value: `${release.id}/`, label: `Release ${release.name}` },
    ...iterations
      .filter((each) => each.release === release.id)
      .map(({ id, name }) => ({ value: `${release.id}/${id}`, label: `Release ${release.name} from ${name}` })),
  ]),
]

export function targetsIn(value: string): { release: number; iteration: number | null }[] {
  const [release = '', iteration = ''] = value.split('/')
  return release === '' ? [] : [{ release: Number(release), iteration: iteration === '' ? null : Number(iteration) }]
}
