import type { ReactElement } from 'react'
import { renderToStaticMarkup } from 'react-dom/server'
import { dayOf, isDay } from './clock.ts'
import { bookingOf, letLapse } from './acts/book.ts'
import { refuseUnless } from './acts/refused.ts'
import { holdEnds } from './rules/times.ts'
import { connected, ports } from './sailings.ts'
import { type Seen, staff } from './seen.ts'
import { Bench } from './pages/bench.tsx'
import { BookingPage, PayPage, Receipt } from './pages/booking.tsx'
import { DeckPlan } from './pages/deck.tsx'
import { Layout } from './pages/layout.tsx'
import { LookUp, MyBooking, SignIn } from './pages/my.tsx'
import { Search } from './pages/search.tsx'
import { Bank, Bookings, MastersList, Messages, Quay, Weather } from './pages/staff.tsx'

/** The page at an address of a build, or where to go instead. */
export function pageAt(of: Seen, path: string): string | { to: string } {
  letLapse(of)
  if (path === '/my/look') return { to: `/my/${encodeURIComponent(of.asked.get('code') ?? '')}` }
  if (staffPages[path] && (of.who === null || staff[of.who].port === null)) return { to: '/sign-in' }
  return renderToStaticMarkup(shown(of, path))
}

const staffPages: Readonly<Record<string, (of: Seen) => ReactElement>> = {
  '/bookings': (of) => <Bookings of={of} />,
  '/quay': (of) => <Quay of={of} />,
  '/deck': (of) => <DeckPlan of={of} />,
  '/weather': (of) => <Weather of={of} />,
  '/messages': (of) => <Messages of={of} />,
  '/list': (of) => <MastersList of={of} />,
}

function shown(of: Seen, path: string): ReactElement {
  const staffPage = staffPages[path]
  if (staffPage) return staffPage(of)
  if (path === '/') return <Search of={of} asked={searchAsked(of)} />
  if (path === '/sign-in') return <SignIn of={of} />
  if (path === '/bench') return <Bench of={of} />
  if (path === '/bank') return <Bank of={of} />
  if (path === '/my') return <LookUp of={of} />
  const [, area, code = '', part] = path.split('/')
  if (area === 'my') return <MyBooking of={of} booking={bookingOf(of, decodeURIComponent(code))} />
  if (area === 'booking') return bookingPart(of, code, part)
  return (
    <Layout of={of} title="Nothing here">
      <p>There is no such page.</p>
    </Layout>
  )
}

function bookingPart(of: Seen, code: string, part: string | undefined): ReactElement {
  const booking = bookingOf(of, code)
  if (part === 'receipt') return <Receipt of={of} booking={booking} />
  refuseUnless(booking.state !== 'lapsed', 'The hold has ended and the place is free again. Choose a sailing anew.')
  if (booking.state !== 'held') return <Receipt of={of} booking={booking} />
  // Only the first look begins the clock.
  if (of.has('hold-begins-again')) booking.holdUntil = holdEnds(of.world.now(), of.has)
  return part === 'pay' ? <PayPage of={of} booking={booking} /> : <BookingPage of={of} booking={booking} />
}

function searchAsked({ asked, world }: Seen) {
  const from = ports.find((port) => port === asked.get('from')) ?? 'OV'
  const to = connected(from).find((port) => port === asked.get('to')) ?? connected(from)[0] ?? 'TA'
  const date = asked.get('date') ?? ''
  return { from, to, date: isDay(date) ? date : dayOf(world.now()) }
}
