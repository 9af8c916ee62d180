import { expect } from 'chai'
import type { Page, Request } from 'playwright-core'
import { endJourney, type Journey, load, openPage, places, startJourney } from './browser.ts'

let journey: Journey
describe('scope', () => {
  before(async function () {
    this.timeout(120_000)
    journey = await startJourney('mira')
  })
  after(() => endJourney(journey))

  /** Every page that tells a figure of the scope. */
  const pages = [...places, '/reports', '/reports/gaps', '/reports/risk', '/reports/stale', '/reports/board']
  /** A choice of each part, one after another, so that parts meet. */
  const choices = [
    ['Build', '2.4.0-rc1'],
    ['Environment', 'last'],
    ['Iteration', 'last'],
    ['As of', '-7'],
    ['Release', 'all'],
  ] as const

  /** What a page asks the server and has not been answered yet; the stream of changes never ends. */
  function questions(page: Page): Set<Request> {
    const open = new Set<Request>()
    page.on('request', (request) => {
      if (request.url().includes('/api/v1/') && !request.url().includes('/events')) open.add(request)
    })
    page.on('requestfinished', (request) => open.delete(request))
    page.on('requestfailed', (request) => open.delete(request))
    return open
  }

  /** What the page says, word by word, when every question is answered and it has come to rest. */
  async function said(page: Page, open: ReadonlySet<Request>): Promise<string[]> {
    let before = ''
    for (let look = 0; look < 100; look++) {
      const now = await page.evaluate(() => {
        // Which keys are named at the foot is of the places that listen, and the greeting of the hour: neither of the scope.
        const keys = document.querySelector('footer')?.innerText ?? ''
        return document.body.innerText
          .replace(keys, '')
          .replace(/Good (morning|afternoon|evening|night)/, '')
          .replace(/\s+/g, ' ')
      })
      if (now === before && open.size === 0) return now.split(' ')
      before = now
      await page.waitForTimeout(200)
    }
    return before.split(' ')
  }

  /** Where two pages say something else, with what stands around it. */
  function difference(one: readonly string[], other: readonly string[]): string {
    const at = one.findIndex((word, index) => word !== other[index])
    if (at < 0 && one.length === other.length) return ''
    const around = (words: readonly string[]) => words.slice(Math.max(0, at - 6), at + 8).join(' ')
    return `“${around(one)}”, after a reload “${around(other)}”`
  }

  /** The difference of two pages that does not go away: one may be drawn later than the other, but an old figure stays. */
  async function lasting(page: Page, asked: ReadonlySet<Request>, other: Page, askedThere: ReadonlySet<Request>) {
    let found = ''
    for (let look = 0; look < 12; look++) {
      const [now, then] = await Promise.all([said(page, asked), said(other, askedThere)])
      found = difference(now, then)
      if (found === '') break
      await page.waitForTimeout(500)
    }
    return found
  }

  async function choose(page: Page, part: string, value: string): Promise<boolean> {
    const select = page.getByRole('region', { name: 'Scope' }).getByLabel(part, { exact: true })
    const values = await select
      .locator('option')
      .evaluateAll((all) => all.map((each) => (each as HTMLOptionElement).value))
    const to = value === 'last' ? values.at(-1) : value === 'all' ? values[0] : value
    if (to === undefined || !values.includes(to) || (await select.inputValue()) === to) return false
    await select.selectOption(to)
    return true
  }

  for (const path of pages)
    it(`every figure of ${path === '' ? 'Today' : path} is that of the scope as soon as it is changed`, async () => {
      const page = await openPage(journey.context, journey.server, `/p/FERRY${path}`)
      const reloaded = await openPage(journey.context, journey.server, `/p/FERRY${path}`)
      const [asked, askedAgain] = [questions(page), questions(reloaded)]
      let changed = 0
      for (const [part, value] of choices) {
        const before = page.url()
        if (!(await choose(page, part, value))) continue
        await page.waitForURL((url) => url.href !== before)
        changed++
        const address = new URL(page.url())
        await load(reloaded, journey.server, address.pathname + address.search)
        expect(await lasting(page, asked, reloaded, askedAgain), `${part} ${value}`).to.equal('')
      }
      expect(changed).to.be.at.least(4)
      await Promise.all([page.close(), reloaded.close()])
    })
})
