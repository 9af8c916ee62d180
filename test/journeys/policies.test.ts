import { expect } from 'chai'
import type { BrowserContext, Page } from 'playwright-core'
import { type Client, clientOf, type Running } from '../server.ts'
import { endJourney, go, openPage, startJourney, undo } from './browser.ts'

let server: Running
let context: BrowserContext
let page: Page
let api: Client
const P = '/projects/FERRY'
const day = 86_400_000
const on = (at: number): string => new Date(at).toISOString().slice(0, 10)

/** The four sentences from the set-up to a closed run, on the sample project. */
describe('the policy of runs', () => {
  /** Two items of one run: the first of Mira, the second of Tobin. */
  let run: string
  let own: number
  let other: number
  before(async () => {
    ;({ server, context } = await startJourney('mira'))
    api = await clientOf(server.url, 'mira')
    page = await openPage(context, server, '/p/FERRY/set-up/policies')
  })
  after(() => endJourney({ server, context }))
  const read = async (path: string) => (await api.get(`${P}${path}`)).body
  const verdict = async (id: number) => (await read(`/items/${id}`)).item
  const until = async (told: () => Promise<unknown>, wanted: unknown) => {
    for (let left = 50; left > 0 && (await told()) !== wanted; left--) await page.waitForTimeout(200)
    expect(await told()).to.equal(wanted)
  }

  it('is changed in four sentences and stored', async () => {
    await page.getByLabel('Who decides').selectOption('tester')
    await page.getByLabel('Who records').selectOption('named')
    await page.getByLabel('On Failed: a word').check()
    await page.getByLabel('What may be done to results afterwards').selectOption('everybody')
    await page.getByRole('button', { name: 'Store the rules' }).click()
    await page.getByText(/^The rules are changed/).waitFor()
    const { policy } = await read('')
    expect([policy.decides, policy.records, policy.asked.Failed, policy.amends]).to.deep.equal([
      'tester',
      'named',
      ['a word'],
      'everybody',
    ])
  })
  it('a run is made under it, and has one rule of its own', async () => {
    const project = await read('')
    const build = project.builds.find(({ name }: { name: string }) => name === '2.4.0-rc2').id
    const environments = project.environments.filter(({ name }: { name: string }) =>
      ['Chromium, desk', 'WebKit, phone'].includes(name),
    )
    const { rows: cases } = await read('/cases?limit=1&sort=number')
    const made = await api.send('POST', `${P}/runs`, {
      title: 'Under rules',
      build,
      cases: [cases[0].id],
      environments: environments.map(({ id }: { id: number }) => id),
      people: ['mira', 'tobin'],
      startOn: on(Date.now()),
      endOn: on(Date.now() + day),
    })
    run = made.body.key
    const { rows } = await read(`/runs/${run}/items`)
    ;[own, other] = rows.map(({ id }: { id: number }) => id)
    for (const [id, assigneeId] of [
      [own, 'mira'],
      [other, 'tobin'],
    ])
      await api.send('PATCH', `${P}/runs/${run}/items`, { ids: [id], set: { assigneeId } })
    await go(page, server, `/p/FERRY/${run}?full=yes`)
    const side = page.getByRole('region', { name: 'Policy' })
    await side.getByRole('button', { name: 'change' }).click()
    const dialog = page.getByRole('dialog', { name: `The policy of ${run}` })
    await dialog.getByLabel('another build of the run').check()
    await dialog.getByText('(not as in the project)').waitFor({ state: 'attached' })
    await dialog.getByRole('button', { name: 'Change the policy' }).click()
    await side.getByText(/spoiled by another build/).waitFor()
    expect((await read(`/runs/${run}`)).ownPolicy).to.equal(true)
  })
  it('steps are notes where the tester decides; w and a digit say the whole in the team’s own word', async () => {
    await go(page, server, `/p/FERRY/desk/${own}`)
    await page.getByText(/^You decide/).waitFor()
    await page.keyboard.press('f')
    await until(async () => (await verdict(own)).verdict, 'In progress')
    await page.keyboard.press('w')
    await page.getByRole('group', { name: 'Verdict of the whole item' }).waitFor()
    await page.keyboard.press('1')
    await until(async () => (await verdict(own)).word, 'With a remark')
    expect((await verdict(own)).verdict).to.equal('Passed')
  })
  it('whoever is not named is told whose it is, and nothing is stored', async () => {
    await go(page, server, `/p/FERRY/desk/${other}?mine=no`)
    await page.getByText(/^Item 2 of 2/).waitFor()
    await page.keyboard.press('Shift+F')
    await page.getByText(/Tobin Rask’s, and only the named person records/).waitFor()
    expect((await verdict(other)).verdict).to.equal('Not run')
  })
  it('what is asked for is named when the run is closed, and is given at the desk', async () => {
    await go(page, server, `/p/FERRY/desk/${own}`)
    await page.getByText(/as a whole/).waitFor()
    await page.keyboard.press('Shift+F')
    const asked = page.getByRole('status', { name: 'Asked for' })
    await asked.getByText(/Failed asks for/).waitFor()
    await until(async () => (await verdict(own)).verdict, 'Failed')
    const close = async () => {
      await go(page, server, `/p/FERRY/${run}?full=yes`)
      await page.getByLabel('State', { exact: true }).selectOption('Closed')
      await page.getByRole('dialog').getByRole('button', { name: 'Close the run' }).click()
    }
    await close()
    await page.getByText(/lacks what the policy asks for \(a word\)/).waitFor()
    await go(page, server, `/p/FERRY/desk/${own}`)
    await page.getByText(/Failed asks for/).waitFor()
    await page.keyboard.press('c')
    await page.keyboard.type('The list stays empty')
    await page.keyboard.press('Enter')
    await asked.waitFor({ state: 'detached' })
    await close()
    await until(async () => (await read(`/runs/${run}`)).state, 'Closed')
  })
  it('a closed run is amended as its policy says, and tells it', async () => {
    await go(page, server, `/p/FERRY/desk/${own}`)
    await page.getByText(/you may amend its results until/).waitFor()
    await page.keyboard.press('Shift+P')
    await page.getByText(/this amends its result, and counts/).waitFor()
    await until(async () => (await verdict(own)).verdict, 'Passed')
    await go(page, server, `/p/FERRY/${run}?full=yes`)
    await page.getByText(/it amends its result, and counts/).waitFor()
  })
  it('is taken back as it was stored', async () => {
    await go(page, server, '/p/FERRY/set-up/policies')
    await page.getByLabel('Who decides').selectOption('steps')
    await page.getByRole('button', { name: 'Store the rules' }).click()
    await undo(page, /^The rules are changed/)
    await until(async () => (await read('')).policy.decides, 'tester')
  })
})
