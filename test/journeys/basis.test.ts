import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect } from 'chai'
import type { BrowserContext } from 'playwright-core'
import type { Running } from '../server.ts'
import { xlsxOf } from '../workbooks.ts'
import { endJourney, go, openPage, startJourney, undo } from './browser.ts'

let server: Running
let context: BrowserContext
const folder = mkdtempSync(join(tmpdir(), 'rovant-files-'))
describe('basis', () => {
  before(async () => {
    ;({ server, context } = await startJourney('mira'))
  })
  after(() => endJourney({ server, context }))
  const api = async (path: string) => (await context.request.get(`${server.url}/api/v1/projects/FERRY${path}`)).json()

  it('imports a workbook nobody named the columns of: shown, mapped by hand, kept, stored, and taken back', async () => {
    const file = join(folder, 'harbour.xlsx')
    writeFileSync(
      file,
      await xlsxOf({
        Harbour: [
          ['Nr', 'Check', 'What we do', 'Priority'],
          ['H-1', 'Fog horn answers', 'Press the horn', 'High'],
          ['', '', 'Press it again', ''],
          ['H-2', 'Ramp light', 'Lower the ramp', 'Low'],
        ],
      }),
    )
    const page = await openPage(context, server, '/p/FERRY/cases')
    const before = (await api('/cases?limit=1')).total
    await page.keyboard.press('Control+i')
    await page.getByLabel('File', { exact: true }).setInputFiles(file)
    await page.getByText(/no column is read as the title/).waitFor()
    await page.getByLabel('Column B is read as').selectOption('title')
    await page.getByText('1 step', { exact: false }).or(page.getByText('2 cases with 0 steps')).first().waitFor()
    await page.getByLabel('Column C is read as').selectOption('action')
    await page.getByText('2 cases with 3 steps').waitFor()
    await page.getByLabel('As it will be').getByText('Press it again').waitFor()
    await page.getByLabel('Name for this mapping').fill('Harbour by hand')
    await page.getByRole('button', { name: 'Keep', exact: true }).press('Enter')
    await page.getByText('The mapping is kept as “Harbour by hand”').waitFor()
    await page.getByRole('button', { name: 'Import 2 cases' }).press('Enter')
    await page.getByText('2 cases imported.').waitFor()
    expect((await api('/cases?limit=1')).total).to.equal(before + 2)
    await undo(page, '2 cases imported.')
    await page.getByText('The import is taken back.').waitFor()
    expect((await api('/cases?limit=1')).total).to.equal(before)
    await page.close()
  })
  it('compares two versions at an address of their own, and restores one', async () => {
    const page = await openPage(context, server, '/p/FERRY/TC-26')
    await page.getByRole('button', { name: 'compare the last two' }).press('Enter')
    await page.getByRole('region', { name: 'Comparison of two versions' }).getByText('1 step added').waitFor()
    const address = page.url()
    expect(address).to.match(/compare=\d+\.\.\d+/)
    await page.goto(address)
    const comparison = page.getByRole('region', { name: 'Comparison of two versions' })
    await comparison.locator('ins').first().waitFor()
    expect(await comparison.locator('ins').first().textContent()).to.equal(
      'Book a second van of 4.90 m, 2.11 m high, on that sailing',
    )
    // The frame stays where it is; only the parts within it scroll.
    expect(await page.evaluate(() => document.documentElement.scrollHeight - innerHeight)).to.equal(0)
    await page.getByRole('button', { name: 'restore 1.0' }).press('Enter')
    await page.getByText('The working copy says again what 1.0 says.').waitFor()
    await page.waitForFunction(
      () => ![...document.querySelectorAll('textarea')].some(({ value }) => value.includes('second van')),
    )
    await page.close()
  })
  it('shows what changed in a requirement and confirms each suspect link by one key', async () => {
    const page = await openPage(context, server, '/p/FERRY/RQ-5')
    const suspect = page.getByRole('region', { name: 'Suspect links' })
    await suspect.getByText('5 links are suspect').waitFor()
    await suspect.locator('del', { hasText: 'needs' }).waitFor()
    for (const left of ['4 links are suspect', '3 links are suspect', '2 links are suspect', 'One link is suspect']) {
      await page.keyboard.press('k')
      await suspect.getByText(left).waitFor()
    }
    await page.keyboard.press('k')
    await suspect.waitFor({ state: 'detached' })
    expect((await api('/requirements/RQ-5')).suspect).to.equal(0)
    await page.close()
  })
  it('finds and replaces over all cases by keys, and takes it back', async () => {
    const page = await openPage(context, server, '/p/FERRY/cases')
    await page.keyboard.press('Control+h')
    await page.getByRole('textbox', { name: 'Find' }).waitFor()
    await page.keyboard.type('clerk')
    await page.keyboard.press('Tab')
    await page.keyboard.type('agent')
    await page.keyboard.press('Enter')
    const button = page.getByRole('button', { name: /^Replace in \d+ places$/ })
    await button.waitFor()
    const step = async () => (await api('/cases/TC-134')).content.steps[0].action
    expect(await step()).to.match(/^Sign in as clerk and/)
    await button.press('Enter')
    await page.getByText(/Replaced in \d+ places of \d+ cases/).waitFor()
    expect(await step()).to.match(/^Sign in as agent and/)
    await undo(page, /Replaced in \d+ places of \d+ cases/)
    await page.getByText('Taken back.').waitFor()
    expect(await step()).to.match(/^Sign in as clerk and/)
    await page.close()
  })
  it('defines a field in the set-up and gives it a value on a case', async () => {
    const page = await openPage(context, server, '/p/FERRY/set-up/fields')
    await page.getByLabel('Name of a new field').fill('Season')
    await page.getByLabel('Kind of field').selectOption('choice')
    await page.getByLabel('Choices, with commas between').fill('summer, winter')
    await page.getByRole('button', { name: 'Define' }).press('Enter')
    await page.getByText('The field Season stands on every case now.').waitFor()
    await go(page, server, '/p/FERRY/TC-17')
    // The tag comes while the value is still on its way: it builds on that edit and is no conflict with it.
    await page.route('**/cases/TC-17', async (route) => {
      if (route.request().method() === 'PATCH') await new Promise((done) => setTimeout(done, 700))
      await route.continue()
    })
    await page.getByLabel('Season').selectOption('winter')
    await page.getByRole('button', { name: /^A new tag/ }).press('Enter')
    await page.locator('input:focus').waitFor()
    await page.keyboard.type('season')
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: 'Take the tag season away' }).waitFor()
    const stored = await api('/cases/TC-17')
    expect(stored.tags).to.include('season')
    expect(Object.values(stored.custom).flat()).to.include('winter')
    await page.close()
  })
  it('says while a case is written what would make it better, and mends it', async () => {
    const page = await openPage(context, server, '/p/FERRY/cases')
    const made = await (
      await context.request.post(`${server.url}/api/v1/projects/FERRY/cases/lines`, {
        data: { lines: 'Signals of a case\n\tOpen the page. Pay the fare => Paid' },
      })
    ).json()
    await go(page, server, `/p/FERRY/${made.keys[0]}`)
    const signals = page.getByLabel('What would make this case better')
    await signals.getByText('Step 1 asks for 2 actions').waitFor()
    await signals.getByRole('button', { name: 'make a step of each' }).press('Enter')
    await page.getByLabel('Step 2, action').waitFor()
    expect(
      await page
        .getByLabel(/^Step \d, action$/)
        .evaluateAll((cells) => cells.map((cell) => (cell instanceof HTMLTextAreaElement ? cell.value : ''))),
    ).to.deep.equal(['Open the page', 'Pay the fare'])
    await page.getByText(/Stored \d\d:\d\d/).waitFor()
    await page.getByLabel('Step 1, action').fill('Open <the> page & wait')
    await page.waitForTimeout(900)
    await page.getByText(/Stored \d\d:\d\d/).waitFor()
    await page.reload()
    await page.waitForFunction(() => document.querySelector('textarea[aria-label="Step 1, action"]') !== null)
    expect(await page.getByLabel('Step 1, action').inputValue()).to.equal('Open <the> page & wait')
    await page.close()
  })
  it('writes what is ticked, or everything, to a file and says what it left out', async () => {
    const page = await openPage(context, server, '/p/FERRY/requirements')
    await page.getByRole('button', { name: 'Export' }).press('Enter')
    const waiting = page.waitForEvent('download')
    await page.getByRole('button', { name: 'ReqIF', exact: true }).press('Enter')
    const file = await (await waiting).path()
    expect(readFileSync(file, 'utf8')).to.match(/<REQ-IF /)
    await page.getByText('FERRY-requirements.reqif is written, with nothing left out.').waitFor()
    await page.close()
  })
})
