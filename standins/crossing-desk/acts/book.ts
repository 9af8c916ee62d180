import { randomUUID } from 'node:crypto'
import { setTimeout as wait } from 'node:timers/promises'
import type { Language } from '../builds.ts'
import { dayOf, isDay, leftText } from '../clock.ts'
import type { Quirks } from '../faults.ts'
import { placeOf, withPlaced, without } from '../rules/deck.ts'
import { fareOf, type FareLine, totalOf } from '../rules/fares.ts'
import { holdEnds } from '../rules/times.ts'
import { carDeckHeight, lengthBand, type Vehicle } from '../rules/vehicles.ts'
import { type Port, type Sailing, sailingById } from '../sailings.ts'
import { type Booking, deckOf, islandCards, roomOn, sailingOf, type Traveller, type World } from '../world.ts'
import { Refused, refuseUnless } from './refused.ts'

export interface Acting {
  readonly world: World
  readonly has: Quirks
}

export const note = (world: World, booking: Booking, what: string): void =>
  void booking.log.push({ at: world.now(), what })

/** Held places whose time is over are free again for everybody. */
export function letLapse({ world, has }: Acting): void {
  for (const booking of world.bookings.values())
    if (booking.state === 'held' && world.now() >= booking.holdUntil) {
      booking.state = 'lapsed'
      world.decks.set(booking.sailing, without(deckOf(world, booking.sailing), booking.code, has))
      note(world, booking, 'the hold ended')
    }
}

export function bookingOf({ world }: Acting, code: string): Booking {
  const found = world.bookings.get(code.trim().toUpperCase())
  if (!found) throw new Refused(`There is no booking ${code.trim() || 'without a code'}.`)
  return found
}

/** One that may still be put together. */
export function heldOf(acting: Acting, code: string): Booking {
  letLapse(acting)
  const booking = bookingOf(acting, code)
  refuseUnless(booking.state !== 'lapsed', 'The hold has ended and the place is free again. Choose a sailing anew.')
  refuseUnless(booking.state === 'held', `This booking is ${booking.state}; it cannot be changed here.`)
  return booking
}

interface Holding {
  readonly sailing: string
  readonly language: Language
  readonly soldAt: Port | null
  readonly atQuay?: boolean
  readonly email?: string
}

/** Holds a place from the first choice on, for twenty minutes. */
export function hold(acting: Acting, { sailing: id, atQuay = false, email = '', ...of }: Holding): Booking {
  const { world, has } = acting
  letLapse(acting)
  const sailing = openSailing(world, id)
  refuseUnless(roomOn(world, id).places > 0, 'This sailing is full. Choose another, or put yourself on its wait-list.')
  const now = world.now()
  const booking: Booking = {
    code: `TF-${world.nextCode++}`,
    sailing: sailing.id,
    back: null,
    state: 'held',
    bookedAt: now,
    holdUntil: holdEnds(now, has),
    email,
    travellers: [],
    vehicle: null,
    pets: 0,
    bicycles: 0,
    atQuay,
    paid: [],
    returned: [],
    lines: [],
    boardedEntries: 0,
    log: [{ at: now, what: `held until ${leftText(holdEnds(now, has) - now)} from now` }],
    token: randomUUID(),
    ...of,
  }
  world.bookings.set(booking.code, booking)
  return booking
}

export function openSailing(world: World, id: string): Sailing {
  const sailing = sailingById(id)
  if (!sailing) throw new Refused('There is no such sailing.')
  refuseUnless(!world.cancelled.has(id), 'This sailing is cancelled because of the weather. Choose another.')
  refuseUnless(sailing.departs > world.now(), 'This sailing has left already.')
  return sailing
}

/** Island cards of every island count everywhere, until their last day. */
function refuseCard(card: string, sails: Sailing, has: Quirks): void {
  const known = islandCards[card]
  if (!known || (has('other-island-refused') && !card.startsWith('TA')))
    throw new Refused(`There is no island card ${card}.`)
  refuseUnless(
    known.until >= dayOf(sails.departs) || has('expired-card-taken'),
    `Island card ${card} ended on ${known.until}.`,
  )
}

function addTraveller(acting: Acting, code: string, who: Traveller): void {
  const { world, has } = acting
  const booking = heldOf(acting, code)
  const sailing = sailingOf(booking)
  refuseUnless(who.name.trim() !== '', 'Write a name.')
  refuseUnless(isDay(who.born), 'Write the date of birth like 2019-05-12.')
  refuseUnless(
    who.born <= dayOf(sailing.departs) || has('birth-in-future'),
    'The date of birth is after the day of sailing.',
  )
  if (who.card !== '') refuseCard(who.card, sailing, has)
  const room = roomOn(world, booking.sailing)
  refuseUnless(room.places > 0, 'There is no place left on this sailing.')
  refuseUnless(!who.wheelchair || room.wheelchairs > 0, 'There is no place for a wheelchair left on this sailing.')
  booking.travellers.push({ ...who, name: who.name.trim() })
}

/** The same where a place for a wheelchair is looked for and taken at different moments: under load others take it in between. */
export async function seat(acting: Acting, code: string, who: Traveller): Promise<void> {
  if (!acting.has('overbooked-under-load') || !who.wheelchair) return addTraveller(acting, code, who)
  addTraveller(acting, code, { ...who, wheelchair: false })
  const booking = heldOf(acting, code)
  const { wheelchairs } = roomOn(acting.world, booking.sailing)
  await wait(40)
  const at = booking.travellers.length - 1
  refuseUnless(wheelchairs > 0, 'There is no place for a wheelchair left on this sailing.')
  booking.travellers[at] = { ...booking.travellers[at]!, wheelchair: true }
}

export function removeTraveller(acting: Acting, code: string, at: number): void {
  heldOf(acting, code).travellers.splice(at, 1)
}

export function setVehicle(acting: Acting, code: string, vehicle: Vehicle | null): void {
  const { world, has } = acting
  const booking = heldOf(acting, code)
  const deck = without(deckOf(world, booking.sailing), code, has)
  if (vehicle === null) {
    booking.vehicle = null
    world.decks.set(booking.sailing, deck)
    return
  }
  refuseUnless(
    lengthBand(vehicle, has) !== 'freight' || vehicle.kind === 'freight',
    'Longer than 9 m is freight: choose freight, or ask the office for a quote.',
  )
  refuseUnless(
    lengthBand(vehicle, has) !== 'freight' || booking.soldAt !== null,
    'Freight longer than 9 m asks for a quote: call the office.',
  )
  refuseUnless(
    vehicle.kind !== 'car' || vehicle.height <= carDeckHeight,
    'The car deck is 2.10 m high: this car cannot be placed there. Choose van or camper.',
  )
  const placed = placeOf(deck, { code, vehicle, to: sailingOf(booking).to }, has)
  if (typeof placed === 'string') throw new Refused(placed)
  world.decks.set(booking.sailing, withPlaced(deck, placed, has))
  booking.vehicle = vehicle
}

export function setExtras(
  acting: Acting,
  code: string,
  of: { readonly pets: number; readonly bicycles: number },
): void {
  const { world, has } = acting
  const booking = heldOf(acting, code)
  const room = roomOn(world, booking.sailing, code)
  const pets = room.pets + (has('thirteenth-pet') ? 1 : 0)
  refuseUnless(of.pets <= pets, `There are ${Math.max(0, room.pets)} places for pets left on this sailing.`)
  refuseUnless(
    of.bicycles <= room.bicycles,
    `There are ${Math.max(0, room.bicycles)} places for bicycles left; the next sailing may have more.`,
  )
  Object.assign(booking, of)
}

export function setReturn(acting: Acting, code: string, back: string | null): void {
  const booking = heldOf(acting, code)
  if (back === null) {
    booking.back = null
    return
  }
  const [out, way] = [sailingOf(booking), openSailing(acting.world, back)]
  refuseUnless(way.from === out.to && way.to === out.from, 'A return goes the other way between the same ports.')
  refuseUnless(way.departs > out.arrives, 'A return leaves after the outward sailing has arrived.')
  booking.back = back
}

/** What a booking costs, the outward way and the return each by its own sailing. */
export function linesOf({ has }: Pick<Acting, 'has'>, booking: Booking): FareLine[] {
  const [out, back] = [sailingOf(booking), booking.back === null ? null : (sailingById(booking.back) ?? null)]
  const of = {
    passengers: booking.travellers.map(({ name, born, card }) => ({ name, born, islander: card !== '' })),
    vehicle: booking.vehicle,
    pets: booking.pets,
    bicycles: booking.bicycles,
    booked: booking.bookedAt,
  }
  return [
    ...fareOf({ ...of, sailing: out, other: back }, has),
    ...(back ? fareOf({ ...of, sailing: back, other: out }, has) : []),
  ]
}
export const costOf = (acting: Pick<Acting, 'has'>, booking: Booking): number => totalOf(linesOf(acting, booking))
