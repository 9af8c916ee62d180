import { expect } from 'chai'
import type { BrowserContext, Page } from 'playwright-core'
import { type Client, clientOf, type Running } from '../server.ts'
import { endJourney, openPage, startJourney, undo } from './browser.ts'

let server: Running
let context: BrowserContext
let page: Page
let api: Client
const P = '/projects/FERRY'

/** Who has too much is helped by dragging a day, and what more people or days would bring is asked before it is decided. */
describe('the calendar and what if', () => {
  before(async () => {
    ;({ server, context } = await startJourney('mira'))
    api = await clientOf(server.url, 'mira')
    page = await openPage(context, server, '/p/FERRY/runs')
  })
  after(() => endJourney({ server, context }))
  const loads = async () => {
    const { days } = (await api.get(`${P}/runs/RN-5/line`)).body
    return (await api.get(`${P}/calendar?from=${days[0]}`)).body.loads
  }
  const on = async (person: string) =>
    (await loads())
      .filter((load: { person: string }) => load.person === person)
      .map((load: { day: string }) => load.day)

  it('is one key from the runs; a day is dragged to somebody else, and taken back', async () => {
    await page.getByRole('button', { name: 'Calendar' }).waitFor()
    await page.keyboard.press('c')
    const over = page.locator('[data-cell][data-state=over]')
    await over.waitFor()
    const before = [await on('yusra'), await on('tobin')]
    const [full = ''] = /\d+ %/.exec((await over.textContent()) ?? '') ?? []
    expect(Number.parseInt(full, 10)).to.be.above(100)
    const target = page.getByRole('gridcell', { name: /^Tobin R\./ }).and(page.locator('[data-today]'))
    await over.getByRole('button').dragTo(target)
    await page.getByText(/items on Tobin R\.’s .*; that day is .* over/).waitFor()
    expect((await on('yusra')).length).to.equal(before[0]!.length - 1)
    await undo(page, /items on Tobin R\.’s/)
    await over.getByText(full).waitFor()
    expect([await on('yusra'), await on('tobin')]).to.deep.equal(before)
  })

  it('carries a day by the keyboard alone', async () => {
    const from = page.getByRole('gridcell', { name: /^Ansa L\./ }).and(page.locator('[data-today]'))
    await from.focus()
    await page.keyboard.press('m')
    await page.getByText(/^Carrying \d+ items/).waitFor()
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('m')
    await page.getByText(/items on Ansa L\.’s/).waitFor()
    expect(new Set(await on('ansa')).size).to.equal(1)
    await undo(page, /items on Ansa L\.’s/)
  })

  it('is read by a calendar program at an address that works until it is revoked', async () => {
    await page.getByRole('button', { name: 'Calendar address' }).click()
    await page.getByLabel('Whose days').selectOption('RN-5')
    await page.getByRole('button', { name: 'Make an address' }).click()
    const address = (await page.locator('output[aria-label="Calendar address"]').textContent()) ?? ''
    const file = await fetch(address)
    expect([file.status, file.headers.get('content-type')]).to.deep.equal([200, 'text/calendar; charset=utf-8'])
    const text = await file.text()
    expect(text)
      .to.match(/^BEGIN:VCALENDAR\r\n/)
      .and.to.match(/SUMMARY:Yusra Dahl: \d+ items/)
    await page.getByRole('button', { name: 'revoke' }).click()
    await page.getByText(/^Revoked: nothing is read/).waitFor()
    expect((await fetch(address)).status).to.equal(404)
    await page.keyboard.press('Escape')
  })

  it('asks what two days more would bring, beside the present, and puts it in force and back', async () => {
    await page.goto(`${server.url}/p/FERRY/runs/line?run=RN-5`)
    await page.getByRole('button', { name: 'What if…' }).waitFor()
    await page.keyboard.press('x')
    await page.getByRole('region', { name: 'Piet helps, two days more' }).waitFor()
    await page.getByRole('button', { name: 'two working days more' }).click()
    const way = page.getByRole('region', { name: /^Until/ })
    await way
      .getByText(/▲ .* h/)
      .first()
      .waitFor()
    const line = async () => (await api.get(`${P}/runs/RN-5/line`)).body
    const before = (await line()).about.endOn
    await way.getByRole('button', { name: 'Put in force' }).click()
    await page.getByText(/is in force for RN-5/).waitFor()
    expect((await line()).about.endOn > before).to.equal(true)
    await undo(page, /is in force for RN-5/)
    await way.waitFor()
    expect((await line()).about.endOn).to.equal(before)
    await way.getByRole('button', { name: 'Drop' }).click()
    await page.getByText(/is dropped; the run is as it was/).waitFor()
  })
})
