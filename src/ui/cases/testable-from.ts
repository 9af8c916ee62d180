import type { CaseSet, CaseSheet } from '#core/cases/contract.ts'
import type { Project } from '#core/projects/contract.ts'
import type { Option } from '#ui/kit/Choice.tsx'

/** A release, from its start or from an iteration; the empty one leaves it to the requirements. */
export const fromChoices = (
  { releases, iterations }: Pick<Project, 'releases' | 'iterations'>,
  open: string,
): Option[] => [
  { value: '', label: open },
  ...releases.flatMap((release) => [
    { value: `${release.id}/`, label: release.name },
    ...iterations
      .filter((each) => each.release === release.id)
      .map(({ id, name }) => ({ value: `${release.id}/${id}`, label: `${release.name} from ${name}` })),
  ]),
]

export const fromValue = ({
  fromReleaseId,
  fromIterationId,
}: Pick<CaseSheet, 'fromReleaseId' | 'fromIterationId'>): string =>
  fromReleaseId === null ? '' : `${fromReleaseId}/${fromIterationId ?? ''}`

export function fromIn(value: string): Pick<CaseSet, 'fromReleaseId' | 'fromIterationId'> {
  const [release = '', iteration = ''] = value.split('/')
  return {
    fromReleaseId: release === '' ? null : Number(release),
    fromIterationId: iteration === '' ? null : Number(iteration),
  }
}
