import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { listCustomFields } from '#core/projects/custom.ts'
import { readProject } from '#core/projects/contract.ts'
import { listTables, readTable } from '#core/reuse/table-contract.ts'
import { shop, type Shop } from '#test/app.ts'
import { makeCase, makePlan } from '#test/make.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('the set-up', () => {
  let own: Shop
  beforeEach(() => {
    own = shop()
  })
  afterEach(() => closeScreen())
  const project = () => own.lead.ask(readProject)
  const fill = (input: HTMLElement, value: string) => {
    fireEvent.change(input, { target: { value } })
    fireEvent.submit(input.closest('form')!)
  }

  it('offers builds, adds environments by their factors, releases and iterations', async () => {
    const screen = await pageOf(own, 'lead', 'set-up/releases')
    fill(await screen.findByLabelText('A new build of 1.0'), '1.0.2')
    await screen.findByText(/Build 1\.0\.2 is offered/, undefined, soon)
    fill(screen.getByLabelText('A new release'), '3.0')
    await screen.findByText('Release 3.0 is planned.', undefined, soon)
    fireEvent.click(screen.getByText('Environments'))
    fill(await screen.findByLabelText(/A new environment/), 'Gecko, phone')
    await screen.findByText('Gecko, phone is added.', undefined, soon)
    expect(location.pathname).to.equal('/p/SHOP/set-up/environments')
    const { builds, environments, releases } = await project()
    expect(builds.map(({ name }) => name)).to.include('1.0.2')
    expect(environments.find(({ name }) => name === 'Gecko, phone')?.values).to.deep.equal({
      engine: 'Gecko',
      device: 'phone',
    })
    expect(releases.map(({ name }) => name)).to.include('3.0')
  })

  it('withdraws a build', async () => {
    const screen = await pageOf(own, 'lead', 'set-up/releases')
    fireEvent.change(await screen.findByLabelText('State of 1.0.0'), { target: { value: 'Withdrawn' } })
    await waitFor(
      async () => expect((await project()).builds.find(({ name }) => name === '1.0.0')?.state).to.equal('Withdrawn'),
      soon,
    )
  })

  it('defines a field, asks for its choices, and gives back one that was taken away', async () => {
    const screen = await pageOf(own, 'lead', 'set-up/fields')
    const fields = async () => (await own.lead.ask(listCustomFields)).rows
    fireEvent.change(await screen.findByLabelText('Name of a new field'), { target: { value: 'Vessel' } })
    fireEvent.change(screen.getByLabelText('Kind of field'), { target: { value: 'choice' } })
    expect(screen.getByText('Define')).to.have.property('disabled', true)
    fill(screen.getByLabelText('Choices, with commas between'), 'Ove, Skerrin Star,')
    await waitFor(async () => expect((await fields())[0]?.choices).to.deep.equal(['Ove', 'Skerrin Star']), soon)
    fireEvent.click(await screen.findByText(/take away/, undefined, soon))
    await waitFor(async () => expect(await fields()).to.deep.equal([]), soon)
    fireEvent.click(await screen.findByText('Undo', undefined, soon))
    await waitFor(async () => expect((await fields()).map(({ name }) => name)).to.deep.equal(['Vessel']), soon)
  })

  it('keeps data tables as grids that a spreadsheet pastes into', async () => {
    const screen = await pageOf(own, 'lead', 'set-up/tables')
    fill(await screen.findByLabelText('A new data table'), 'Test cards')
    const column = await screen.findByLabelText(/^A new column/, undefined, soon)
    fireEvent.click(column)
    const name = await screen.findByLabelText('A new column', { selector: 'input' })
    fireEvent.change(name, { target: { value: 'card' } })
    fireEvent.keyDown(name, { key: 'Enter' })
    await screen.findByLabelText(/^Column card/, undefined, soon)
    fireEvent.click(screen.getByText('Add a row'))
    const cell = await screen.findByLabelText('Row 1, card', undefined, soon)
    fireEvent.paste(cell, { clipboardData: { getData: () => '4000\n4111' } })
    const [table] = (await own.lead.ask(listTables)).rows
    const values = async () =>
      (await own.lead.ask(readTable, { params: { id: table?.id ?? 0 } })).values.map((row) => row.values)
    await waitFor(async () => expect(await values()).to.deep.equal([{ card: '4000' }, { card: '4111' }]), soon)
  })

  it('finds a setting by words, in whatever part it stands', async () => {
    const screen = await pageOf(own, 'lead', 'set-up')
    const search = await screen.findByLabelText('Find a setting')
    fireEvent.change(search, { target: { value: 'too old' } })
    const parts = within(screen.getByLabelText('Parts of the set-up'))
    expect(parts.getAllByRole('link').map(({ textContent }) => textContent)).to.deep.equal(['Rules'])
    expect(parts.getByText('Age of a result')).to.not.equal(null)
    fireEvent.change(search, { target: { value: 'nothing like that' } })
    expect(screen.getByText('No setting has these words.')).to.not.equal(null)
    fireEvent.keyDown(search, { key: 'Escape' })
    expect(screen.getByText('Releases and builds')).to.not.equal(null)
  })

  it('changes a rule, says what follows, and takes it back', async () => {
    const screen = await pageOf(own, 'lead', 'set-up/rules')
    const days = async () => (await project()).freshnessDays
    const type = async (text: string) => {
      fireEvent.click(await screen.findByLabelText(/^Days after which a result is too old/))
      const field = await screen.findByLabelText('Days after which a result is too old', { selector: 'input' })
      fireEvent.change(field, { target: { value: text } })
      fireEvent.keyDown(field, { key: 'Enter' })
    }
    await type('0')
    await screen.findByText(/“0” is no number of days/)
    expect(await days()).to.equal(14)
    await type('21')
    await screen.findByText('A result is too old after 21 days; every figure follows.', undefined, soon)
    fireEvent.click(screen.getByText('Undo'))
    await waitFor(async () => expect(await days()).to.equal(14), soon)
  })

  it('has the calendar and the weights of worth set, each with its way back, and says what is no number', async () => {
    const screen = await pageOf(own, 'lead', 'set-up/time')
    fireEvent.click(await screen.findByLabelText('Sat', undefined, soon))
    await waitFor(async () => expect((await project()).workingDays).to.match(/6/), soon)
    fireEvent.change(screen.getByLabelText('Day'), { target: { value: '2030-12-24' } })
    fireEvent.change(screen.getByLabelText('Name'), { target: { value: 'Harbour day' } })
    fireEvent.click(screen.getByText('Add'))
    await waitFor(
      async () => expect((await project()).holidays).to.deep.equal([{ day: '2030-12-24', name: 'Harbour day' }]),
      soon,
    )
    fireEvent.click(await screen.findByLabelText('Take Harbour day away', undefined, soon))
    await waitFor(async () => expect((await project()).holidays).to.deep.equal([]), soon)
    const type = async (label: RegExp, text: string) => {
      fireEvent.click(await screen.findByLabelText(label, undefined, soon))
      const field = await screen.findByLabelText(label, { selector: 'input' })
      fireEvent.change(field, { target: { value: text } })
      fireEvent.keyDown(field, { key: 'Enter' })
    }
    await type(/^Part of the time that is kept for retests/, '120')
    await screen.findByText(/“120” is no number from 0 to 90/, undefined, soon)
    await type(/^Part of the time that is kept for retests/, '20')
    await waitFor(async () => expect((await project()).reservePercent).to.equal(20), soon)
    await type(/^Weight of: a repair waits to be tried/, '0,5')
    await waitFor(async () => expect((await project()).weights.retest).to.equal(0.5), soon)
    fireEvent.click(await screen.findByText('as usual again', undefined, soon))
    await waitFor(async () => expect((await project()).weights.retest).to.equal(0.6), soon)
  })

  it('says to whom items of a new run are given, and the sheet of a new run begins with that', async () => {
    const screen = await pageOf(own, 'lead', 'set-up/rules')
    const choice = await screen.findByLabelText('Items of a new run', { selector: 'select' }, soon)
    fireEvent.change(choice, { target: { value: 'knowing' } })
    await screen.findByText(/^Items of a new run: /, { selector: '[role=status] *' }, soon)
    expect((await project()).dealing).to.equal('knowing')
    closeScreen()
    const { key } = await makePlan(own, [await makeCase(own.lead, 'Board')])
    const plan = await pageOf(own, 'lead', `${key}?full=yes`)
    await plan.findByText('The plan', { selector: 'h1 *, h1' }, soon)
    fireEvent.keyDown(document.body, { key: 'o' })
    const sheet = within(await plan.findByRole('dialog', undefined, soon))
    await sheet.findByText(/^1 item, .* of work/, undefined, soon)
    expect(sheet.getByLabelText('The items are')).to.have.property('value', 'knowing')
  })

  it('does not let who has no second factor ask it of others', async () => {
    const screen = await pageOf(own, 'lead', 'set-up/rules')
    fireEvent.change(await screen.findByLabelText('Second factor'), { target: { value: 'yes' } })
    await screen.findByText(/Set up a second factor of your own first/, undefined, soon)
  })

  it('lets a tester read and change nothing, and shows nobody but administrators what is of the installation', async () => {
    const screen = await pageOf(own, 'tester', 'set-up/rules')
    await screen.findByText(/A lead can change what stands here/)
    expect(screen.getByLabelText('Approval')).to.have.property('disabled', true)
    fireEvent.click(screen.getByText('Releases and builds'))
    await screen.findByText('Builds')
    expect(screen.queryByLabelText(/A new build/)).to.equal(null)
    fireEvent.click(screen.getByText('Own fields'))
    expect(screen.queryByLabelText('Name of a new field')).to.equal(null)
    expect(screen.queryByText('This installation')).to.equal(null)
  })
})
