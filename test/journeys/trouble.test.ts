import { expect } from 'chai'
import type { BrowserContext, Page } from 'playwright-core'
import type { Running } from '../server.ts'
import { endJourney, go, listening, openPage, signedIn, startJourney, undo } from './browser.ts'

let server: Running
let context: BrowserContext
describe('trouble', () => {
  before(async () => {
    ;({ server, context } = await startJourney('mira'))
  })
  after(() => endJourney({ server, context }))

  async function atDesk(): Promise<Page> {
    const page = await openPage(context, server, '/p/FERRY')
    await page.keyboard.press('x')
    await page.waitForURL(/\/desk\/\d+/)
    await listening(page)
    await page.waitForTimeout(300)
    return page
  }
  const storedMarks = async (page: Page): Promise<string[]> => {
    const id = /desk\/(\d+)/.exec(page.url())?.[1]
    const desk = await (await context.request.get(`${server.url}/api/v1/projects/FERRY/items/${id}`)).json()
    return desk.attempt.marks.map(({ verdict }: { verdict: string }) => verdict)
  }

  it('keeps verdicts through a lost connection and sends them when it is back', async () => {
    const page = await atDesk()
    await page.keyboard.press('p')
    await page.getByText(/Stored \d\d:\d\d:\d\d/).waitFor()
    await context.setOffline(true)
    await page.keyboard.press('p')
    await page.keyboard.press('f')
    await page.getByText(/cannot be reached.*2 verdicts wait here/).waitFor({ timeout: 10_000 })
    await context.setOffline(false)
    await page.waitForFunction(() => !document.body.innerText.includes('wait here'), undefined, { timeout: 15_000 })
    expect(await storedMarks(page)).to.deep.equal(['Passed', 'Passed', 'Failed'])
    await page.close()
  })

  it('keeps verdicts through an ended sign-in', async () => {
    const page = await atDesk()
    await page.keyboard.press('p')
    await page.getByText(/Stored \d\d:\d\d:\d\d/).waitFor()
    await context.clearCookies()
    await page.keyboard.press('b')
    await page.getByText(/Your sign-in has ended.*1 verdict waits here/).waitFor({ timeout: 10_000 })
    await signedIn(context, server, 'mira')
    await page.waitForFunction(() => !document.body.innerText.includes('waits here'), undefined, { timeout: 15_000 })
    expect(await storedMarks(page)).to.deep.equal(['Passed', 'Blocked'])
    await page.close()
  })

  it('shows both texts when two people write the same steps, and loses neither', async () => {
    const page = await openPage(context, server, '/p/FERRY/TC-53')
    const api = `${server.url}/api/v1/projects/FERRY/cases/TC-53`
    const sheet = await (await context.request.get(api)).json()
    const first = page.getByLabel('Step 1, action')
    await first.focus()
    await page.route('**/working', (route) => route.abort())
    await first.fill('Mine')
    await page.waitForTimeout(900)
    await context.request.put(`${api}/working`, {
      data: {
        stamp: sheet.contentStamp,
        content: {
          ...sheet.content,
          steps: sheet.content.steps.with(0, { ...sheet.content.steps[0], action: 'Theirs' }),
        },
      },
    })
    await page.unroute('**/working')
    await page.getByText(/Somebody else stored other words in the same place/).waitFor({ timeout: 15_000 })
    await page.getByRole('group', { name: 'Two texts of Step 1 action' }).getByText('Theirs').first().waitFor()
    expect(await first.inputValue()).to.equal('Mine')
    await page.getByRole('button', { name: 'Keep yours' }).click()
    await page.getByText(/Stored \d\d:\d\d/).waitFor()
    expect((await (await context.request.get(api)).json()).content.steps[0].action).to.equal('Mine')
    await page.close()
  })

  it('answers addresses of what is deleted, unknown or not yours with a sentence', async () => {
    const page = await openPage(context, server, '/p/FERRY/TC-99999')
    await page.getByText('There is no TC-99999 in this project.').waitFor()
    await context.request.post(`${server.url}/api/v1/projects/FERRY/cases/delete`, { data: { ids: [50] } })
    await go(page, server, '/p/FERRY/TC-50')
    await page.getByText('TC-50 was deleted; it can be brought back.').waitFor()
    await page.getByRole('button', { name: 'Bring TC-50 back' }).press('Enter')
    await page.getByRole('heading', { name: 'Steps', exact: true }).waitFor()
    await go(page, server, '/p/NOWHERE')
    await page.getByText('There is no project NOWHERE, or you are not one of its people.').waitFor()
    await page.close()
  })

  it('gives the focus back when a sheet closes, and never loses it', async () => {
    const page = await openPage(context, server, '/p/FERRY/requirements')
    await page.locator('[role=grid]').focus()
    for (const key of ['ArrowDown', 'ArrowDown', 'ArrowDown', 'Enter']) await page.keyboard.press(key)
    await page.waitForURL(/\/RQ-4$/)
    const focus = () =>
      page.evaluate(() => document.activeElement?.getAttribute('role') ?? document.activeElement?.tagName)
    expect(await focus()).to.equal('grid')
    await page.keyboard.press('Escape')
    await page.waitForURL(/\/requirements$/)
    await page.waitForFunction(() => document.activeElement?.getAttribute('role') === 'grid')
    await page.goBack()
    await page.waitForURL(/\/RQ-4$/)
    await page.getByRole('heading', { name: /Vehicle length/ }).waitFor()
    await page.keyboard.press('F1')
    await page.getByRole('dialog').waitFor()
    await page.keyboard.press('Escape')
    await page.waitForFunction(() => document.activeElement !== null && document.activeElement.tagName !== 'DIALOG')
    await page.close()
  })

  it('edits a cell in place, ticks many and takes a bulk change back', async () => {
    const page = await openPage(context, server, '/p/FERRY/cases')
    await page.locator('[role=grid]').focus()
    for (const key of ['ArrowRight', 'ArrowRight', 'Enter']) await page.keyboard.press(key)
    await page.locator('[role=grid] select').selectOption('Low')
    await undo(page, 'Stored.')
    await page.locator('[role=grid]').focus()
    for (const key of ['Space', 'ArrowDown', 'Space', 'ArrowDown', 'Space']) await page.keyboard.press(key)
    await page.getByText('3 ticked').waitFor()
    await page.getByLabel('Automation').selectOption('Automated')
    await undo(page, /[23] cases changed/)
    await page.keyboard.press('/')
    await page.keyboard.type('double tap')
    await page
      .getByText(/^2 of \d+$/)
      .first()
      .waitFor()
    await page.close()
  })

  it('shows the first rows of a typed filter, then counts all that fit, and ticks every one of them', async () => {
    const page = await openPage(context, server, '/p/FERRY/cases')
    const { total } = await (await context.request.get(`${server.url}/api/v1/projects/FERRY/cases/order?text=a`)).json()
    expect(total, 'more than come at first').to.be.greaterThan(60)
    await page.keyboard.press('/')
    await page.keyboard.type('a')
    await page.locator('[role=grid][data-asked=a]').waitFor()
    const shown = await page.locator('[role=row][id]').allInnerTexts()
    expect(shown.length).to.be.greaterThan(10)
    for (const row of shown) expect(row.toLowerCase()).to.contain('a')
    await page.keyboard.press('Enter')
    await page.keyboard.press('Control+a')
    await page.getByText(`${total} ticked`).waitFor()
    expect(new URL(page.url()).searchParams.get('text')).to.equal('a')
    await page.getByRole('button', { name: 'Untick' }).click()
    await page.getByLabel('Filter by words').fill('no such words')
    await page.getByText('No case fits this filter.').waitFor()
    await page.getByRole('button', { name: 'Take the filter away' }).click()
    await page.waitForFunction(() => Number(document.querySelector('[role=grid]')?.getAttribute('aria-rowcount')) > 200)
    expect(await page.getByLabel('Filter by words').inputValue()).to.equal('')
    await page.close()
  })

  it('links a case to a requirement by dragging it there on the board', async () => {
    const linked = async (): Promise<string[]> =>
      (await (await context.request.get(`${server.url}/api/v1/projects/FERRY/requirements/RQ-2`)).json()).linked.map(
        ({ key }: { key: string }) => key,
      )
    expect(await linked()).to.not.include('TC-53')
    const page = await openPage(context, server, '/p/FERRY/reports/board')
    const knot = (lane: string, key: string) =>
      page
        .getByRole('region', { name: lane })
        .getByRole('listitem')
        .filter({ has: page.getByText(key, { exact: true }) })
        .first()
    await knot('Cases', 'TC-53').dragTo(knot('Requirements', 'RQ-2'))
    await page.getByText('TC-53 is linked to RQ-2.').first().waitFor()
    await expectSoon(async () => (await linked()).includes('TC-53'))
    await page.close()
  })

  it('moves a branch of the outline by dragging: into another one, and before a row at its upper edge', async () => {
    const above = async (): Promise<string[]> =>
      (await (await context.request.get(`${server.url}/api/v1/projects/FERRY/requirements/RQ-9`)).json()).path.map(
        ({ key }: { key: string }) => key,
      )
    expect(await above()).to.deep.equal(['RQ-1'])
    const page = await openPage(context, server, '/p/FERRY/requirements')
    const row = (key: string) =>
      page
        .getByRole('row')
        .filter({ has: page.getByText(key, { exact: true }) })
        .first()
    await row('RQ-9').dragTo(row('RQ-2'))
    await page.getByText('RQ-9 stands below RQ-2 now.').waitFor()
    expect(await above()).to.deep.equal(['RQ-1', 'RQ-2'])
    await row('RQ-9').dragTo(row('RQ-5'), { targetPosition: { x: 200, y: 4 } })
    await page.getByText('RQ-9 stands before RQ-5 now.').waitFor()
    expect(await above()).to.deep.equal(['RQ-1'])
    const keys = await page.getByRole('row').allInnerTexts()
    const at = (key: string) => keys.findIndex((text) => text.includes(`${key}\u2002`) || text.includes(`${key} `))
    expect(at('RQ-9')).to.equal(at('RQ-5') - 1)
    // A branch cannot be put below itself: it is said, and nothing moves.
    await row('RQ-1').dragTo(row('RQ-3'))
    await page
      .getByText(/below itself|itself/)
      .first()
      .waitFor()
    expect(await above()).to.deep.equal(['RQ-1'])
    await page.close()
  })

  /** What the server will say in a moment. */
  async function expectSoon(holds: () => Promise<boolean>): Promise<void> {
    for (let tries = 0; tries < 40; tries++) {
      if (await holds()) return
      await new Promise((resolve) => setTimeout(resolve, 100))
    }
    expect.fail('it never held')
  }
})
