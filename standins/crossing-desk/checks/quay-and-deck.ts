import { expect } from 'chai'
import {
  at,
  api,
  cancelled,
  car,
  card,
  clock,
  deck,
  free,
  hold,
  lane,
  look,
  made,
  quay,
  says,
  signedIn,
  text,
  ten40,
  van,
} from '../driver.ts'
import { type Checks, hides, shows, valueOf } from './check.ts'

const cars = async (of: Parameters<typeof at>[0], count: number, more: object): Promise<(string | null)[]> => {
  const codes: (string | null)[] = []
  for (let n = 0; n < count; n++) codes.push(await made(of, { vehicle: car(more) }))
  return codes
}
const languages: Readonly<Record<string, 'en' | 'ov' | 'sk'>> = { English: 'en', Ovian: 'ov', Skerric: 'sk' }
const cm = (metres: string) => Math.round(Number(metres) * 100)

export const quayAndDeckChecks: Checks = {
  'Lane metres: last car fits exactly': async (of) => {
    await cars(of, 4, { length: 500, weight: 800 })
    await cars(of, 1, { length: 280, weight: 800 })
    await deck(of)
    expect([await free(of, 'C1'), await lane(of, 'C2')]).to.satisfy(
      ([left, next]: string[]) => left === '0.00' && !next?.includes('TF-'),
    )
  },
  'Car one centimetre too long goes to the next lane': async (of) => {
    await cars(of, 4, { length: 500, weight: 800 })
    const [last] = await cars(of, 1, { length: 281, weight: 800 })
    await deck(of)
    expect(await free(of, 'C1')).to.equal('3.10')
    expect(await lane(of, 'C2')).to.include(last ?? 'none')
  },
  'Gap of 0.3 m between vehicles is kept': async (of) => {
    await cars(of, 2, {})
    await deck(of)
    expect(await free(of, 'C1')).to.equal('14.90')
  },
  'Trailer and car stay in one lane': async (of) => {
    await cars(of, 1, { trailer: 200, weight: 1800 })
    await deck(of)
    expect([await free(of, 'C1'), await free(of, 'C2')]).to.deep.equal(['17.60', '24.00'])
  },
  'Lane closed for repair takes no car': async (of) => {
    await deck(of)
    await of.page.click('[data-lane=C1] button')
    expect(await text(of, '[data-lane=C1] button')).to.equal('open it')
    const [code] = await cars(of, 1, {})
    await deck(of)
    expect(await lane(of, 'C2')).to.include(code ?? 'none')
  },
  'Plan shows free metres per lane': async (of) => {
    await signedIn(of, 'clerk')
    await of.page.click('nav >> text=Deck plan')
    await of.page.selectOption('[name=sailing]', 'OVTA-260515-1040')
    await of.page.click('button:has-text("Show")')
    expect(await text(of, 'h1')).to.equal('Deck plan: 2026-05-15 10:40')
    for (const [lane, metres] of [
      ['C1', '24.00'],
      ['F2', '36.00'],
      ['M', '12.00'],
    ] as const)
      expect(await free(of, lane)).to.equal(metres)
  },
  'Motorcycles share a lane of their own': async (of) => {
    for (let n = 0; n < 3; n++) await made(of, { vehicle: { kind: 'motorcycle', length: 220, height: 120 } })
    await deck(of)
    expect(await free(of, 'M')).to.equal('4.80')
  },
  'Coach takes the middle lane of the freight deck only': async (of) => {
    const coach = { vehicle: { kind: 'coach', length: 900, height: 340, weight: 2000 } }
    const codes = [await made(of, coach), await made(of, coach), await made(of, coach), await made(of, coach)]
    expect(codes.map((code) => code !== null)).to.deep.equal([true, true, true, false])
    await deck(of)
    expect(await lane(of, 'F2')).to.include(codes[0] ?? 'none')
  },
  'Vehicle too high for the car deck stands on the freight deck': async (of, row) => {
    const vehicle = {
      kind: valueOf(row, 'kind'),
      length: cm(valueOf(row, 'length')),
      height: cm(valueOf(row, 'height')),
    }
    const code = await made(of, { vehicle })
    await deck(of)
    expect(await lane(of, valueOf(row, 'lane'))).to.include(code ?? 'none')
  },
  'Side at 55.0 % is accepted, above it another lane is taken': async (of) => {
    await cars(of, 1, { weight: 2000 })
    await deck(of)
    expect(await text(of, '[data-share=port]')).to.equal('52.4 %')
    const [second] = await cars(of, 1, { weight: 3000 })
    await deck(of)
    expect(await lane(of, 'C2')).to.include(second ?? 'none')
  },
  'Shares are worked out again when a vehicle has left': async (of) => {
    await cars(of, 1, { weight: 2000 })
    const [leaves] = await cars(of, 1, { weight: 3000 })
    await at(of, `/booking/${leaves}`)
    await of.page.click('form[action$="/cancel"] button')
    const [last] = await cars(of, 1, { weight: 2500 })
    await deck(of)
    expect(await lane(of, 'C2')).to.include(last ?? 'none')
  },
  'Bow limit moves freight aft': async (of) => {
    const freight = (weight: number) => ({ kind: 'freight', length: 800, height: 300, weight })
    await made(of, { vehicle: freight(7000) })
    await deck(of)
    expect([await text(of, '[data-share=bow]'), /aft/.test(await lane(of, 'F2'))]).to.deep.equal(['25.5 %', true])
    await made(of, { sailing: 'OVTA-260513-1420', vehicle: freight(6600) })
    await deck(of, 'OVTA-260513-1420')
    expect([await text(of, '[data-share=bow]'), /bow/.test(await lane(of, 'F2'))]).to.deep.equal(['39.9 %', true])
  },
  'Weight that is not told counts as the heaviest of its band': async (of, row) => {
    await made(of, { vehicle: { kind: valueOf(row, 'kind'), length: cm(valueOf(row, 'length')), height: 130 } })
    await deck(of)
    await shows(of, `${valueOf(row, 'weight')} kg`)
  },
  'Class 1 and class 3 are not placed on one sailing': async (of) => {
    await made(of, { vehicle: van({ goods: '1' }) })
    const refused = await api(of, '/bookings', { sailing: ten40, travellers: [{}], vehicle: van({ goods: '3' }) })
    expect(refused.refused).to.equal('Goods of class 1 and of class 3 never sail together. Choose another sailing.')
  },
  'Dangerous goods are kept apart by 6 m': async (of) => {
    for (let n = 0; n < 2; n++) await made(of, { vehicle: van({ goods: '2' }) })
    await deck(of)
    expect(await free(of, 'F1')).to.equal('20.00')
  },
  'Dangerous goods stand away from the stairs': async (of) => {
    const code = await made(of, { sailing: 'OVTA-260513-1420', vehicle: van({ goods: '2' }) })
    await deck(of, 'OVTA-260513-1420')
    expect(await lane(of, 'F1')).to.include(code ?? 'none')
  },
  'Missing declaration refuses the vehicle': async (of) => {
    const refused = await api(of, '/bookings', {
      sailing: ten40,
      travellers: [{}],
      vehicle: van({ goods: '2', declared: false }),
    })
    expect(refused.refused).to.match(/^Dangerous goods need their declaration/)
  },
  'Check-in closes at 30 minutes with a vehicle': async (of, row) => {
    const code = await made(of, { sailing: 'OVTA-260512-1420', vehicle: car(), card })
    await clock(of, valueOf(row, 'when').slice(0, 5))
    await api(of, '/clock', { move: Number(valueOf(row, 'when').slice(6)) / 60 })
    await quay(of, 'check-in', 'code', code ?? '', 'OVTA-260512-1420')
    expect(await of.page.locator('.told, .refused').innerText()).to.equal(valueOf(row, 'answer'))
  },
  'Delay of the sailing moves the cut-off': async (of) => {
    await quay(of, 'delay', 'minutes', '40')
    await clock(of, '10:50')
    await quay(of, 'check-in', 'code', 'TF-1007')
    await shows(of, 'Checked in.')
  },
  'Unpaid booking is not checked in': async (of) => {
    const code = await made(of, { sailing: 'OVTA-260512-1420' })
    await quay(of, 'check-in', 'code', code ?? '', 'OVTA-260512-1420')
    await shows(of, 'This booking is held; only a paid one is checked in.')
  },
  'Code read twice counts once': async (of) => {
    await quay(of, 'check-in', 'code', 'TF-1007')
    for (let n = 0; n < 2; n++) await quay(of, 'board', 'code', 'TF-1007')
    await shows(of, 'TF-1007 is on board already.')
    expect(await text(of, '[data-counted]')).to.equal('1')
  },
  'Code of another sailing is refused with its time': async (of) => {
    const code = await made(of, { sailing: 'OVTA-260512-1420', card })
    await quay(of, 'check-in', 'code', code ?? '')
    await quay(of, 'board', 'code', code ?? '')
    await shows(of, 'This code is for the 14:20, not for this sailing.')
  },
  'Reader without network keeps its count': async (of) => {
    await quay(of, 'check-in', 'code', 'TF-1007')
    await quay(of, 'offline', 'codes', 'TF-1007 TF-1007')
    expect(await text(of, '[data-counted]')).to.equal('1')
  },
  'Held booking is not let on board': async (of) => {
    const code = await made(of, { sailing: 'OVTA-260512-1040' })
    await quay(of, 'board', 'code', code ?? '')
    await shows(of, 'This booking is held; it has to be checked in before it goes on board.')
  },
  'No-show frees the place': async (of) => {
    await clock(of, '10:26')
    await look(of, { who: 'quay' })
    await at(of, '/quay?sailing=OVTA-260512-1040')
    await of.page.click('form[action$="/close"] button')
    await shows(of, 'Check-in is closed: 1 no-shows.')
    await at(of, '/my/TF-1007')
    await shows(of, 'State: no-show')
  },
  'Infants are on the list': async (of) => {
    const travellers = [{}, { name: 'Little Lund', born: '2025-09-01' }]
    const code = await made(of, { sailing: 'OVTA-260512-1040', travellers, card })
    await quay(of, 'check-in', 'code', code ?? '')
    await quay(of, 'board', 'code', code ?? '')
    expect(await text(of, '[data-counted]')).to.equal('2')
    await at(of, '/list?sailing=OVTA-260512-1040')
    await shows(of, 'Little Lund')
  },
  'Every passenger of a cancelled sailing is told': async (of) => {
    await cancelled(of)
    await at(of, '/messages')
    await shows(of, 'TF-1001', 'TF-1002', 'TF-1003')
  },
  'Only the duty officer can cancel': async (of, row) => {
    await look(of, { who: valueOf(row, 'who') === 'quay' ? 'quay' : 'clerk' })
    await at(of, '/weather')
    await hides(of, 'Cancel it')
  },
  'Cancel is taken back within ten minutes': async (of, row) => {
    await cancelled(of)
    await api(of, '/clock', { move: Number(valueOf(row, 'minutes')) })
    await at(of, '/weather')
    await of.page.getByRole('button', { name: 'Take back' }).click()
    await shows(of, valueOf(row, 'answer'))
  },
  'Rebooking costs nothing': async (of) => {
    await cancelled(of)
    await at(of, '/my/TF-1001')
    await of.page.click('form[action$="/rebook"] button')
    await shows(of, 'Moved; nothing to pay.')
  },
  'No message is sent twice': async (of) => {
    await cancelled(of)
    await at(of, '/messages')
    expect(await of.page.getByText('TF-1001').count()).to.equal(1)
  },
  'Dates and amounts follow the language': async (of, row) => {
    await look(of, { language: languages[valueOf(row, 'language')] ?? 'en' })
    const code = await made(of, {})
    await at(of, `/booking/${code}`)
    expect(await text(of, 'td.amount')).to.equal(valueOf(row, 'fare'))
    await shows(of, valueOf(row, 'day'))
  },
  'Language stays over sign-in': async (of) => {
    await at(of, '/')
    await of.page.getByRole('button', { name: 'Ovian' }).click()
    await signedIn(of)
    expect(await says(of, 'Etsu vuoro', 'nav')).to.equal(true)
  },
  'Wheelchair places are counted': async (of) => {
    const wants = { travellers: [{ wheelchair: true }] }
    expect([await made(of, wants), await made(of, wants)].every((code) => code !== null)).to.equal(true)
    expect((await api(of, '/bookings', { sailing: ten40, ...wants })).refused).to.equal(
      'There is no place for a wheelchair left on this sailing.',
    )
  },
  'Staff sign in and land on their page': async (of, row) => {
    const who = valueOf(row, 'who')
    await signedIn(of, who === 'tarnis' || who === 'quay' || who === 'officer' ? who : 'clerk')
    expect(await text(of, 'h1')).to.include(valueOf(row, 'page'))
  },
  'Staff pages ask for a sign-in': async (of, row) => {
    const paths: Readonly<Record<string, string>> = { Bookings: '/bookings', Quay: '/quay', 'Deck plan': '/deck' }
    await at(of, paths[valueOf(row, 'page')] ?? '/')
    expect(await text(of, 'h1')).to.equal('Sign in')
  },
  'Whole booking at one go': async (of) => {
    const booking = await api(of, '/bookings', { sailing: ten40, travellers: [{}, {}], vehicle: car(), card })
    expect([booking.state, booking.paid[0].amount]).to.deep.equal(['paid', 4700])
  },
  'Booking that is refused leaves nothing': async (of) => {
    const places = async () =>
      (await api(of, '/sailings?date=2026-05-13')).sailings.find(({ id }: { id: string }) => id === ten40).room.places
    const before = await places()
    const told = await api(of, '/bookings', { sailing: ten40, travellers: [{}, { born: '2030-01-01' }] })
    expect([typeof told.refused, await places()]).to.deep.equal(['string', before])
  },
  'Delay stands in the search': async (of) => {
    await quay(of, 'delay', 'minutes', '25', 'OVTA-260512-1420')
    await at(of, '/?from=OV&to=TA&date=2026-05-12')
    await shows(of, '14:20 +25 min')
  },
  'Clock of the hold is on the page of payment too': async (of) => {
    const code = await hold(of, 'OVLS-260513-1610')
    await at(of, `/booking/${code}/pay`)
    await shows(of, /Held for another\s+(20:00|19:5\d)/)
  },
}
