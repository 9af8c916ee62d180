import { expect } from 'chai'
import type { BrowserContext, Page } from 'playwright-core'
import { type Client, clientOf, type Running } from '../server.ts'
import { endJourney, openPage, startJourney, undo } from './browser.ts'

let server: Running
let context: BrowserContext
let page: Page
let api: Client
const P = '/projects/FERRY'

/** Time is short in the sample project: a lead decides what is given up, and who does the rest on which day. */
describe('the cut line', () => {
  before(async () => {
    ;({ server, context } = await startJourney('mira'))
    api = await clientOf(server.url, 'mira')
    page = await openPage(context, server, '/p/FERRY/RN-5?full=yes')
  })
  after(() => endJourney({ server, context }))
  const told = async () => (await api.get(`${P}/runs/RN-5/line`)).body
  const line = () => page.getByLabel('The line where the time ends')

  it('is one key from its run, and says what does not fit and what is at stake', async () => {
    await page.getByRole('button', { name: 'Cut line' }).waitFor()
    await page.keyboard.press('w')
    await page.getByText(/items open, .* for/).waitFor()
    const { above, ids, hours, minutes, hands, seats, criteria } = await told()
    expect(above).to.be.below(ids.length)
    expect(minutes.reduce((sum: number, each: number) => sum + each, 0)).to.be.above(hours)
    // One tester has too much, a seat is short, and a criterion is met only with what is below.
    const over = (hand: { placed: number[]; minutes: number[] }) => hand.placed.some((of, at) => of > hand.minutes[at]!)
    expect(hands.filter(over)).to.have.length(1)
    expect(seats[0].minutes).to.be.above(0)
    expect(criteria.stake).to.have.length(1)
    await page.getByText(/is .* over on/).waitFor()
    await page.getByText('1 criterion at stake').waitFor()
    // What was to be done on a day that is over is named, and leads there.
    await page.getByRole('button', { name: 'to the next of them' }).click()
    await page
      .getByRole('row', { selected: true })
      .getByText(/^slipped from .*, Tobin R\./)
      .waitFor()
  })

  it('is dragged: what stands above it follows the pointer, and it is stored where it is let go', async () => {
    const { above } = await told()
    const grid = page.getByRole('grid', { name: 'Open items' })
    await grid.evaluate((list, at) => (list.scrollTop = at * 32 - 300), above)
    await line().waitFor()
    const box = await line().boundingBox()
    if (!box) throw new Error('the line is not in sight')
    await page.mouse.move(box.x + 200, box.y + 16)
    await page.mouse.down()
    await page.mouse.move(box.x + 200, box.y - 100, { steps: 8 })
    const words = (await line().textContent()) ?? ''
    expect(words).to.match(/above: \d+ % of the risk, 16\d items/)
    await page.mouse.up()
    await page.getByText(/^The line stands at/).waitFor()
    expect((await told()).drawn).to.equal(true)
    await undo(page, /^The line stands at/)
    await page.getByText('of hands').waitFor()
    expect((await told()).drawn).to.equal(false)
  })

  it('levels the team: what changes is shown, put in force as a whole, and taken back', async () => {
    const before = await told()
    await page.keyboard.press('Control+Enter')
    await page.getByText(/above the line find a place/).waitFor()
    expect((await told()).places).to.deep.equal(before.places)
    await page.getByRole('button', { name: 'Put it in force' }).click()
    await page.getByText(/on the team’s days;/).waitFor()
    const after = await told()
    for (const { placed, minutes } of after.hands)
      placed.forEach((of: number, at: number) => expect(of).to.be.at.most(minutes[at]))
    // Whoever was given something is told.
    const tobin = await clientOf(server.url, 'tobin')
    expect((await tobin.get(`${P}/inbox`)).body.rows.map(({ kind }: { kind: string }) => kind)).to.include('planned')
    await undo(page, /on the team’s days;/)
    await page.getByText(/is .* over on/).waitFor()
    expect((await told()).places).to.deep.equal(before.places)
  })

  it('gives the chosen item to a tester’s day with the keyboard alone', async () => {
    await page.getByRole('grid', { name: 'Open items' }).focus()
    await page.keyboard.press('Home')
    await page.keyboard.press('g')
    await page.getByRole('dialog', { name: 'Give 1 item to a tester' }).waitFor()
    await page.getByLabel('Tester', { exact: true }).selectOption('tobin')
    await page.getByRole('button', { name: 'Give', exact: true }).press('Enter')
    await page.getByText(/^1 item on Tobin R\.’s/).waitFor()
    const { places, ids } = await told()
    expect(places.find(({ item }: { item: number }) => item === ids[0])).to.include({ person: 'tobin', pinned: true })
  })
})
