import { expect } from 'chai'
import { add, at, cancelled, card, charges, clock, hold, made, pay, text, ten40 } from '../driver.ts'
import { type Checks, dayIn, hides, sailingId, shows, timeIn, valueOf } from './check.ts'

/** Pays one adult on a sailing; answers the code. */
async function paid(
  of: Parameters<typeof at>[0],
  how: { card?: string; voucher?: string; account?: string },
  sailing = ten40,
) {
  const code = (await made(of, { sailing })) ?? ''
  await pay(of, code, how)
  return code
}
const press = (of: Parameters<typeof at>[0], form: string) => of.page.click(`form[action$="/${form}"] button`)

export const moneyChecks: Checks = {
  'Islander on an off-peak sailing gets one reduction': async (of) => {
    const code = await made(of, {
      sailing: 'OVTA-260513-0630',
      travellers: [{ name: 'Orla Tarn', card: 'TA-1001' }],
      card,
    })
    await at(of, `/booking/${code}/receipt`)
    await shows(of, 'islander, −4.50', '4.50')
    await hides(of, 'off-peak')
  },
  'Return within three days beats off-peak': async (of) => {
    const code = await made(of, { sailing: 'OVTA-260513-2030', back: 'TAOV-260514-1540' })
    await at(of, `/booking/${code}`)
    expect(await of.page.locator('td.amount').allInnerTexts()).to.deep.equal(['7.20', '7.20', '14.40'])
    await hides(of, 'off-peak')
  },
  'Equal reductions name the first of the list': async (of) => {
    const code = await made(of, { back: 'TAOV-260514-1135', travellers: Array.from({ length: 10 }, () => ({})) })
    await at(of, `/booking/${code}`)
    await shows(of, 'group, −1.80')
    await hides(of, /return, −/)
  },
  'No reduction goes below the lowest fare': async (of) => {
    await hold(of, 'OVTA-260513-1420')
    await add(of, { name: 'Eli Tarn', born: '2016-01-01', card: 'TA-1002' })
    expect(await text(of, 'td.amount')).to.equal('3.50')
  },
  'Reduction on the vehicle is separate from the passengers': async (of) => {
    const code = await made(of, { sailing: 'OVTA-260513-0630', vehicle: { length: 520 } })
    await at(of, `/booking/${code}`)
    expect(await of.page.locator('td.amount').allInnerTexts()).to.deep.equal(['7.65', '32.30', '39.95'])
  },
  'Islander pays the small band for a vehicle at most': async (of, row) => {
    const vehicle = { kind: valueOf(row, 'kind'), length: Math.round(Number(valueOf(row, 'length')) * 100) }
    const code = await made(of, { sailing: 'OVTA-260513-1420', travellers: [{ card: 'TA-1001' }], vehicle })
    await at(of, `/booking/${code}`)
    expect(await text(of, 'tbody tr:nth-child(2) td.amount')).to.equal(valueOf(row, 'fare'))
  },
  'Valid island card halves the fare': async (of) => {
    await hold(of, 'OVLS-260513-1040')
    await add(of, { name: 'Orla Tarn', card: 'TA-1001' })
    await shows(of, 'islander, −6.00', '6.00')
  },
  'Expired island card is refused with its date': async (of) => {
    await hold(of)
    await add(of, { name: 'Per Tarn', card: 'TA-1003' })
    await shows(of, 'Island card TA-1003 ended on 2026-04-30.')
    await hides(of, 'Per Tarn')
  },
  'Card of another island is accepted': async (of) => {
    await hold(of)
    await add(of, { name: 'Siv Skerrin', born: '1971-07-07', card: 'LS-2001' })
    await shows(of, 'Siv Skerrin', '4.50')
  },
  'Return after exactly 72 hours gets the reduction': async (of, row) => {
    const back = valueOf(row, 'return')
    const code = await made(of, { back: sailingId('TA', 'OV', dayIn(back), timeIn(back)) })
    await at(of, `/booking/${code}`)
    expect((await of.page.locator('td.amount').allInnerTexts()).slice(0, 2)).to.deep.equal(
      Array(2).fill(valueOf(row, 'fare')),
    )
  },
  'Sailing at 07:00 is not off-peak': async (of) => {
    await hold(of, 'OVLS-260513-0700')
    await add(of, { name: 'Hanne Moe' })
    expect(await text(of, 'td.amount')).to.equal('12.00')
    await hides(of, 'off-peak')
  },
  'Early and late sailings from Monday to Thursday are off-peak': async (of, row) => {
    const code = await made(of, { sailing: sailingId('OV', 'TA', valueOf(row, 'day'), valueOf(row, 'time')) })
    await at(of, `/booking/${code}`)
    expect(await text(of, 'td.amount')).to.equal(valueOf(row, 'fare'))
  },
  'Receipt adds up line by line': async (of) => {
    const travellers = [{}, { name: 'Eva Lund' }, { name: 'Kim Lund', born: '2016-01-01' }]
    const code = await made(of, { travellers, vehicle: {}, pets: 1, card })
    await at(of, `/booking/${code}/receipt`)
    const amounts = await of.page.locator('table').first().locator('td.amount').allInnerTexts()
    expect(amounts).to.deep.equal(['9.00', '9.00', '4.50', '29.00', '3.00', '54.50'])
  },
  'Card is charged once on a double tap': async (of) => {
    const code = (await made(of, {})) ?? ''
    await at(of, `/booking/${code}/pay`)
    await of.page.fill('[name=card]', card)
    await of.page.dblclick('form[action$="/pay"] button', { noWaitAfter: true })
    await of.page.waitForURL(/\/receipt/)
    expect(await charges(of, code)).to.deep.equal([9])
  },
  'Reload after paying does not charge again': async (of) => {
    const code = await paid(of, { card })
    await shows(of, 'State: paid')
    await of.page.reload()
    expect(await charges(of, code)).to.deep.equal([9])
  },
  'Lost answer of the bank is asked for again': async (of) => {
    const code = (await made(of, { sailing: 'OVLS-260513-1040' })) ?? ''
    await pay(of, code, { card: '4000 0000 0000 0119' })
    await shows(of, 'The bank did not answer. Ask again with the same card: nothing is charged twice.')
    await pay(of, code, { card: '4000 0000 0000 0119' })
    await shows(of, 'State: paid')
    expect(await charges(of, code)).to.deep.equal([12])
  },
  'Declined card leaves the place held': async (of) => {
    const code = await paid(of, { card: '4000 0000 0000 0002' })
    await shows(of, 'The bank declined this card. The place is held still: try another card.')
    await at(of, `/my/${code}`)
    await shows(of, 'State: held')
  },
  'Booking without anybody is not paid': async (of) => {
    await pay(of, await hold(of, 'OVTA-260514-0630'), { card })
    await shows(of, 'Add somebody who travels first.')
  },
  'Voucher covers the whole fare': async (of) => {
    await paid(of, { voucher: 'TV44102207' })
    await shows(of, 'voucher', '51.00 left on it')
  },
  'Voucher covers part of the fare, the card the rest': async (of) => {
    const code = await paid(of, { voucher: 'TV44102215', card })
    await shows(of, '5.00', '4.00')
    expect(await charges(of, code)).to.deep.equal([4])
  },
  'Voucher used up is refused': async (of) => {
    await paid(of, { voucher: 'TV44105550' })
    await shows(of, 'This voucher is used up.')
  },
  'Voucher on its last day is accepted': async (of) => {
    await paid(of, { voucher: 'TV44109911' }, 'OVTA-260512-1420')
    await shows(of, '11.00 left on it')
  },
  'Voucher one day late is refused with its date': async (of) => {
    await paid(of, { voucher: 'TV44100042' }, 'OVTA-260512-1750')
    await shows(of, 'This voucher could be used until 2026-05-11.')
  },
  'Voucher number with blanks is understood': async (of) => {
    await paid(of, { voucher: 'TV 4410 2207' })
    await shows(of, 'State: paid')
  },
  'Voucher of another company is refused': async (of) => {
    await paid(of, { voucher: 'NX20031177' })
    await shows(of, 'This voucher is of another company.')
  },
  'Refund reaches the card that paid': async (of) => {
    await cancelled(of)
    await at(of, '/my/TF-1001')
    await press(of, 'refund')
    await shows(of, '18.00 are given back', 'back by card', '•••• 0077')
    expect(await charges(of, 'TF-1001')).to.deep.equal([18, -18])
  },
  'Refund twice is refused': async (of) => {
    await cancelled(of)
    for (let n = 0; n < 2; n++) {
      await at(of, '/my/TF-1002')
      await press(of, 'refund')
    }
    await shows(of, 'This booking was refunded already.')
    expect(await charges(of, 'TF-1002')).to.deep.equal([9, -9])
  },
  'Moved booking is not refunded as well': async (of) => {
    await cancelled(of)
    await at(of, '/my/TF-1001')
    await of.page.selectOption('form[action$="/rebook"] [name=sailing]', 'OVTA-260513-1420')
    await press(of, 'rebook')
    await shows(of, 'Moved; nothing to pay.')
    await hides(of, 'Refund the whole fare')
  },
  'Cancel seven days before gives all back': async (of) => {
    const code = await made(of, { sailing: 'OVTA-260519-1040', card })
    await clock(of, '10:40')
    await at(of, `/my/${code}`)
    await press(of, 'cancel')
    await shows(of, '9.00 are given back.')
  },
  'Cancel six days and 23 hours before gives half': async (of) => {
    const code = await made(of, { sailing: 'OVTA-260519-1040', card })
    await clock(of, '11:40')
    await at(of, `/my/${code}`)
    await press(of, 'cancel')
    await shows(of, '4.50 are given back.')
  },
  'Cancel at the limits of the shares': async (of, row) => {
    const code = await made(of, { sailing: 'OVTA-260519-1040', card })
    const when = valueOf(row, 'when')
    await clock(of, timeIn(when), dayIn(when))
    await at(of, `/my/${code}`)
    await press(of, 'cancel')
    await shows(of, `${valueOf(row, 'back')} are given back.`)
  },
  'Booking within the limit is invoiced': async (of) => {
    await paid(of, { account: 'A-22' }, 'OVTA-260513-1420')
    await shows(of, 'A-22', '9.00')
  },
  'Booking above the limit is refused': async (of) => {
    await paid(of, { account: 'A-22' }, 'OVLS-260513-1040')
    await shows(of, 'Skerrin Fish has 10.00 left this month, and this costs 12.00.')
  },
  'Blocked account pays nothing': async (of) => {
    await paid(of, { account: 'A-31' })
    await shows(of, 'The account of Old Quay Works is blocked; call the office.')
  },
}
