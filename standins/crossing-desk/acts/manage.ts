import { hour } from '../clock.ts'
import { placeOf, withPlaced, without } from '../rules/deck.ts'
import { totalOf } from '../rules/fares.ts'
import { backPercent, closesAt } from '../rules/times.ts'
import type { Sailing } from '../sailings.ts'
import { sailingsOn } from '../sailings.ts'
import { dayOf } from '../clock.ts'
import { type Booking, deckOf, delayOf, type Part, roomOn, sailingOf, type World } from '../world.ts'
import { type Acting, bookingOf, costOf, linesOf, note, openSailing } from './book.ts'
import { charge } from './pay.ts'
import { Refused, refuseUnless } from './refused.ts'

/** One that was paid and has not gone on board. */
function paidOf(acting: Acting, code: string): Booking {
  const booking = bookingOf(acting, code)
  refuseUnless(
    booking.state === 'paid' || booking.state === 'checked in',
    `This booking is ${booking.state}; there is nothing to change.`,
  )
  return booking
}

export const closes = ({ world, has }: Acting, booking: Booking): number => {
  const { departs } = sailingOf(booking)
  return closesAt({ departs, delay: delayOf(world, booking.sailing), withVehicle: booking.vehicle !== null }, has)
}

/** Its vehicle stands on the other sailing, or it is refused. */
function moveVehicle({ world, has }: Acting, booking: Booking, to: Sailing): void {
  if (!booking.vehicle) return
  const placed = placeOf(deckOf(world, to.id), { code: booking.code, vehicle: booking.vehicle, to: to.to }, has)
  if (typeof placed === 'string') throw new Refused(`The vehicle cannot go along: ${placed}`)
  world.decks.set(booking.sailing, without(deckOf(world, booking.sailing), booking.code, has))
  world.decks.set(to.id, withPlaced(deckOf(world, to.id), placed, has))
}

function refuseFull(world: World, booking: Booking, to: Sailing): void {
  const room = roomOn(world, to.id)
  const fits =
    room.places >= booking.travellers.length && room.pets >= booking.pets && room.bicycles >= booking.bicycles
  refuseUnless(fits, 'This sailing has no room for all of you.')
}

/** Moves a paid booking to another sailing against the difference; answers it, negative where it was given back. */
export function change(acting: Acting, code: string, to: string): number {
  const { world, has } = acting
  const booking = paidOf(acting, code)
  refuseUnless(
    world.now() <= closes(acting, booking) || has('change-after-cut-off'),
    'Check-in of this sailing has closed; the booking can no longer be changed.',
  )
  const [from, sailing] = [sailingOf(booking), openSailing(world, to)]
  refuseUnless(sailing.from === from.from && sailing.to === from.to, 'Choose a sailing between the same ports.')
  refuseFull(world, booking, sailing)
  const before = totalOf(booking.paid)
  moveVehicle(acting, booking, sailing)
  booking.sailing = sailing.id
  const difference = costOf(acting, booking) - before
  settle(world, booking, difference)
  booking.lines = linesOf(acting, booking)
  booking.state = 'paid'
  note(world, booking, `moved to ${sailing.id}`)
  return difference
}

/** The card that paid pays the difference, or gets it. */
function settle(world: World, booking: Booking, difference: number): void {
  if (difference === 0) return
  const card = booking.paid.find(({ by }) => by === 'card')
  charge(world, { code: booking.code, card: card?.number ?? 'office', amount: difference })
  booking.paid = [...booking.paid, { by: 'card', number: card?.number ?? 'office', amount: difference }]
}

/** Gives parts back the way they came, the voucher first. */
function giveBack(acting: Acting, booking: Booking, amount: number): Part[] {
  const { world, has } = acting
  const order = { voucher: 0, account: 1, card: 2 }
  const parts: Part[] = []
  let left = amount
  for (const part of [...booking.paid].sort((a, b) => order[a.by] - order[b.by])) {
    const back = Math.min(left, Math.max(0, part.amount))
    if (back === 0) continue
    left -= back
    const as = part.by === 'card' && has('refund-as-voucher') ? 'voucher' : part.by
    parts.push({ ...part, by: as, amount: back, number: as === 'voucher' ? newVoucher(world, back) : part.number })
    if (as === 'card') charge(world, { code: booking.code, card: part.number, amount: -back })
    const account = as === 'account' ? world.accounts.get(part.number) : undefined
    if (account) account.used -= back
  }
  return parts
}

function newVoucher(world: World, balance: number): string {
  const number = `TV4490${String(world.vouchers.size + 1000)}`
  world.vouchers.set(number, { number, balance, until: '2027-05-12' })
  return number
}

function leave({ world, has }: Acting, booking: Booking, state: 'cancelled' | 'refunded'): void {
  world.decks.set(booking.sailing, without(deckOf(world, booking.sailing), booking.code, has))
  booking.state = state
  note(world, booking, state)
}

/** Cancels a booking; answers what is given back. */
export function cancel(acting: Acting, code: string): number {
  const { world, has } = acting
  const booking = bookingOf(acting, code)
  if (booking.state === 'held') {
    leave(acting, booking, 'cancelled')
    return 0
  }
  const paid = paidOf(acting, code)
  const percent = backPercent(world.now(), sailingOf(paid).departs, has)
  const amount = Math.round((totalOf(paid.paid) * percent) / 100)
  paid.returned.push(...giveBack(acting, paid, amount))
  leave(acting, paid, 'cancelled')
  return amount
}

/** The whole fare of a sailing that the weather cancelled. */
export function refund(acting: Acting, code: string): number {
  const { world, has } = acting
  const booking = bookingOf(acting, code)
  refuseUnless(world.cancelled.has(booking.sailing), 'This sailing is not cancelled; cancel the booking instead.')
  const again = booking.state === 'refunded'
  refuseUnless(!again || has('refund-twice'), 'This booking was refunded already.')
  refuseUnless(again || booking.state === 'paid' || booking.state === 'checked in', `This booking is ${booking.state}.`)
  const amount = totalOf(booking.paid)
  booking.returned.push(...giveBack(acting, booking, amount))
  leave(acting, booking, 'refunded')
  return amount
}

/** Other sailings of that day and the next that have room for all of them. */
export function rebookable(acting: Acting, booking: Booking): Sailing[] {
  const { world } = acting
  const { from, to, departs } = sailingOf(booking)
  return [departs, departs + 24 * hour]
    .flatMap((at) => sailingsOn(from, to, dayOf(at)))
    .filter(({ id, departs: leaves }) => {
      const room = roomOn(world, id)
      const open = leaves > world.now() && !world.cancelled.has(id) && id !== booking.sailing
      return open && room.places >= booking.travellers.length && room.pets >= booking.pets
    })
}

const rebookingFee = 300

/** Moves a booking of a cancelled sailing to another, with nothing to pay. */
export function rebook(acting: Acting, code: string, to: string): number {
  const { world, has } = acting
  const booking = paidOf(acting, code)
  refuseUnless(world.cancelled.has(booking.sailing), 'This sailing is not cancelled; change the booking instead.')
  const sailing = rebookable(acting, booking).find(({ id }) => id === to)
  if (!sailing) throw new Refused('This sailing has no room for all of you.')
  moveVehicle(acting, booking, sailing)
  booking.sailing = sailing.id
  const cost = has('rebooking-costs') ? rebookingFee : 0
  settle(world, booking, cost)
  note(world, booking, `rebooked to ${sailing.id}`)
  return cost
}
