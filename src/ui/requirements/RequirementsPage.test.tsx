import { expect } from 'chai'
import { fireEvent, waitFor } from '@testing-library/react'
import { listRequirements, updateRequirement } from '#core/requirements/contract.ts'
import { makeCase, makeRequirements, requirement } from '#test/make.ts'
import { shop, type Shop } from '#test/app.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('requirements', () => {
  let own: Shop
  beforeEach(async () => {
    own = shop()
    await makeRequirements(own.lead, 'Booking\n\tA place is held\n\tA hold ends')
    await makeCase(own.lead, 'Hold a place', { proves: 'RQ-2' })
  })
  afterEach(() => closeScreen())
  const press = (key: string, of: object = {}) => fireEvent.keyDown(document.body, { key, ...of })
  const titles = async () => (await own.lead.ask(listRequirements)).rows.map(({ title }) => title)

  it('are written as lines, indented ones below the others', async () => {
    const screen = await pageOf(own, 'lead', 'requirements')
    press('n')
    await screen.findByText(/^Write requirements/, { selector: 'h2' })
    const box = document.querySelector('dialog textarea')!
    fireEvent.change(box, { target: { value: 'Fares\n\tChildren pay half' } })
    fireEvent.keyDown(box, { key: 'Enter', ctrlKey: true })
    await waitFor(async () => expect(await titles()).to.include.members(['Fares', 'Children pay half']), soon)
  })

  it('are proved by cases that are linked by key, by words, or written below', async () => {
    await makeCase(own.lead, 'Pay by card')
    const screen = await pageOf(own, 'lead', 'RQ-3')
    const linked = async () => (await requirement(own.lead, 'RQ-3')).linked.map(({ key }) => key)
    fireEvent.click(await screen.findByText('link a case'))
    const box = await screen.findByLabelText(/^Keys to link/)
    fireEvent.change(box, { target: { value: 'tc-1' } })
    fireEvent.submit(box.closest('form')!)
    await waitFor(async () => expect(await linked()).to.deep.equal(['TC-1']), soon)
    fireEvent.click(await screen.findByText('link a case'))
    const again = await screen.findByLabelText(/^Keys to link/)
    fireEvent.change(again, { target: { value: 'Pay by' } })
    fireEvent.click(await screen.findByText(/Pay by card/, { selector: 'li button' }, soon))
    await waitFor(async () => expect(await linked()).to.have.members(['TC-1', 'TC-2']), soon)
  })

  it('make their links suspect when they change, with what changed, and a key that confirms', async () => {
    const { version } = await requirement(own.lead, 'RQ-2')
    const body = { text: '<p>A place is held for <b>twenty</b> minutes.</p>' }
    await own.lead.ask(updateRequirement, { params: { ref: 'RQ-2' }, body, version })
    const screen = await pageOf(own, 'lead', 'RQ-2')
    await screen.findByText('One link is suspect')
    await waitFor(() => expect(screen.getByLabelText('Suspect links').textContent).to.include('twenty'), soon)
    press('k')
    await waitFor(async () => expect((await requirement(own.lead, 'RQ-2')).suspect).to.equal(0), soon)
    await waitFor(() => expect(screen.queryByText('One link is suspect')).to.equal(null), soon)
  })

  it('are split by their sentences', async () => {
    const { version } = await requirement(own.lead, 'RQ-3')
    const body = { text: '<p>A hold ends after twenty minutes. Its place is free again.</p>' }
    await own.lead.ask(updateRequirement, { params: { ref: 'RQ-3' }, body, version })
    const screen = await pageOf(own, 'lead', 'RQ-3')
    fireEvent.click(await screen.findByText('split'))
    fireEvent.change(await screen.findByLabelText('Title of the new requirement'), { target: { value: 'Free again' } })
    fireEvent.click(screen.getByText('Its place is free again.'))
    fireEvent.click(screen.getByText('Split', { selector: 'button' }))
    await screen.findByText(/RQ-4 stands beside RQ-3/, undefined, soon)
    expect((await requirement(own.lead, 'RQ-4')).text).to.include('free again')
    expect((await requirement(own.lead, 'RQ-3')).text).to.not.include('free again')
  })

  it('take others in, whose keys lead here from then on', async () => {
    const screen = await pageOf(own, 'lead', 'RQ-3')
    fireEvent.click(await screen.findByText('merge others into it'))
    fireEvent.change(await screen.findByLabelText('Keys of the requirements to take in'), { target: { value: 'rq-2' } })
    fireEvent.click(screen.getByText('Merge', { selector: 'button' }))
    await screen.findByText(/RQ-2 is part of RQ-3 now, with 1 case/, undefined, soon)
  })

  it('have their risk given on a grid', async () => {
    const screen = await pageOf(own, 'lead', 'RQ-2')
    fireEvent.click(await screen.findByText('not given', { selector: 'button' }))
    fireEvent.click(await screen.findByLabelText('likelihood 4, impact 5', undefined, soon))
    await waitFor(async () => expect((await requirement(own.lead, 'RQ-2')).risk).to.equal(20), soon)
  })
})
