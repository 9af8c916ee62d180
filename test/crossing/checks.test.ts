import { expect } from 'chai'
import type { BrowserContext, Page } from 'playwright-core'
import { basis } from '#demo/basis/all.ts'
import { benchChecks } from '../../standins/crossing-desk/checks/bench.ts'
import { bookingChecks } from '../../standins/crossing-desk/checks/booking.ts'
import { moneyChecks } from '../../standins/crossing-desk/checks/money.ts'
import { quayAndDeckChecks } from '../../standins/crossing-desk/checks/quay-and-deck.ts'
import { atBuild } from '../../standins/crossing-desk/driver.ts'
import { type CrossingDesk, startCrossingDesk } from '../../standins/crossing-desk/main.ts'
import { openBrowser } from '../journeys/browser.ts'

const { cases } = basis
const checks = { ...bookingChecks, ...moneyChecks, ...quayAndDeckChecks, ...benchChecks }
/** No fault is in it. */
const clean = '2.3.4'

describe('automated checks of Crossing Desk', () => {
  let desk: CrossingDesk
  let context: BrowserContext
  let page: Page
  before(async () => {
    desk = await startCrossingDesk({ port: 0 })
    context = await openBrowser()
    page = await context.newPage()
  })
  after(async () => {
    await context.close()
    await desk.stop()
  })
  it('are sixty and more, each of a case there is', () => {
    expect(Object.keys(checks).length).to.be.at.least(60)
    const titles = new Set(cases.map(({ title }) => title))
    expect(Object.keys(checks).filter((title) => !titles.has(title))).to.deep.equal([])
  })
  for (const [title, check] of Object.entries(checks)) {
    const own = cases.find((each) => each.title === title)
    const rows = own && own.rows.length > 0 ? own.rows : [[]]
    rows.forEach((row, at) => {
      it(`${title}${rows.length > 1 ? `, row ${at + 1}` : ''}`, async () => {
        const values = Object.fromEntries((own?.columns ?? []).map((name, place) => [name, row[place] ?? '']))
        await check(await atBuild(page, desk.url, { build: clean, as: {} }), values)
      })
    })
  }
})
