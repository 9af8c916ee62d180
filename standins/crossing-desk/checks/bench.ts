import { expect } from 'chai'
import { api, at, clock, signedIn, text } from '../driver.ts'
import { type Checks, shows, valueOf } from './check.ts'

const lookUp = '/my/look?code='

/** Finding a booking again, the weather page before it is used, and the test bench. */
export const benchChecks: Checks = {
  'Code is found however it is typed': async (of, row) => {
    await at(of, `${lookUp}${valueOf(row, 'typed')}`)
    expect(await text(of, 'h1')).to.equal('My booking TF-1001')
    await shows(of, 'State: paid')
  },
  'Code that nobody has is refused': async (of) => {
    await at(of, `${lookUp}TF-9998`)
    await shows(of, 'There is no booking TF-9998.')
  },
  'What happened stands on the page of the booking': async (of) => {
    await at(of, `${lookUp}TF-1001`)
    await of.page.selectOption('form[action$="/change"] select', 'OVTA-260513-1420')
    await of.page.click('form[action$="/change"] button')
    await at(of, `${lookUp}TF-1001`)
    await shows(of, /Tue 12 May 2026, \d\d:\d\d: moved/)
  },
  'Bookings stand beside the sailing before it is cancelled': async (of) => {
    await signedIn(of, 'officer')
    await at(of, '/weather')
    expect(await text(of, 'tr:has-text("2026-05-13 10:40 OV–TA")')).to.match(/\t3\t/)
  },
  'Known state is the same each time': async (of) => {
    const cancel = async () => {
      await at(of, `${lookUp}TF-1001`)
      await of.page.click('form[action$="/cancel"] button')
      return text(of)
    }
    expect(await cancel()).to.contain('State: cancelled')
    await api(of, '/reset', {})
    await at(of, `${lookUp}TF-1001`)
    await shows(of, 'State: paid')
  },
  'Clock that was set stands until it is let run': async (of) => {
    await clock(of, '10:24')
    await at(of, '/bench')
    await shows(of, 'The clock stands.')
    await of.page.click('text=Let the clock run')
    await shows(of, 'The clock runs.')
  },
}
