import { isDay } from './clock.ts'
import * as book from './acts/book.ts'
import { cancel, change, rebook, refund } from './acts/manage.ts'
import { pay } from './acts/pay.ts'
import { board, checkIn, closeCheckIn, sail } from './acts/quay.ts'
import { Refused, refuseUnless } from './acts/refused.ts'
import { cancelSailing, takeBack } from './acts/weather.ts'
import { pageAt } from './pages.tsx'
import { centimetres, goodsClasses, kinds, type Vehicle } from './rules/vehicles.ts'
import { instant, minute } from './clock.ts'
import { amountIn, type Seen, staff, staffPassword, type Who } from './seen.ts'
import { deckOf } from './world.ts'

export interface Done {
  readonly to: string
  readonly told?: string
  /** Shown at once, without leading on. */
  readonly page?: string
  /** Kept in the browser. */
  readonly keep?: Readonly<Record<string, string>>
  readonly reset?: boolean
}

type Act = (of: Seen, form: URLSearchParams, parts: readonly string[]) => Done | Promise<Done>

/** What each form asks for, by its address; `:` stands for a part of it. */
const acts: readonly (readonly [path: string, act: Act])[] = [
  ['/book', (of, form) => ({ to: `/booking/${holdFor(of, form).code}` })],
  ['/sell', (of, form) => ({ to: `/booking/${holdFor(of, form).code}` })],
  ['/booking/:/travellers', addTraveller],
  [
    '/booking/:/travellers/:/remove',
    (of, _, [code = '', at]) => (book.removeTraveller(of, code, Number(at)), { to: `/booking/${code}` }),
  ],
  ['/booking/:/vehicle', setVehicle],
  ['/booking/:/vehicle/remove', (of, _, [code = '']) => (book.setVehicle(of, code, null), { to: `/booking/${code}` })],
  ['/booking/:/extras', setExtras],
  [
    '/booking/:/return',
    (of, form, [code = '']) => (book.setReturn(of, code, form.get('back') || null), { to: `/booking/${code}` }),
  ],
  ['/booking/:/pay', payNow],
  ['/my/:/change', (of, form, [code = '']) => moved(of, code, change(of, code, form.get('sailing') ?? ''))],
  ['/my/:/rebook', (of, form, [code = '']) => moved(of, code, rebook(of, code, form.get('sailing') ?? ''))],
  ['/my/:/cancel', (of, _, [code = '']) => back(of, code, cancel(of, code))],
  ['/my/:/refund', (of, _, [code = '']) => back(of, code, refund(of, code))],
  ['/quay/:/check-in', (of, form, [id]) => (checkIn(of, form.get('code') ?? ''), quay(id, 'Checked in.'))],
  ['/quay/:/board', (of, form, [id = '']) => quay(id, board(of, id, form.get('code') ?? ''))],
  ['/quay/:/offline', sendRead],
  ['/quay/:/close', (of, _, [id = '']) => quay(id, `Check-in is closed: ${closeCheckIn(of, id)} no-shows.`)],
  ['/quay/:/sail', (of, _, [id = '']) => quay(id, `${sail(of, id)} bookings have sailed.`)],
  [
    '/quay/:/delay',
    (of, form, [id = '']) => (of.world.delays.set(id, whole(form.get('minutes'))), quay(id, 'The delay is set.')),
  ],
  ['/deck/:/close/:', (of, _, [id = '', lane = '']) => closeLane(of, id, lane, true)],
  ['/deck/:/open/:', (of, _, [id = '', lane = '']) => closeLane(of, id, lane, false)],
  [
    '/weather/:/cancel',
    (of, _, [id = '']) => (
      officer(of),
      { to: '/weather', told: `Cancelled; ${cancelSailing(of, id)} bookings are told.` }
    ),
  ],
  [
    '/weather/:/back',
    (of, _, [id = '']) => (officer(of), takeBack(of, id), { to: '/weather', told: 'It sails after all.' }),
  ],
  ['/sign-in', signIn],
  ['/sign-out', () => ({ to: '/', keep: { 'cd-who': '' } })],
  ['/language', (_, form) => ({ to: '/', keep: { 'cd-language': form.get('language') ?? 'en' } })],
  ['/bench/reset', () => ({ to: '/bench', reset: true, told: 'Everything is as it was.' })],
  ['/bench/clock', setClock],
  ['/bench/run', (of) => (of.world.letRun(), { to: '/bench' })],
  [
    '/bench/move',
    (of, form) => (of.world.setClock(of.world.now() + whole(form.get('minutes')) * minute), { to: '/bench' }),
  ],
  [
    '/bench/as',
    (_, form) => ({
      to: '/bench',
      keep: { 'cd-engine': form.get('engine') ?? '', 'cd-device': form.get('device') ?? '' },
    }),
  ],
]

export async function doneBy(of: Seen, path: string, form: URLSearchParams): Promise<Done> {
  book.letLapse(of)
  for (const [wanted, act] of acts) {
    const parts = partsIn(wanted, path)
    if (parts) return act(of, form, parts)
  }
  throw new Refused('There is nothing to be done at this address.')
}

function partsIn(wanted: string, path: string): string[] | null {
  const [ours, theirs] = [wanted.split('/'), path.split('/')]
  if (ours.length !== theirs.length) return null
  return ours.every((part, at) => part === ':' || part === theirs[at])
    ? theirs.filter((_, at) => ours[at] === ':').map(decodeURIComponent)
    : null
}

const whole = (typed: string | null): number => {
  const number = Number(typed ?? '')
  if (!Number.isInteger(number) || number < 0 || number > 100_000) throw new Refused('Write a whole number.')
  return number
}

const holdFor = (of: Seen, form: URLSearchParams) =>
  book.hold(of, {
    sailing: form.get('sailing') ?? '',
    language: of.looking.language,
    soldAt: of.who === null ? null : staff[of.who].port,
    atQuay: form.has('quay'),
  })

async function addTraveller(of: Seen, form: URLSearchParams, [code = '']: readonly string[]): Promise<Done> {
  await book.seat(of, code, {
    name: form.get('name') ?? '',
    born: (form.get('born') ?? '').trim(),
    card: (form.get('card') ?? '').trim().toUpperCase(),
    wheelchair: form.has('wheelchair'),
  })
  return { to: `/booking/${code}` }
}

function setVehicle(of: Seen, form: URLSearchParams, [code = '']: readonly string[]): Done {
  const read = (name: string, needed: boolean): number => {
    const typed = form.get(name) ?? ''
    const value = typed.trim() === '' && !needed ? 0 : centimetres(typed, of.has)
    if (value === null) throw new Refused(`Write the ${name} in metres, such as 4.50.`)
    return value
  }
  const vehicle: Vehicle = {
    kind: kinds.find((each) => each === form.get('kind')) ?? 'car',
    length: read('length', true),
    height: read('height', true),
    trailer: read('trailer', false),
    weight: whole(form.get('weight') || '0'),
    goods: goodsClasses.find((each) => each === form.get('goods')) ?? null,
    declared: form.has('declared'),
  }
  book.setVehicle(of, code, vehicle)
  return { to: `/booking/${code}` }
}

function setExtras(of: Seen, form: URLSearchParams, [code = '']: readonly string[]): Done {
  book.setExtras(of, code, { pets: whole(form.get('pets')), bicycles: whole(form.get('bicycles')) })
  return { to: `/booking/${code}` }
}

function payNow(of: Seen, form: URLSearchParams, [code = '']: readonly string[]): Done {
  const read = (name: string) => form.get(name) ?? ''
  const how = { card: read('card'), voucher: read('voucher'), account: read('account'), token: read('token') }
  const came = pay(of, code, how)
  if (came === 'lost')
    return {
      to: `/booking/${code}/pay`,
      told: 'The bank did not answer. Ask again with the same card: nothing is charged twice.',
    }
  const to = `/booking/${code}/receipt`
  // A page that stands at the address of the form is sent again when it is loaded again.
  if (of.has('reload-charges-again')) {
    const page = pageAt(of, to)
    if (typeof page === 'string') return { to, page }
  }
  return { to }
}

const moved = (of: Seen, code: string, difference: number): Done => ({
  to: `/my/${code}`,
  told:
    difference === 0
      ? 'Moved; nothing to pay.'
      : difference > 0
        ? `Moved; ${amountIn(of, difference)} more were charged.`
        : `Moved; ${amountIn(of, -difference)} are paid back.`,
})
const back = (of: Seen, code: string, amount: number): Done => ({
  to: `/booking/${code}/receipt`,
  told: `${amountIn(of, amount)} are given back.`,
})
const quay = (id: string | undefined, told: string): Done => ({ to: `/quay?sailing=${id ?? ''}`, told })

/** What a reader without network has read, sent when it is back. */
function sendRead(of: Seen, form: URLSearchParams, [id = '']: readonly string[]): Done {
  const codes = (form.get('codes') ?? '').split(/\s+/).filter((code) => code !== '')
  const told = codes.map((code) => board(of, id, code, true))
  return quay(id, told.join(' '))
}

function closeLane(of: Seen, id: string, lane: string, closed: boolean): Done {
  const deck = deckOf(of.world, id)
  const others = deck.closed.filter((each) => each !== lane)
  of.world.decks.set(id, { ...deck, closed: closed ? [...others, lane] : others })
  return { to: `/deck?sailing=${id}` }
}

const officer = ({ who }: Seen): void => refuseUnless(who === 'officer', 'Only the duty officer cancels a sailing.')

function signIn(of: Seen, form: URLSearchParams): Done {
  const who = (form.get('who') ?? '').trim() as Who
  const known = who in staff && form.get('password') === staffPassword && !of.has('nobody-signs-in')
  refuseUnless(known, 'That name and password do not belong together.')
  of.world.signIns += 1
  const { at } = staff[who]
  return {
    to: at === '/bookings' ? '/bookings?came=1' : at,
    keep: { 'cd-who': who, ...(of.has('language-lost-at-sign-in') && { 'cd-language': 'en' }) },
  }
}

function setClock(of: Seen, form: URLSearchParams): Done {
  const [date, time] = [form.get('day') ?? '', form.get('time') ?? '']
  refuseUnless(isDay(date) && /^\d\d:\d\d(:\d\d)?$/.test(time), 'Write a day and a time like 10:40.')
  of.world.setClock(instant(date, time.slice(0, 5)) + Number(time.slice(6) || 0) * 1000)
  return { to: '/bench' }
}
