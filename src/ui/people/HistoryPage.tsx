import { useState } from 'react'
import { actKinds } from '#core/history/acts.ts'
import { type HistoryEntry, historyCsv, listHistory } from '#core/history/contract.ts'
import { updateProject } from '#core/projects/contract.ts'
import { addressOf } from '#ui/call.ts'
import { Button } from '#ui/kit/Button.tsx'
import { Choice } from '#ui/kit/Choice.tsx'
import { momentText } from '#ui/kit/moment.ts'
import { notify } from '#ui/kit/notices.tsx'
import { PartHead, Table } from '#ui/kit/Settings.tsx'
import { go, useParams } from '#ui/shell/address.ts'
import { useAnswer, useWrite } from '#ui/shell/answers.tsx'
import { Told } from '#ui/shell/History.tsx'
import { useHere, useTo } from '#ui/shell/here.ts'
import { Shell, type ShellProps } from '#ui/shell/Shell.tsx'
import css from './People.module.css'
import { fromOf, spans } from './spans.ts'

export const HistoryPage = (shell: ShellProps) => (
  <Shell {...shell}>
    <ProjectHistory />
  </Shell>
)

/** Who did what, when, to which object: by person, kind and time, which stand in the address; as a file to keep. */
function ProjectHistory() {
  const { key, project } = useHere()
  const params = useParams('person', 'kind', 'days', 'before')
  const [now] = useState(() => Date.now())
  const [person, kind, days] = [params.get('person') ?? '', kindIn(params.get('kind')), params.get('days') ?? '']
  const before = Number(params.get('before') ?? NaN)
  const filter = {
    ...(person !== '' && { person }),
    ...(kind && { kind }),
    ...fromOf(days, now),
  }
  const query = { ...filter, limit: 100, ...(Number.isFinite(before) && { before }) }
  const { data, settled } = useAnswer(listHistory, { params: { key }, query }, { keep: true })
  const set = (name: string, value: string) => go({ params: { [name]: value, before: null } }, true)
  return (
    <div className={css['history']}>
      <PartHead title="History" explains="Who did what, when, and from which value. Nothing of it is ever changed." />
      <div className={css['bar']}>
        <Choice
          label="By whom"
          value={person}
          options={[
            { value: '', label: 'by anybody' },
            ...project.people.map(({ id, name }) => ({ value: id, label: `by ${name}` })),
          ]}
          onChoose={(value) => set('person', value)}
        />
        <Choice
          label="To what"
          value={kind ?? ''}
          options={[
            { value: '', label: 'to anything' },
            ...actKinds.map((each) => ({ value: each, label: `to a ${each}` })),
          ]}
          onChoose={(value) => set('kind', value)}
        />
        <Choice label="When" value={days} options={spans('in')} onChoose={(value) => set('days', value)} />
        <a href={addressOf(historyCsv, { params: { key }, query: filter })} download>
          As CSV
        </a>
      </div>
      {data?.rows.length === 0 && <p className="quiet">Nobody did anything like that.</p>}
      <Table label="History" settled={settled} head={['When', 'Who', 'What', 'Act', '']}>
        {data?.rows.map((entry) => (
          <Entry key={entry.id} of={entry} />
        ))}
      </Table>
      <p className={css['bar']}>
        {Number.isFinite(before) && <Button onClick={() => go({ params: { before: null } })}>Newest</Button>}
        {data?.next != null && <Button onClick={() => go({ params: { before: String(data.next) } })}>Older</Button>}
      </p>
    </div>
  )
}

const kindIn = (text: string | null) => actKinds.find((each) => each === text)

function Entry({ of }: { of: HistoryEntry }) {
  const to = useTo()
  const hasPlace = /^[A-Z]+-\d+$/.test(of.ref)
  return (
    <tr>
      <td className="quiet">{momentText(of.at)}</td>
      <td>{of.person ?? 'Command line'}</td>
      <td className="key">{hasPlace ? <a href={to(of.ref)}>{of.ref}</a> : of.ref}</td>
      <td>
        <Told of={of} />
      </td>
      <td>{of.kind === 'project' && of.action === 'changed' && <TakeBack of={of} />}</td>
    </tr>
  )
}

/** A rule of the project is set again to what it was before. */
function TakeBack({ of }: { of: HistoryEntry }) {
  const { key, project } = useHere()
  const { attempt, busy } = useWrite(updateProject)
  if (project.role !== 'lead' || !of.detail) return null
  const back = async () => {
    const body = Object.fromEntries(Object.entries(of.detail ?? {}).map(([field, [from]]) => [field, from]))
    if (await attempt({ params: { key }, body })) notify('It is as it was before that.')
  }
  return (
    <Button look="word" disabled={busy} onClick={() => void back()}>
      take it back
    </Button>
  )
}
