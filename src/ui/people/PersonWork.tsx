import { counted, minutesText } from '#core/lib/figures.ts'
import type { Member } from '#core/people/members-contract.ts'
import { Mark } from '#ui/kit/Mark.tsx'
import { dayText } from '#ui/kit/moment.ts'
import { Table } from '#ui/kit/Settings.tsx'
import { useHere } from '#ui/shell/here.ts'

/** What somebody executes, waits for and owns, each with the way to it. */
export function PersonWork({ of }: { of: Member }) {
  const { key } = useHere()
  const { items, itemsTotal, itemMinutes, defects, reviews } = of.work
  return (
    <>
      <h2>
        To execute: {counted(itemsTotal, 'item')}
        {itemsTotal > 0 && `, ${minutesText(itemMinutes)}`}
      </h2>
      {items.length > 0 && (
        <Table label="Items to execute" head={['', 'Case', 'Environment', 'Run', 'Time', 'Due']}>
          {items.map((each) => (
            <tr key={each.id}>
              <td>
                <Mark verdict={each.verdict} />
              </td>
              <td>
                <a href={`/p/${key}/desk/${each.id}`}>
                  <span className="key">{each.case}</span> {each.title}
                </a>
              </td>
              <td>{each.environment}</td>
              <td>
                <a href={`/p/${key}/${each.run}`} title={each.runTitle}>
                  <span className="key">{each.run}</span>
                </a>
              </td>
              <td>{minutesText(each.minutes)}</td>
              <td>{each.dueOn === null ? '' : dayText(each.dueOn)}</td>
            </tr>
          ))}
        </Table>
      )}
      {itemsTotal > items.length && <p className="quiet">and {counted(itemsTotal - items.length, 'more', 'more')}</p>}
      <Waits title="Asked to review" rows={reviews} />
      <Waits title="Open defects they own" rows={defects} />
      <h2>Owned</h2>
      <p>
        <a href={ownedBy(key, 'requirements', of.name)}>{counted(of.work.requirements, 'requirement')}</a>,{' '}
        <a href={ownedBy(key, 'cases', of.name)}>{counted(of.work.cases, 'case')}</a>
      </p>
    </>
  )
}

const ownedBy = (key: string, list: string, name: string): string =>
  `/p/${key}/${list}?filter=${encodeURIComponent(JSON.stringify({ field: 'owner', op: 'is', values: [name] }))}`

function Waits({
  title,
  rows,
}: {
  title: string
  rows: readonly { readonly ref: string; readonly title: string; readonly state?: string }[]
}) {
  const { key } = useHere()
  if (rows.length === 0) return null
  return (
    <>
      <h2>
        {title}: {rows.length}
      </h2>
      <Table label={title} head={['Key', 'Title', '']}>
        {rows.map(({ ref, title: told, state }) => (
          <tr key={ref}>
            <td>
              <a href={`/p/${key}/${ref}`} className="key">
                {ref}
              </a>
            </td>
            <td>{told}</td>
            <td className="quiet">{state ?? ''}</td>
          </tr>
        ))}
      </Table>
    </>
  )
}
