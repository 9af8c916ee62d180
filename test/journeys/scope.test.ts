import { expect } from 'chai'
import type { Page } from 'playwright-core'
import { go, type Journey, openPage, startJourney, endJourney } from './browser.ts'

let journey: Journey
before(async function () {
  this.timeout(120_000)
  journey = await startJourney('mira')
})
after(() => endJourney(journey))

/** Every page that tells a figure of the scope. */
const pages = [
  '',
  '/requirements',
  '/RQ-4',
  '/cases',
  '/TC-15',
  '/plans',
  '/PL-2',
  '/suites',
  '/runs',
  '/RN-4',
  '/defects',
  '/DF-3',
  '/reports',
  '/reports/gaps',
  '/reports/risk',
  '/reports/stale',
  '/reports/board',
]
/** A choice of each part, one after another, so that parts meet. */
const choices = [
  ['As of', '-7'],
  ['As of', ''],
  ['Build', '2.4.0-rc1'],
  ['Environment', 'last'],
  ['Iteration', 'last'],
  ['Release', 'all'],
] as const

/** What the page says, word by word, when it has come to rest. */
async function said(page: Page): Promise<string[]> {
  let before = ''
  for (let look = 0; look < 40; look++) {
    const now = await page.evaluate(() => {
      // Which keys are named at the foot is of the places that listen, not of the scope.
      const keys = document.querySelector('footer')?.innerText ?? ''
      return document.body.innerText.replace(keys, '').replace(/\s+/g, ' ')
    })
    if (now === before) return now.split(' ')
    before = now
    await page.waitForTimeout(250)
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
    let changed = 0
    for (const [part, value] of choices) {
      const before = page.url()
      if (!(await choose(page, part, value))) continue
      await page.waitForURL((url) => url.href !== before)
      changed++
      const address = new URL(page.url())
      const [now, then] = await Promise.all([
        said(page),
        go(reloaded, journey.server, address.pathname + address.search).then(() => said(reloaded)),
      ])
      expect(difference(now, then), `${part} ${value}`).to.equal('')
    }
    expect(changed).to.be.at.least(4)
    await Promise.all([page.close(), reloaded.close()])
  })
