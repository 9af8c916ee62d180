import { hour, timeOf, weekdayOf } from '../clock.ts'
import type { Quirks } from '../faults.ts'
import type { Sailing } from '../sailings.ts'
import { type Band, bandOf } from './ages.ts'
import { type LengthBand, lengthBand, type Vehicle } from './vehicles.ts'

/** Amounts are in cents everywhere. */
const passengerFares: Readonly<Record<string, Readonly<Record<Band, number>>>> = {
  'OV-TA': { infant: 0, child: 450, adult: 900, senior: 700 },
  'TA-LS': { infant: 0, child: 300, adult: 600, senior: 450 },
  'OV-LS': { infant: 0, child: 600, adult: 1200, senior: 900 },
}
const vehicleFares: Readonly<Record<Exclude<LengthBand, 'freight'>, number>> = {
  motorcycle: 1100,
  small: 2900,
  middle: 3800,
  large: 6400,
}
const petFare = 300
const bicycleFare = 200
/** Nobody who pays pays less. */
export const lowestFare = 350
const groupOf = 10

/** In the order in which equal ones are named. */
export const reductions = ['islander', 'group', 'return', 'off-peak'] as const
export type Reduction = (typeof reductions)[number]
const percentOf: Readonly<Record<Reduction, number>> = { islander: 50, group: 20, return: 20, 'off-peak': 15 }

export interface FareLine {
  readonly what: string
  readonly full: number
  readonly reduction: Reduction | null
  readonly amount: number
}

interface Fared {
  readonly name: string
  readonly born: string
  readonly islander: boolean
}

export interface FareAsked {
  readonly sailing: Sailing
  /** The other way, where there is one. */
  readonly other: Sailing | null
  readonly passengers: readonly Fared[]
  readonly vehicle: Vehicle | null
  readonly pets: number
  readonly bicycles: number
  readonly booked: number
}

/** Before 07:00 and after 20:00, from Monday to Thursday. */
function isOffPeak(departs: number, has: Quirks): boolean {
  const time = timeOf(departs)
  const early = has('seven-is-off-peak') ? time <= '07:00' : time < '07:00'
  return weekdayOf(departs) <= 4 && (early || time > '20:00')
}

/** A return that sails within 72 hours of the outward arrival. */
function isShortReturn({ sailing, other }: Pick<FareAsked, 'sailing' | 'other'>, has: Quirks): boolean {
  if (!other) return false
  const [out, back] = sailing.departs < other.departs ? [sailing, other] : [other, sailing]
  const between = back.departs - out.arrives
  return has('return-below-72') ? between < 72 * hour : between <= 72 * hour
}

/** Those that hold for everybody of a booking. */
function shared(of: FareAsked, has: Quirks): Reduction[] {
  const least = has('group-of-nine') ? groupOf - 1 : groupOf
  return [
    ...(of.passengers.length >= least ? (['group'] as const) : []),
    ...(isShortReturn(of, has) ? (['return'] as const) : []),
    ...(isOffPeak(of.sailing.departs, has) ? (['off-peak'] as const) : []),
  ]
}

/** Only the largest is given; of equal ones the first of the list is named. */
export function largest(of: readonly Reduction[], has: Quirks): Reduction | null {
  const ordered = [...of].sort((a, b) => reductions.indexOf(a) - reductions.indexOf(b))
  if (has('equal-names-last')) ordered.reverse()
  return ordered.reduce<Reduction | null>(
    (best, each) => (best === null || percentOf[each] > percentOf[best] ? each : best),
    null,
  )
}

const lessen = (full: number, percent: number): number => Math.round((full * (100 - percent)) / 100)

function passengerLine(who: Fared, of: FareAsked, has: Quirks): FareLine {
  const band = bandOf(who.born, { sails: of.sailing.departs, booked: of.booked }, has)
  const full = passengerFares[of.sailing.route]?.[band] ?? 0
  const what = `${who.name} (${band})`
  if (full === 0) return { what, full, reduction: null, amount: 0 }
  const all: Reduction[] = [...(who.islander ? (['islander'] as const) : []), ...shared(of, has)]
  const given = largest(all, has)
  const less = given === null ? full : lessen(full, percentOf[given])
  const floor = has('below-lowest-fare') ? 0 : Math.min(full, lowestFare)
  const [, second = null] = [...all].sort((a, b) => percentOf[b] - percentOf[a])
  const smaller = second !== null && given !== null && percentOf[second] < percentOf[given]
  const named = smaller && has('receipt-names-second') ? second : given
  return { what, full, reduction: named, amount: Math.max(floor, less) }
}

/** An islander pays the small band at most; the other reductions hold for the vehicle by themselves. */
function vehicleLine(vehicle: Vehicle, of: FareAsked, has: Quirks): FareLine {
  const band = lengthBand(vehicle, has)
  const full = band === 'freight' ? 0 : vehicleFares[band]
  const what = `${vehicle.kind} (${band})`
  const given = largest(
    shared(of, has).filter((each) => each !== 'group'),
    has,
  )
  const less = given === null ? full : lessen(full, percentOf[given])
  const capped = of.passengers.some(({ islander }) => islander) ? Math.min(less, vehicleFares.small) : less
  return { what, full, reduction: capped < less ? 'islander' : given, amount: capped }
}

/** What a way costs, line by line. */
export function fareOf(of: FareAsked, has: Quirks): FareLine[] {
  const plain = (what: string, each: number, count: number): FareLine[] =>
    count === 0 ? [] : [{ what: `${count} ${what}`, full: each * count, reduction: null, amount: each * count }]
  return [
    ...of.passengers.map((who) => passengerLine(who, of, has)),
    ...(of.vehicle ? [vehicleLine(of.vehicle, of, has)] : []),
    ...plain('pets', petFare, of.pets),
    ...plain('bicycles', bicycleFare, of.bicycles),
  ]
}

export const totalOf = (lines: readonly Pick<FareLine, 'amount'>[]): number =>
  lines.reduce((sum, { amount }) => sum + amount, 0)
