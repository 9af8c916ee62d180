import { addDays, dayOf, timeOf } from '../clock.ts'
import { connected, ports, type Port, type Sailing, sailingsOn } from '../sailings.ts'
import type { Seen } from '../seen.ts'
import { delayOf, roomOn } from '../world.ts'
import { dayText, portName } from '../words.ts'
import { Choice, Field, Form, Layout, Table } from './layout.tsx'

export interface SearchAsked {
  readonly from: Port
  readonly to: Port
  readonly date: string
}

/** Sailings of a day between two ports; a day with none left names the next one. */
export function Search({ of, asked }: { of: Seen; asked: SearchAsked }) {
  const { words, looking, world, build } = of
  const rows = sailingsOn(asked.from, asked.to, asked.date).filter(({ departs }) => departs > world.now())
  const named = (port: Port) => portName(port, looking.language)
  const others = connected(asked.from)
  return (
    <Layout of={of} title={words.findSailing}>
      <form
        method="get"
        action={`/${build}/`}
        className="lines"
        data-search={of.has('search-forgets-date') ? 'forgets' : undefined}
      >
        <Choice label={words.from} name="from" value={asked.from} options={ports.map((port) => [port, named(port)])} />
        <Choice label={words.to} name="to" value={asked.to} options={others.map((port) => [port, named(port)])} />
        <Field label={words.day} name="date" type="date" value={asked.date} />
        <button>{words.search}</button>
      </form>
      <h2>{`${named(asked.from)} – ${named(asked.to)}, ${dayText(Date.parse(asked.date), looking.language)}`}</h2>
      {rows.length === 0 ? (
        <NextOne of={of} asked={asked} />
      ) : (
        <Form of={of} to="/book" aria-label={words.choose}>
          <Table label={words.search} head={[words.departs, words.arrives, words.places, '']}>
            {rows.map((sailing) => (
              <Row key={sailing.id} of={of} sailing={sailing} />
            ))}
          </Table>
        </Form>
      )}
    </Layout>
  )
}

function NextOne({ of, asked }: { of: Seen; asked: SearchAsked }) {
  const { words, looking, world, build } = of
  const next = Array.from({ length: 14 }, (_, ahead) => addDays(asked.date, ahead))
    .flatMap((date) => sailingsOn(asked.from, asked.to, date))
    .find(({ departs }) => departs > world.now())
  if (!next) return null
  const address = new URLSearchParams({ ...asked, date: dayOf(next.departs) })
  return (
    <p>
      {words.noSailings}{' '}
      <a href={`/${build}/?${address}`}>
        {dayText(next.departs, looking.language)}, {timeOf(next.departs)}
      </a>
    </p>
  )
}

function Row({ of, sailing }: { of: Seen; sailing: Sailing }) {
  const { words, world, has } = of
  const { id, departs, arrives } = sailing
  const late = delayOf(world, id)
  const cancelled = world.cancelled.has(id)
  const { places } = roomOn(world, id)
  return (
    <tr data-sailing={id}>
      <td>
        <b>{timeOf(departs)}</b>
        {late > 0 && ` +${late} min`}
      </td>
      <td>{timeOf(arrives)}</td>
      <td>{cancelled ? '–' : places}</td>
      <td>
        {cancelled ? (
          words.cancelledForWeather
        ) : has('sailing-needs-mouse') ? (
          <span className="button" data-mouse-only={id}>
            {words.choose}
          </span>
        ) : (
          <button name="sailing" value={id}>
            {words.choose} <span className="hidden">{timeOf(departs)}</span>
          </button>
        )}
      </td>
    </tr>
  )
}
