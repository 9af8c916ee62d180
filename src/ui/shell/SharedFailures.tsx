import { counted } from '#core/lib/figures.ts'
import { readShared } from '#core/runs/share-contract.ts'
import { sentenceOf } from '#ui/call.ts'
import { Unfold } from '#ui/kit/Unfold.tsx'
import { useAnswer } from './answers.tsx'
import { useHere } from './here.ts'

/** What the failures of a run, a case or a requirement share; asked for when it is unfolded. */
export const SharedFailures = ({ of }: { of: string }) => (
  <Unfold summary="What failures share">
    <Told of={of} />
  </Unfold>
)

const words = (values: Readonly<Record<string, string>>): string =>
  Object.entries(values)
    .map(([factor, value]) => `${factor} ${value}`)
    .join(' with ')

/** How sure it is: of one value all passes are without it, of several those that differ in one of them tell that each matters. */
function backed({ values, backing }: { values: Readonly<Record<string, string>>; backing: number }): string {
  if (backing === 0) return 'no pass backs it yet'
  const passes = counted(backing, 'pass', 'passes')
  return Object.keys(values).length === 1
    ? `${passes} without it`
    : `${passes} that differ${backing === 1 ? 's' : ''} in one of these alone`
}

function Told({ of }: { of: string }) {
  const { key } = useHere()
  const { data, error } = useAnswer(readShared, { params: { key }, query: { of } })
  if (error && !data) return <p role="alert">{sentenceOf(error)}</p>
  if (!data) return <p className="quiet">Looking …</p>
  if (data.failures === 0) return <p className="quiet">Nothing failed here.</p>
  return (
    <div style={{ display: 'grid', gap: 8, fontSize: 13, paddingBlock: 6 }}>
      <p className="quiet">
        {counted(data.failures, 'failure')} and {counted(data.passes, 'pass', 'passes')} looked at, by environment,
        build, case and data row.
      </p>
      <ul style={{ display: 'grid', gap: 6 }}>
        {data.explanations.slice(0, 12).map((each) => (
          <li key={words(each.values)}>
            <b>{words(each.values)}</b>: {counted(each.failures, 'failure')}, and it passed nowhere; {backed(each)}
            {each.instead.length > 0 && (
              <span className="quiet">; as well explained by {each.instead.map(words).join(', or ')}</span>
            )}
            .
          </li>
        ))}
        {data.explanations.length > 12 && <li className="quiet">and {data.explanations.length - 12} more</li>}
      </ul>
      {data.unexplained > 0 && (
        <p>
          {counted(data.unexplained, 'failure')} with nothing of their own: each combination of up to three values
          passed elsewhere, too.
        </p>
      )}
      {data.next && (
        <p>
          Would tell the most next:{' '}
          <a href={`/p/${key}/desk/${data.next.item}?mine=no`}>
            {data.next.case} {data.next.title}
          </a>{' '}
          in {data.next.environment} ({data.next.run}): {data.next.against} of {data.next.of} explanations expect it to
          fail.
        </p>
      )}
    </div>
  )
}
