import { dayOf } from '../clock.ts'
import { totalOf } from '../rules/fares.ts'
import { type Booking, type Part, testCards, type Voucher, type World } from '../world.ts'
import { type Acting, bookingOf, costOf, heldOf, linesOf, note } from './book.ts'
import { Refused, refuseUnless } from './refused.ts'

export interface Paying {
  readonly card?: string
  readonly voucher?: string
  readonly account?: string
  /** What the form was called that was sent; one sent again pays nothing more. */
  readonly token: string
}

export function charge(world: World, of: { code: string; card: string; amount: number }): string {
  const number = `B-${world.charges.length + 1}`
  world.charges.push({ number, at: world.now(), ...of })
  return number
}

/**
 * Pays a held booking: the voucher first, then the account or the card for what is left. Answers a word about it, `lost` where the
 * bank took the amount and its answer never came.
 */
export function pay(acting: Acting, code: string, how: Paying): 'paid' | 'lost' {
  const { world, has } = acting
  const known = bookingOf(acting, code)
  if (known.state === 'paid' && known.token === how.token) {
    const again = has('reload-charges-again') || has('double-tap-charges-twice')
    const card = known.paid.find(({ by }) => by === 'card')
    if (again && card) charge(world, { code, card: card.number, amount: card.amount })
    return 'paid'
  }
  const booking = heldOf(acting, code)
  refuseUnless(booking.travellers.length > 0 || booking.vehicle !== null, 'Add somebody who travels first.')
  const due = costOf(acting, booking)
  const parts: Part[] = []
  if (how.voucher) parts.push(...byVoucher(acting, how.voucher, due))
  const left = due - totalOf(parts)
  if (left > 0 && how.account) parts.push(byAccount(acting, how.account, left))
  else if (left > 0) {
    const card = byCard(acting, booking, how.card ?? '', left)
    if (card === 'lost') return 'lost'
    parts.push(card)
  }
  for (const part of parts) take(acting, booking, part)
  booking.lines = linesOf(acting, booking)
  booking.paid = parts
  booking.state = 'paid'
  note(world, booking, 'paid')
  return 'paid'
}

function take({ world, has }: Acting, { code }: Booking, part: Part): void {
  const voucher = part.by === 'voucher' ? world.vouchers.get(part.number) : undefined
  if (voucher) voucher.balance = has('voucher-rest-lost') ? 0 : voucher.balance - part.amount
  const account = part.by === 'account' ? world.accounts.get(part.number) : undefined
  if (account) account.used += part.amount
  if (part.by === 'card' && !isCharged(world, code)) charge(world, { code, card: part.number, amount: part.amount })
}

const isCharged = (world: World, code: string): boolean =>
  world.charges.some((each) => each.code === code && each.amount > 0)

function byVoucher({ world, has }: Acting, typed: string, due: number): Part[] {
  const number = has('voucher-with-blanks') ? typed.trim() : typed.replaceAll(/\s/g, '')
  if (/^NX/.test(number)) throw new Refused('This voucher is of another company.')
  const voucher = world.vouchers.get(number)
  if (!voucher) throw new Refused(`There is no voucher ${typed}.`)
  refuseLate(voucher, dayOf(world.now()), has('voucher-last-day'))
  refuseUnless(voucher.balance > 0, 'This voucher is used up.')
  return [{ by: 'voucher', number, amount: Math.min(voucher.balance, due) }]
}

function refuseLate({ until }: Voucher, today: string, lastDayToo: boolean): void {
  refuseUnless(lastDayToo ? today < until : today <= until, `This voucher could be used until ${until}.`)
}

function byAccount({ world, has }: Acting, number: string, due: number): Part {
  const account = world.accounts.get(number.trim())
  if (!account) throw new Refused(`There is no account ${number}.`)
  refuseUnless(!account.blocked, `The account of ${account.name} is blocked; call the office.`)
  const left = account.limit - account.used
  refuseUnless(
    due <= left || (has('account-above-limit') && left > 0),
    `${account.name} has ${(left / 100).toFixed(2)} left this month, and this costs ${(due / 100).toFixed(2)}.`,
  )
  return { by: 'account', number: account.number, amount: due }
}

/** The bank’s answer; a charge whose answer was lost before is found by its booking and not made again. */
function byCard(acting: Acting, booking: Booking, typed: string, amount: number): Part | 'lost' {
  const { world, has } = acting
  const card = typed.replaceAll(/\s/g, '')
  if (!(card in testCards)) throw new Refused('The bank does not know this card. Check its number.')
  if (card.endsWith('0002')) {
    if (has('declined-frees-place')) {
      booking.state = 'lapsed'
      note(world, booking, 'the card was declined')
    }
    throw new Refused('The bank declined this card. The place is held still: try another card.')
  }
  if (card.endsWith('0119') && !isCharged(world, booking.code)) {
    charge(world, { code: booking.code, card, amount })
    note(world, booking, 'the bank did not answer')
    return 'lost'
  }
  return { by: 'card', number: card, amount }
}

export const hidden = (card: string): string => `•••• ${card.slice(-4)}`
