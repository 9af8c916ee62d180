import { expect } from 'chai'
import type { BrowserContext } from 'playwright-core'
import { endVisit, go, places, signedIn, startVisit, type Visit } from './browser.ts'

let visit: Visit
let context: BrowserContext
describe('phone', () => {
  before(async function () {
    this.timeout(120_000)
    visit = await startVisit()
    context = await visit.browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true })
    await signedIn(context, visit.server, 'mira')
  })
  after(() => endVisit(visit))

  for (const path of [...places, '/reports', '/reports/gaps', '/reports/stale', '/sample'])
    it(`${path === '' ? 'Today' : path} fits a phone without scrolling sideways, and what is pressed is as high as a thumb`, async () => {
      const page = await context.newPage()
      await go(page, visit.server, `/p/FERRY${path}`)
      const seen = await page.evaluate(() => ({
        width: document.documentElement.scrollWidth,
        low: [...document.querySelectorAll('header button, header select, main button, main select, main input')]
          .filter(
            (each) =>
              each.checkVisibility() && !['checkbox', 'radio', 'hidden'].includes(each.getAttribute('type') ?? ''),
          )
          .filter((each) => {
            const after = getComputedStyle(each, '::after')
            const room = after.position === 'absolute' && after.content !== 'none' ? 24 : 0
            const { width, height } = each.getBoundingClientRect()
            return width > 1 && height > 1 && height + room < 44
          })
          .map((each) => `${each.tagName} ${each.getAttribute('aria-label') ?? each.textContent ?? ''}`),
      }))
      expect(seen.width).to.equal(390)
      expect(seen.low).to.deep.equal([])
      await page.close()
    })
  it('leads from station to station', async () => {
    const page = await context.newPage()
    await go(page, visit.server, '/p/FERRY')
    await page
      .getByRole('link', { name: /^Defects/ })
      .first()
      .tap()
    await page.waitForURL('**/p/FERRY/defects*')
    await page.close()
  })
})
