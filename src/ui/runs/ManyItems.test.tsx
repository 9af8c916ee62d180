import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { createDefect } from '#core/defects/contract.ts'
import { listItems, listRuns, readRun } from '#core/runs/contract.ts'
import { quarantineCases } from '#core/runs/quarantine-contract.ts'
import { waitFor as waitsFor } from '#core/runs/waits-contract.ts'
import { execute, makeCase, makeDealtRun, makeRun } from '#test/make.ts'
import { shop, type Shop } from '#test/app.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen, type Shown, tickRows } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

const press = async (screen: Shown, words: string) =>
  fireEvent.click(await screen.findByText(words, { selector: 'button' }, soon))
const undo = (screen: Shown) => fireEvent.click(screen.getByText('Undo', { selector: 'button' }))
const type = (field: HTMLElement, value: string) => fireEvent.change(field, { target: { value } })
const send = (field: HTMLElement) => fireEvent.submit(field.closest('form') ?? field)

describe('several items of a run', () => {
  let own: Shop
  let ids: number[]
  const params = { ref: 'RN-1' }
  const rows = async (ref = 'RN-1') => (await own.lead.ask(listItems, { params: { ref } })).rows
  beforeEach(async () => {
    own = shop()
    for (const title of ['Pay by card', 'Hold a place', 'Board']) await makeCase(own.lead, title)
    ids = (await makeDealtRun(own, ['TC-1', 'TC-2', 'TC-3'])).items.map(({ id }) => id)
  })
  afterEach(() => closeScreen())
  const page = () => pageOf(own, 'lead', 'RN-1?full=yes')

  it('are executed again in a run of their own, told before it is opened', async () => {
    await execute(own, ids[0] ?? 0, 'Passed')
    const screen = await page()
    await tickRows(screen, 'Pay by card', 'Board')
    await press(screen, 'run again')
    const sheet = within(await screen.findByRole('dialog', undefined, soon))
    expect(sheet.getByLabelText<HTMLInputElement>('Title').value).to.equal('The run, again')
    await sheet.findByText(/^2 items, .* of work/, undefined, soon)
    send(sheet.getByLabelText('Title'))
    await waitFor(async () => expect((await own.lead.ask(listRuns)).total).to.equal(2), soon)
    expect((await rows('RN-2')).map((row) => [row.case, row.environment, row.verdict])).to.deep.equal([
      ['TC-1', 'Red', 'Not run'],
      ['TC-3', 'Red', 'Not run'],
    ])
    expect((await rows())[0]?.verdict).to.equal('Passed')
  })
  it('wait for nothing any more, and that is taken back; those that waited for nothing are not told of', async () => {
    await own.lead.ask(createDefect, { body: { title: 'It is not there', severity: 'Major' } })
    await own.lead.ask(waitsFor, { params, body: { ids, for: 'DF-1' } })
    const waiting = async () => (await rows()).map(({ waits }) => waits.map(({ key }) => key))
    const screen = await page()
    await tickRows(screen, 'Pay by card', 'Board')
    await press(screen, 'wait for')
    await press(screen, 'wait for nothing')
    await screen.findByText('2 items no longer wait for what was said.', undefined, soon)
    expect(await waiting()).to.deep.equal([[], ['DF-1'], []])
    undo(screen)
    await waitFor(async () => expect(await waiting()).to.deep.equal([['DF-1'], ['DF-1'], ['DF-1']]), soon)
  })
  it('are let out of quarantine, with the reason when that is taken back; what is in none is told of as such', async () => {
    const [first] = await rows()
    await own.lead.ask(quarantineCases, {
      body: { of: [{ case: first?.caseId ?? 0, environment: first?.environmentId ?? 0, reason: 'The rig flickers' }] },
    })
    const reasons = async () => (await rows()).map(({ quarantine }) => quarantine)
    const screen = await page()
    await screen.findByText(/in quarantine: The rig flickers/, undefined, soon)
    await tickRows(screen, 'Pay by card', 'Board')
    await press(screen, 'quarantine')
    await press(screen, 'let them out')
    await screen.findByText('1 case counted again.', undefined, soon)
    expect(await reasons()).to.deep.equal([null, null, null])
    undo(screen)
    await waitFor(async () => expect(await reasons()).to.deep.equal(['The rig flickers', null, null]), soon)
    await waitFor(() => expect(screen.queryByRole('toolbar')).to.equal(null), soon)
    await tickRows(screen, 'Board')
    await press(screen, 'quarantine')
    await press(screen, 'let them out')
    await screen.findByText('None of them is in quarantine.', undefined, soon)
  })
  it('need several testers, and one again by undo', async () => {
    const screen = await page()
    await tickRows(screen, 'Pay by card', 'Board')
    const needed = async () => (await rows()).map(({ several }) => several && `${several.passes} of ${several.people}`)
    fireEvent.change(await screen.findByLabelText('Testers', { selector: 'select' }, soon), {
      target: { value: '2 of 3' },
    })
    await waitFor(async () => expect(await needed()).to.deep.equal(['2 of 3', null, '2 of 3']), soon)
    await screen.findByText('Undo', undefined, soon)
    undo(screen)
    await waitFor(async () => expect(await needed()).to.deep.equal([null, null, null]), soon)
  })
  it('stand in the queue as they are moved by keys, and back', async () => {
    const order = async () => (await rows()).map((row) => row.case)
    const screen = await page()
    await tickRows(screen, 'Board')
    fireEvent.keyDown(document.body, { key: 'ArrowUp', altKey: true })
    await waitFor(async () => expect(await order()).to.deep.equal(['TC-1', 'TC-3', 'TC-2']), soon)
    fireEvent.change(await screen.findByLabelText('Move', { selector: 'select' }), { target: { value: 'first' } })
    await waitFor(async () => expect(await order()).to.deep.equal(['TC-3', 'TC-1', 'TC-2']), soon)
  })
})

describe('what a run is for', () => {
  let own: Shop
  beforeEach(async () => {
    own = shop()
    await makeCase(own.lead, 'Pay by card')
    await makeRun(own, ['TC-1'])
    await makeRun(own, ['TC-1'])
  })
  afterEach(() => closeScreen())
  const aimOf = async (screen: Shown) =>
    (await screen.findByText('No aim is written.', undefined, soon)).parentElement ?? document.body
  const run = (ref = 'RN-1') => own.viewer.ask(readRun, { params: { ref } })

  it('is written where it stands, with its name and days; what cannot be is refused in a sentence', async () => {
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    fireEvent.click(within(await aimOf(screen)).getByText('change'))
    const aim = await screen.findByLabelText('Aim', undefined, soon)
    type(aim, 'Whether the new terminal pays')
    type(screen.getByLabelText('Title'), '  Night run ')
    type(screen.getByLabelText('Last day'), '2026-11-01')
    send(aim)
    await screen.findByText(/would end before it starts/, undefined, soon)
    expect((await run()).title).to.equal('The run')
    type(screen.getByLabelText('Last day'), '2026-12-01')
    send(aim)
    await screen.findByText('Whether the new terminal pays', undefined, soon)
    const { title, endOn, aim: stored } = await run()
    expect([title, endOn, stored]).to.deep.equal(['Night run', '2026-12-01', 'Whether the new terminal pays'])
  })
  it('keeps which data rows are executed, and marks what names none', async () => {
    const screen = await pageOf(own, 'lead', 'RN-1?full=yes')
    fireEvent.click(within(await aimOf(screen)).getByText('change'))
    const data = await screen.findByLabelText('Data rows of each case', undefined, soon)
    type(data, 'first')
    expect(data.getAttribute('aria-invalid')).to.equal('true')
    type(data, '1, 3-4')
    expect(data.getAttribute('aria-invalid')).to.equal('false')
    send(data)
    await screen.findByText('Only data rows 1, 3-4 of each case.', undefined, soon)
    expect((await run()).dataRows).to.equal('1, 3-4')
  })
  it('is read by a tester, who changes nothing of it', async () => {
    const screen = await pageOf(own, 'tester', 'RN-1?full=yes')
    await screen.findByText('Pay by card', undefined, soon)
    expect(screen.queryByText('change', { selector: 'button' })).to.equal(null)
  })
  it('carries tags that are taken away from several, and put back as each had them', async () => {
    const screen = await pageOf(own, 'lead', 'runs')
    const tags = async () => [(await run()).tags, (await run('RN-2')).tags]
    const tagged = async (words: string, act: 'put' | 'take away') => {
      const field = await screen.findByLabelText('Tags', { selector: 'input' }, soon)
      type(field, words)
      if (act === 'put') send(field)
      else await press(screen, 'Take away')
    }
    await tickRows(screen, 'RN-1')
    await press(screen, 'tags')
    await tagged('night', 'put')
    await waitFor(async () => expect(await tags()).to.deep.equal([['night'], []]), soon)
    await tagged('night', 'put')
    await screen.findByText('They are tagged so already.', undefined, soon)
    await tickRows(screen, 'RN-2')
    await press(screen, 'tags')
    await tagged('night, smoke', 'put')
    await waitFor(
      async () =>
        expect(await tags()).to.deep.equal([
          ['night', 'smoke'],
          ['night', 'smoke'],
        ]),
      soon,
    )
    await tagged('night', 'take away')
    await waitFor(async () => expect(await tags()).to.deep.equal([['smoke'], ['smoke']]), soon)
  })
  it('is copied, and the copies go again by undo', async () => {
    const screen = await pageOf(own, 'lead', 'runs')
    await tickRows(screen, 'RN-1')
    await press(screen, 'copy')
    await screen.findByText('1 run planned like it.', undefined, soon)
    expect((await run('RN-3')).title).to.equal('The run, again')
    undo(screen)
    await waitFor(async () => expect((await own.viewer.ask(listRuns)).total).to.equal(2), soon)
  })
})
