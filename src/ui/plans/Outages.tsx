import { listEnvironments } from '#core/projects/environments-contract.ts'
import { counted } from '#core/lib/figures.ts'
import { momentText } from '#ui/kit/moment.ts'
import { useAnswer } from '#ui/shell/answers.tsx'
import { useHere } from '#ui/shell/here.ts'

/** Times in which environments of a plan were not to be used, the newest first. */
export function Outages({ named }: { named: readonly number[] }) {
  const { key } = useHere()
  const { data } = useAnswer(listEnvironments, { params: { key } }, { keep: true })
  const all = (data?.rows ?? [])
    .filter(({ id }) => named.includes(id))
    .flatMap((row) => row.outages.slice(0, 3).map((outage) => ({ ...outage, name: row.name })))
    .sort((a, b) => b.fromAt - a.fromAt)
    .slice(0, 4)
  if (all.length === 0) return null
  return (
    <section>
      <h3>Outages</h3>
      <ul>
        {all.map(({ id, name, reason, fromAt, untilAt, attempts }) => (
          <li key={id}>
            <b>{name}</b>: {reason}, {momentText(fromAt)} – {untilAt === null ? 'still' : momentText(untilAt)}
            {attempts > 0 && <span className="quiet">; {counted(attempts, 'attempt')} made meanwhile</span>}
          </li>
        ))}
      </ul>
      <p>
        <a href={`/p/${key}/set-up/environments`}>all environments</a>
      </p>
    </section>
  )
}
