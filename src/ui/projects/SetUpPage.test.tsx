import { expect } from 'chai'
import { fireEvent, waitFor } from '@testing-library/react'
import { listCustomFields } from '#core/projects/custom.ts'
import { readProject } from '#core/projects/contract.ts'
import { listTables, readTable } from '#core/reuse/table-contract.ts'
import { shop, type Shop } from '#test/app.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 5000 }

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
    const screen = await pageOf(own, 'lead', 'set-up')
    fill(await screen.findByLabelText('A new build of 1.0'), '1.0.2')
    await screen.findByText(/Build 1\.0\.2 is offered/, undefined, soon)
    fill(screen.getByLabelText(/A new environment/), 'Gecko, phone')
    await screen.findByText('Gecko, phone is added.', undefined, soon)
    fill(screen.getByLabelText('A new release'), '3.0')
    await screen.findByText('Release 3.0 is planned.', undefined, soon)
    const { builds, environments, releases } = await project()
    expect(builds.map(({ name }) => name)).to.include('1.0.2')
    expect(environments.find(({ name }) => name === 'Gecko, phone')?.values).to.deep.equal({
      engine: 'Gecko',
      device: 'phone',
    })
    expect(releases.map(({ name }) => name)).to.include('3.0')
  })

  it('withdraws a build', async () => {
    const screen = await pageOf(own, 'lead', 'set-up')
    fireEvent.change(await screen.findByLabelText('State of 1.0.0'), { target: { value: 'Withdrawn' } })
    await waitFor(
      async () => expect((await project()).builds.find(({ name }) => name === '1.0.0')?.state).to.equal('Withdrawn'),
      soon,
    )
  })

  it('defines a field, asks for its choices, and gives back one that was taken away', async () => {
    const screen = await pageOf(own, 'lead', 'set-up')
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
    const screen = await pageOf(own, 'lead', 'set-up')
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

  it('lets a tester read and change nothing', async () => {
    const screen = await pageOf(own, 'tester', 'set-up')
    await screen.findByText('Builds')
    expect(screen.queryByLabelText(/A new build/)).to.equal(null)
    expect(screen.queryByLabelText('Name of a new field')).to.equal(null)
    expect(screen.getByText(/A lead can change what stands here/)).to.not.equal(null)
  })
})
