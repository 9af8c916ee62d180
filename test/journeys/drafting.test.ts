import { expect } from 'chai'
import type { BrowserContext, Page } from 'playwright-core'
import { type Client, clientOf, type Running } from '../server.ts'
import { endJourney, go, listening, openPage, startJourney, undo } from './browser.ts'

let server: Running
let context: BrowserContext
let page: Page
let api: Client
const P = '/projects/FERRY'
describe('drafting', () => {
  before(async () => {
    ;({ server, context } = await startJourney('mira'))
    page = await openPage(context, server, '/p/FERRY/RQ-25')
    api = await clientOf(server.url, 'mira')
  })
  after(() => endJourney({ server, context }))

  const drafting = async (ref: string) => (await api.get(`${P}/requirements/${ref}/drafting`)).body
  const proposed = (n: number) =>
    page.getByRole('heading', { name: `${n} ${n === 1 ? 'case' : 'cases'} proposed` }).waitFor()
  const stored = () => page.getByText(/Stored \d\d:\d\d/).waitFor()

  it('opens the drafting table by key, types a model by keyboard only, and sees its cases at once', async () => {
    await page.keyboard.press('t')
    await page.getByRole('heading', { name: 'No model yet' }).waitFor()
    await listening(page)
    await page.waitForTimeout(150)
    await page.keyboard.press('2')
    await page.getByLabel('New line of Parameters').focus()
    await page.keyboard.type('device: phone, desk')
    await page.keyboard.press('Enter')
    await page.keyboard.type('engine: Gecko, WebKit')
    await page.keyboard.press('Enter')
    await page.keyboard.type('payment: card, voucher | torn voucher')
    await proposed(5)
    await page.getByText('payment torn voucher, alone among ordinary values').waitFor()
    await page.getByLabel('New line of Rules').focus()
    await page.keyboard.type('never device phone with payment card')
    await page.getByText('1 pair ruled out').waitFor()
    await stored()
    const [model] = (await drafting('RQ-25')).models
    expect(model.source.parameters.slice(0, 2)).to.deep.equal(['device: phone, desk', 'engine: Gecko, WebKit'])
  })
  it('says what is wrong at the line, keeps the line over a reload, and marks rules that contradict', async () => {
    await page.getByLabel('New line of Rules').focus()
    await page.keyboard.type('never device tablet with payment card')
    await page.getByText(/There is no value of device here: “tablet/).waitFor()
    await stored()
    for (let tries = 0; tries < 50 && (await drafting('RQ-25')).models[0].source.rules.length < 2; tries++)
      await page.waitForTimeout(100)
    await page.reload()
    await page.getByText(/There is no value of device here/).waitFor()
    const wrong = page.getByLabel('Rules, line 2')
    await wrong.fill('device is phone')
    const another = page.getByLabel('New line of Rules')
    await another.fill('payment is card')
    await page.getByText('Contradicts the other marked rules.').first().waitFor()
    await page.getByRole('heading', { name: 'No cases' }).waitFor()
    expect(await page.getByText('Contradicts the other marked rules.').count()).to.equal(3)
    await page.getByLabel('Rules, line 3').fill('')
    await page.getByLabel('Rules, line 2').fill('')
    await page.getByRole('heading', { name: /cases proposed/ }).waitFor()
  })
  it('accepts a row by key, leaves one out, accepts the rest as cases, and takes it back', async () => {
    await page.locator('[data-row=p0] button').first().click()
    await page.keyboard.press('w')
    await page.getByText(/pairs that no row above has/).waitFor()
    await page.keyboard.press('a')
    await page.getByText(/TC-\d+ written and linked to RQ-25/).waitFor()
    await page.getByText(/^kept: TC-/).waitFor()
    const before = (await drafting('RQ-25')).models[0].rows.length
    expect(before).to.equal(1)
    await page.getByRole('button', { name: /^Accept \d+ as cases$/ }).click()
    await page.getByRole('button', { name: 'All accepted' }).waitFor()
    await page.getByText('100 % accepted').waitFor()
    await undo(page, /\d+ cases, TC-\d+ to TC-\d+, written and linked/)
    await page.getByRole('button', { name: /^Accept \d+ as cases$/ }).waitFor()
    expect((await drafting('RQ-25')).models[0].rows).to.have.length(before)
    await page.locator('[data-row=p0] button').first().click()
    await page.keyboard.press('o')
    await page.getByText('left out').first().waitFor()
  })
  it('tells what a changed model adds and retires, and a person decides', async () => {
    const key = (await drafting('RQ-25')).models[0].rows[0].case.key
    await page.getByLabel('Parameters, line 1').fill('screen: small, large')
    await page.getByText(/to be retired: there is no parameter device/).waitFor()
    await page.getByRole('button', { name: 'retire', exact: true }).click()
    await page.getByText(`${key} is retired.`).waitFor()
    expect((await api.get(`${P}/cases/${key}`)).body.retired).to.equal(true)
    await undo(page, `${key} is retired.`)
    await page.getByText(/to be retired/).waitFor()
    await page.getByRole('button', { name: 'let it stay' }).click()
    await page.getByText('stays by decision').waitFor()
  })
  it('moves an edge on the number line by key and by mouse, and the lines follow', async () => {
    await go(page, server, '/p/FERRY/RQ-3/draft')
    await proposed(4)
    const edge = page.getByRole('slider', { name: 'End of infant of age' })
    await edge.focus()
    await page.keyboard.press('ArrowRight')
    await page.waitForFunction(() =>
      [...document.querySelectorAll('input')].some(({ value }) => value.trim() === 'infant: 0 to 4'),
    )
    expect(await page.getByLabel('Inputs, line 3').inputValue()).to.equal('  child: 5 to 15')
    const box = (await edge.boundingBox())!
    await page.mouse.move(box.x + 4, box.y + 5)
    await page.mouse.down()
    await page.mouse.move(box.x + 40, box.y + 5, { steps: 5 })
    await page.mouse.up()
    expect(Number(/to (\d+)/.exec(await page.getByLabel('Inputs, line 2').inputValue())?.[1])).to.be.greaterThan(5)
    await page.getByLabel('Inputs, line 2').fill('  infant: 0 to 2')
    await page.getByText('is in no partition').or(page.getByText('are in no partition')).first().waitFor()
  })
  it('fills a decision table by keyboard, adds the missing rules, merges, and takes it back', async () => {
    await go(page, server, '/p/FERRY/RQ-14/draft')
    await page.getByText('No rule for').first().waitFor()
    await page.getByRole('button', { name: 'add it' }).first().click()
    await page.getByText('Every possible combination has a rule.').waitFor()
    const cell = page.getByLabel('passenger in rule 11')
    await cell.fill('zebra')
    await page.keyboard.press('Enter')
    await page.getByText(/passenger has no value “zebra”/).waitFor()
    expect(await cell.inputValue(), 'what was typed stays, marked').to.equal('zebra')
    expect(await cell.getAttribute('aria-invalid')).to.equal('true')
    await cell.fill('ad')
    await cell.blur()
    expect(await page.getByLabel('passenger in rule 11').inputValue()).to.equal('adult')
    await page.getByText('No rule for').first().waitFor()
    await page.getByRole('button', { name: 'drop', exact: true }).click()
    await page.getByText('10 rules', { exact: true }).waitFor()
    await undo(page, '1 rule dropped; the table means the same.')
    await page.getByText('11 rules', { exact: true }).waitFor()
  })
  it('draws the state graph in step with its lines, and lights the path that is looked at', async () => {
    await go(page, server, '/p/FERRY/RQ-40/draft')
    await page.locator('.react-flow__edge').first().waitFor({ state: 'attached' })
    const edges = await page.locator('.react-flow__edge').count()
    await page.getByLabel('New line of Transitions').fill('boarded -break down-> towed')
    await page.getByText('towed', { exact: true }).waitFor()
    expect(await page.locator('.react-flow__edge').count()).to.equal(edges + 1)
    await page.getByText(/From towed no final state can be reached/).waitFor()
    await page.locator('[data-row=p0] button').first().click()
    await page.locator('[data-lit]').first().waitFor()
  })
  it('takes a transition drawn from state to state into its lines, and the events a state refuses into the cases', async () => {
    await go(page, server, '/p/FERRY/RQ-40/draft')
    const handle = (state: string, side: string) => page.locator(`.react-flow__handle-${side}[data-nodeid="${state}"]`)
    await handle('paid', 'bottom').waitFor()
    const lines = await page.getByLabel(/^Transitions, line/).count()
    await handle('lapsed', 'bottom').dragTo(handle('refunded', 'top'))
    await page.waitForFunction(
      (before) => document.querySelectorAll('[aria-label^="Transitions, line"]').length === before + 1,
      lines,
    )
    expect(await page.getByLabel(`Transitions, line ${lines + 1}`).inputValue()).to.match(/^lapsed –event→ refunded$/)
    const refused = page.getByRole('button', { name: 'and events refused' })
    await page
      .getByText(/where \d+ events are refused/)
      .first()
      .waitFor()
    await refused.click()
    await page.getByText('that must change nothing').first().waitFor()
    expect(await page.getByText(/where \d+ events are refused/).count()).to.equal(0)
    await refused.click()
    await page.getByText('held, where').first().waitFor()
  })
  it('keeps a checklist, and tells on the requirement what is designed by technique', async () => {
    await page.getByLabel('Add to the checklist').fill('Booking while the clock is put back')
    await page.keyboard.press('Control+Enter')
    await page.getByLabel('Done: Booking while the clock is put back').click()
    await page.getByText('2 of 3 done').waitFor()
    await go(page, server, '/p/FERRY/RQ-40')
    await page.getByRole('link', { name: /State graph \d+ of \d+ targets/ }).waitFor()
    await page.getByRole('link', { name: 'checklist 2 of 3' }).waitFor()
  })
  it('goes on typing in a model of a hundred parameters, whose search can be ended', async () => {
    const parameters = Object.fromEntries(Array.from({ length: 100 }, (_, at) => [`p${at}`, ['a', 'b', 'c', 'd']]))
    const { id } = (
      await api.send('POST', `${P}/requirements/RQ-26/models`, {
        name: 'Large',
        model: { technique: 'combos', body: { parameters } },
      })
    ).body
    await go(page, server, `/p/FERRY/RQ-26/draft?model=${id}`)
    await page.getByText(/\d+ cases proposed/).waitFor()
    await page.getByRole('button', { name: 'enough' }).click()
    await page.getByText(/found in/).waitFor()
    await page.getByLabel('New line of Parameters').focus()
    await page.keyboard.type('last: x, y')
    await page.getByText('101 parameters,').waitFor()
  })
  it('shows what somebody else stored, and asks which counts when both typed', async () => {
    const model = (await drafting('RQ-3')).models[0]
    await go(page, server, '/p/FERRY/RQ-3/draft')
    const other = await clientOf(server.url, 'ansa')
    const theirs = (to: number) => ({
      model: {
        technique: 'boundaries',
        body: {
          inputs: {
            age: {
              type: 'integer',
              partitions: [
                { name: 'infant', from: 0, to },
                { name: 'child', from: to + 1, to: 15 },
              ],
            },
          },
        },
      },
      source: {},
    })
    expect(
      (await other.send('PATCH', `${P}/models/${model.id}`, theirs(6), { 'if-match': String(model.version) })).status,
    ).to.equal(200)
    await page.waitForFunction(() =>
      [...document.querySelectorAll('input')].some(({ value }) => value.trim() === 'infant: 0 to 6'),
    )
    const seen = (await drafting('RQ-3')).models[0].version
    // The page hears of the other's second edit only after a letter was typed here.
    await page.route('**/drafting', (route) => route.abort())
    expect(
      (await other.send('PATCH', `${P}/models/${model.id}`, theirs(7), { 'if-match': String(seen) })).status,
    ).to.equal(200)
    await page.getByLabel('Inputs, line 2').fill('  infant: 0 to 5')
    const both = page.getByRole('group', { name: 'Two texts of Inputs and their partitions' })
    await both.getByText('infant: 0 to 7').first().waitFor()
    expect((await drafting('RQ-3')).models[0].source).to.deep.equal({})
    await page.unroute('**/drafting')
    await page.getByRole('button', { name: 'Keep yours' }).click()
    await stored()
    expect((await drafting('RQ-3')).models[0].source.inputs[1]).to.equal('  infant: 0 to 5')
  })
  it('counts the rows of a case that is there, and proposes only what they leave open', async () => {
    const lines = 'Rows of old\n\tPay on {screen} with {card} => Paid'
    const key: string = (await api.send('POST', `${P}/cases/lines`, { lines })).body.keys[0]
    const sheet = (await api.get(`${P}/cases/${key}`)).body
    await api.send('PUT', `${P}/cases/${key}/working`, {
      stamp: sheet.contentStamp,
      content: {
        preconditions: '',
        steps: sheet.content.steps.map(
          ({ id, action, expected, data }: { id: number; action: string; expected: string; data: string }) => ({
            id,
            action,
            expected,
            data,
          }),
        ),
        parameters: ['screen', 'card'],
        rows: [
          { screen: 'small', card: 'new' },
          { screen: 'large', card: 'old' },
        ],
      },
    })
    const { id } = (
      await api.send('POST', `${P}/requirements/RQ-27/models`, {
        name: 'Screens',
        model: { technique: 'combos', body: { parameters: { screen: ['small', 'large'], card: ['new', 'old'] } } },
      })
    ).body
    await go(page, server, `/p/FERRY/RQ-27/draft?model=${id}`)
    await proposed(4)
    await page.getByRole('button', { name: 'rows you have' }).click()
    await page.getByLabel('Case', { exact: true }).fill(key)
    await page.keyboard.press('Enter')
    await page.getByText(`2 rows of ${key} count as accepted.`).waitFor()
    await proposed(2)
    await page.getByText('50 % accepted').waitFor()
  })
  it('merges a row into a case found by words', async () => {
    const rowsOf = async () => (await api.get(`${P}/cases/TC-18`)).body.content.rows.length
    const before = await rowsOf()
    await go(page, server, '/p/FERRY/RQ-4/draft')
    await page.locator('[data-row=p0] button').first().click()
    await page.keyboard.press('m')
    await page.getByRole('list', { name: 'Cases of RQ-4' }).getByText('TC-18', { exact: true }).waitFor()
    const { title } = (await api.get(`${P}/cases/TC-18`)).body
    await page.getByLabel('Case', { exact: true }).fill(title)
    await page.getByRole('list', { name: 'Cases found' }).getByRole('button', { name: /TC-18/ }).click()
    await page.getByText('1 row added to TC-18.').waitFor()
    expect(await rowsOf()).to.equal(before + 1)
  })
})
