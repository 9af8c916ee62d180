import { readFile } from 'node:fs/promises'
import { expect } from 'chai'
import type { BrowserContext, Page } from 'playwright-core'
import { type Client, clientOf, type Running } from '../server.ts'
import { endJourney, go, openPage, startJourney, undo } from './browser.ts'

let server: Running
let context: BrowserContext
let page: Page
let api: Client
const P = '/projects/FERRY'
describe('plans', () => {
  before(async () => {
    ;({ server, context } = await startJourney('mira'))
    page = await openPage(context, server, '/p/FERRY/PL-3')
    api = await clientOf(server.url, 'mira')
  })
  after(() => endJourney({ server, context }))
  const read = async (path: string) => (await api.get(`${P}${path}`)).body

  it('are signed by whoever is asked, by keys, with what was said of a part beside it', async () => {
    await page.getByRole('link', { name: 'You are asked to sign version 1' }).click()
    await page.getByText('On Thursdays the bench is the web team’s; Friday morning, then?').waitFor()
    await page.getByLabel(/^Words with your answer/).fill('Friday, then.')
    await page.keyboard.press('Escape')
    await page.keyboard.press('s')
    await page.getByText(/PL-3 is signed off/).waitFor()
    const { rows } = await read('/plans/PL-3/versions')
    const own = rows[0].signatures.find(({ name }: { name: string }) => name === 'Mira Kell')
    expect([rows[0].state, own.answer, own.words]).to.deep.equal(['Signed off', 'approved', 'Friday, then.'])
  })
  it('are put up by a key; what is said after that stands against it word by word', async () => {
    await go(page, server, '/p/FERRY/PL-2')
    await page.getByRole('heading', { name: 'Why?' }).waitFor()
    await page.keyboard.press('v')
    const dialog = page.getByRole('dialog', { name: 'Ask for review of PL-2' })
    await dialog.getByLabel('Ansa Lind').check()
    await dialog.getByRole('button', { name: 'Ask Ansa Lind' }).click()
    await page.getByText(/Version 3 is put up; one is asked/).waitFor()
    await page.getByPlaceholder(/^A risk, such as/).fill('The mast stays down')
    await page.keyboard.press('Enter')
    await page.getByText('It changed since: risk.').waitFor()
    await page.getByRole('link', { name: 'Version 3 is in review' }).click()
    await page.getByLabel('Compared with').selectOption({ label: 'the plan as it stands' })
    await page.locator('ins', { hasText: 'The mast stays down' }).waitFor()
  })
  it('are handed out on paper', async () => {
    await go(page, server, '/p/FERRY/PL-2')
    await page.getByRole('button', { name: 'Print' }).click()
    const [paper] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Markdown' }).click(),
    ])
    expect(paper.suggestedFilename()).to.equal('PL-2.md')
    expect(await readFile(await paper.path(), 'utf8')).to.include('### Exit criteria: 5 of 8 met, 1 waived')
    await page.keyboard.press('Escape')
  })
  it('show what stands where; chosen cells of the matrix become a run by keys', async () => {
    await go(page, server, '/p/FERRY/PL-2?part=where')
    const grid = page.getByRole('grid')
    await grid.getByText('Sailings of a day are listed', { exact: false }).waitFor()
    await page.getByText('offered is 2.4.0-rc2').waitFor()
    await page.getByRole('button', { name: /^\d+ failing/ }).click()
    await page.getByRole('button', { name: /^Run the \d+ chosen/ }).waitFor()
    await page.keyboard.press('x')
    await page.getByRole('dialog').getByRole('button', { name: /^Open/ }).waitFor()
    await page.keyboard.press('Escape')
  })
  it('take another build where another one is installed: the desk asks before it records', async () => {
    const { queue } = await read('/today')
    const own = queue.find(({ verdict }: { verdict: string }) => verdict === 'Not run')
    const { rows } = await read('/environments')
    const { id } = rows.find(({ name }: { name: string }) => name === own.environment)
    await api.send('POST', `${P}/installations`, { environment: id, build: '2.4.0-rc1' })
    await go(page, server, `/p/FERRY/desk/${own.id}`)
    await page.getByText(/stands on .* since/).waitFor()
    await page.keyboard.press('p')
    await page.getByRole('dialog', { name: 'Which build do you execute on?' }).waitFor()
    await page.keyboard.press('Enter')
    await page.getByText(/^Stored/).waitFor()
    expect((await read(`/items/${own.id}`)).attempt.build).to.equal('2.4.0-rc1')
    await go(page, server, '/p/FERRY/set-up/environments')
    const list = page.getByRole('region', { name: 'Installed' })
    await list
      .getByRole('button', { name: /^take back/ })
      .first()
      .click()
    await page.getByText('It is taken back. 1 attempt went with it.').waitFor()
    expect((await read(`/items/${own.id}`)).attempt.build).to.equal('2.4.0-rc2')
    await undo(page, /It is taken back/)
    for (let tries = 0; tries < 50; tries++) {
      if ((await read(`/items/${own.id}`)).attempt.build === '2.4.0-rc1') break
      await page.waitForTimeout(100)
    }
    expect((await read(`/items/${own.id}`)).attempt.build).to.equal('2.4.0-rc1')
  })
})
