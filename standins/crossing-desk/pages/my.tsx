import { addDays, dayOf, timeOf } from '../clock.ts'
import { rebookable } from '../acts/manage.ts'
import { sailingsOn } from '../sailings.ts'
import type { Seen } from '../seen.ts'
import { type Booking, sailingOf } from '../world.ts'
import { dayText } from '../words.ts'
import { Ticket } from './booking.tsx'
import { Choice, Field, Form, Layout } from './layout.tsx'

export function LookUp({ of }: { of: Seen }) {
  const { words, build, has } = of
  return (
    <Layout of={of} title={words.myBooking}>
      <form method="get" action={`/${build}/my/look`} className="lines">
        <Field label={words.code} name="code" hint="TF-1001" />
        <p className="hint" data-pale={has('hint-too-pale') || undefined}>
          {words.codeHint}
        </p>
        <button>{words.look}</button>
      </form>
    </Layout>
  )
}

/** What one may do with a booking: move, cancel, and when the weather cancelled its sailing, refund or rebook. */
export function MyBooking({ of, booking }: { of: Seen; booking: Booking }) {
  const { words, world, looking, build } = of
  const sailing = sailingOf(booking)
  const cancelled = world.cancelled.has(booking.sailing)
  const open = booking.state === 'paid' || booking.state === 'checked in'
  const text = (departs: number) => `${dayText(departs, looking.language)}, ${timeOf(departs)}`
  const others = [0, 1, 2]
    .flatMap((days) => sailingsOn(sailing.from, sailing.to, addDays(dayOf(sailing.departs), days)))
    .filter(({ id, departs }) => id !== sailing.id && departs > world.now())
  return (
    <Layout of={of} title={`${words.myBooking} ${booking.code}`}>
      <Ticket of={of} sailing={sailing} />
      <p>
        State: <b data-state>{booking.state}</b>; {booking.travellers.map(({ name }) => name).join(', ')}
      </p>
      {cancelled && <p className="refused">{words.cancelledForWeather}.</p>}
      {cancelled && open && (
        <section aria-label={words.rebook}>
          <h2>{words.rebook}</h2>
          <Form of={of} to={`/my/${booking.code}/rebook`}>
            <Choice
              label={words.departs}
              name="sailing"
              options={rebookable(of, booking).map(({ id, departs }) => [id, text(departs)])}
            />
            <button>{words.rebook}</button>
          </Form>
        </section>
      )}
      {cancelled && (
        <Form of={of} to={`/my/${booking.code}/refund`}>
          <button>{words.refund}</button>
        </Form>
      )}
      {!cancelled && open && (
        <section aria-label={words.change}>
          <h2>{words.change}</h2>
          <Form of={of} to={`/my/${booking.code}/change`}>
            <Choice
              label={words.departs}
              name="sailing"
              options={others.map(({ id, departs }) => [id, text(departs)])}
            />
            <button>{words.change}</button>
          </Form>
          <Form of={of} to={`/my/${booking.code}/cancel`}>
            <button className="quiet">{words.cancel}</button>
          </Form>
        </section>
      )}
      <p>
        <a href={`/${build}/booking/${booking.code}/receipt`}>{words.receipt}</a>
      </p>
      <h2>What happened</h2>
      <ol>
        {booking.log.map(({ at, what }, place) => (
          <li key={place}>
            {text(at)}: {what}
          </li>
        ))}
      </ol>
    </Layout>
  )
}

export const SignIn = ({ of }: { of: Seen }) => (
  <Layout of={of} title={of.words.signIn}>
    <Form of={of} to="/sign-in">
      <Field label={of.words.name} name="who" hint="clerk" />
      <Field label={of.words.password} name="password" type="password" />
      <button>{of.words.signIn}</button>
    </Form>
  </Layout>
)
