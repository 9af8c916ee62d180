import { dayOf, timeOf } from '../clock.ts'
import { freeIn, lanes, leavingOrder, percent, shares } from '../rules/deck.ts'
import { weightOf } from '../rules/vehicles.ts'
import type { Seen } from '../seen.ts'
import { deckOf } from '../world.ts'
import { Form, Layout, Table } from './layout.tsx'
import { PickSailing, sailingAsked } from './staff.tsx'

const metres = (cm: number): string => (cm / 100).toFixed(2)

/** Lanes with their free metres and who stands in them, and how the weight is spread. */
export function DeckPlan({ of }: { of: Seen }) {
  const { world, has } = of
  const sailing = sailingAsked(of)
  const deck = deckOf(world, sailing.id)
  const { port, starboard, bow } = shares(deck, has)
  return (
    <Layout of={of} title={`Deck plan: ${dayOf(sailing.departs)} ${timeOf(sailing.departs)}`}>
      <PickSailing of={of} page="/deck" value={sailing.id} />
      <p>
        Port <b data-share="port">{percent(port)} %</b>, starboard <b data-share="starboard">{percent(starboard)} %</b>,
        bow <b data-share="bow">{percent(bow)} %</b>. No side more than 55 %, the bow no more than 40 %.
      </p>
      <Table label="Lanes" head={['Lane', 'Free, m', 'Stand there', '']}>
        {lanes.map((lane) => {
          const here = deck.placed.filter((each) => each.lane === lane.name || each.trailerLane === lane.name)
          const isClosed = deck.closed.includes(lane.name)
          return (
            <tr key={lane.name} data-lane={lane.name}>
              <td>
                {lane.name}, {lane.side}
                {lane.stairs && ', beside the stairs'}
              </td>
              <td data-free>{metres(freeIn(deck, lane, has))}</td>
              <td>
                {here.map(({ code, vehicle, lane: own, part }) => (
                  <span key={code} className="vehicle" data-vehicle={code}>
                    {code} {own === lane.name ? vehicle.kind : 'trailer'}, {weightOf(vehicle, has)} kg, {part}
                    {vehicle.goods !== null && `, class ${vehicle.goods}`}
                  </span>
                ))}
              </td>
              <td>
                <Form of={of} to={`/deck/${sailing.id}/${isClosed ? 'open' : 'close'}/${lane.name}`} inline>
                  <button className="quiet">{isClosed ? 'open it' : 'close it'}</button>
                </Form>
              </td>
            </tr>
          )
        })}
      </Table>
      <h2>Order of leaving</h2>
      <ol>
        {leavingOrder(deck).map(({ code, vehicle, to }) => (
          <li key={code}>
            {code}, {vehicle.kind}, to {to}
          </li>
        ))}
      </ol>
    </Layout>
  )
}
