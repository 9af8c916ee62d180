import type { Quirks } from '../faults.ts'
import { carDeckHeight, lengthBand, type Vehicle, weightOf, wholeLength } from './vehicles.ts'

export interface Lane {
  readonly name: string
  /** In cm. */
  readonly metres: number
  readonly height: number
  readonly side: 'port' | 'middle' | 'starboard'
  readonly for: 'cars' | 'freight' | 'motorcycles'
  /** The passengers' stairs end beside it. */
  readonly stairs?: true
}

/** Of every ship of the line: a car deck, a freight deck, and a lane for motorcycles. */
export const lanes: readonly Lane[] = [
  { name: 'C1', metres: 2400, height: carDeckHeight, side: 'port', for: 'cars' },
  { name: 'C2', metres: 2400, height: carDeckHeight, side: 'starboard', for: 'cars' },
  { name: 'C3', metres: 2400, height: carDeckHeight, side: 'middle', for: 'cars' },
  { name: 'F2', metres: 3600, height: 450, side: 'middle', for: 'freight', stairs: true },
  { name: 'F1', metres: 3600, height: 450, side: 'port', for: 'freight' },
  { name: 'F3', metres: 3600, height: 450, side: 'starboard', for: 'freight' },
  { name: 'M', metres: 1200, height: 450, side: 'middle', for: 'motorcycles' },
]

export interface Placed {
  /** Code of the booking. */
  readonly code: string
  readonly vehicle: Vehicle
  readonly lane: string
  /** Where its trailer stands, if it is not behind it. */
  readonly trailerLane: string | null
  readonly part: 'bow' | 'aft'
  readonly to: string
}

export interface Deck {
  readonly placed: readonly Placed[]
  readonly closed: readonly string[]
  /** Weight of each side as it was worked out last, in kg. */
  readonly known: Readonly<Record<'port' | 'starboard', number>>
}

const gap = 30
const goodsGap = 600
/** What the ship weighs on each side and in the bow before anything is on it, in kg. */
const ship = { side: 20_000, bow: 12_000 }
const most = { side: 0.55, bow: 0.4 }

interface Standing {
  readonly length: number
  readonly goods: boolean
}

/** Lengths that stand in a lane, trailers with their vehicles unless they are elsewhere. */
const standingIn = (deck: Deck, lane: string): Standing[] =>
  deck.placed.flatMap(({ vehicle, lane: own, trailerLane }) => [
    ...(own === lane
      ? [{ length: trailerLane === null ? wholeLength(vehicle) : vehicle.length, goods: vehicle.goods !== null }]
      : []),
    ...(trailerLane === lane ? [{ length: vehicle.trailer, goods: false }] : []),
  ])

/** What so many take: their lengths and the gaps between neighbours; goods keep 6 m between them. */
function taken(standing: readonly Standing[], has: Quirks): number {
  const gaps = standing.slice(1).map((each, at) => {
    const both = each.goods && (standing[at]?.goods ?? false)
    return both && !has('goods-close-together') ? goodsGap : gap
  })
  const counted = has('last-gap-left-out') ? gaps.slice(0, -1) : gaps
  return [...standing.map(({ length }) => length), ...counted].reduce((sum, each) => sum + each, 0)
}

export const freeIn = (deck: Deck, lane: Lane, has: Quirks): number =>
  lane.metres - taken(standingIn(deck, lane.name), has)

function fits(deck: Deck, lane: Lane, more: Standing, has: Quirks): boolean {
  const needed = taken([...standingIn(deck, lane.name), more], has)
  return has('lane-rounds') ? Math.round(needed / 10) <= Math.round(lane.metres / 10) : needed <= lane.metres
}

const laneNamed = (name: string): Lane | undefined => lanes.find((lane) => lane.name === name)

/** Share of each side, the ship itself counted, and of the bow. */
export function shares(deck: Deck, has: Quirks): { port: number; starboard: number; bow: number } {
  const weight = { port: ship.side, starboard: ship.side, bow: ship.bow }
  for (const { vehicle, lane, part } of deck.placed) {
    const own = weightOf(vehicle, has)
    const side = laneNamed(lane)?.side ?? 'middle'
    if (side === 'middle') {
      weight.port += own / 2
      weight.starboard += own / 2
    } else weight[side] += own
    if (part === 'bow') weight.bow += own
  }
  const all = weight.port + weight.starboard
  return { port: weight.port / all, starboard: weight.starboard / all, bow: weight.bow / all }
}

/** To a tenth of a per cent, as it is told. */
export const percent = (share: number): number => Math.round(share * 1000) / 10

/** Whether a lane is one this vehicle may stand in at all. */
function mayStand(lane: Lane, vehicle: Vehicle, deck: Deck, has: Quirks): boolean {
  if (deck.closed.includes(lane.name) && !has('closed-lane-taken')) return false
  if (vehicle.goods !== null && lane.stairs && !has('goods-at-the-stairs')) return false
  if (vehicle.kind === 'motorcycle') return lane.for === 'motorcycles'
  if (lane.for === 'motorcycles' || vehicle.height > lane.height) return false
  if (vehicle.kind === 'coach') return lane.for === 'freight' && lane.side === 'middle'
  const band = lengthBand(vehicle, has)
  const long = band === 'freight' || (band === 'large' && vehicle.kind !== 'car')
  const freight = vehicle.kind === 'freight' || long || vehicle.height > carDeckHeight
  return freight ? lane.for === 'freight' : lane.for === 'cars'
}

/** Each side in its bounds once this one stands there; with a stale sum what left is counted still. */
function balanced(deck: Deck, more: Placed, has: Quirks): boolean {
  const next = { ...deck, placed: [...deck.placed, more] }
  const limit = percent(most.side)
  if (has('side-not-worked-out-again')) {
    const own = weightOf(more.vehicle, has)
    const side = laneNamed(more.lane)?.side ?? 'middle'
    const port = deck.known.port + (side === 'port' ? own : side === 'middle' ? own / 2 : 0)
    const starboard = deck.known.starboard + (side === 'starboard' ? own : side === 'middle' ? own / 2 : 0)
    return percent(Math.max(port, starboard) / (port + starboard)) <= limit
  }
  const { port, starboard } = shares(next, has)
  return percent(port) <= limit && percent(starboard) <= limit
}

const bowLimit = (has: Quirks): number => percent(most.bow) + (has('bow-limit-loose') ? 2 : 0)

/** In the bow as long as its limit allows, else aft. */
function inItsPart(deck: Deck, more: Placed, has: Quirks): Placed {
  const { bow } = shares({ ...deck, placed: [...deck.placed, more] }, has)
  return percent(bow) <= bowLimit(has) ? more : { ...more, part: 'aft' }
}

/** Classes that never sail together. */
const parted = (deck: Deck, { goods }: Vehicle, has: Quirks): boolean => {
  if (goods === null || has('class-1-with-class-3')) return false
  const other = goods === '1' ? '3' : goods === '3' ? '1' : null
  return other !== null && deck.placed.some(({ vehicle }) => vehicle.goods === other)
}

/** A place for a vehicle, or why there is none. */
export function placeOf(
  deck: Deck,
  of: { readonly code: string; readonly vehicle: Vehicle; readonly to: string },
  has: Quirks,
): Placed | string {
  const { vehicle } = of
  if (vehicle.goods !== null && !vehicle.declared)
    return 'Dangerous goods need their declaration; the vehicle cannot be taken without.'
  if (parted(deck, vehicle, has)) return 'Goods of class 1 and of class 3 never sail together. Choose another sailing.'
  const allowed = lanes.filter((lane) => mayStand(lane, vehicle, deck, has))
  if (allowed.length === 0) return `No lane of this ship takes a ${vehicle.kind} of this height.`
  const whole = { length: wholeLength(vehicle), goods: vehicle.goods !== null }
  const split = vehicle.trailer > 0 && has('trailer-in-another-lane')
  for (const lane of allowed) {
    if (!fits(deck, lane, split ? { ...whole, length: vehicle.length } : whole, has)) continue
    const trailerLane = split ? (allowed.find(({ name }) => name !== lane.name)?.name ?? null) : null
    const standing = inItsPart(deck, { ...of, lane: lane.name, trailerLane, part: 'bow' }, has)
    if (balanced(deck, standing, has)) return standing
  }
  return 'No lane has room for this vehicle on this sailing, or one side of the ship would carry too much.'
}

/** The deck once a vehicle has left it. */
export function without(deck: Deck, code: string, has: Quirks): Deck {
  const placed = deck.placed.filter((each) => each.code !== code)
  return { ...deck, placed, known: has('side-not-worked-out-again') ? deck.known : sidesOf(placed, has) }
}
export const withPlaced = (deck: Deck, more: Placed, has: Quirks): Deck => {
  const placed = [...deck.placed.filter(({ code }) => code !== more.code), more]
  return { ...deck, placed, known: sidesOf(placed, has) }
}

function sidesOf(placed: readonly Placed[], has: Quirks): Deck['known'] {
  const known = { port: ship.side, starboard: ship.side }
  for (const { vehicle, lane } of placed) {
    const own = weightOf(vehicle, has)
    const side = laneNamed(lane)?.side ?? 'middle'
    if (side !== 'starboard') known.port += side === 'middle' ? own / 2 : own
    if (side !== 'port') known.starboard += side === 'middle' ? own / 2 : own
  }
  return known
}
export const emptyDeck: Deck = { placed: [], closed: [], known: { port: ship.side, starboard: ship.side } }

/** In which order vehicles leave: those for the nearer port first, the last on before the others. */
export const leavingOrder = ({ placed }: Deck): Placed[] =>
  [...placed].reverse().sort((a, b) => Number(b.to === 'TA') - Number(a.to === 'TA'))
