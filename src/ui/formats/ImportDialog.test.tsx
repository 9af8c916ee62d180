import { expect } from 'chai'
import { fireEvent, waitFor } from '@testing-library/react'
import iconv from 'iconv-lite'
import { listCases } from '#core/cases/contract.ts'
import { importFile, keepMapping, listMappings } from '#core/formats/contract.ts'
import type { Mapping } from '#core/formats/mapping.ts'
import { caseOf, makeCase } from '#test/make.ts'
import { shop, type Shop } from '#test/app.ts'
import { closeScreen, lineDown, screenOf } from '#test/screen/screen.tsx'
import { ImportDialog } from './ImportDialog.tsx'

const soon = { timeout: 20_000 }
const csv = 'Title,Action,Expected\nPay by card,Tap the card,Paid\nHold a place,Choose a place,Held\n'

describe('the import of a file', () => {
  let own: Shop
  let closed: boolean
  beforeEach(() => {
    own = shop()
    closed = false
  })
  afterEach(() => closeScreen())
  const open = () =>
    screenOf(
      own,
      'lead',
      <ImportDialog
        what="cases"
        onClose={() => {
          closed = true
        }}
      />,
    )
  type Screen = Awaited<ReturnType<typeof open>>
  const choose = async (screen: Screen, text: string, name = 'cases.csv') =>
    fireEvent.change(await screen.findByLabelText('File'), { target: { files: [new File([text], name)] } })
  const titles = async () => (await own.lead.ask(listCases, { query: { limit: 100 } })).rows.map(({ title }) => title)

  it('shows what a file makes before anything is stored, and stores it then', async () => {
    const screen = await open()
    await choose(screen, csv)
    const told = await screen.findByText('2 cases with 2 steps', undefined, soon)
    expect(told.parentElement?.textContent).to.include('2 new')
    expect(await titles()).to.deep.equal([])
    fireEvent.click(screen.getByText('Import 2 cases'))
    await waitFor(async () => expect(await titles()).to.have.members(['Pay by card', 'Hold a place']), soon)
    await waitFor(() => expect(closed).to.equal(true), soon)
  })

  it('says which letters a text was read in, and reads it in others when one says so', async () => {
    const screen = await open()
    const bytes = Uint8Array.from(iconv.encode('Title;Action\nGebühr prüfen;Öffne die Kasse – wähle\n', 'Windows-1252'))
    fireEvent.change(await screen.findByLabelText('File'), { target: { files: [new File([bytes], 'cases.csv')] } })
    await screen.findByText(/Windows-1252, separated by/, undefined, soon)
    await screen.findAllByText('Gebühr prüfen')
    fireEvent.change(screen.getByLabelText('Encoding', { selector: 'select' }), { target: { value: 'Windows-1251' } })
    await screen.findByText(/Windows-1251, separated by/, undefined, soon)
    fireEvent.change(screen.getByLabelText('Encoding', { selector: 'select' }), { target: { value: 'Windows-1252' } })
    await screen.findByText(/Windows-1252, separated by/, undefined, soon)
    fireEvent.click(screen.getByText('Import 1 case'))
    await waitFor(async () => expect(await titles()).to.deep.equal(['Gebühr prüfen']), soon)
  })

  it('a whole import is taken back by one click', async () => {
    const screen = await open()
    await choose(screen, csv)
    fireEvent.click(await screen.findByText('Import 2 cases', undefined, soon))
    fireEvent.click(await screen.findByText(/^(Undo|Take)/, { selector: 'button' }, soon))
    await waitFor(async () => expect(await titles()).to.deep.equal([]), soon)
  })

  it('a file that says what is here already changes nothing, and says so', async () => {
    const key = await makeCase(own.lead, 'Pay by card')
    const screen = await open()
    await choose(screen, `Key,Title,Action,Expected\n${key},Pay by card,Look,It is there\n`)
    const button = (await screen.findByText('Nothing to import', undefined, soon)).closest('button')
    expect(button).to.have.property('disabled', true)
    expect(screen.getByText('1 case with 1 step').parentElement?.textContent).to.include('1 as they are here')
  })

  it('a case that is here is named as changed, not as new', async () => {
    const key = await makeCase(own.lead, 'Pay by card')
    const screen = await open()
    await choose(screen, `Key,Title,Action,Expected\n${key},Pay by any card,Tap the card,Paid\n`)
    fireEvent.click(await screen.findByText(/Import 0 new, change 1/, undefined, soon))
    await waitFor(async () => expect((await caseOf(own.lead, key)).title).to.equal('Pay by any card'), soon)
  })

  it('a problem is told with its place, and nothing can be stored before it is mended', async () => {
    const screen = await open()
    await choose(screen, 'Title,Minutes\nPay by card,Enormous\nGo,5\n')
    const alert = await screen.findByRole('alert', undefined, soon)
    expect(alert.textContent).to.match(/One problem; nothing is stored before it is mended/)
    expect(alert.textContent).to.match(/2.*Enormous/)
    expect(screen.getByText(/^Import|^Nothing/, { selector: 'button' })).to.have.property('disabled', true)
    expect(await titles()).to.deep.equal([])
  })

  it('a file that cannot be read is answered by a sentence, and another can be chosen', async () => {
    const screen = await open()
    await choose(screen, 'no workbook at all', 'broken.xlsx')
    const said = (await screen.findByRole('alert', undefined, soon)).textContent
    expect(said).to.match(/the file.*(workbook|zip|read)/i)
    await choose(screen, csv)
    await screen.findByText('Import 2 cases', undefined, soon)
    expect(screen.queryByRole('alert')).to.equal(null)
  })

  it('says when the server is not reached, and stores nothing twice', async () => {
    const screen = await open()
    screen.line.between = lineDown
    await choose(screen, csv)
    expect((await screen.findByRole('alert', undefined, soon)).textContent).to.match(/\w+/)
    screen.line.between = (_, answer) => answer()
    await choose(screen, csv)
    fireEvent.click(await screen.findByText('Import 2 cases', undefined, soon))
    await waitFor(async () => expect(await titles()).to.have.lengthOf(2), soon)
  })

  it('a word that is none of ours is mapped one by one, and read so at once', async () => {
    const screen = await open()
    await choose(screen, 'Title,Importance\nPay by card,Enormous\n')
    await screen.findByText(/“Enormous” \(1 row\) is read as Medium until/, undefined, soon)
    const select = screen.getByLabelText('What “Enormous” stands for', { selector: 'select' })
    fireEvent.change(select, { target: { value: 'Critical' } })
    await waitFor(() => expect(screen.queryByText(/is read as Medium until/)).to.equal(null), soon)
    expect(screen.getByLabelText('What “Enormous” stands for', { selector: 'select' })).to.have.property(
      'value',
      'Critical',
    )
    fireEvent.click(screen.getByText('Import 1 case'))
    await waitFor(async () => expect((await caseOf(own.lead, 'TC-1')).importance).to.equal('Critical'), soon)
  })

  it('a column that is not read is named with its first values', async () => {
    const screen = await open()
    await choose(screen, 'Title,Action,Colour\nPay,Tap,red\nGo,Walk,green\n')
    const section = await screen.findByLabelText('Columns that are not read', undefined, soon)
    expect(section.textContent).to.include('C “Colour”: “red”, “green”')
  })

  it('a mended file is read as the one before was mapped', async () => {
    const screen = await open()
    await choose(screen, 'Title,What,Minutes\nPay,Tap,soon\nGo,Walk,5\n')
    const field = await screen.findByLabelText('Column B is read as', { selector: 'select' }, soon)
    fireEvent.change(field, { target: { value: 'action' } })
    await screen.findByText('2 cases with 2 steps', undefined, soon)
    await choose(screen, 'Title,What,Minutes\nPay,Tap,5\nGo,Walk,5\n')
    await screen.findByText('2 cases with 2 steps', undefined, soon)
    fireEvent.click(await screen.findByText('Import 2 cases', undefined, soon))
    await waitFor(async () => expect((await caseOf(own.lead, 'TC-1')).content.steps[0]?.action).to.equal('Tap'), soon)
  })

  it('a kept mapping that was made for such a file is proposed', async () => {
    const file = 'Title,What\nPay,Tap\n'
    const told = await own.lead.ask(importFile, { query: { what: 'cases' }, file })
    const mapping = { ...told.mapping, columns: { A: 'title', B: 'action' } } as Mapping
    await own.lead.ask(keepMapping, { body: { name: 'The office', mapping } })
    const screen = await open()
    await choose(screen, file)
    fireEvent.click(await screen.findByText('Read it by that', undefined, soon))
    await screen.findByText('1 case with 1 step', undefined, soon)
  })

  it('a mapping is kept under a name for everybody', async () => {
    const screen = await open()
    await choose(screen, csv)
    const name = await screen.findByLabelText('Name for this mapping', undefined, soon)
    expect(screen.getByText('Keep')).to.have.property('disabled', true)
    fireEvent.change(name, { target: { value: 'The old sheet' } })
    fireEvent.click(screen.getByText('Keep'))
    await waitFor(
      async () =>
        expect((await own.tester.ask(listMappings)).rows.map((each) => each.name)).to.deep.equal(['The old sheet']),
      soon,
    )
    await screen.findByText('read by', { exact: false }, soon)
  })
})
