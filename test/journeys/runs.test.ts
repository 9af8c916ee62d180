import { expect } from 'chai'
import type { BrowserContext, Page } from 'playwright-core'
import { type Client, clientOf, type Running } from '../server.ts'
import { endJourney, go, openPage, startJourney, undo } from './browser.ts'

let server: Running
let context: BrowserContext
let page: Page
let api: Client
const P = '/projects/FERRY'
describe('runs', () => {
  before(async () => {
    ;({ server, context } = await startJourney('mira'))
    page = await openPage(context, server, '/p/FERRY/RN-5?full=yes')
    api = await clientOf(server.url, 'mira')
  })
  after(() => endJourney({ server, context }))
  const read = async (path: string) => (await api.get(`${P}${path}`)).body
  const rows = () => page.getByLabel('What would be executed').getByRole('listitem')
  const heading = (n: number) => page.getByRole('heading', { name: `These ${n}, and why` })
  const anyHeading = /^These \d+, and why$/
  const build = async (): Promise<number> =>
    (await api.get(P)).body.builds.find(({ name }: { name: string }) => name === '2.4.0-rc2').id
  /** The case and environment a row is of. */
  const labelOf = async (at: number): Promise<string> =>
    (await rows().nth(at).getByRole('checkbox').getAttribute('aria-label')) ?? ''

  it('are composed by keys out of what failed and was never tried, less what is taken out, and keep why', async () => {
    await page.keyboard.press('a')
    await page.getByRole('heading', { name: 'What again?' }).waitFor()
    await page.getByRole('heading', { name: anyHeading }).waitFor()
    for (const key of ['2', '3']) await page.keyboard.press(key)
    await page.waitForURL(/runs=RN-5.*reasons=failed(&|$)/)
    await page.keyboard.press('5')
    await page.waitForURL(/reasons=failed%2Cnever\+tried/)
    const told = await read('/compose?build=' + (await build()) + '&runs=RN-5&reasons=failed,never%20tried')
    const before: number = told.total
    await heading(before).waitFor()
    const out = await labelOf(0)
    await page.getByRole('checkbox', { name: out }).focus()
    await page.keyboard.press('Space')
    await heading(before - 1).waitFor()
    await page.keyboard.press('ArrowDown')
    await page.keyboard.press('Control+Enter')
    const dialog = page.getByRole('dialog', { name: 'Open a run' })
    await dialog.getByRole('button', { name: 'Open the run' }).click()
    await page.waitForURL(/RN-7/)
    await page.getByText(/Composed for/).waitFor()
    const made = await read('/runs/RN-7')
    expect([made.items, made.composed.runs, made.composed.reasons]).to.deep.equal([
      before - 1,
      ['RN-5'],
      ['failed', 'never tried'],
    ])
    const { rows: items } = await read('/runs/RN-7/items?limit=500')
    const names = items.map((item: { case: string; environment: string }) => `${item.case} in ${item.environment}`)
    expect(names).to.not.include(out)
    expect(new Set(items.flatMap(({ reasons }: { reasons: string[] }) => reasons))).to.include('failed')
  })
  it('that go on are joined: what is in them by now is named, and what came in is taken back', async () => {
    await go(page, server, '/p/FERRY/runs/again?runs=RN-5&reasons=failed,stuck')
    await page.getByRole('heading', { name: anyHeading }).waitFor()
    await page.keyboard.press('j')
    const dialog = page.getByRole('dialog', { name: 'Join an open run' })
    await dialog.getByRole('button', { name: 'Join' }).click()
    const told = page.getByText(/joined RN-7\./)
    await told.waitFor()
    expect(await told.textContent()).to.match(/\d+ were in it by now/)
    const after = (await read('/runs/RN-7')).items
    await undo(page, /joined RN-7\./)
    await page.waitForTimeout(800)
    expect((await read('/runs/RN-7')).items).to.be.lessThan(after)
  })
  it('are opened in two keys of what covers a requirement', async () => {
    await go(page, server, '/p/FERRY/RQ-2')
    await page.keyboard.press('o')
    const dialog = page.getByRole('dialog', { name: 'Open a run' })
    await dialog.getByText('Whatever covers RQ-2, in each environment.').waitFor()
    expect(await dialog.getByLabel('Title').inputValue()).to.match(/, 2\.4\.0-rc2, \d+ \w+$/)
    await page.keyboard.press('Escape')
  })
})
