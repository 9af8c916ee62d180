import { groupBy } from '#core/lib/group.ts'
import type { PlanSheet } from '#core/plans/contract.ts'
import { listEnvironments } from '#core/projects/environments-contract.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'

/** Which build stands in the environments of a plan, and where that is not the newest that is offered for its release. */
export function Stands({ of }: { of: PlanSheet }) {
  const { key, project } = useHere()
  const { data } = useAnswer(listEnvironments, { params: { key } }, { keep: true })
  const named = new Set(of.environmentList.map(({ id }) => id))
  const rows = (data?.rows ?? []).filter(({ id }) => named.has(id))
  if (rows.length === 0) return null
  const newest = project.builds.filter(({ state, release }) => state === 'Offered' && release === of.releaseId).at(-1)
  const byBuild = groupBy(rows, ({ installed }) => installed?.buildId ?? 0)
  return (
    <section>
      <h3>Installed</h3>
      {byBuild.size === 1 && byBuild.has(0) ? (
        <p className="quiet">Nobody said which build stands there; attempts are on that of their run.</p>
      ) : (
        <ul>
          {[...byBuild].map(([build, own]) => (
            <li key={build}>
              <b>{own[0]?.installed?.build ?? 'not known'}</b>
              {build > 0 && newest && build !== newest.id && ` (offered is ${newest.name})`}:{' '}
              {own.map(({ name }) => name).join('; ')}
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}
