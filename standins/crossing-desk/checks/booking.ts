import { expect } from 'chai'
import {
  add,
  at,
  api,
  card,
  clock,
  hold,
  isRefused,
  look,
  made,
  move,
  pay,
  signedIn,
  text,
  vehicle,
} from '../driver.ts'
import { type Checks, dayIn, hides, portIn, sailingId, shows, valueOf } from './check.ts'

const search = (from: string, to: string, day: string) =>
  `/?${new URLSearchParams({ from: portIn(from), to: portIn(to), date: dayIn(day) })}`
const times = (text: string[]) => text.map((each) => each.slice(0, 5))

export const bookingChecks: Checks = {
  'Sailings of a day are listed by departure': async (of) => {
    await at(of, search('Ovemouth', 'Tarnsey', 'Wed 13 May'))
    const rows = await of.page.locator('tbody tr td:first-child').allInnerTexts()
    expect(times(rows)).to.deep.equal(['06:30', '08:15', '10:40', '14:20', '17:50', '20:30'])
    expect(await text(of, `[data-sailing="OVTA-260513-1040"] td:nth-child(3)`)).to.equal('116')
  },
  'Sailings that have left are not listed': async (of) => {
    const first = async () => {
      await at(of, search('Ovemouth', 'Tarnsey', 'Tue 12 May'))
      return times(await of.page.locator('tbody tr td:first-child').allInnerTexts())[0]
    }
    expect(await first()).to.equal('10:40')
    await clock(of, '10:40')
    expect(await first()).to.equal('14:20')
  },
  'No sailing left on the day offers the next one': async (of) => {
    await clock(of, '20:31')
    await at(of, search('Ovemouth', 'Tarnsey', 'Tue 12 May'))
    await shows(of, 'No sailing left on this day. The next one is', 'Wed 13 May 2026, 06:30')
    await of.page.getByRole('link', { name: 'Wed 13 May 2026, 06:30' }).click()
    await shows(of, 'Ovemouth – Tarnsey, Wed 13 May 2026')
  },
  'Ports that are not connected are not offered': async (of) => {
    for (const from of ['Tarnsey', 'Low Skerrin']) {
      await at(of, search(from, 'Ovemouth', 'Wed 13 May'))
      expect(await of.page.locator('[name=to] option').allInnerTexts()).to.deep.equal(['Ovemouth'])
    }
  },
  'Arrival follows from the length of the crossing': async (of, row) => {
    const [from, to, departs] = [valueOf(row, 'from'), valueOf(row, 'to'), valueOf(row, 'departs')]
    await at(of, search(from, to, 'Wed 13 May'))
    const id = sailingId(from, to, 'Wed 13 May', departs)
    expect(await text(of, `[data-sailing="${id}"] td:nth-child(2)`)).to.equal(valueOf(row, 'arrives'))
  },
  'Child on the fourth birthday pays the child fare': async (of, row) => {
    await hold(of)
    await add(of, { name: 'Kit Moor', born: valueOf(row, 'born') })
    await shows(of, `Kit Moor (${valueOf(row, 'band')})`)
    expect(await text(of, 'td.amount')).to.equal(valueOf(row, 'fare'))
  },
  'Sixteenth birthday on the day of sailing pays the adult fare': async (of) => {
    await hold(of, 'OVTA-260513-1420')
    await add(of, { name: 'Tor Vik', born: '2010-05-13' })
    await shows(of, 'Tor Vik (adult)', '9.00')
  },
  'Fifteen-year-old pays the child fare': async (of) => {
    await hold(of, 'OVTA-260513-1420')
    await add(of, { name: 'Una Vik', born: '2010-05-14' })
    await shows(of, 'Una Vik (child)', '4.50')
  },
  'Senior from 65 pays the senior fare': async (of, row) => {
    await hold(of, 'OVLS-260513-1610')
    await add(of, { name: 'Alva Berg', born: valueOf(row, 'born') })
    await shows(of, `Alva Berg (${valueOf(row, 'band')})`, valueOf(row, 'fare'))
  },
  'Leap-day birthday is counted on 1 March': async (of, row) => {
    await clock(of, '09:00', valueOf(row, 'today'))
    await hold(of, sailingId('OV', 'TA', valueOf(row, 'sails'), '10:40'))
    await add(of, { name: 'Lea Dahl', born: '2024-02-29' })
    await shows(of, `Lea Dahl (${valueOf(row, 'band')})`)
  },
  'Date of birth in the future is refused': async (of) => {
    await hold(of)
    await add(of, { name: 'Nils Holm', born: '2030-01-01' })
    await shows(of, 'The date of birth is after the day of sailing.')
    await hides(of, 'Nils Holm')
  },
  'Date of birth that is no day is refused': async (of, row) => {
    await hold(of)
    await add(of, { name: 'Nils Holm', born: valueOf(row, 'typed') })
    await shows(of, 'Write the date of birth like 2019-05-12.')
  },
  'Names are asked for': async (of) => {
    await hold(of)
    await add(of, { name: ' ' })
    await shows(of, 'Write a name.')
  },
  'Car of 4.51 m pays the middle band': async (of, row) => {
    await hold(of)
    await vehicle(of, { length: valueOf(row, 'length') })
    await shows(of, `car (${valueOf(row, 'band')})`)
    expect(await text(of, 'td.amount')).to.equal(valueOf(row, 'fare'))
  },
  'Length is read with comma and with point': async (of, row) => {
    await hold(of, 'OVTA-260513-1750')
    await vehicle(of, { length: valueOf(row, 'typed') })
    await shows(of, `car, ${valueOf(row, 'read')} m`)
  },
  'Length that is none is refused': async (of, row) => {
    await hold(of, 'OVTA-260513-1750')
    await vehicle(of, { length: valueOf(row, 'typed') })
    await shows(of, 'Write the length in metres, such as 4.50.')
  },
  'Roof box counts for the height': async (of) => {
    await hold(of, 'OVTA-260515-1750')
    await vehicle(of, { length: '4.40', height: '2.15' })
    await shows(of, 'The car deck is 2.10 m high: this car cannot be placed there.')
  },
  'Freight of 9.01 m asks for a quote': async (of) => {
    await hold(of, 'OVTA-260515-0815')
    await vehicle(of, { kind: 'freight', length: '9.01', height: '3.80' })
    await shows(of, 'Freight longer than 9 m asks for a quote: call the office.')
    await vehicle(of, { kind: 'van', length: '9.01', height: '3.80' })
    await shows(of, 'Longer than 9 m is freight: choose freight, or ask the office for a quote.')
  },
  'Thirteenth pet is refused': async (of) => {
    await hold(of, 'OVTA-260513-1420')
    await of.page.fill('[name=pets]', '1')
    await of.page.click('form[action$="/extras"] button')
    await shows(of, 'There are 0 places for pets left on this sailing.')
  },
  'Pets and bicycles are charged by the piece': async (of, row) => {
    await hold(of, 'OVTA-260514-1040')
    for (const name of ['pets', 'bicycles']) await of.page.fill(`[name=${name}]`, valueOf(row, name))
    await of.page.click('form[action$="/extras"] button')
    expect(await text(of, '[data-total]')).to.equal(valueOf(row, 'total'))
  },
  'Hold ends after 20 minutes and frees the place': async (of) => {
    const code = await hold(of)
    await add(of, { name: 'Jens Holt' })
    await move(of, 20)
    await at(of, `/booking/${code}`)
    await shows(of, 'The hold has ended and the place is free again. Choose a sailing anew.')
    await at(of, search('Ovemouth', 'Tarnsey', 'Wed 13 May'))
    expect(await text(of, `[data-sailing="OVTA-260513-1040"] td:nth-child(3)`)).to.equal('116')
  },
  'Paying shortly before the end keeps the place': async (of) => {
    const code = await hold(of)
    await add(of, { name: 'Jens Holt' })
    await move(of, 19)
    await pay(of, code, { card })
    await shows(of, 'State: paid')
  },
  'Hold survives a reload of the page': async (of) => {
    await hold(of)
    await move(of, 5)
    await of.page.reload()
    expect(Number(await of.page.locator('[data-until]').getAttribute('data-until'))).to.be.within(
      13 * 60_000,
      15 * 60_000,
    )
  },
  'Booking given up frees its place at once': async (of) => {
    await hold(of, 'OVTA-260513-2030')
    await add(of, {})
    await of.page.click('form[action$="/cancel"] button')
    await shows(of, '0.00 are given back', 'State: cancelled')
    await at(of, search('Ovemouth', 'Tarnsey', 'Wed 13 May'))
    expect(await text(of, `[data-sailing="OVTA-260513-2030"] td:nth-child(3)`)).to.equal('120')
  },
  'Group of nine is not offered the group fare': async (of) => {
    const code = await made(of, { sailing: 'OVTA-260513-1420', travellers: Array.from({ length: 9 }, () => ({})) })
    await at(of, `/booking/${code}`)
    expect(await text(of, '[data-total]')).to.equal('81.00')
    await hides(of, /group, −/)
    await add(of, { name: 'Tenth' })
    expect(await text(of, '[data-total]')).to.equal('72.00')
  },
  'Cheaper sailing gives the difference back': async (of) => {
    await moved(of, 'TF-1001', 'OVTA-260513-2030')
    await shows(of, 'Moved; 2.70 are paid back.')
    expect((await api(of, '/charges/TF-1001')).charges.map(({ amount }: { amount: number }) => amount)).to.deep.equal([
      1800, -270,
    ])
  },
  'Dearer sailing charges the difference': async (of) => {
    const code = await made(of, { sailing: 'OVTA-260513-0630', card })
    await at(of, `/booking/${code}/receipt`)
    await shows(of, '7.65', 'off-peak')
    await moved(of, code ?? '', 'OVTA-260513-1040')
    await shows(of, 'Moved; 1.35 more were charged.')
  },
  'Change after check-in has closed is refused': async (of) => {
    await clock(of, '10:30')
    await moved(of, 'TF-1007', 'OVTA-260512-1420')
    await shows(of, 'Check-in of this sailing has closed; the booking can no longer be changed.')
  },
  'Clerk sells a place from the own port': async (of) => {
    await signedIn(of)
    await of.page.selectOption('form[action$="/sell"] [name=sailing]', 'OVTA-260513-1040')
    await of.page.click('form[action$="/sell"] button')
    await of.page.waitForURL(/\/booking\//)
    const code = of.page.url().split('/').at(-1) ?? ''
    await add(of, { name: 'Mia Lien', born: '1990-01-01' })
    await pay(of, code, { card })
    await at(of, '/bookings')
    await shows(of, 'Mia Lien')
  },
  'Clerk sees the bookings of the own port alone': async (of) => {
    await look(of, { who: 'tarnis' })
    await at(of, '/bookings')
    await shows(of, 'TF-1006')
    await hides(of, 'TF-1001')
    expect(await isRefused(of)).to.equal(false)
  },
}

async function moved(of: Parameters<typeof at>[0], code: string, to: string): Promise<void> {
  await at(of, `/my/${code}`)
  await of.page.selectOption('form[action$="/change"] [name=sailing]', to)
  await of.page.click('form[action$="/change"] button')
}
