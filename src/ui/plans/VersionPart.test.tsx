import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { readPlan, updatePlan } from '#core/plans/contract.ts'
import { answerPlanReview, askPlanReview, listPlanVersions } from '#core/plans/versions-contract.ts'
import { listComments } from '#core/talk/contract.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { makeCase, makePlan, makeRequirements } from '#test/make.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }
const params = { ref: 'PL-1' }

describe('versions of a plan on its page', () => {
  let own: Shop
  beforeEach(async () => {
    own = shop()
    const [fares = ''] = await makeRequirements(own.lead, 'Fares')
    await makePlan(own, [await makeCase(own.lead, 'Adult pays', { proves: fares })])
  })
  afterEach(() => closeScreen())
  const press = (key: string) => fireEvent.keyDown(document.body, { key })
  const putUp = (people = ['tester', 'second']) => own.lead.ask(askPlanReview, { params, body: { people } })
  const edit = async (body: object) =>
    own.lead.ask(updatePlan, { params, body, version: (await own.lead.ask(readPlan, { params })).version })
  const state = async () => (await own.lead.ask(listPlanVersions, { params })).rows[0]
  const sign = (by: 'tester' | 'second', version = 1) =>
    own.as(by).ask(answerPlanReview, { params: { ...params, version }, body: { answer: 'approved' } })

  it('begin with one key: people are named, and asked', async () => {
    const screen = await pageOf(own, 'lead', 'PL-1')
    await screen.findByText('Why?', { selector: 'h2' }, soon)
    press('v')
    const dialog = await screen.findByRole('dialog', { name: 'Ask for review of PL-1' })
    expect(within(dialog).queryByText('Lead Person')).to.equal(null)
    expect(within(dialog).queryByText('Viewer Person')).to.equal(null)
    expect(within(dialog).getByText('Ask')).to.have.property('disabled', true)
    fireEvent.click(within(dialog).getByText('Tester Person'))
    fireEvent.click(within(dialog).getByText('Ask Tester Person'))
    await screen.findByText(/Version 1 is put up; one is asked/, undefined, soon)
    await screen.findByText('Version 1 is in review', undefined, soon)
    expect((await state())?.signatures.map(({ id }) => id)).to.deep.equal(['tester'])
  })
  it('are read as a whole by whoever is asked first, commented on part by part, and signed by a key', async () => {
    await putUp(['tester'])
    const screen = await pageOf(own, 'tester', 'PL-1')
    fireEvent.click(await screen.findByText('You are asked to sign version 1', undefined, soon))
    expect(location.search).to.equal('?version=1')
    await screen.findByText('TS-1 What is asked for', undefined, soon)
    expect(screen.getByText('pinned TC-1')).to.not.equal(null)
    const what = screen.getAllByLabelText('Comment on this part')[1]
    if (!(what instanceof HTMLTextAreaElement)) throw new Error('no room for a comment')
    fireEvent.change(what, { target: { value: 'And refunds?' } })
    fireEvent.click(screen.getByText('Comment'))
    await waitFor(async () => {
      const { rows } = await own.lead.ask(listComments, { query: { ref: 'PL-1' } })
      expect(rows.map(({ part, text }) => [part, text])).to.deep.equal([['what', '<p>And refunds?</p>']])
    }, soon)
    press('s')
    await screen.findByText(/PL-1 is signed off\./, undefined, soon)
    expect((await state())?.state).to.equal('Signed off')
    await screen.findByText(/It says the same still/, undefined, soon)
  })
  it('are sent back with words, which stay where they were refused', async () => {
    await putUp()
    const screen = await pageOf(own, 'tester', 'PL-1?version=1')
    const words = await screen.findByLabelText(/^Words with your answer/, undefined, soon)
    fireEvent.click(screen.getByText('Send it back'))
    await screen.findByText('Say what is missing; nothing was stored.', undefined, soon)
    fireEvent.change(words, { target: { value: 'No risk is named' } })
    await edit({ title: 'Another title' })
    fireEvent.click(screen.getByText('Sign version 1'))
    await screen.findByText(/changed after version 1 was put up \(title\)/, undefined, soon)
    await screen.findByText(/The plan changed after it was put up \(title\)/, undefined, soon)
    expect(screen.getByLabelText(/^Words with your answer/)).to.have.property('value', 'No risk is named')
    fireEvent.click(screen.getByText('Send it back'))
    await screen.findByText('Version 1 is sent back.', undefined, soon)
    expect((await state())?.signatures.find(({ id }) => id === 'tester')?.words).to.equal('No risk is named')
  })
  it('show what changed since, word by word, and lead from one to the other', async () => {
    await putUp()
    await sign('tester')
    await sign('second')
    own.pass(minute)
    await edit({ people: [{ id: 'tester', part: 'fares' }] })
    const screen = await pageOf(own, 'viewer', 'PL-1')
    await screen.findByText(/It is stale: person changed since/, undefined, soon)
    fireEvent.click(screen.getByText('Version 1'))
    await screen.findByText('Tester Person', { selector: 'ins' }, soon)
    expect(screen.queryByText('Sign version 1')).to.equal(null)
    fireEvent.click(screen.getByText('Who and when?', { selector: 'b' }))
    expect(location.search).to.equal('?part=when')
    closeScreen()
    await putUp()
    const newer = await pageOf(own, 'second', 'PL-1?version=2')
    await newer.findByText('to this one', undefined, soon)
    expect(newer.getByLabelText('Compared with')).to.have.property('value', '1')
    fireEvent.change(newer.getByLabelText('Compared with'), { target: { value: 'now' } })
    await waitFor(() => expect(location.search).to.equal('?version=2&with=now'), soon)
    await newer.findByText('From this version to', undefined, soon)
  })
  it('are listed with who signed; a closed plan is told by one of them and can only be opened again', async () => {
    await putUp()
    await sign('tester')
    await sign('second')
    await edit({ state: 'Closed' })
    const screen = await pageOf(own, 'lead', 'PL-1?part=enough')
    await screen.findByText('signed by Second Person and Tester Person', undefined, soon)
    await screen.findByText(/Figures are told by/, undefined, soon)
    expect(screen.queryByText('Ask for a review')).to.equal(null)
    expect(screen.queryByText('Add a criterion')).to.equal(null)
  })
})
