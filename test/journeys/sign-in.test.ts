import { expect } from 'chai'
import type { Page } from 'playwright-core'
import { endVisit, listening, startVisit, type Visit } from './browser.ts'

let visit: Visit
describe('sign in', () => {
  before(async function () {
    this.timeout(120_000)
    visit = await startVisit()
  })
  after(() => endVisit(visit))

  /** A page whose scripts never come. */
  async function bare(path: string): Promise<Page> {
    const context = await visit.browser.newContext({ baseURL: visit.server.url, javaScriptEnabled: false })
    const page = await context.newPage()
    await page.goto(path)
    return page
  }
  const fill = async (page: Page, password: string) => {
    await page.getByLabel('E-mail').fill('mira@tarnsey.example')
    await page.getByLabel('Password').fill(password)
    await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  }

  it('signs in before any script is loaded, and leads to where one wanted to go', async () => {
    const page = await bare('/p/FERRY/cases')
    await fill(page, 'ferry-2024')
    await page.waitForURL('**/p/FERRY/cases')
    expect(await page.title()).to.match(/cases/)
  })
  it('says what was wrong, and keeps the address typed', async () => {
    const page = await bare('/sign-in?to=/p/FERRY')
    await fill(page, 'wrong')
    await page.getByText('do not belong together').waitFor()
    expect(await page.getByLabel('E-mail').inputValue()).to.equal('mira@tarnsey.example')
    expect(await page.getByLabel('Password').inputValue()).to.equal('')
  })
  it('signs in as one of the sample people by a click', async () => {
    const page = await bare('/sign-in?to=/p/FERRY/runs')
    await page.getByRole('button', { name: /Tobin Rask/ }).click()
    await page.waitForURL('**/p/FERRY/runs')
  })
  it('keeps what is typed before the scripts come, and sends it by them', async () => {
    const context = await visit.browser.newContext({ baseURL: visit.server.url })
    const page = await context.newPage()
    await page.route('**/*.js', async (route) => {
      await new Promise((resolve) => setTimeout(resolve, 1200))
      await route.continue()
    })
    await page.goto('/sign-in?to=/p/FERRY', { waitUntil: 'commit' })
    await page.getByLabel('E-mail').fill('mira@tarnsey.example')
    await page.getByLabel('Password').fill('ferry-2024')
    await listening(page)
    await page.getByRole('button', { name: 'Sign in', exact: true }).click()
    await page.waitForURL('**/p/FERRY')
  })
})
