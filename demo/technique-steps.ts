import type { DraftRow } from '#core/techniques/draft-row.ts'
import { beginning, timeOf } from '../standins/crossing-desk/clock.ts'
import { type FareLine, fareOf, totalOf } from '../standins/crossing-desk/rules/fares.ts'
import { centimetres, type Vehicle } from '../standins/crossing-desk/rules/vehicles.ts'
import { type Sailing, sailingsOn } from '../standins/crossing-desk/sailings.ts'
import type { WrittenCase } from './basis/read-basis.ts'

type Steps = WrittenCase['steps']
const step = (action: string, expected: string): Steps[number] => ({ action, expected, fault: null })
const use = (routine: string, ...values: string[]): Steps[number] => ({ routine, values })

const right = () => false
const money = (cents: number): string => (cents / 100).toFixed(2)
const sailing = (day: string, time: string): Sailing => {
  const found = sailingsOn('OV', 'TA', `2026-05-${day}`).find(({ departs }) => timeOf(departs) === time)
  if (!found) throw new Error(`no sailing at ${time}`)
  return found
}
const back = (): Sailing => sailingsOn('TA', 'OV', '2026-05-14')[1]!

interface Asked {
  readonly on: Sailing
  readonly born: string
  readonly islander?: boolean
  readonly others?: number
  readonly returns?: boolean
  readonly vehicle?: Vehicle | null
}
/** What Crossing Desk is to ask for, by its own rules and without any fault. */
function fare({ on, born, islander = false, others = 0, returns = false, vehicle = null }: Asked): FareLine[] {
  const company = Array.from({ length: others }, (_, at) => ({
    name: `Adult ${at + 2}`,
    born: '1984-03-02',
    islander: false,
  }))
  const passengers = [{ name: 'Kit Moor', born, islander }, ...company]
  return fareOf(
    { sailing: on, other: returns ? back() : null, passengers, vehicle, pets: 0, bicycles: 0, booked: beginning },
    right,
  )
}

const bornFor: Readonly<Record<string, string>> = { infant: '2025-09-01', child: '2016-01-01', adult: '1984-03-02' }

/** A rule of the fare table, on one sailing. */
export function fareSteps(row: DraftRow): Steps {
  const is = (name: string) => row[name] === 'yes'
  const on = is('off-peak') ? sailing('13', '06:30') : sailing('13', '10:40')
  const born = bornFor[row['passenger'] ?? 'adult'] ?? ''
  const others = is('group of ten') ? 9 : 0
  const [line] = fare({ on, born, islander: is('islander'), others, returns: is('return in 3 days') })
  const card = is('islander') ? ' with island card TA-1001' : ''
  return [
    use('Hold a place', 'Ovemouth', 'Tarnsey', 'Wed 13 May', is('off-peak') ? '06:30' : '10:40'),
    step(
      `Add Kit Moor, born ${born}${card}${others > 0 ? ', and nine adults' : ''}${is('return in 3 days') ? ', and choose the return on Thu 14 May' : ''}`,
      `The line of Kit Moor says ${row['passenger']}, ${line?.reduction ?? 'no reduction'} and ${money(line?.amount ?? 0)}`,
    ),
  ]
}

const vehicles: Readonly<Record<string, Pick<Vehicle, 'kind'> & { readonly length: string; readonly height: string }>> =
  {
    motorcycle: { kind: 'motorcycle', length: '2.20', height: '1.20' },
    car: { kind: 'car', length: '4.40', height: '1.60' },
    van: { kind: 'van', length: '5.20', height: '2.40' },
    camper: { kind: 'camper', length: '6.10', height: '2.90' },
  }
const payments: Readonly<Record<string, string>> = {
  card: 'card 4000 0000 0000 0077',
  voucher: 'voucher TV44102207 and card 4000 0000 0000 0077',
  account: 'account A-17',
}

/** One combination: who looks as what, books what, and pays how. */
export function comboSteps(row: DraftRow): Steps {
  const islander = row['concession'] === 'islander'
  const of = vehicles[row['vehicle'] ?? '']
  const cm = (text: string) => centimetres(text, right) ?? 0
  const vehicle = of
    ? {
        kind: of.kind,
        length: cm(of.length),
        height: cm(of.height),
        trailer: 0,
        weight: 0,
        goods: null,
        declared: false,
      }
    : null
  const offPeak = row['concession'] === 'off-peak'
  const total = money(
    totalOf(fare({ on: sailing('13', offPeak ? '20:30' : '14:20'), born: '1984-03-02', islander, vehicle })),
  )
  const comma = row['language'] === 'English' ? total : total.replace('.', ',')
  return [
    use('Known state'),
    step(
      `Look as ${row['engine']}, ${row['device']} on the test bench and choose ${row['language']} at the foot of the page`,
      `The page is in ${row['language']}`,
    ),
    use('Hold a place', 'Ovemouth', 'Tarnsey', 'Wed 13 May', offPeak ? '20:30' : '14:20'),
    step(
      `Add Kit Moor, born 1984-03-02${islander ? ', with island card TA-1001' : ''}${of ? `, and a ${of.kind} of ${of.length} m, ${of.height} m high` : ''}`,
      `The total is ${comma}`,
    ),
    step(
      `Pay the ${comma} by ${payments[row['payment'] ?? 'card']}`,
      `The receipt opens; ${row['payment']} stands on it`,
    ),
  ]
}

const events: Readonly<Record<string, Steps>> = {
  pay: [use('Pay by card', '4000 0000 0000 0077')],
  'run out': [use('Move the clock', '20')],
  cancel: [use('Cancel a booking')],
  'check in': [use('Check in at the quay', '10:24')],
  move: [use('Move a booking')],
  'miss the cut-off': [use('Close check-in', '10:26')],
  'weather takes it': [use('Cancel a sailing', 'the 10:40 of Tue 12 May to Tarnsey'), use('Refund after weather')],
  board: [use('Read a code at the ramp')],
  sail: [use('Let it sail', '10:40')],
}

/** The way of a booking from the hold to where it ends, one routine an event. */
export const pathSteps = (row: DraftRow): Steps => [
  use('Known state'),
  use('Hold a place', 'Ovemouth', 'Tarnsey', 'Tue 12 May', '10:40'),
  use('Add a traveller', 'Kit Moor', '1984-03-02'),
  ...[...(row['path'] ?? '').matchAll(/–(.*?)→/g)].flatMap(([, event = '']) => {
    const own = events[event]
    if (!own) throw new Error(`nobody knows how to ${event}`)
    return own
  }),
  use('See the state', /→ ([^→]*)$/.exec(row['path'] ?? '')?.[1] ?? ''),
]
