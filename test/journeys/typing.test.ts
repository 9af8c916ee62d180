import { expect } from 'chai'
import type { BrowserContext, Page } from 'playwright-core'
import type { Running } from '../server.ts'
import { endJourney, go, openPage, startJourney } from './browser.ts'

let server: Running
let context: BrowserContext
let page: Page
describe('typing', () => {
  before(async () => {
    ;({ server, context } = await startJourney('mira'))
    page = await openPage(context, server, '/p/FERRY/requirements')
    // A machine much slower than this one: a focus that comes a frame late shows as a lost letter.
    const devtools = await context.newCDPSession(page)
    await devtools.send('Emulation.setCPUThrottlingRate', { rate: 8 })
  })
  after(() => endJourney({ server, context }))

  it('loses no letter of steps typed in one go', async function () {
    this.timeout(120_000)
    await page.keyboard.press('n')
    await page.getByLabel('Requirements, a line each').waitFor()
    await page.keyboard.type('Parent\n\tChild\n')
    await page.keyboard.press('Shift+Tab')
    await page.keyboard.type('Plain\n\tBelow')
    expect(await page.getByLabel('Requirements, a line each').inputValue()).to.equal('Parent\n\tChild\nPlain\n\tBelow')
    await page.keyboard.press('Escape')
    await go(page, server, '/p/FERRY/TC-94')
    const before = await page.getByLabel(/Step \d+, action/).count()
    await page.getByLabel(`Step ${before}, action`).focus()
    await page.keyboard.press('Enter')
    for (const [at, line] of ['First', 'Second', 'Third', 'Fourth'].entries()) {
      if (at > 0) await page.keyboard.press('Enter')
      await page.keyboard.type(line)
    }
    await page.keyboard.press('Alt+ArrowUp')
    await page.keyboard.type('!')
    const typed = await page
      .getByLabel(/Step \d+, action/)
      .evaluateAll((cells) => cells.slice(-4).map((cell) => (cell instanceof HTMLTextAreaElement ? cell.value : '')))
    expect(typed).to.deep.equal(['First', 'Second', 'Fourth!', 'Third'])
    await page.getByText(/Stored \d\d:\d\d/).waitFor()
  })

  /** Presses a key and tells, before anything else can happen in the page, where the next letter would go. */
  const pressed = (of: { key: string; altKey?: boolean; shiftKey?: boolean }) =>
    page.evaluate((init) => {
      document.activeElement?.dispatchEvent(new KeyboardEvent('keydown', { ...init, bubbles: true, cancelable: true }))
      const at = document.activeElement
      return `${at?.getAttribute('aria-label') ?? 'nowhere'} at ${at instanceof HTMLTextAreaElement ? at.selectionStart : 'no caret'}`
    }, of)

  it('has the focus and the caret where they belong before the key event ends', async function () {
    this.timeout(120_000)
    await go(page, server, '/p/FERRY/TC-133')
    const last = await page.getByLabel(/Step \d+, action/).count()
    await page.getByLabel(`Step ${last}, action`).focus()
    expect(await pressed({ key: 'Enter' })).to.equal(`Step ${last + 1}, action at 0`)
    expect(await pressed({ key: 'Backspace' })).to.match(new RegExp(`^Step ${last}, action at`))
    expect(await pressed({ key: 'ArrowUp', altKey: true })).to.match(new RegExp(`^Step ${last - 1}, action at`))
    await go(page, server, '/p/FERRY/requirements')
    // On so slow a machine the page may be there a while before it listens.
    const lines = page.getByLabel('Requirements, a line each')
    for (let tries = 0; tries < 20 && !(await lines.isVisible()); tries++) {
      await page.keyboard.press('n')
      await page.waitForTimeout(500)
    }
    await lines.fill('one\ntwo')
    await lines.evaluate((area) => {
      if (area instanceof HTMLTextAreaElement) area.setSelectionRange(1, 1)
    })
    expect(await pressed({ key: 'Tab' })).to.equal('Requirements, a line each at 2')
  })
})
