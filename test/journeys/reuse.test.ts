import { expect } from 'chai'
import type { BrowserContext, Page } from 'playwright-core'
import { type Client, clientOf, type Running } from '../server.ts'
import { endJourney, go, openPage, signedIn, startJourney, undo } from './browser.ts'

let server: Running
let context: BrowserContext
let page: Page
let api: Client
const P = '/projects/FERRY'
describe('reuse', () => {
  before(async () => {
    ;({ server, context } = await startJourney('mira'))
    page = await openPage(context, server, '/p/FERRY/cases')
    api = await clientOf(server.url, 'mira')
  })
  after(() => endJourney({ server, context }))

  const read = async (key: string) =>
    (
      await api.get(
        `${P}/${key.startsWith('RT') ? 'routines' : key.startsWith('RQ') ? 'requirements' : 'cases'}/${key}`,
      )
    ).body
  const named = async (title: string): Promise<string> =>
    (await api.get(`${P}/cases?text=${encodeURIComponent(`"${title}"`)}`)).body.rows[0].key
  const until = async (holds: () => Promise<boolean>): Promise<void> => {
    for (let tries = 0; tries < 60 && !(await holds()); tries++) await page.waitForTimeout(100)
  }
  const stored = () => page.getByText(/Stored \d\d:\d\d/).waitFor()

  it('chooses steps by key, makes a routine of them, and puts it into the other cases that say the same', async () => {
    // Somebody who knows no routines wrote the same two steps again and again.
    const lines = Array.from(
      { length: 22 },
      (_, n) =>
        `Office case ${n}\n\tOpen the office page => It asks who you are\n\tChoose the day => It lists the sailings\n\tLook at row ${n} => It has a ship`,
    )
    await api.send('POST', `${P}/cases/lines`, { lines: lines.join('\n') })
    const key = await named('Office case 0')
    const before = (await read(key)).content.steps
    await go(page, server, `/p/FERRY/${key}`)
    await page.getByLabel('Step 1, action').focus()
    await page.keyboard.press('Control+Space')
    await page.getByLabel('Step 2, action').focus()
    await page.keyboard.press('Control+Space')
    await page.getByRole('button', { name: 'make a routine' }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByText(/other cases say the same/).waitFor()
    await dialog.getByLabel('What the steps do, as one would say it').fill('Begin a booking')
    await dialog.getByRole('button', { name: /^Make it, in \d+ cases$/ }).click()
    await page.getByText(/Begin a booking stands in \d+ cases now/).waitFor()
    const after = await read(key)
    expect(after.content.steps[0].use.ref).to.match(/^RT-\d+$/)
    expect(after.content.steps).to.have.length(before.length - 1)
    const routine = await read(after.content.steps[0].use.ref)
    expect(routine.usedBy.length).to.be.greaterThan(20)
    await page.getByRole('button', { name: /Begin a booking 2 steps/ }).click()
    await page.getByText(before[0].action, { exact: true }).waitFor()
  })
  it('inserts a routine by key, gives it a value, and writes it out again', async () => {
    const key = await named('Search keeps its date when the port is changed')
    await go(page, server, `/p/FERRY/${key}`)
    await page
      .getByLabel(/^Step \d+, action$/)
      .last()
      .focus()
    await page.keyboard.press('Alt+i')
    await page.getByLabel('Find a routine or a case').fill('sign')
    await page.getByRole('button', { name: /RT-2/ }).first().waitFor()
    await page.keyboard.press('Enter')
    await page.getByLabel('Value of who for RT-2').fill('Oda')
    await stored()
    await until(async () => (await read(key)).content.steps.at(-1).use?.values.who === 'Oda')
    const steps = (await read(key)).content.steps
    expect(steps.at(-1).use).to.deep.include({ ref: 'RT-2', name: '0.1', values: { who: 'Oda' } })
    await page.getByRole('button', { name: 'write out' }).last().click()
    await page.waitForFunction(() =>
      [...document.querySelectorAll('textarea')].some((area) => area.value.includes('write Oda and')),
    )
    await until(async () =>
      (await read(key)).content.steps.some(({ action }: { action: string }) => action.includes('write Oda and')),
    )
    expect((await read(key)).content.steps.map(({ use }: { use?: { ref: string } }) => use?.ref)).not.to.include('RT-2')
  })
  it('offers a changed routine everywhere and takes that back', async () => {
    await go(page, server, '/p/FERRY/RT-2')
    await page.getByLabel('Step 1, expected').fill('The page of {who} opens at once')
    await stored()
    await page.getByRole('button', { name: 'Cut a version' }).click()
    await page.getByText('Version 0.2 is cut').waitFor()
    const users = (await read('RT-2')).usedBy.length
    await page.getByRole('button', { name: `Change everywhere: ${users} take 0.2` }).click()
    await page.getByText(`${users} places use 0.2 now`).waitFor()
    expect((await read('RT-2')).behind).to.equal(0)
    await undo(page, `${users} places use 0.2 now`)
    await until(async () => (await read('RT-2')).behind > 0)
    expect((await read('RT-2')).behind).to.equal(users)
  })
  it('asks a person to review; they comment on a step, suggest, and the author takes it', async () => {
    const key = await named('Sum is worked out again when a vehicle leaves')
    await go(page, server, `/p/FERRY/${key}`)
    await page
      .getByLabel(/^Step \d+, data$/)
      .last()
      .fill('by the calendar of the port')
    await stored()
    await page.getByRole('button', { name: 'Ask for review' }).click()
    await page.getByRole('dialog').getByLabel('Ansa Lind').check()
    await page.getByRole('button', { name: 'Ask Ansa Lind' }).click()
    await page.getByText('one person is told').waitFor()
    await context.clearCookies()
    await signedIn(context, server, 'ansa')
    await go(page, server, '/p/FERRY')
    await page.getByRole('button', { name: /^Inbox/ }).click()
    await page.getByRole('link', { name: new RegExp(`${key} Mira K. asks you to review`) }).click()
    await page.getByText('comment on step 2').click()
    await page.getByLabel('Comment on this step').pressSequentially('@Mir')
    await page.getByRole('listbox', { name: 'People' }).getByRole('option', { name: 'Mira Kell' }).waitFor()
    await page.keyboard.press('Enter')
    await page.keyboard.type('is it?')
    await page.keyboard.press('Control+Enter')
    await page.getByText('Mira Kell is told.').waitFor()
    await page.getByRole('button', { name: 'suggest changes' }).click()
    const box = page.getByLabel('Suggestions')
    await box.getByLabel('Step 2, expected').fill('It is free, and the receipt says so')
    await box.getByText(/Stored \d\d:\d\d/).waitFor()
    await box.getByLabel('Why it should change').fill('the receipt counts')
    await box.getByRole('button', { name: 'Send' }).click()
    await page.getByText('Sent to the owner and the author.').waitFor()
    await context.clearCookies()
    await signedIn(context, server, 'mira')
    await go(page, server, `/p/FERRY/${key}`)
    const mine = page.getByLabel('Suggestions')
    await mine.getByRole('button', { name: 'look' }).first().click()
    await mine.locator('ins', { hasText: 'receipt' }).first().waitFor()
    await mine.getByRole('button', { name: 'Take it' }).click()
    await page.getByText('The working copy says it now.').waitFor()
    expect((await read(key)).content.steps[1].expected).to.equal('It is free, and the receipt says so')
  })
  it('files cases by the tree: a row is dragged onto a folder, folders are moved and made by key', async () => {
    await go(page, server, '/p/FERRY/cases?tree=yes')
    const tree = page.getByRole('tree')
    const row = page.getByRole('row', { name: /Sailings of a day are listed/ })
    await row.dragTo(tree.getByRole('treeitem', { name: /Deck plan/ }))
    await page.getByText('Stored.').waitFor()
    expect((await read('TC-1')).folder).to.equal('Deck plan')
    await undo(page, 'Stored.')
    await until(async () => (await read('TC-1')).folder !== 'Deck plan')
    expect((await read('TC-1')).folder).to.equal('Searching and booking')
    await tree.getByRole('treeitem', { name: /Deck plan/ }).focus()
    await page.keyboard.press('Alt+ArrowRight')
    await page.waitForFunction(() => document.querySelector('[role=treeitem][aria-level="2"]') !== null)
    await page.keyboard.press('Alt+ArrowLeft')
    await page.waitForFunction(() => document.querySelector('[role=treeitem][aria-level="2"]') === null)
    await tree.getByRole('treeitem', { name: /Weather/ }).click()
    await page.getByRole('gridcell', { name: /^TC-/ }).first().waitFor()
    const shown = new URL(page.url()).searchParams
    expect([shown.get('tree'), shown.get('folder') !== null]).to.deep.equal(['yes', true])
  })
  it('splits a requirement, shows what the tracker says of another, and attaches a file', async () => {
    await go(page, server, '/p/FERRY/RQ-4')
    await page.getByRole('button', { name: 'split', exact: true }).click()
    await page.getByLabel('Title of the new requirement').fill('Height on the car deck')
    await page
      .getByRole('dialog')
      .getByLabel(/must not be placed on the car deck/)
      .check()
    await page.getByRole('dialog').getByRole('button', { name: 'Split' }).click()
    await page.getByRole('heading', { name: 'Height on the car deck' }).waitFor()
    expect((await read('RQ-4')).suspect).to.be.greaterThan(0)
    await go(page, server, '/p/FERRY/RQ-6')
    await page.getByRole('button', { name: 'fetch', exact: true }).click()
    await page.getByRole('region', { name: 'From the tracker' }).waitFor()
    await page.getByRole('link', { name: /HARB-\d+/ }).hover()
    await page.getByText(/Harbour board, fetched/).waitFor()
    await page.locator('input[type=file]').setInputFiles({
      name: 'agreed.txt',
      mimeType: 'text/plain',
      buffer: Buffer.from('agreed with the harbour office'),
    })
    await page.getByRole('link', { name: 'agreed.txt' }).waitFor()
  })
  it('filters by what results say in the scope, and changes tags of many with a way back', async () => {
    await go(page, server, '/p/FERRY/cases')
    await page.getByRole('button', { name: 'failing', exact: true }).click()
    await page
      .getByText(/^\d+ of \d{3}$/)
      .first()
      .waitFor()
    const found = (
      await api.get(
        `${P}/cases?limit=500&filter=${encodeURIComponent(JSON.stringify({ field: 'finding', op: 'is', values: ['failing'] }))}`,
      )
    ).body
    expect(found.total).to.be.greaterThan(0).and.lessThan(60)
    for (const { id } of found.rows.slice(0, 3))
      expect((await api.get(`${P}/cases?ids=${id}`)).body.rows).to.have.length(1)
    await page.getByRole('grid').focus()
    await page.keyboard.press('Control+a')
    await page.getByRole('button', { name: 'tags and own fields' }).click()
    await page.getByLabel('Tags', { exact: true }).fill('look again')
    await page.getByRole('button', { name: 'Add', exact: true }).click()
    await page.getByText(`${found.total} cases changed.`).waitFor()
    const tagged = async () =>
      (
        await api.get(
          `${P}/cases?limit=1&filter=${encodeURIComponent(JSON.stringify({ field: 'tags', op: 'contains', values: ['look again'] }))}`,
        )
      ).body.total
    expect(await tagged()).to.equal(found.total)
    await undo(page, `${found.total} cases changed.`)
    await until(async () => (await tagged()) === 0)
    expect(await tagged()).to.equal(0)
  })
  it('writes emphasis, a warning and a table into a step', async () => {
    const key = await named('Second card can be tried within the hold')
    await go(page, server, `/p/FERRY/${key}`)
    await page.getByLabel('Step 2, expected').focus()
    await page.keyboard.press('Control+b')
    const editor = page.getByRole('textbox', { name: 'Step 2, expected' })
    await editor.waitFor()
    await page.waitForFunction(() => document.activeElement?.getAttribute('role') === 'textbox')
    await page.keyboard.press('Control+a')
    await page.getByRole('button', { name: 'warning' }).click()
    await page.keyboard.press('End')
    await page.getByRole('button', { name: 'table', exact: true }).click()
    await page.keyboard.type('age')
    await page.getByRole('button', { name: 'row below' }).click()
    await page.keyboard.press('Control+Enter')
    await stored()
    const { expected } = (await read(key)).content.steps[1]
    expect(expected).to.contain('<mark data-tone="warn">').and.contain('<table').and.contain('age')
    expect(expected.match(/<tr>/g)).to.have.length(4)
  })
})
