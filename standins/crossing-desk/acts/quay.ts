import { leftText, timeOf } from '../clock.ts'
import { bandOf } from '../rules/ages.ts'
import { closesAt } from '../rules/times.ts'
import { sailingById } from '../sailings.ts'
import { type Booking, bookingsOn, delayOf, sailingOf } from '../world.ts'
import { type Acting, bookingOf, note } from './book.ts'
import { closes } from './manage.ts'
import { refuseUnless } from './refused.ts'

export function checkIn(acting: Acting, code: string): void {
  const { world } = acting
  const booking = bookingOf(acting, code)
  refuseUnless(booking.state === 'paid', `This booking is ${booking.state}; only a paid one is checked in.`)
  refuseUnless(!world.cancelled.has(booking.sailing), 'This sailing is cancelled.')
  const closed = closes(acting, booking)
  refuseUnless(world.now() <= closed, `Check-in closed at ${timeOf(closed)}.`)
  booking.state = 'checked in'
  note(world, booking, 'checked in')
}

/** How long check-in is open for a sailing, on foot and with a vehicle. */
export const openText = ({ world, has }: Acting, sailing: string, withVehicle: boolean): string => {
  const departs = sailingById(sailing)?.departs ?? 0
  const left = closesAt({ departs, delay: delayOf(world, sailing), withVehicle }, has) - world.now()
  return left <= 0 ? 'closed' : `closes in ${leftText(left)}`
}

/** Lets a booking on board at the ramp of a sailing; the same code again counts once. `offline`: read without network and sent later. */
export function board(acting: Acting, sailing: string, code: string, offline = false): string {
  const { world, has } = acting
  const booking = bookingOf(acting, code)
  if (booking.sailing !== sailing && !has('other-sailing-boards'))
    refuseUnless(false, `This code is for the ${timeOf(sailingOf(booking).departs)}, not for this sailing.`)
  if (booking.state === 'boarded') {
    if (offline && has('offline-counts-twice')) booking.boardedEntries += booking.travellers.length
    return `${booking.code} is on board already.`
  }
  const ready = booking.state === 'checked in' || (booking.state === 'held' && has('held-is-boarded'))
  refuseUnless(ready, `This booking is ${booking.state}; it has to be checked in before it goes on board.`)
  booking.state = 'boarded'
  booking.boardedEntries = booking.travellers.length
  note(world, booking, 'boarded')
  return `${booking.code}: ${booking.travellers.length} on board.`
}

/** Everybody who is not checked in by the cut-off is a no-show, and their places are free. */
export function closeCheckIn(acting: Acting, sailing: string): number {
  const { world } = acting
  const late = bookingsOn(world, sailing).filter(
    (booking) => booking.state === 'paid' && world.now() > closes(acting, booking),
  )
  for (const booking of late) {
    booking.state = 'no-show'
    note(world, booking, 'no-show')
  }
  return late.length
}

export function sail(acting: Acting, sailing: string): number {
  const { world } = acting
  const departs = (sailingById(sailing)?.departs ?? 0) + delayOf(world, sailing) * 60_000
  refuseUnless(world.now() >= departs, `It leaves at ${timeOf(departs)}.`)
  const aboard = bookingsOn(world, sailing).filter(({ state }) => state === 'boarded')
  for (const booking of aboard) {
    booking.state = 'sailed'
    note(world, booking, 'sailed')
  }
  return aboard.length
}

/** Persons on board, for the master: each once, with what they need. */
export function passengerList(
  { world, has }: Acting,
  sailing: string,
): { name: string; code: string; needs: string }[] {
  const departs = sailingById(sailing)?.departs ?? 0
  const aboard = ({ state }: Booking) => state === 'boarded' || state === 'sailed'
  return bookingsOn(world, sailing)
    .filter(aboard)
    .flatMap(({ code, travellers, bookedAt }) =>
      travellers
        .filter(
          ({ born }) =>
            !has('infants-not-listed') || bandOf(born, { sails: departs, booked: bookedAt }, () => false) !== 'infant',
        )
        .map(({ name, wheelchair }) => ({ name, code, needs: wheelchair ? 'wheelchair' : '' })),
    )
    .sort((a, b) => a.name.localeCompare(b.name))
}

/** How many the ramp has counted. */
export const counted = ({ world }: Acting, sailing: string): number =>
  bookingsOn(world, sailing).reduce((sum, { boardedEntries }) => sum + boardedEntries, 0)
