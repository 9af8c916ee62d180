import type { ReactNode } from 'react'
import { addDays, dayOf, leftText, timeOf } from '../clock.ts'
import { linesOf } from '../acts/book.ts'
import { hidden } from '../acts/pay.ts'
import { type FareLine, totalOf } from '../rules/fares.ts'
import { goodsClasses, kinds } from '../rules/vehicles.ts'
import { type Sailing, sailingById, sailingsOn } from '../sailings.ts'
import { amountIn, type Seen } from '../seen.ts'
import { type Booking, sailingOf } from '../world.ts'
import { dayText, portName } from '../words.ts'
import { Choice, Field, Form, Layout, Table } from './layout.tsx'

interface Shown {
  readonly of: Seen
  readonly booking: Booking
}

export function Ticket({ of, sailing }: { of: Seen; sailing: Sailing }) {
  const { looking, has } = of
  const named = (port: Sailing['from'], twice = false) => {
    const name = portName(port, looking.language)
    return twice ? name.replace(/muo$/, 'muomuo') : name
  }
  return (
    <p className="ticket" data-runs-over={has('skerric-runs-over') || undefined}>
      <span className="port">{named(sailing.from, has('receipt-translates-twice'))}</span>
      <span className="port">{named(sailing.to)}</span>
      <span>
        {dayText(sailing.departs, looking.language)}, <b>{timeOf(sailing.departs)}</b>
      </span>
    </p>
  )
}

/** The clock of a hold, told and shown. */
function Clock({ of, booking }: Shown) {
  const left = booking.holdUntil - of.world.now()
  return (
    <p className="hold" {...(!of.has('hold-not-told') && { role: 'timer', 'aria-live': 'polite' as const })}>
      {of.words.timeLeft} <b data-until={left}>{leftText(left)}</b>
    </p>
  )
}

function Lines({ of, lines, label }: { of: Seen; lines: readonly FareLine[]; label: string }) {
  const { words } = of
  return (
    <Table label={label} head={[words.fare, words.reduction, words.total]} amounts>
      {lines.map(({ what, full, reduction, amount }, at) => (
        <tr key={at}>
          <td>{what}</td>
          <td>{reduction === null ? '' : `${reduction}, −${amountIn(of, full - amount)}`}</td>
          <td className="amount">{amountIn(of, amount)}</td>
        </tr>
      ))}
      <tr className="sum">
        <td>{words.total}</td>
        <td />
        <td className="amount" data-total={totalOf(lines)}>
          {amountIn(of, totalOf(lines))}
        </td>
      </tr>
    </Table>
  )
}

export function BookingPage({ of, booking }: Shown) {
  const { words } = of
  return (
    <Layout of={of} title={`${words.booking} ${booking.code}`}>
      <Ticket of={of} sailing={sailingOf(booking)} />
      <Clock of={of} booking={booking} />
      <Travellers of={of} booking={booking} />
      <VehiclePart of={of} booking={booking} />
      <Extras of={of} booking={booking} />
      <Return of={of} booking={booking} />
      <section aria-label={words.fare}>
        <h2>{words.fare}</h2>
        <Lines of={of} lines={linesOf(of, booking)} label={words.fare} />
        <p className="acts">
          <a className="button" href={`/${of.build}/booking/${booking.code}/pay`}>
            {words.toPayment}
          </a>
          <Form of={of} to={`/my/${booking.code}/cancel`} inline>
            <button className="quiet">{words.cancel}</button>
          </Form>
        </p>
      </section>
    </Layout>
  )
}

const Section = ({ title, children }: { title: string; children: ReactNode }) => (
  <section aria-label={title}>
    <h2>{title}</h2>
    {children}
  </section>
)

const Travellers = ({ of, booking }: Shown) => (
  <Section title={of.words.travellers}>
    <ol>
      {booking.travellers.map(({ name, born, card, wheelchair }, at) => (
        <li key={at}>
          {name}, {born}
          {card !== '' && `, ${card}`}
          {wheelchair && `, ${of.words.wheelchair}`}{' '}
          <Form of={of} to={`/booking/${booking.code}/travellers/${at}/remove`} inline>
            <button className="quiet">{of.words.remove}</button>
          </Form>
        </li>
      ))}
    </ol>
    <Form of={of} to={`/booking/${booking.code}/travellers`}>
      <Field label={of.words.name} name="name" />
      <Field label={of.words.born} name="born" hint="2019-05-12" />
      <Field label={of.words.islandCard} name="card" hint="TA-1001" />
      <label className="tick">
        <input type="checkbox" name="wheelchair" /> {of.words.wheelchair}
      </label>
      <button>{of.words.add}</button>
    </Form>
  </Section>
)

const VehiclePart = ({ of, booking }: Shown) => (
  <Section title={of.words.vehicle}>
    {booking.vehicle && (
      <p>
        {booking.vehicle.kind}, {(booking.vehicle.length / 100).toFixed(2)} m{' '}
        <Form of={of} to={`/booking/${booking.code}/vehicle/remove`} inline>
          <button className="quiet">{of.words.remove}</button>
        </Form>
      </p>
    )}
    <Form of={of} to={`/booking/${booking.code}/vehicle`}>
      <Choice label="Kind" name="kind" options={kinds.map((kind) => [kind, kind])} />
      <Field label="Length, m" name="length" hint="4.50" />
      <Field label="Height, m (roof box counts)" name="height" hint="1.60" />
      <Field label="Trailer, m" name="trailer" />
      <Field label="Weight, kg" name="weight" />
      <Choice
        label="Dangerous goods"
        name="goods"
        options={[['', 'none'], ...goodsClasses.map((each) => [each, `class ${each}`] as const)]}
      />
      <label className="tick">
        <input type="checkbox" name="declared" /> declaration is there
      </label>
      <button>{of.words.store}</button>
    </Form>
  </Section>
)

const Extras = ({ of, booking }: Shown) => (
  <Section title={of.words.extras}>
    <Form of={of} to={`/booking/${booking.code}/extras`}>
      <Field label={of.words.pets} name="pets" type="number" value={String(booking.pets)} />
      <Field label={of.words.bicycles} name="bicycles" type="number" value={String(booking.bicycles)} />
      <button>{of.words.store}</button>
    </Form>
  </Section>
)

function Return({ of, booking }: Shown) {
  const { from, to, arrives } = sailingOf(booking)
  const offered = [0, 1, 2, 3, 4]
    .flatMap((days) => sailingsOn(to, from, addDays(dayOf(arrives), days)))
    .filter(({ departs }) => departs > arrives)
  const text = ({ departs }: Sailing) => `${dayText(departs, of.looking.language)}, ${timeOf(departs)}`
  return (
    <Section title={of.words.back}>
      <Form of={of} to={`/booking/${booking.code}/return`}>
        <Choice
          label={of.words.back}
          name="back"
          value={booking.back ?? ''}
          options={[['', of.words.noReturn], ...offered.map((each) => [each.id, text(each)] as const)]}
        />
        <button>{of.words.store}</button>
      </Form>
    </Section>
  )
}

export function PayPage({ of, booking }: Shown) {
  const { words } = of
  const lines = linesOf(of, booking)
  return (
    <Layout of={of} title={words.payment}>
      <Ticket of={of} sailing={sailingOf(booking)} />
      <Clock of={of} booking={booking} />
      <Lines of={of} lines={lines} label={words.fare} />
      <Form of={of} to={`/booking/${booking.code}/pay`} id={of.has('double-tap-charges-twice') ? 'pay-twice' : 'pay'}>
        <input type="hidden" name="token" value={booking.token} />
        <Field label={words.card} name="card" hint="4000 0000 0000 0077" />
        <Field label={words.voucher} name="voucher" hint="TV 4410 2207" />
        <Field label={words.account} name="account" hint="A-17" />
        <button>{`${words.pay} ${amountIn(of, totalOf(lines))}`}</button>
      </Form>
    </Layout>
  )
}

export function Receipt({ of, booking }: Shown) {
  const { words, world } = of
  const back = booking.back === null ? undefined : sailingById(booking.back)
  return (
    <Layout of={of} title={`${words.receipt} ${booking.code}`}>
      <Ticket of={of} sailing={sailingOf(booking)} />
      {back && <Ticket of={of} sailing={back} />}
      <Lines of={of} lines={booking.lines} label={words.receipt} />
      <Table label={words.payment} head={[words.payment, '', words.total]} amounts>
        {booking.paid.map(({ by, number, amount }, at) => (
          <tr key={at}>
            <td>{by}</td>
            <td>
              {by === 'card' ? hidden(number) : number}
              {by === 'voucher' && `, ${amountIn(of, world.vouchers.get(number)?.balance ?? 0)} left on it`}
            </td>
            <td className="amount">{amountIn(of, amount)}</td>
          </tr>
        ))}
        {booking.returned.map(({ by, number, amount }, at) => (
          <tr key={`back-${at}`} data-returned={by}>
            <td>back by {by}</td>
            <td>{by === 'card' ? hidden(number) : number}</td>
            <td className="amount">−{amountIn(of, amount)}</td>
          </tr>
        ))}
      </Table>
      <p>
        State: <b data-state>{booking.state}</b>
      </p>
      <p>
        <a href={`/${of.build}/my/${booking.code}`}>{words.myBooking}</a>
      </p>
    </Layout>
  )
}
