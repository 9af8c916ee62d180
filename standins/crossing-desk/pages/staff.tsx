import { dayOf, timeOf } from '../clock.ts'
import { counted, openText, passengerList } from '../acts/quay.ts'
import { departuresOn, type Sailing, sailingById } from '../sailings.ts'
import { amountIn, type Seen, staff } from '../seen.ts'
import { type Booking, bookingsOn, delayOf, roomOn, sailingOf } from '../world.ts'
import { Choice, Field, Form, Layout, Table } from './layout.tsx'

const portOf = ({ who }: Seen) => (who === null ? null : staff[who].port) ?? 'OV'

/** What a clerk sold or may look after: the bookings from their own port. */
export function Bookings({ of }: { of: Seen }) {
  const { world, has, asked, build } = of
  const own = portOf(of)
  const luck = has('other-port-for-a-moment') && asked.has('came') && world.signIns % 3 === 0
  const all = [...world.bookings.values()]
  const from = (port: string) => all.filter((each) => sailingOf(each).from === port)
  const row = (each: Booking, hidden: boolean) => (
    <tr key={each.code} {...(hidden && { 'data-later': '', hidden: true })} data-port={sailingOf(each).from}>
      <td>
        <a href={`/${build}/my/${each.code}`}>{each.code}</a>
      </td>
      <td>
        {dayOf(sailingOf(each).departs)} {timeOf(sailingOf(each).departs)}
      </td>
      <td>{each.travellers.map(({ name }) => name).join(', ')}</td>
      <td>{each.state}</td>
    </tr>
  )
  return (
    <Layout of={of} title={`Bookings from ${own}`}>
      <h2>Sell a place</h2>
      <Form of={of} to="/sell" aria-label="Sell a place">
        <Choice
          label="Sailing"
          name="sailing"
          options={nextDepartures(of, bookable).map((each) => [each.id, sailingText(each)])}
        />
        <label className="tick">
          <input type="checkbox" name="quay" /> at the quay
        </label>
        <button>Hold a place</button>
      </Form>
      <Table label="Bookings" head={['Code', 'Sailing', 'Who travels', 'State']}>
        {luck &&
          from(own === 'OV' ? 'TA' : 'OV').map((each) => (
            <tr key={each.code} data-moment data-port={sailingOf(each).from}>
              <td>{each.code}</td>
              <td>{timeOf(sailingOf(each).departs)}</td>
              <td>{each.travellers.map(({ name }) => name).join(', ')}</td>
              <td>{each.state}</td>
            </tr>
          ))}
        {from(own).map((each) => row(each, luck))}
      </Table>
    </Layout>
  )
}

const sailingText = ({ departs, from, to }: Sailing): string => `${dayOf(departs)} ${timeOf(departs)} ${from}–${to}`

/** Today and a week of days are offered to choose from. */
const bookable = 8

const nextDepartures = (of: Seen, days = 3): Sailing[] =>
  Array.from({ length: days }, (_, ahead) => ahead)
    .flatMap((ahead) => departuresOn(portOf(of), dayOf(of.world.now() + ahead * 86_400_000)))
    .filter(({ departs }) => departs > of.world.now() - 3_600_000)

/** The departures of these days and the next ones, as far as bookings of a week reach. */
export const PickSailing = ({ of, page, value }: { of: Seen; page: string; value: string }) => (
  <form method="get" action={`/${of.build}${page}`} className="inline">
    <Choice
      label="Sailing"
      name="sailing"
      value={value}
      options={nextDepartures(of, bookable).map((each) => [each.id, sailingText(each)])}
    />
    <button>Show</button>
  </form>
)

export const sailingAsked = (of: Seen): Sailing => {
  const found =
    sailingById(of.asked.get('sailing') ?? '') ?? nextDepartures(of).find(({ departs }) => departs > of.world.now())
  if (!found) throw new Error('there is no departure')
  return found
}

/** Check-in and the ramp of one departure. */
export function Quay({ of }: { of: Seen }) {
  const { world, build } = of
  const sailing = sailingAsked(of)
  const { id } = sailing
  const rows = bookingsOn(world, id)
  return (
    <Layout of={of} title={`Quay: ${sailingText(sailing)}`}>
      <PickSailing of={of} page="/quay" value={id} />
      <p>
        Check-in on foot <b data-open="foot">{openText(of, id, false)}</b>, with a vehicle{' '}
        <b data-open="vehicle">{openText(of, id, true)}</b>. Delay: {delayOf(world, id)} min. On board:{' '}
        <b data-counted>{counted(of, id)}</b>.
      </p>
      <Form of={of} to={`/quay/${id}/delay`} inline>
        <Field label="Delay, min" name="minutes" type="number" value={String(delayOf(world, id))} />
        <button>Set the delay</button>
      </Form>
      <Form of={of} to={`/quay/${id}/check-in`} inline aria-label="Check-in">
        <Field label="Check in" name="code" hint="TF-1001" />
        <button>Check in</button>
      </Form>
      <Form of={of} to={`/quay/${id}/board`} inline aria-label="Ramp">
        <Field label="Ramp" name="code" hint="TF-1001" />
        <button>On board</button>
      </Form>
      <Form of={of} to={`/quay/${id}/offline`} inline aria-label="Reader">
        <Field label="Read without network (codes with blanks)" name="codes" hint="TF-1001 TF-1002" />
        <button>Send what was read</button>
      </Form>
      <Table label="Bookings of this sailing" head={['Code', 'Who travels', 'Vehicle', 'State']}>
        {rows.map(({ code, travellers, vehicle, state }) => (
          <tr key={code}>
            <td>{code}</td>
            <td>{travellers.map(({ name }) => name).join(', ')}</td>
            <td>{vehicle?.kind ?? ''}</td>
            <td>{state}</td>
          </tr>
        ))}
      </Table>
      <p className="acts">
        <Form of={of} to={`/quay/${id}/close`} inline>
          <button>Close check-in</button>
        </Form>
        <Form of={of} to={`/quay/${id}/sail`} inline>
          <button>It has sailed</button>
        </Form>
        <a href={`/${build}/list?sailing=${id}`}>List for the master</a>
      </p>
    </Layout>
  )
}

export function MastersList({ of }: { of: Seen }) {
  const sailing = sailingAsked(of)
  return (
    <Layout of={of} title={`Persons on board: ${sailingText(sailing)}`}>
      <Table label="Persons on board" head={['Name', 'Booking', 'Needs']}>
        {passengerList(of, sailing.id).map(({ name, code, needs }, at) => (
          <tr key={at}>
            <td>{name}</td>
            <td>{code}</td>
            <td>{needs}</td>
          </tr>
        ))}
      </Table>
    </Layout>
  )
}

export function Weather({ of }: { of: Seen }) {
  const { world } = of
  return (
    <Layout of={of} title="Weather">
      <Table label="Sailings" head={['Sailing', 'Bookings', 'Places left', '']}>
        {nextDepartures(of).map((sailing) => (
          <tr key={sailing.id}>
            <td>{sailingText(sailing)}</td>
            <td>{bookingsOn(world, sailing.id).length}</td>
            <td>{roomOn(world, sailing.id).places}</td>
            <td>
              {of.who !== 'officer' ? (
                ''
              ) : (
                <Form
                  of={of}
                  to={`/weather/${sailing.id}/${world.cancelled.has(sailing.id) ? 'back' : 'cancel'}`}
                  inline
                >
                  <button>{world.cancelled.has(sailing.id) ? 'Take back' : 'Cancel it'}</button>
                </Form>
              )}
            </td>
          </tr>
        ))}
      </Table>
    </Layout>
  )
}

export const Messages = ({ of }: { of: Seen }) => (
  <Layout of={of} title="Messages">
    <Table label="Messages" head={['To', 'Booking', 'Text']}>
      {of.world.messages.map(({ to, code, text }, at) => (
        <tr key={at}>
          <td>{to}</td>
          <td>{code}</td>
          <td>{text}</td>
        </tr>
      ))}
    </Table>
  </Layout>
)

/** The bank’s own test desk: every charge, each paid back as a negative one. */
export const Bank = ({ of }: { of: Seen }) => (
  <Layout of={of} title="The bank’s test desk">
    <Table label="Charges" head={['Number', 'Booking', 'Card', 'Amount']} amounts>
      {of.world.charges.map(({ number, code, card, amount }) => (
        <tr key={number} data-code={code}>
          <td>{number}</td>
          <td>{code}</td>
          <td>•••• {card.slice(-4)}</td>
          <td className="amount">{amountIn(of, amount)}</td>
        </tr>
      ))}
    </Table>
  </Layout>
)
