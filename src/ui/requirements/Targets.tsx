import type { RequirementSheet } from '#core/requirements/contract.ts'
import { Choice } from '#ui/kit/Choice.tsx'
import { Pop } from '#ui/kit/Pop.tsx'
import { useHere } from '#ui/shell/here.ts'

export function Targets({
  of,
  onSet,
}: {
  of: RequirementSheet
  onSet: (targets: { release: number; iteration: number | null }[]) => void
}) {
  const { project } = useHere()
  const own = of.targets.map(({ release, iteration }) => ({ release, iteration }))
  const words =
    of.targets.length === 0
      ? 'any release'
      : of.targets
          .map(({ releaseName, iterationName }) => `Release ${releaseName}${iterationName ? `, ${iterationName}` : ''}`)
          .join(' and ')
  return (
    <Pop title="Testable from" label={words}>
      {project.releases.map((release) => {
        const target = own.find((each) => each.release === release.id)
        const others = own.filter((each) => each.release !== release.id)
        return (
          <p key={release.id} style={{ display: 'flex', gap: 12, paddingBlock: 3 }}>
            <label>
              <input
                type="checkbox"
                checked={target !== undefined}
                onChange={() => onSet(target ? others : [...others, { release: release.id, iteration: null }])}
              />{' '}
              Release {release.name}
            </label>
            {target && (
              <Choice
                label={`Iteration of ${release.name}`}
                value={String(target.iteration ?? '')}
                options={[
                  { value: '', label: 'from its start' },
                  ...project.iterations
                    .filter((each) => each.release === release.id)
                    .map(({ id, name }) => ({ value: String(id), label: `from ${name}` })),
                ]}
                onChoose={(value) =>
                  onSet([...others, { release: release.id, iteration: value === '' ? null : Number(value) }])
                }
              />
            )}
          </p>
        )
      })}
    </Pop>
  )
}
