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

interface Shown {
  readonly of: Seen
  readonly booking: Booking
}
const textIn = ({ looking }: Seen, at: number) => `${dayText(at, looking.language)}, ${timeOf(at)}`

/** What one may do with a booking: move, cancel, and when the weather cancelled its sailing, refund or rebook. */
export function MyBooking({ of, booking }: Shown) {
  const { words, world, build } = of
  const cancelled = world.cancelled.has(booking.sailing)
  return (
    <Layout of={of} title={`${words.myBooking} ${booking.code}`}>
      <Ticket of={of} sailing={sailingOf(booking)} />
      <p>
        State: <b data-state>{booking.state}</b>; {booking.travellers.map(({ name }) => name).join(', ')}
      </p>
      {cancelled ? <AfterWeather of={of} booking={booking} /> : <Changes of={of} booking={booking} />}
      <p>
        <a href={`/${build}/booking/${booking.code}/receipt`}>{words.receipt}</a>
      </p>
      <h2>What happened</h2>
      <ol>
        {booking.log.map(({ at, what }, place) => (
          <li key={place}>
            {textIn(of, at)}: {what}
          </li>
        ))}
      </ol>
    </Layout>
  )
}

const isOpen = ({ state }: Booking): boolean => state === 'paid' || state === 'checked in'

const AfterWeather = ({ of, booking }: Shown) => (
  <>
    <p className="refused">{of.words.cancelledForWeather}.</p>
    {isOpen(booking) && (
      <section aria-label={of.words.rebook}>
        <h2>{of.words.rebook}</h2>
        <Form of={of} to={`/my/${booking.code}/rebook`}>
          <Choice
            label={of.words.departs}
            name="sailing"
            options={rebookable(of, booking).map(({ id, departs }) => [id, textIn(of, departs)])}
          />
          <button>{of.words.rebook}</button>
        </Form>
      </section>
    )}
    <Form of={of} to={`/my/${booking.code}/refund`}>
      <button>{of.words.refund}</button>
    </Form>
  </>
)

function Changes({ of, booking }: Shown) {
  const { words, world } = of
  const { id: own, from, to, departs } = sailingOf(booking)
  const others = [0, 1, 2]
    .flatMap((days) => sailingsOn(from, to, addDays(dayOf(departs), days)))
    .filter(({ id, departs: leaves }) => id !== own && leaves > world.now())
  if (!isOpen(booking)) return null
  return (
    <section aria-label={words.change}>
      <h2>{words.change}</h2>
      <Form of={of} to={`/my/${booking.code}/change`}>
        <Choice
          label={words.departs}
          name="sailing"
          options={others.map(({ id, departs: leaves }) => [id, textIn(of, leaves)])}
        />
        <button>{words.change}</button>
      </Form>
      <Form of={of} to={`/my/${booking.code}/cancel`}>
        <button className="quiet">{words.cancel}</button>
      </Form>
    </section>
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
