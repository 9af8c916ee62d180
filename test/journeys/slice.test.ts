import { expect } from 'chai'
import type { BrowserContext, Page } from 'playwright-core'
import type { Running } from '../server.ts'
import { endJourney, go, listening, openPage, signedIn, startJourney } from './browser.ts'

let server: Running
let context: BrowserContext
describe('slice', () => {
  before(async () => {
    ;({ server, context } = await startJourney(null))
  })
  after(() => endJourney({ server, context }))
  const has = (page: Page, text: string) => page.getByText(text, { exact: false }).first().waitFor({ timeout: 15_000 })

  it('signs in as a sample person and begins at Today', async () => {
    const page = await openPage(context, server, '/')
    await page.getByRole('button', { name: /Mira Kell/ }).click()
    await page.waitForURL(/\/p\/FERRY$/)
    await has(page, 'Your queue')
    await page.close()
  })

  it('takes a requirement to a failing result and a defect by keys alone', async function () {
    this.timeout(120_000)
    await signedIn(context, server, 'mira')
    const page = await openPage(context, server, '/p/FERRY/requirements')
    await page.keyboard.press('n')
    await page.getByLabel('Requirements, a line each').waitFor()
    await page.keyboard.type('Luggage lockers\n\tA locker opens with its code')
    await page.keyboard.press('Control+Enter')
    await page.waitForURL(/\/RQ-\d+$/)
    await page
      .getByRole('link', { name: /A locker opens with its code/ })
      .first()
      .click()
    await page.waitForURL(/\/RQ-\d+$/)
    await page.waitForFunction(() =>
      document.querySelector('article h2')?.textContent?.includes('A locker opens with its code'),
    )
    await listening(page)
    await page.keyboard.press('c')
    await page.keyboard.type('Right code opens the locker')
    await page.keyboard.press('Control+Enter')
    const link = page.getByRole('link', { name: 'Right code opens the locker' })
    await link.waitFor()
    await link.press('Enter')
    await page.waitForURL(/\/TC-\d+$/)
    await listening(page)
    await page.getByRole('button', { name: 'Write the first step' }).press('Enter')
    await page.getByLabel('Step 1, action').waitFor()
    await page.keyboard.type('Type the code 4711')
    await page.keyboard.press('Tab')
    await page.keyboard.type('The door opens')
    await page.keyboard.press('Enter')
    await page.keyboard.type('Close the door')
    await page.keyboard.press('Alt+ArrowUp')
    await page.getByText(/Stored \d\d:\d\d/).waitFor()
    expect(await page.getByLabel('Step 1, action').inputValue()).to.equal('Close the door')
    await page.keyboard.press('Alt+ArrowDown')
    await page.waitForTimeout(900)
    await page.getByText(/Stored \d\d:\d\d/).waitFor()
    const key = /TC-\d+/.exec(page.url())?.[0] ?? ''

    const api = async (method: string, path: string, data: unknown) =>
      (
        await context.request.fetch(`${server.url}/api/v1/projects/FERRY${path}`, {
          method,
          data: data === undefined ? undefined : data,
        })
      ).json()
    const own = await api('GET', `/cases/${key}`, undefined)
    const project = await api('GET', '', undefined)
    const suite = await api('POST', '/suites', { title: 'Lockers', cases: [own.id] })
    await go(page, server, '/p/FERRY/plans')
    await page.keyboard.press('n')
    await page.getByLabel('Title').fill('Locker plan')
    await page.getByLabel(/Lockers/).check()
    await page.getByLabel('WebKit, desk').check()
    await page.getByRole('button', { name: 'Start the plan' }).press('Enter')
    await page.waitForURL(/\/PL-\d+$/)
    await page.getByRole('heading', { name: /Locker plan/ }).waitFor()
    await listening(page)
    await page.keyboard.press('o')
    await page.getByRole('button', { name: 'Open the run' }).press('Enter')
    await page.waitForURL(/\/RN-\d+/)
    await page.getByRole('row', { name: /Right code opens the locker/ }).waitFor()
    expect(suite.key).to.match(/^TS-/)
    expect(project.key).to.equal('FERRY')

    await page.waitForTimeout(400)
    await page.keyboard.press('x')
    await page.waitForURL(/\/desk\/\d+/)
    await listening(page)
    await page.waitForTimeout(300)
    await page.keyboard.press('p')
    await page.getByText(/Stored \d\d:\d\d:\d\d/).waitFor()
    await page.getByRole('img', { name: 'Step 1: Passed' }).waitFor()
    await page.keyboard.press('f')
    await page.getByText('as a whole').waitFor()
    await page.keyboard.press('u')
    await page.waitForFunction(() => document.querySelector('[aria-label="Step 2: Failed"]') === null)
    await page.keyboard.press('f')
    await page.keyboard.press('c')
    await page.keyboard.type('The door stays open')
    await page.keyboard.press('Enter')
    await page.waitForTimeout(400)
    await page.keyboard.press('d')
    await has(page, 'Filled in from the step')
    expect(await page.getByLabel('What happened').last().inputValue()).to.equal('The door stays open')
    await page.keyboard.press('Control+Enter')
    await has(page, 'is reported, linked to its step')
    const defects = await api('GET', '/defects?limit=1', undefined)
    expect(defects.rows[0].title).to.match(/Right code opens the locker|Close the door/)
    await page.close()
  })

  it('keeps a pasted picture with the open step', async () => {
    await signedIn(context, server, 'tobin')
    const page = await openPage(context, server, '/p/FERRY')
    await page.keyboard.press('x')
    await page.waitForURL(/\/desk\/\d+/)
    await listening(page)
    await page.waitForTimeout(300)
    await page.evaluate(async () => {
      const canvas = document.createElement('canvas')
      canvas.width = canvas.height = 40
      canvas.getContext('2d')?.fillRect(4, 4, 20, 20)
      const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve))
      const data = new DataTransfer()
      if (blob) data.items.add(new File([blob], 'pasted.png', { type: 'image/png' }))
      window.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data }))
    })
    await has(page, 'pasted.png is kept with step 1')
    await page.getByRole('button', { name: 'Show pasted.png' }).press('Enter')
    await page.getByRole('dialog').getByRole('img', { name: 'pasted.png' }).waitFor()
    await page.close()
  })

  it('pastes cells of a spreadsheet into steps, keeping their columns', async () => {
    await signedIn(context, server, 'mira')
    const page = await openPage(context, server, '/p/FERRY/TC-4')
    const first = page.getByLabel('Step 1, action')
    await first.focus()
    const before = await page.locator('[data-step-cell$=":action"]').count()
    await page.evaluate(() => {
      const data = new DataTransfer()
      data.setData('text/plain', 'Look left\tNobody comes\tmorning\nLook right\tNobody comes\tevening')
      document.activeElement?.dispatchEvent(
        new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
      )
    })
    await page.waitForFunction((n) => document.querySelectorAll('[data-step-cell$=":action"]').length === n + 2, before)
    expect(await page.getByLabel('Step 3, data').inputValue()).to.equal('evening')
    await page.close()
  })

  it('shows other pages what a tester records', async () => {
    await signedIn(context, server, 'mira')
    const watching = await openPage(context, server, '/p/FERRY/RN-5')
    await watching.getByText(/\d+ % done, (\d+) of/).waitFor()
    const done = async () => Number(/, (\d+) of/.exec(await watching.getByText(/% done/).innerText())?.[1])
    const before = await done()
    const items = await (
      await context.request.get(`${server.url}/api/v1/projects/FERRY/runs/RN-5/items?limit=300`)
    ).json()
    const item = items.rows.find(({ verdict }: { verdict: string }) => verdict === 'Not run')
    const attempt = await (
      await context.request.post(`${server.url}/api/v1/projects/FERRY/items/${item.id}/attempts`, { data: {} })
    ).json()
    await context.request.put(`${server.url}/api/v1/projects/FERRY/attempts/${attempt.id}/verdict`, {
      data: { verdict: 'Passed', client: 'elsewhere-1', sequence: 1, at: Date.now() },
    })
    await watching.waitForFunction((n) => document.body.innerText.includes(`, ${n} of`), before + 1, {
      timeout: 10_000,
    })
    await watching.close()
  })
})
