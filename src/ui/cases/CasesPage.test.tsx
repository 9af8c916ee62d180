import { expect } from 'chai'
import { fireEvent, waitFor } from '@testing-library/react'
import { listCases, updateCase, writeCaseLines } from '#core/cases/contract.ts'
import { listFolders } from '#core/cases/folder-contract.ts'
import { caseOf, makeCase, makeRequirements, makeSuite, requirement } from '#test/make.ts'
import { createIteration, readProject } from '#core/projects/contract.ts'
import { shop, type Shop } from '#test/app.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('the list of cases', () => {
  let own: Shop
  beforeEach(async () => {
    own = shop()
    for (const title of ['Pay by card', 'Pay by voucher', 'Hold a place'])
      await makeCase(own.lead, title, { steps: ['Tap the red button => Paid'] })
  })
  afterEach(() => closeScreen())
  const press = (key: string, of: object = {}) => fireEvent.keyDown(document.body, { key, ...of })
  const changeImportance = async (ref: string, importance: 'Critical') =>
    own.lead.ask(updateCase, { params: { ref }, body: { importance }, version: (await caseOf(own.lead, ref)).version })
  const titles = async () => (await own.lead.ask(listCases)).rows.map(({ title }) => title)

  it('shows its rows, and the sheet of the one in the address beside them', async () => {
    const screen = await pageOf(own, 'lead', 'TC-2')
    expect((await screen.findAllByText(/Pay by voucher/)).length).to.be.greaterThan(1)
    expect(screen.getByText(/Hold a place/)).to.not.equal(null)
    expect(document.querySelector('article')?.getAttribute('aria-label')).to.equal('TC-2 Pay by voucher')
  })

  it('shows by one key what can be tested when, and lets it be said by hand', async () => {
    const { id } = await own.lead.ask(createIteration, { body: { release: own.release, name: 'Late' } })
    const screen = await pageOf(own, 'lead', 'TC-2')
    const choice = await screen.findByLabelText('Testable from', { selector: 'article select' }, soon)
    fireEvent.change(choice, { target: { value: `${own.release}/${id}` } })
    await waitFor(async () => expect((await caseOf(own.lead, 'TC-2')).fromIterationId).to.equal(id), soon)
    const before = (await own.lead.ask(readProject)).iterations.filter(({ release }) => release === own.release)
    expect(before.at(-1)?.name).to.equal('Late')
    for (const { name } of before) {
      press('i')
      await screen.findByText(`What can be tested in ${name}.`, undefined, soon)
      expect(new URLSearchParams(location.search).get('iteration')).to.equal(name)
    }
    press('i')
    await screen.findByText('What can be tested in the whole release.', undefined, soon)
    press('i')
    await screen.findByText('Everything is shown again.', undefined, soon)
    expect(location.search).to.not.include('filter')
    fireEvent.change(screen.getByLabelText('Testable from', { selector: 'article select' }), { target: { value: '' } })
    await waitFor(async () => expect((await caseOf(own.lead, 'TC-2')).fromReleaseId).to.equal(null), soon)
  })

  it('writes lines: a line a case, indented lines its steps', async () => {
    const screen = await pageOf(own, 'lead', 'cases')
    press('n')
    await screen.findByText('Write cases as lines')
    const box = document.querySelector('dialog textarea')!
    fireEvent.change(box, { target: { value: 'Cancel a booking\n\tTap Cancel => Half is given back' } })
    fireEvent.keyDown(box, { key: 'Enter', ctrlKey: true })
    await waitFor(async () => expect(await titles()).to.include('Cancel a booking'), soon)
    expect((await caseOf(own.lead, 'TC-4')).content.steps[0]).to.deep.include({ expected: 'Half is given back' })
  })

  it('changes all that are ticked, and takes it back', async () => {
    const screen = await pageOf(own, 'lead', 'cases')
    for (const row of [1, 2]) fireEvent.click(await screen.findByLabelText(`Tick row ${row}`))
    const importance = await screen.findByLabelText(/importance/i, { selector: 'select' })
    fireEvent.change(importance, { target: { value: 'Critical' } })
    const levels = async () => (await own.lead.ask(listCases)).rows.map((row) => row.importance)
    await waitFor(async () => expect(await levels()).to.deep.equal(['Critical', 'Critical', 'Medium']), soon)
    fireEvent.click(await screen.findByText('Undo', undefined, soon))
    await waitFor(async () => expect(await levels()).to.deep.equal(['Medium', 'Medium', 'Medium']), soon)
  })

  it('opens its filter with a condition to fill in, counts what fits, and asks nothing by what is not filled in', async () => {
    await changeImportance('TC-1', 'Critical')
    const screen = await pageOf(own, 'lead', 'cases')
    await screen.findByLabelText('Tick row 1')
    fireEvent.click(screen.getByText('filter', { selector: 'button' }))
    await screen.findByText('All 3 cases')
    const choose = (label: string, value: string, at = 0) =>
      fireEvent.change(screen.getAllByLabelText(label)[at]!, { target: { value } })
    choose('Field', 'importance')
    expect(new URLSearchParams(location.search).get('filter')).to.equal(null)
    choose('Value', 'Critical')
    await screen.findByText('1 of 3 cases', undefined, soon)
    fireEvent.click(screen.getByText('Add a condition'))
    choose('Field', 'steps', 1)
    choose('How it is compared', 'above', 1)
    choose('Value', 'many', 1)
    expect(screen.getAllByLabelText('Value')[1]).to.have.property('value', 'many')
    expect(screen.getAllByLabelText('Value')[1]!.getAttribute('aria-invalid')).to.equal('true')
    await screen.findByText('1 of 3 cases')
    choose('Value', '4, ', 1)
    await screen.findByText('0 of 3 cases', undefined, soon)
    fireEvent.click(screen.getAllByText('Take the filter away').at(-1)!)
    await screen.findByText('All 3 cases', undefined, soon)
    expect(screen.getAllByLabelText('Value')).to.have.length(1)
  })

  it('links, pins and exports all that are ticked, also those whose rows are not drawn', async () => {
    const lines = Array.from({ length: 211 }, (_, n) => `Case ${n}`).join('\n')
    await own.lead.ask(writeCaseLines, { body: { lines } })
    await makeRequirements(own.lead, 'Sums')
    const suite = await makeSuite(own.lead, 'Every case', ['TC-1'])
    const screen = await pageOf(own, 'lead', 'cases')
    await screen.findByLabelText('Tick row 1')
    press('a', { ctrlKey: true })
    await screen.findByText('214 ticked', undefined, soon)
    expect(screen.getAllByRole('row').length).to.be.below(150)
    fireEvent.click(screen.getByText('link'))
    const keys = await screen.findByLabelText(/^Keys to link/, undefined, soon)
    fireEvent.change(keys, { target: { value: 'RQ-1' } })
    fireEvent.submit(keys)
    await screen.findByText('214 links made.', undefined, soon)
    expect((await requirement(own.lead, 'RQ-1')).cases).to.equal(214)
    fireEvent.click(screen.getByText('Undo'))
    await waitFor(async () => expect((await requirement(own.lead, 'RQ-1')).cases).to.equal(0), soon)
    fireEvent.click(screen.getByText('pin to a suite'))
    fireEvent.click(await screen.findByText(suite.title, { selector: 'button' }, soon))
    await screen.findByText('213 of 214 cases pinned to Every case, which has 214 pinned now.', undefined, soon)
  })

  it('replaces a text everywhere after showing every place, and takes it back', async () => {
    const screen = await pageOf(own, 'lead', 'cases')
    press('h', { ctrlKey: true })
    fireEvent.change(await screen.findByLabelText('Find', undefined, soon), { target: { value: 'red' } })
    fireEvent.change(screen.getByLabelText('Put instead'), { target: { value: 'green' } })
    fireEvent.click(screen.getByText('Show the places'))
    const replace = await screen.findByText('Replace in 3 places', undefined, soon)
    expect(screen.getByLabelText('Places').textContent).to.include('step 1, action')
    fireEvent.change(screen.getByLabelText('Find'), { target: { value: 'red ' } })
    expect(screen.queryByText('Replace in 3 places')).to.equal(null)
    fireEvent.change(screen.getByLabelText('Find'), { target: { value: 'red' } })
    fireEvent.click(screen.getByText('Show the places'))
    fireEvent.click(await screen.findByText('Replace in 3 places', undefined, soon))
    const first = async () => (await caseOf(own.lead, 'TC-1')).content.steps[0]?.action
    await waitFor(async () => expect(await first()).to.equal('Tap the green button'), soon)
    fireEvent.click(await screen.findByText('Undo', undefined, soon))
    await waitFor(async () => expect(await first()).to.equal('Tap the red button'), soon)
    expect(replace).to.not.equal(null)
  })

  it('has folders that are made, named anew and moved by key', async () => {
    const screen = await pageOf(own, 'lead', 'cases?tree=yes')
    const make = async (name: string) => {
      fireEvent.click(await screen.findByText(/^new folder/))
      const input = await screen.findByLabelText('Name of the folder')
      fireEvent.change(input, { target: { value: name } })
      fireEvent.blur(input)
      await screen.findByText(name, undefined, soon)
    }
    await make('Booking')
    await make('Payment')
    const folders = async () => (await own.lead.ask(listFolders)).rows
    const line = () => screen.getByText('Payment').closest('li')!
    fireEvent.keyDown(line(), { key: 'ArrowRight', altKey: true })
    await waitFor(async () => {
      const rows = await folders()
      expect(rows.find(({ name }) => name === 'Payment')?.parent).to.equal(
        rows.find(({ name }) => name === 'Booking')?.id,
      )
    }, soon)
    fireEvent.keyDown(line(), { key: 'F2' })
    const input = await screen.findByLabelText('Name of the folder')
    fireEvent.change(input, { target: { value: 'Paying' } })
    fireEvent.blur(input)
    await waitFor(async () => expect((await folders()).map(({ name }) => name)).to.include('Paying'), soon)
  })
})
