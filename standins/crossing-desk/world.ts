import type { Build, Language } from './builds.ts'
import { beginning, day, hour, minute } from './clock.ts'
import { type Deck, emptyDeck } from './rules/deck.ts'
import type { FareLine } from './rules/fares.ts'
import type { Vehicle } from './rules/vehicles.ts'
import { type Port, type Sailing, sailingById } from './sailings.ts'

type BookingState =
  'held' | 'paid' | 'checked in' | 'boarded' | 'sailed' | 'cancelled' | 'refunded' | 'no-show' | 'lapsed'

export interface Traveller {
  readonly name: string
  readonly born: string
  /** Number of an island card, or empty. */
  readonly card: string
  readonly wheelchair: boolean
}
export interface Part {
  readonly by: 'card' | 'voucher' | 'account'
  readonly number: string
  readonly amount: number
}
export interface Booking {
  readonly code: string
  sailing: string
  back: string | null
  state: BookingState
  readonly bookedAt: number
  holdUntil: number
  email: string
  readonly language: Language
  travellers: Traveller[]
  vehicle: Vehicle | null
  pets: number
  bicycles: number
  /** Port of the clerk who sold it; `null`: booked by the passenger. */
  readonly soldAt: Port | null
  /** Sold at the ramp, after the booking of a sailing has ended. */
  readonly atQuay: boolean
  paid: Part[]
  returned: Part[]
  /** As it was when it was paid. */
  lines: FareLine[]
  boardedEntries: number
  log: { at: number; what: string }[]
  /** Names the form that pays it, so that one sent twice pays once. */
  readonly token: string
}

interface Charge {
  readonly number: string
  readonly at: number
  readonly code: string
  readonly card: string
  /** Negative: paid back. */
  readonly amount: number
}
export interface Voucher {
  readonly number: string
  balance: number
  readonly until: string
}
interface Account {
  readonly number: string
  readonly name: string
  readonly limit: number
  used: number
  readonly blocked: boolean
}
interface Message {
  readonly at: number
  readonly to: string
  readonly code: string
  readonly text: string
}

/** Everything one build of Crossing Desk knows, in memory. */
export interface World {
  readonly build: Build
  now: () => number
  /** From then on the clock stands, so that an instant can be met exactly, until it is let run. */
  setClock: (at: number) => void
  letRun: () => void
  isRunning: () => boolean
  readonly bookings: Map<string, Booking>
  readonly decks: Map<string, Deck>
  readonly delays: Map<string, number>
  /** Sailings that were cancelled, and when. */
  readonly cancelled: Map<string, number>
  readonly ended: Set<string>
  readonly charges: Charge[]
  readonly vouchers: Map<string, Voucher>
  readonly accounts: Map<string, Account>
  readonly messages: Message[]
  signIns: number
  nextCode: number
}

const capacity = { places: 120, pets: 12, bicycles: 30, wheelchairs: 2 } as const

export const islandCards: Readonly<Record<string, { readonly until: string }>> = {
  'TA-1001': { until: '2027-12-31' },
  'TA-1002': { until: '2026-12-31' },
  'TA-1003': { until: '2026-04-30' },
  'LS-2001': { until: '2027-06-30' },
}

export const testCards = {
  '4000000000000077': 'takes every amount',
  '4000000000000085': 'takes every amount, another card',
  '4000000000000002': 'declines',
  '4000000000000119': 'takes the amount, but its answer is lost',
} as const

const vouchers = (): Voucher[] => [
  { number: 'TV44102207', balance: 6000, until: '2026-06-30' },
  { number: 'TV44102215', balance: 500, until: '2026-06-30' },
  { number: 'TV44109911', balance: 2000, until: '2026-05-12' },
  { number: 'TV44100042', balance: 2000, until: '2026-05-11' },
  { number: 'TV44105550', balance: 0, until: '2026-12-31' },
]
const accounts = (): Account[] => [
  { number: 'A-17', name: 'Harbour Freight', limit: 50_000, used: 12_000, blocked: false },
  { number: 'A-22', name: 'Skerrin Fish', limit: 6000, used: 5000, blocked: false },
  { number: 'A-31', name: 'Old Quay Works', limit: 20_000, used: 0, blocked: true },
]

/** The known state, which one call brings back. */
export function newWorld(build: Build): World {
  let from = beginning
  /** `null`: the clock stands. */
  let since: number | null = Date.now()
  const now = (): number => from + (since === null ? 0 : Date.now() - since)
  const world: World = {
    build,
    now,
    setClock: (at) => {
      from = at
      since = null
    },
    letRun: () => {
      from = now()
      since = Date.now()
    },
    isRunning: () => since !== null,
    bookings: new Map(),
    decks: new Map(),
    delays: new Map(),
    cancelled: new Map(),
    ended: new Set(),
    charges: [],
    vouchers: new Map(vouchers().map((each) => [each.number, each])),
    accounts: new Map(accounts().map((each) => [each.number, each])),
    messages: [],
    signIns: 0,
    nextCode: 1001,
  }
  for (const known of knownBookings) addKnown(world, known)
  return world
}

type Known = Pick<Booking, 'sailing'> & Partial<Omit<Booking, 'code' | 'sailing'>>
const adult = (name: string, born = '1984-03-02'): Traveller => ({ name, born, card: '', wheelchair: false })
const known = (sailing: string, names: readonly string[], more: Partial<Booking> = {}): Known => ({
  sailing,
  travellers: names.map((name) => adult(name)),
  ...more,
})
const wednesday = '260513'
const knownBookings: readonly Known[] = [
  known(`OVTA-${wednesday}-1040`, ['Lena Moor', 'Pim Moor'], { email: 'lena@tarnsey.example' }),
  known(`OVTA-${wednesday}-1040`, ['Osk Brandt'], { soldAt: 'OV', email: 'osk@tarnsey.example' }),
  known(`OVTA-${wednesday}-1040`, ['Ida Holm'], { soldAt: 'OV', atQuay: true, email: 'ida@tarnsey.example' }),
  known(`OVTA-${wednesday}-1420`, ['Jon Vik'], { pets: 12, email: 'jon@tarnsey.example' }),
  known(`OVTA-${wednesday}-1750`, ['Mads Lien'], { bicycles: 30, email: 'mads@tarnsey.example' }),
  known(`TAOV-${wednesday}-1135`, ['Siri Aas', 'Ola Aas'], { soldAt: 'TA', email: 'siri@tarnsey.example' }),
  known('OVTA-260512-1040', ['Nora Dale'], { soldAt: 'OV', email: 'nora@tarnsey.example' }),
]

function addKnown(world: World, of: Known): void {
  const code = `TF-${world.nextCode++}`
  const at = beginning - 2 * day
  const travellers = of.travellers ?? []
  const amount = 900 * travellers.length + 300 * (of.pets ?? 0) + 200 * (of.bicycles ?? 0)
  const card = '4000000000000077'
  world.charges.push({ number: `B-${world.charges.length + 1}`, at, code, card, amount })
  world.bookings.set(code, {
    code,
    back: null,
    state: 'paid',
    bookedAt: at - hour,
    holdUntil: at - 40 * minute,
    email: '',
    language: 'en',
    vehicle: null,
    pets: 0,
    bicycles: 0,
    soldAt: null,
    atQuay: false,
    paid: [{ by: 'card', number: card, amount }],
    returned: [],
    lines: travellers.map(({ name }) => ({ what: `${name} (adult)`, full: 900, reduction: null, amount: 900 })),
    boardedEntries: 0,
    log: [
      { at: at - hour, what: 'held' },
      { at, what: 'paid' },
    ],
    token: `known-${code}`,
    ...of,
    travellers,
  })
}

export const deckOf = (world: World, sailing: string): Deck => world.decks.get(sailing) ?? emptyDeck
export const delayOf = (world: World, sailing: string): number => world.delays.get(sailing) ?? 0

/** The sailing a booking is for. */
export function sailingOf({ sailing }: Pick<Booking, 'sailing'>): Sailing {
  const found = sailingById(sailing)
  if (!found) throw new Error(`there is no sailing ${sailing}`)
  return found
}

/** States in which a booking has its places. */
const takes: readonly BookingState[] = ['held', 'paid', 'checked in', 'boarded', 'sailed']

export const bookingsOn = (world: World, sailing: string): Booking[] =>
  [...world.bookings.values()].filter((each) => each.sailing === sailing && takes.includes(each.state))

export type Room = Record<keyof typeof capacity, number>

/** What is left of a sailing, without what one booking has. */
export function roomOn(world: World, sailing: string, except = ''): Room {
  const room: Room = { ...capacity }
  for (const each of bookingsOn(world, sailing)) {
    if (each.code === except) continue
    room.places -= each.travellers.length
    room.pets -= each.pets
    room.bicycles -= each.bicycles
    room.wheelchairs -= each.travellers.filter(({ wheelchair }) => wheelchair).length
  }
  return room
}
