import { expect } from 'chai'
import type { Page, Route } from 'playwright-core'
import { type Client, clientOf, startServer } from '../server.ts'
import { endJourney, go, type Journey, listening, openPage, startJourney } from './browser.ts'

// What is typed, by a slow line, without a server, in two windows, over a closed tab: nothing of it is lost.

let journey: Journey
let mira: Client
let ansa: Client
describe('kept', () => {
  before(async () => {
    journey = await startJourney('mira')
    mira = await clientOf(journey.server.url, 'mira')
    ansa = await clientOf(journey.server.url, 'ansa')
  })
  after(() => endJourney(journey))

  const P = '/projects/FERRY'
  const at = (path: string): Promise<Page> => openPage(journey.context, journey.server, `/p/FERRY${path}`)
  const reload = (page: Page) => go(page, journey.server, new URL(page.url()).pathname)
  const caseOf = async (key: string) => (await mira.get(`${P}/cases/${key}`)).body
  const action = async (key: string, step: number): Promise<string> =>
    (await caseOf(key)).content.steps[step - 1]?.action
  const cell = (page: Page, step: number, field = 'action') => page.getByLabel(`Step ${step}, ${field}`)
  const focused = (page: Page) =>
    page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? document.activeElement?.tagName)
  const slow = async (route: Route) => {
    await new Promise((resolve) => setTimeout(resolve, 400))
    await route.continue().catch(() => undefined)
  }
  const serverAway = () => journey.server.stop('SIGKILL')
  /** The same one again, with what it had. */
  async function serverBack(): Promise<void> {
    const { data, url } = journey.server
    journey = { ...journey, server: await startServer({ command: 'demo', data, port: new URL(url).port }) }
  }

  /** What the server has, as soon as it has it. */
  async function soon<T>(read: () => Promise<T>, is: T): Promise<void> {
    for (let tries = 0; tries < 80; tries++) {
      if (JSON.stringify(await read()) === JSON.stringify(is)) return
      await new Promise((resolve) => setTimeout(resolve, 150))
    }
    expect(await read()).to.deep.equal(is)
  }

  it('keeps a box of lines over Esc, a click beside, a selection let go outside, a reload and a closed tab, and lets go of it when it is stored', async () => {
    let page = await at('/cases')
    const lines = () => page.getByLabel('Cases, a line each')
    const opened = async () => {
      await page.keyboard.press('n')
      await lines().waitFor()
      return lines().inputValue()
    }
    await opened()
    await page.keyboard.type('A queue at the ramp\n\tOpen the gate')
    const typed = await lines().inputValue()
    await page.keyboard.press('Escape')
    expect(await opened(), 'after Esc').to.equal(typed)
    await page.mouse.click(4, 400)
    await lines().waitFor({ state: 'hidden' })
    expect(await opened(), 'after a click beside').to.equal(typed)
    const box = await lines().boundingBox()
    await page.mouse.move((box?.x ?? 0) + 60, (box?.y ?? 0) + 12)
    await page.mouse.down()
    await page.mouse.move(4, 400, { steps: 4 })
    await page.mouse.up()
    expect(await lines().isVisible(), 'a selection let go outside closes nothing').to.equal(true)
    await reload(page)
    expect(await opened(), 'after a reload').to.equal(typed)
    await page.close()
    page = await at('/cases')
    expect(await opened(), 'after a closed tab').to.equal(typed)
    await page.getByText('What you typed here on').waitFor()
    await page.keyboard.press('Control+Enter')
    await page.getByText(/^TC-\d+ stored\.$/).waitFor()
    expect(await lines().inputValue(), 'stored').to.equal('')
    expect(await focused(page), 'one goes on writing').to.equal('Cases, a line each')
    await page.close()
  })

  it('keeps a comment that was typed and not sent, and a defect that was not reported', async () => {
    let page = await at('/TC-88')
    await page.getByLabel('Comment', { exact: true }).fill('Is this still so on the new ramp?')
    await go(page, journey.server, '/p/FERRY/defects')
    await page.keyboard.press('n')
    await page.getByLabel('Title', { exact: true }).fill('The ramp stays up')
    await page.close()
    page = await at('/TC-88')
    expect(await page.getByLabel('Comment', { exact: true }).inputValue()).to.equal('Is this still so on the new ramp?')
    await page.getByText('What you typed here on').waitFor()
    await go(page, journey.server, '/p/FERRY/defects')
    await page.keyboard.press('n')
    expect(await page.getByLabel('Title', { exact: true }).inputValue()).to.equal('The ramp stays up')
    await page.close()
  })

  it('shows what was typed in a closed tab with the server away beside what others stored meanwhile, and one chooses', async () => {
    let page = await at('/TC-94')
    const before = await action('TC-94', 1)
    await serverAway()
    await cell(page, 1).fill('Mine in a closed tab')
    await page.getByText(/kept in this browser and sent when the server answers/).waitFor()
    await page.close()
    await serverBack()
    expect(await action('TC-94', 1)).to.equal(before)
    const { content, contentStamp } = await caseOf('TC-94')
    const steps = content.steps.with(0, { ...content.steps[0], action: 'Theirs meanwhile' })
    const put = await ansa.send('PUT', `${P}/cases/TC-94/working`, {
      stamp: contentStamp,
      content: { ...content, steps },
    })
    expect(put.status).to.equal(200)
    page = await at('/TC-94')
    const both = page.getByRole('group', { name: 'Two texts of Step 1 action' })
    await both.getByText('Theirs meanwhile').first().waitFor()
    expect(await cell(page, 1).inputValue()).to.equal('Mine in a closed tab')
    await page.waitForTimeout(1500)
    expect(await action('TC-94', 1), 'nothing is stored over theirs').to.equal('Theirs meanwhile')
    await both.getByRole('button', { name: 'Join both' }).click()
    await soon(() => action('TC-94', 1), 'Theirs meanwhile\nMine in a closed tab')
    await page.close()
  })

  it('keeps a text that was written and not stored over Esc and a closed tab, and shows it beside what others stored since', async () => {
    let page = await at('/RQ-29')
    const text = async (): Promise<string> => (await mira.get(`${P}/requirements/RQ-29`)).body.text
    const before = await text()
    const edit = page.getByRole('button', { name: 'Edit text of the requirement' })
    await edit.press('Enter')
    const editor = () => page.getByRole('textbox', { name: 'text of the requirement' })
    await editor().waitFor()
    await page.keyboard.type(' And so it stays.')
    await page.keyboard.press('Escape')
    await page.getByText('What you typed here is not stored').waitFor()
    expect(await text()).to.equal(before)
    await page.getByRole('button', { name: 'go on writing' }).click()
    await editor().waitFor()
    await serverAway()
    await page.keyboard.type(' For good.')
    await page.close()
    await serverBack()
    page = await at('/RQ-29')
    await page.getByText(/^What you typed here on .* is not stored/).waitFor()
    await page.getByRole('button', { name: 'store it' }).click()
    await soon(async () => (await text()).includes('And so it stays. For good.'), true)
    await page.getByText(/What you typed here/).waitFor({ state: 'detached' })
    await page.getByRole('button', { name: 'Edit text of the requirement' }).press('Enter')
    await editor().waitFor()
    await serverAway()
    await page.keyboard.type(' Mine.')
    await page.close()
    await serverBack()
    const { version } = (await mira.get(`${P}/requirements/RQ-29`)).body
    const put = { text: '<p>Theirs meanwhile</p>' }
    await ansa.send('PATCH', `${P}/requirements/RQ-29`, put, { 'if-match': String(version) })
    page = await at('/RQ-29')
    const both = page.getByRole('group', { name: 'Two texts of text of the requirement' })
    await both.getByText('Theirs meanwhile').first().waitFor()
    await both.getByRole('button', { name: 'Keep yours' }).click()
    await soon(async () => (await text()).includes('Mine.'), true)
    await both.waitFor({ state: 'detached' })
    await page.close()
  })

  it('leaves lines that are pasted into a cell in that cell, and takes back in order and in its own field only', async () => {
    await journey.context.grantPermissions(['clipboard-read', 'clipboard-write'])
    const page = await at('/TC-133')
    const expected = await cell(page, 2, 'expected').inputValue()
    const preconditions = page.getByLabel('Preconditions')
    await preconditions.click()
    await page.keyboard.type('A held place')
    await cell(page, 1).click()
    await page.keyboard.press('Control+a')
    await page.evaluate(() => navigator.clipboard.writeText('First look\nthen ask\nthen pay'))
    await page.keyboard.press('Control+v')
    await page.waitForFunction(() =>
      [...document.querySelectorAll('textarea')].some(({ value }) => value.includes('First look\nthen ask\nthen pay')),
    )
    expect(await cell(page, 2, 'expected').inputValue()).to.equal(expected)
    expect(await focused(page), 'one goes on where one pasted').to.equal('Step 1, action')
    await page.keyboard.press('Control+z')
    await page.waitForFunction(
      () => ![...document.querySelectorAll('textarea')].some(({ value }) => value.includes('then ask')),
    )
    expect(await preconditions.inputValue(), 'another field is not touched').to.equal('A held place')
    await page.close()
  })

  it('hears what was typed before the programs of the page were there', async () => {
    const page = await journey.context.newPage()
    for (const [path, field, typed] of [
      ['/TC-73', 'Step 1, action', 'Typed before anything was there'],
      ['/cases', 'Filter by words', 'voucher'],
    ] as const) {
      let letThrough = (): void => undefined
      const held = new Promise<void>((resolve) => {
        letThrough = resolve
      })
      await page.route('**/_astro/*.js', async (route) => {
        if (!/first/.test(route.request().url())) await held
        await route.continue().catch(() => undefined)
      })
      await page.goto(`${journey.server.url}/p/FERRY${path}`, { waitUntil: 'commit' })
      await page.getByLabel(field).fill(typed)
      letThrough()
      await listening(page)
      expect(await page.getByLabel(field).inputValue()).to.equal(typed)
      await page.unrouteAll({ behavior: 'ignoreErrors' })
      if (path === '/TC-73') await soon(() => action('TC-73', 1), typed)
      else await page.waitForURL(/text=voucher/)
    }
    await page.close()
  })
  it('lets two people win in different cells, and one person in several fields, on a slow line', async () => {
    const page = await at('/TC-136')
    await page.route('**/api/v1/**', slow)
    const { content, contentStamp } = await caseOf('TC-136')
    await cell(page, 1).fill('Mine in the first')
    const steps = content.steps.with(1, { ...content.steps[1], expected: 'Theirs in the second' })
    await ansa.send('PUT', `${P}/cases/TC-136/working`, { stamp: contentStamp, content: { ...content, steps } })
    await soon(() => action('TC-136', 1), 'Mine in the first')
    expect((await caseOf('TC-136')).content.steps[1].expected).to.equal('Theirs in the second')
    expect(await page.getByRole('group', { name: /^Two texts of/ }).count()).to.equal(0)
    await page.getByLabel('Importance', { exact: true }).selectOption('Low')
    await page.getByLabel('Automation', { exact: true }).selectOption('Candidate')
    for (const tag of ['ramp', 'night']) {
      await page.getByRole('button', { name: /^A new tag/ }).click()
      await page.keyboard.type(tag)
      await page.keyboard.press('Enter')
    }
    const tags = async () =>
      (await caseOf('TC-136')).tags.filter((tag: string) => ['ramp', 'night'].includes(tag)).sort()
    await soon(tags, ['night', 'ramp'])
    const { importance, automation } = await caseOf('TC-136')
    expect([importance, automation]).to.deep.equal(['Low', 'Candidate'])
    expect(await page.getByText(/Somebody else/).count()).to.equal(0)
    await page.close()
  })

  it('sends once what the server refuses, and says why', async () => {
    const page = await at('/TC-208')
    let sent = 0
    page.on('request', (request) => {
      if (request.method() === 'PUT') sent++
    })
    await cell(page, 1).fill('x'.repeat(20_001))
    await page.getByText(/It is kept in this browser\./).waitFor()
    await page.waitForTimeout(4000)
    expect(sent).to.equal(1)
    await cell(page, 1).fill('Short again')
    await soon(() => action('TC-208', 1), 'Short again')
    await page.close()
  })

  it('says of a changed field without the server that it is not stored, and stores it when one asks again', async () => {
    const page = await at('/TC-221')
    const before = (await caseOf('TC-221')).importance
    await journey.context.setOffline(true)
    const other = before === 'Low' ? 'High' : 'Low'
    await page.getByLabel('Importance', { exact: true }).selectOption(other)
    await page.getByText('The server cannot be reached; this is not stored.').waitFor()
    expect((await caseOf('TC-221')).importance).to.equal(before)
    await journey.context.setOffline(false)
    await page.getByRole('button', { name: 'Try again' }).click()
    await soon(async () => (await caseOf('TC-221')).importance, other)
    await page.close()
  })

  it('cuts a version by Ctrl+S in a cell with the last letters, and reads an estimate or leaves it', async () => {
    const page = await at('/TC-4')
    await cell(page, 1).fill('The very last letters')
    await page.keyboard.press('Control+s')
    await page.getByText(/^Version [\d.]+ is cut\.$/).waitFor()
    const { versions } = await caseOf('TC-4')
    expect((await mira.get(`${P}/versions/${versions[0].id}`)).body.content.steps[0].action).to.equal(
      'The very last letters',
    )
    const estimate = async (text: string) => {
      await page.getByRole('button', { name: /^Estimate in minutes/ }).click()
      await page.keyboard.type(text)
      await page.keyboard.press('Enter')
    }
    await estimate('1h 30')
    await soon(async () => (await caseOf('TC-4')).estimate, 90)
    await page.getByRole('button', { name: /^Estimate in minutes: 90/ }).waitFor()
    await estimate('12.5')
    await page.getByText(/“12.5” is no estimate/).waitFor()
    expect((await caseOf('TC-4')).estimate).to.equal(90)
    await page.close()
  })

  it('keeps the indent by Enter, and the focus where one works after lines are stored or a model is added', async () => {
    const page = await at('/requirements')
    await page.keyboard.press('n')
    const lines = page.getByLabel('Requirements, a line each')
    await lines.waitFor()
    await page.keyboard.type('Ramp\n\tGate\nBarrier')
    expect(await lines.inputValue()).to.equal('Ramp\n\tGate\n\tBarrier')
    await page.keyboard.press('Control+Enter')
    await page
      .getByText(/3 requirements/)
      .first()
      .waitFor()
    await page.waitForFunction(() => document.activeElement?.getAttribute('role') === 'grid')
    await go(page, journey.server, '/p/FERRY/RQ-27/draft')
    await page.getByText('No model yet').waitFor()
    await page.keyboard.press('2')
    await page.getByRole('heading', { name: 'Parameters' }).waitFor()
    await page.waitForFunction(() => document.activeElement?.getAttribute('aria-label') === 'New line of Parameters')
    await page.keyboard.type('device: phone, desk')
    await page.getByText(/^Stored \d\d:\d\d/).waitFor()
    await page.close()
  })

  it('keeps a model typed with the server away over a closed tab, and stores it when one is back', async () => {
    let page = await at('/RQ-27/draft')
    await serverAway()
    await page.getByLabel('Parameters, line 1').fill('device: phone, desk, kiosk')
    await page.getByText(/kept in this browser and sent when the server answers/).waitFor()
    await page.close()
    await serverBack()
    page = await at('/RQ-27/draft')
    await page.getByText(/^What you typed here on .* was found/).waitFor()
    const parameters = async () => (await mira.get(`${P}/requirements/RQ-27/drafting`)).body.models[0].source.parameters
    await soon(parameters, ['device: phone, desk, kiosk'])
    await page.close()
  })
})
