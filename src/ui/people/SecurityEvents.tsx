import { useState } from 'react'
import { listPeople } from '#core/people/people-contract.ts'
import {
  listSecurityEvents,
  type SecurityEvent,
  type SecurityKind,
  securityEventsCsv,
  securityKindNames,
} from '#core/people/security-contract.ts'
import { addressOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { momentText } from '#ui/kit/moment.ts'
import { Table } from '#ui/kit/Settings.tsx'
import { useAnswer } from '#ui/shell/answers.tsx'
import css from './People.module.css'
import { fromOf, spans } from './spans.ts'

/** What happened to the safety of the installation: by kind, person and time; as a file to keep. */
export function SecurityEvents() {
  const [kind, setKind] = useState<SecurityKind | ''>('')
  const [person, setPerson] = useState('')
  const [span, setSpan] = useState('')
  const [today] = useState(() => Date.now())
  const [before, setBefore] = useState<number | null>(null)
  const { data: people } = useAnswer(listPeople, { query: { limit: 500 } })
  const filter = {
    ...(kind !== '' && { kind }),
    ...(person !== '' && { person }),
    ...fromOf(span, today),
  }
  const query = { ...filter, ...(before !== null && { before }) }
  const { data, settled } = useAnswer(listSecurityEvents, { query }, { keep: true })
  const anew = (set: () => void) => {
    setBefore(null)
    set()
  }
  return (
    <>
      <div className={css['bar']}>
        <Choice
          label="Kind"
          value={kind}
          options={[
            { value: '', label: 'everything' },
            ...securityKindNames.map((each) => ({ value: each, label: each })),
          ]}
          onChoose={(value) => anew(() => setKind(value))}
        />
        <Choice
          label="Person"
          value={person}
          options={[
            { value: '', label: 'about anybody' },
            ...(people?.rows ?? []).map(({ id, name }) => ({ value: id, label: `about ${name}` })),
          ]}
          onChoose={(value) => anew(() => setPerson(value))}
        />
        <Choice label="Time" value={span} options={spans('of')} onChoose={(value) => anew(() => setSpan(value))} />
        <a href={addressOf(securityEventsCsv, { query: filter })} download>
          As CSV
        </a>
      </div>
      {data && <Events rows={data.rows} settled={settled} />}
      <p className={css['bar']}>
        {before !== null && <Button onClick={() => setBefore(null)}>Newest</Button>}
        {data?.next != null && <Button onClick={() => setBefore(data.next)}>Older</Button>}
      </p>
    </>
  )
}

const Events = ({ rows, settled }: { rows: readonly SecurityEvent[]; settled: boolean }) =>
  rows.length === 0 ? (
    <p className="quiet">Nothing like that has happened.</p>
  ) : (
    <Table label="Security events" settled={settled} head={['When', 'Kind', 'What', 'By', 'From']}>
      {rows.map(({ id, at, kind, told, by, address }) => (
        <tr key={id}>
          <td className="quiet">{momentText(at)}</td>
          <td>{kind}</td>
          <td>{told}</td>
          <td>{by ?? <span className="quiet">nobody known</span>}</td>
          <td className="key">{address}</td>
        </tr>
      ))}
    </Table>
  )
