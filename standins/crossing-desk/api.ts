import { bookingOf, costOf, hold, letLapse, linesOf, seat, setExtras, setReturn, setVehicle } from './acts/book.ts'
import { pay } from './acts/pay.ts'
import { Refused } from './acts/refused.ts'
import { dayOf, isDay, minute } from './clock.ts'
import { percent, shares } from './rules/deck.ts'
import type { Vehicle } from './rules/vehicles.ts'
import { ports, type Port, sailingsOn } from './sailings.ts'
import type { Seen } from './seen.ts'
import { type Booking, deckOf, roomOn, type Traveller } from './world.ts'

// Beside the pages, for machines: the same acts, without the words around them.

export interface ApiAsked {
  readonly method: string
  readonly path: string
  readonly body: string
  readonly fresh: () => void
}
interface Answer {
  readonly status: number
  readonly body: unknown
}

export async function answerApi(of: Seen, asked: ApiAsked): Promise<Answer> {
  try {
    return { status: 200, body: await answered(of, asked) }
  } catch (error) {
    if (error instanceof Refused) return { status: 422, body: { refused: error.message } }
    if (error instanceof SyntaxError) return { status: 400, body: { refused: 'This is no JSON.' } }
    throw error
  }
}

async function answered(of: Seen, { method, path, body, fresh }: ApiAsked): Promise<unknown> {
  letLapse(of)
  const given = body === '' ? {} : Object(JSON.parse(body))
  const [, , what = '', code = ''] = path.split('/')
  if (method === 'POST' && what === 'reset') return (fresh(), { ok: true })
  if (method === 'POST' && what === 'clock') return clock(of, given)
  if (method === 'POST' && what === 'bookings') return book(of, given)
  if (what === 'bookings') return told(of, bookingOf(of, code))
  if (what === 'sailings') return sailings(of)
  if (what === 'deck') return { ...deckOf(of.world, code), shares: shared(of, code) }
  if (what === 'charges') return { charges: of.world.charges.filter((each) => code === '' || each.code === code) }
  if (what === 'messages') return { messages: of.world.messages }
  throw new Refused('There is no such address.')
}

function clock({ world }: Seen, { at, move }: { at?: string; move?: number }): unknown {
  if (at !== undefined) {
    const read = Date.parse(`${at}Z`)
    if (Number.isNaN(read)) throw new Refused('An instant is like 2026-05-12T10:40:00.')
    world.setClock(read)
  }
  if (move !== undefined) world.setClock(world.now() + Number(move) * minute)
  return { now: new Date(world.now()).toISOString().slice(0, 19) }
}

interface Wanted {
  readonly sailing?: string
  readonly back?: string
  readonly travellers?: readonly Partial<Traveller>[]
  readonly vehicle?: Partial<Vehicle>
  readonly pets?: number
  readonly bicycles?: number
  readonly card?: string
  readonly email?: string
  readonly sold?: Port
}

/** A whole booking at one go, paid where a card is given; one that is refused leaves nothing. */
async function book(of: Seen, wanted: Wanted): Promise<unknown> {
  const booking = hold(of, {
    sailing: wanted.sailing ?? '',
    language: of.looking.language,
    soldAt: wanted.sold ?? null,
    email: wanted.email ?? '',
  })
  try {
    const { code } = booking
    for (const who of wanted.travellers ?? []) await seat(of, code, travellerOf(who))
    if (wanted.vehicle) setVehicle(of, code, vehicleOf(wanted.vehicle))
    setExtras(of, code, { pets: wanted.pets ?? 0, bicycles: wanted.bicycles ?? 0 })
    if (wanted.back) setReturn(of, code, wanted.back)
    if (wanted.card) pay(of, code, { card: wanted.card, token: booking.token })
    return told(of, booking)
  } catch (error) {
    if (booking.state === 'held') of.world.bookings.delete(booking.code)
    throw error
  }
}

const travellerOf = (of: Partial<Traveller>): Traveller => ({
  name: 'Ada Lund',
  born: '1984-03-02',
  card: '',
  wheelchair: false,
  ...of,
})
const vehicleOf = (of: Partial<Vehicle>): Vehicle => ({
  kind: 'car',
  length: 440,
  height: 160,
  trailer: 0,
  weight: 0,
  goods: null,
  declared: false,
  ...of,
})

function told(of: Seen, booking: Booking): unknown {
  const placed = deckOf(of.world, booking.sailing).placed.find(({ code }) => code === booking.code)
  const { code, sailing, back, state, travellers, pets, bicycles, paid, returned, log } = booking
  const lines = booking.state === 'held' ? linesOf(of, booking) : booking.lines
  return {
    code,
    sailing,
    back,
    state,
    travellers,
    pets,
    bicycles,
    paid,
    returned,
    log,
    lines,
    cost: costOf(of, booking),
    placed,
  }
}

function sailings({ asked, world }: Seen): unknown {
  const named = (name: string) => ports.find((port) => port === asked.get(name))
  const [from, to, date] = [named('from') ?? 'OV', named('to') ?? 'TA', asked.get('date') ?? dayOf(world.now())]
  if (!isDay(date)) throw new Refused('A day is like 2026-05-12.')
  return { sailings: sailingsOn(from, to, date).map((each) => ({ ...each, room: roomOn(world, each.id) })) }
}

function shared(of: Seen, sailing: string) {
  const { port, starboard, bow } = shares(deckOf(of.world, sailing), of.has)
  return { port: percent(port), starboard: percent(starboard), bow: percent(bow) }
}
