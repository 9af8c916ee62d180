import type { Page } from 'playwright-core'
import type { Build, Looking } from './builds.ts'
import {
  add,
  at,
  atBuild,
  cancelled,
  car,
  card,
  charges,
  clock,
  deck,
  free,
  hold,
  isRefused,
  lane,
  look,
  lowSkerrin,
  made,
  move,
  pay,
  quay,
  says,
  signedIn,
  text,
  van,
  vehicle,
  wednesday,
  type Driver,
} from './driver.ts'
import { type FaultId, faults } from './faults.ts'

type Proof = (of: Driver) => Promise<boolean>

/** Each fault as somebody at the browser sees it: the answer is whether it is seen. */
const proofs: Readonly<Record<FaultId, Proof>> = {
  'search-forgets-date': async (of) => {
    await at(of, '/?from=OV&to=TA&date=2026-05-14')
    await of.page.selectOption('[name=to]', 'LS')
    return (await of.page.inputValue('[name=date]')) !== '2026-05-14'
  },
  'infant-on-fourth-birthday': async (of) => {
    await hold(of)
    await add(of, { born: '2022-05-13' })
    return says(of, '(infant)')
  },
  'age-on-booking-day': async (of) => {
    await hold(of)
    await add(of, { born: '2010-05-13' })
    return says(of, '(child)')
  },
  'birth-in-future': async (of) => {
    await hold(of)
    await add(of, { born: '2030-01-01' })
    return !(await isRefused(of))
  },
  'band-cut-to-decimetres': async (of) => {
    await hold(of)
    await vehicle(of, { length: '4.51' })
    return says(of, '(small)')
  },
  'comma-cuts-length': async (of) => {
    await hold(of)
    await vehicle(of, { length: '4,55' })
    return says(of, 'car, 4.50 m')
  },
  'thirteenth-pet': async (of) => {
    await hold(of, `OVTA-${wednesday}-1420`)
    await of.page.fill('[name=pets]', '1')
    await of.page.click('form[action$="/extras"] button')
    return !(await isRefused(of))
  },
  'hold-a-minute-short': async (of) => {
    const code = await hold(of)
    await move(of, 19.5)
    await at(of, `/booking/${code}/pay`)
    return isRefused(of)
  },
  'hold-begins-again': async (of) => {
    await hold(of)
    await move(of, 5)
    await of.page.reload()
    return Number(await of.page.locator('[data-until]').getAttribute('data-until')) > 16 * 60_000
  },
  'group-of-nine': async (of) => {
    const code = await made(of, { travellers: Array.from({ length: 9 }, () => ({})) })
    await at(of, `/booking/${code}`)
    return says(of, /group, −/)
  },
  'change-after-cut-off': async (of) => {
    await clock(of, '10:30')
    await at(of, '/my/TF-1007')
    await of.page.selectOption('form[action$="/change"] [name=sailing]', 'OVTA-260512-1420')
    await of.page.click('form[action$="/change"] button')
    return !(await isRefused(of))
  },
  'overbooked-under-load': async (of) => {
    const all = await Promise.all(Array.from({ length: 20 }, () => made(of, { travellers: [{ wheelchair: true }] })))
    return all.filter((code) => code !== null).length > 2
  },
  'other-island-refused': async (of) => {
    await hold(of)
    await add(of, { card: 'LS-2001' })
    return isRefused(of)
  },
  'expired-card-taken': async (of) => {
    await hold(of)
    await add(of, { card: 'TA-1003' })
    return !(await isRefused(of))
  },
  'return-below-72': async (of) => {
    await hold(of)
    await add(of, {})
    await of.page.selectOption('[name=back]', 'TAOV-260516-1135')
    await of.page.click('form[action$="/return"] button')
    return !(await says(of, /return, −/))
  },
  'seven-is-off-peak': async (of) => {
    await hold(of, `OVLS-${wednesday}-0700`)
    await add(of, {})
    return says(of, 'off-peak')
  },
  'equal-names-last': async (of) => {
    const back = 'TAOV-260514-1135'
    const code = await made(of, { back, travellers: Array.from({ length: 10 }, () => ({})) })
    await at(of, `/booking/${code}`)
    return !(await says(of, /group, −/))
  },
  'below-lowest-fare': async (of) => {
    await hold(of)
    await add(of, { born: '2016-01-01', card: 'TA-1002' })
    return says(of, '2.25')
  },
  'receipt-names-second': async (of) => {
    const code = await made(of, { sailing: `OVTA-${wednesday}-0630`, travellers: [{ card: 'TA-1001' }], card })
    await at(of, `/booking/${code}/receipt`)
    return says(of, 'off-peak')
  },
  'receipt-translates-twice': async (of) => {
    await at(of, '/booking/TF-1001/receipt')
    return says(of, 'Ovamuomuo')
  },
  'double-tap-charges-twice': async (of) => {
    const code = (await made(of, {})) ?? ''
    await at(of, `/booking/${code}/pay`)
    await of.page.fill('[name=card]', card)
    await of.page.dblclick('form[action$="/pay"] button', { noWaitAfter: true })
    await of.page.locator('[data-state]').waitFor()
    return (await charges(of, code)).length > 1
  },
  'reload-charges-again': async (of) => {
    const code = (await made(of, {})) ?? ''
    await pay(of, code, { card })
    await of.page.locator('[data-state]').waitFor()
    await of.page.reload()
    return (await charges(of, code)).length > 1
  },
  'declined-frees-place': async (of) => {
    const code = (await made(of, {})) ?? ''
    await pay(of, code, { card: '4000 0000 0000 0002' })
    await at(of, `/my/${code}`)
    return says(of, 'State: lapsed')
  },
  'voucher-with-blanks': async (of) => {
    await pay(of, (await made(of, {})) ?? '', { voucher: 'TV 4410 2207' })
    return isRefused(of)
  },
  'voucher-last-day': async (of) => {
    await pay(of, (await made(of, {})) ?? '', { voucher: 'TV44109911' })
    return isRefused(of)
  },
  'voucher-rest-lost': async (of) => {
    await pay(of, (await made(of, {})) ?? '', { voucher: 'TV44102207' })
    return says(of, ', 0.00 left on it')
  },
  'refund-as-voucher': async (of) => {
    await cancelled(of)
    await at(of, '/my/TF-1001')
    await of.page.click('form[action$="/refund"] button')
    return (await of.page.locator('[data-returned=voucher]').count()) > 0
  },
  'refund-twice': async (of) => {
    await cancelled(of)
    for (let n = 0; n < 2; n++) {
      await at(of, '/my/TF-1001')
      await of.page.click('form[action$="/refund"] button')
    }
    return !(await isRefused(of))
  },
  'cancel-counts-days-up': async (of) => {
    const code = await made(of, { sailing: 'OVTA-260519-1040', card })
    await clock(of, '11:40')
    await at(of, `/my/${code}`)
    await of.page.click('form[action$="/cancel"] button')
    return says(of, '9.00 are given back')
  },
  'account-above-limit': async (of) => {
    await pay(of, (await made(of, { sailing: lowSkerrin })) ?? '', { account: 'A-22' })
    return !(await isRefused(of))
  },
  'last-gap-left-out': async (of) => {
    for (let n = 0; n < 2; n++) await made(of, { vehicle: car() })
    await deck(of)
    return (await free(of, 'C1')) === '15.20'
  },
  'lane-rounds': async (of) => {
    for (let n = 0; n < 4; n++) await made(of, { vehicle: car({ length: 500, weight: 800 }) })
    const last = await made(of, { vehicle: car({ length: 281, weight: 800 }) })
    await deck(of)
    return (await lane(of, 'C1')).includes(last ?? 'none')
  },
  'closed-lane-taken': async (of) => {
    await deck(of)
    await of.page.click('[data-lane=C1] button')
    const code = await made(of, { vehicle: car() })
    await deck(of)
    return (await lane(of, 'C1')).includes(code ?? 'none')
  },
  'trailer-in-another-lane': async (of) => {
    await made(of, { vehicle: car({ trailer: 200, weight: 1800 }) })
    await deck(of)
    return (await lane(of, 'C2')).includes('trailer')
  },
  'side-not-worked-out-again': async (of) => {
    await made(of, { vehicle: car({ weight: 2000 }) })
    const leaves = await made(of, { vehicle: car({ weight: 3000 }) })
    await at(of, `/booking/${leaves}`)
    await of.page.click('form[action$="/cancel"] button')
    await made(of, { vehicle: car({ weight: 2500 }) })
    await deck(of)
    return (await text(of, '[data-share=port]')) === '55.1 %'
  },
  'bow-limit-loose': async (of) => {
    await made(of, { vehicle: { kind: 'freight', length: 800, height: 300, weight: 7000 } })
    await deck(of)
    return parseFloat(await text(of, '[data-share=bow]')) > 40
  },
  'class-1-with-class-3': async (of) => {
    await made(of, { vehicle: van({ goods: '1' }) })
    return (await made(of, { vehicle: van({ goods: '3' }) })) !== null
  },
  'goods-close-together': async (of) => {
    for (let n = 0; n < 2; n++) await made(of, { vehicle: van({ goods: '2' }) })
    await deck(of)
    return (await free(of, 'F1')) === '25.70'
  },
  'goods-at-the-stairs': async (of) => {
    await made(of, { vehicle: van({ goods: '2' }) })
    await deck(of)
    return (await lane(of, 'F2')).includes('class 2')
  },
  'cut-off-ignores-delay': async (of) => {
    await quay(of, 'delay', 'minutes', '40')
    await clock(of, '10:50')
    await quay(of, 'check-in', 'code', 'TF-1007')
    return isRefused(of)
  },
  'held-is-boarded': async (of) => {
    const code = await made(of, { sailing: 'OVTA-260512-1040' })
    await quay(of, 'board', 'code', code ?? '')
    return !(await isRefused(of))
  },
  'other-sailing-boards': async (of) => {
    const code = await made(of, { sailing: 'OVTA-260512-1420', card })
    await quay(of, 'check-in', 'code', code ?? '')
    await quay(of, 'board', 'code', code ?? '')
    return !(await isRefused(of))
  },
  'offline-counts-twice': async (of) => {
    await quay(of, 'check-in', 'code', 'TF-1007')
    await quay(of, 'offline', 'codes', 'TF-1007 TF-1007')
    return (await text(of, '[data-counted]')) === '2'
  },
  'infants-not-listed': async (of) => {
    const travellers = [{}, { name: 'Little Lund', born: '2025-09-01' }]
    const code = await made(of, { sailing: 'OVTA-260512-1040', travellers, card })
    await quay(of, 'check-in', 'code', code ?? '')
    await quay(of, 'board', 'code', code ?? '')
    await at(of, '/list?sailing=OVTA-260512-1040')
    return !(await says(of, 'Little Lund'))
  },
  'quay-sales-not-told': async (of) => {
    await cancelled(of)
    await at(of, '/messages')
    return !(await says(of, 'TF-1003'))
  },
  'rebooking-costs': async (of) => {
    await cancelled(of)
    await at(of, '/my/TF-1001')
    await of.page.click('form[action$="/rebook"] button')
    return says(of, '3.00')
  },
  'told-twice': async (of) => {
    await cancelled(of)
    await at(of, '/messages')
    return (await of.page.getByText('TF-1001').count()) > 1
  },
  'language-lost-at-sign-in': async (of) => {
    await at(of, '/')
    await of.page.getByRole('button', { name: 'Ovian' }).click()
    await signedIn(of)
    return (await of.page.locator('html').getAttribute('lang')) === 'en'
  },
  'skerric-runs-over': async (of) => {
    await hold(of, lowSkerrin)
    return of.page
      .locator('.ticket .port')
      .nth(1)
      .evaluate((port) => port.scrollWidth > port.clientWidth)
  },
  'skerric-amounts': async (of) => {
    await hold(of)
    await add(of, {})
    const skerric = (await of.page.locator('html').getAttribute('lang')) === 'sk'
    return skerric && says(of, /\d\.\d\d/, 'td.amount')
  },
  'hint-too-pale': async (of) => {
    await at(of, '/my')
    return (await of.page.locator('.hint').evaluate((hint) => getComputedStyle(hint).color)) === 'rgb(163, 168, 162)'
  },
  'hold-not-told': async (of) => {
    await hold(of)
    return (await of.page.getByRole('timer').count()) === 0
  },
  'sailing-needs-mouse': async (of) => {
    await at(of, '/?from=OV&to=TA&date=2026-05-13')
    for (let presses = 0; presses < 30; presses++) {
      await of.page.keyboard.press('Tab')
      if (await of.page.evaluate(() => document.activeElement?.closest('table') !== null)) return false
    }
    return true
  },
  'footer-over-last-row': async (of) => {
    await of.page.setViewportSize({ width: 800, height: 600 })
    await look(of, { who: 'clerk' })
    await at(of, '/bookings')
    const last = of.page.locator('tbody tr').last()
    await last.scrollIntoViewIfNeeded()
    return last.evaluate((row) => {
      const { left, bottom } = row.getBoundingClientRect()
      return document.elementFromPoint(left + 20, bottom - 6)?.closest('footer') !== null
    })
  },
  'other-port-for-a-moment': async (of) => {
    for (let n = 0; n < 3; n++) {
      await signedIn(of)
      if ((await of.page.content()).includes('data-moment')) return true
    }
    return false
  },
  'nobody-signs-in': async (of) => {
    await signedIn(of)
    return isRefused(of)
  },
}

/** How somebody has to look to see it. */
export const lookingFor = (id: FaultId): Partial<Looking> => faults[id].only ?? {}

/** Tries one fault on one build from its known state; answers whether it is seen. */
export const isSeen = async (
  page: Page,
  url: string,
  { id, ...of }: { id: FaultId; build: Build; as: Partial<Looking> },
): Promise<boolean> => proofs[id](await atBuild(page, url, of))
