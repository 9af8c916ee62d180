import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { readCase } from '#core/cases/contract.ts'
import { listAttempts } from '#core/runs/attempts-contract.ts'
import { updateRun } from '#core/runs/contract.ts'
import { shop, type Shop } from '#test/app.ts'
import { execute, makeCase, makeDealtRun, whole } from '#test/make.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen, lineDown, type Shown, tickRows } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('a run taken out as a file', () => {
  let own: Shop
  let ids: number[]
  let given: { readonly name: string; readonly blob: Blob }[]
  const before = { make: URL.createObjectURL, end: URL.revokeObjectURL, click: HTMLAnchorElement.prototype.click }
  beforeEach(async () => {
    own = shop()
    for (const title of ['Pay by card', 'Hold a place', 'Board'])
      await makeCase(own.lead, title, { steps: ['Look => It is there'] })
    ids = (await makeDealtRun(own, ['TC-1', 'TC-2', 'TC-3'])).items.map(({ id }) => id)
    given = []
    // What the page hands to the browser stays here.
    const blobs: Blob[] = []
    URL.createObjectURL = (blob: Blob) => `blob:${blobs.push(blob)}`
    URL.revokeObjectURL = () => undefined
    HTMLAnchorElement.prototype.click = function () {
      const blob = blobs[Number(this.href.slice('blob:'.length)) - 1]
      if (blob) given.push({ name: this.download, blob })
    }
  })
  afterEach(() => {
    URL.createObjectURL = before.make
    URL.revokeObjectURL = before.end
    HTMLAnchorElement.prototype.click = before.click
    closeScreen()
  })
  const page = (who = 'lead') => pageOf(own, who, 'RN-1?full=yes')
  const pop = async (screen: Shown, words: string) =>
    fireEvent.click(await screen.findByText(words, { selector: 'button' }, soon))
  const table = async () => (await given[0]?.blob.text())?.split(/\r?\n/).filter((line) => line !== '') ?? []

  it('holds what is ticked, with its results, for everybody who may read', async () => {
    const { id } = await execute(own, ids[0] ?? 0, 'Failed')
    await whole(own, id, 'Failed')
    const screen = await page('viewer')
    await pop(screen, 'as a file')
    fireEvent.click(await screen.findByLabelText('steps', { selector: 'input' }, soon))
    fireEvent.click(screen.getByText('CSV', { selector: 'button' }))
    await screen.findByText('SHOP-RN-1.csv is written.', undefined, soon)
    expect(given.map(({ name }) => name)).to.deep.equal(['SHOP-RN-1.csv'])
    const lines = await table()
    expect(lines).to.have.length(7)
    expect(lines[1]).to.match(/TC-1.*Failed/)
    expect(screen.queryByText('send out')).to.equal(null)
  })
  it('goes out with what is still to be executed, in a version that can be named', async () => {
    const { id } = await execute(own, ids[0] ?? 0, 'Failed')
    await whole(own, id, 'Failed')
    const screen = await page()
    await pop(screen, 'send out')
    fireEvent.click(await screen.findByText('CSV', { selector: 'button' }, soon))
    await screen.findByText(/SHOP-RN-1-to-fill-in.csv is written/, undefined, soon)
    const told = (await table()).join('\n')
    expect(told).to.include('TC-2').and.to.include('TC-3').and.not.to.include('TC-1')
    expect((await own.viewer.ask(readCase, { params: { ref: 'TC-2' } })).versions).to.have.length(1)
  })
  it('goes out with the ticked items alone', async () => {
    const screen = await page()
    await tickRows(screen, 'Board')
    const many = within(await screen.findByRole('toolbar', undefined, soon))
    fireEvent.click(many.getByText('send out', { selector: 'button' }))
    await screen.findByText(/^These, with steps/, undefined, soon)
    fireEvent.click(screen.getByText('CSV', { selector: 'button' }))
    await waitFor(() => expect(given).to.have.length(1), soon)
    const told = (await table()).join('\n')
    expect(told).to.include('TC-3').and.not.to.include('TC-1')
  })
  it('says why nothing is written, and hands nothing out', async () => {
    for (const item of ids) await whole(own, (await execute(own, item, 'Failed')).id, 'Failed')
    const screen = await page()
    await pop(screen, 'send out')
    fireEvent.click(await screen.findByText('CSV', { selector: 'button' }, soon))
    await screen.findByText(/Everything in RN-1 has its result/, undefined, soon)
    screen.line.between = lineDown
    fireEvent.click(screen.getByText('PDF', { selector: 'button' }))
    await screen.findByText(/cannot be reached/, undefined, soon)
    expect(given).to.deep.equal([])
  })
  it('names a file that cannot be read, and stores nothing of it', async () => {
    const screen = await page()
    await pop(screen, 'bring back')
    const pick = await screen.findByLabelText('The file that comes back', undefined, soon)
    const bring = (text: string, name: string) =>
      fireEvent.change(pick, { target: { files: [new File([text], name, { type: 'text/csv' })] } })
    bring('First,Second\n1,2', 'other.csv')
    await screen.findByText(/There is no table of items in this file/, undefined, soon)
    bring(`Item,Version,Verdict,What happened\nRN-2/1,v1.0,Passed,`, 'foreign.csv')
    await screen.findByText('0 new, 1 that cannot be stored.', undefined, soon)
    await screen.findByText(/RN-2/, { selector: 'td, td *' }, soon)
    expect(screen.getByText('Store', { selector: 'button' })).to.have.property('disabled', true)
    expect((await own.viewer.ask(listAttempts)).total).to.equal(0)
  })
  it('is not sent out of a run that is over', async () => {
    await own.lead.ask(updateRun, { params: { ref: 'RN-1' }, body: { state: 'Aborted', reason: 'Over' }, version: 1 })
    const screen = await page()
    await screen.findByText('as a file', undefined, soon)
    expect([screen.queryByText('send out'), screen.queryByText('bring back')]).to.deep.equal([null, null])
  })
})
