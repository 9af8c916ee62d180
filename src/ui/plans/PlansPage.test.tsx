import { expect } from 'chai'
import { fireEvent, waitFor } from '@testing-library/react'
import { readPlan } from '#core/plans/contract.ts'
import { readSuite } from '#core/plans/suite-contract.ts'
import { makeCase, makePlan, makeSuite } from '#test/make.ts'
import { shop, type Shop } from '#test/app.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('plans and suites', () => {
  let own: Shop
  let plan: string
  beforeEach(async () => {
    own = shop()
    const cases = [await makeCase(own.lead, 'Pay by card'), await makeCase(own.lead, 'Hold a place')]
    plan = (await makePlan(own, cases)).key
  })
  afterEach(() => closeScreen())

  it('a plan takes suites and environments by ticking them, and counts its slots', async () => {
    await makeSuite(own.lead, 'Smoke', [])
    const screen = await pageOf(own, 'lead', plan)
    fireEvent.click(await screen.findByText('choose environments'))
    for (const name of ['Red', 'Blue']) {
      fireEvent.click(await screen.findByLabelText(name, { selector: 'input' }, soon))
      await waitFor(
        async () =>
          expect(
            (await own.lead.ask(readPlan, { params: { ref: plan } })).environmentList.map((each) => each.name),
          ).to.include(name),
        soon,
      )
    }
    await waitFor(() => expect(document.querySelector('article')?.textContent).to.match(/Slots asked for4/), soon)
  })

  it('a plan moves on by its state', async () => {
    const screen = await pageOf(own, 'lead', plan)
    const state = await screen.findByLabelText('State', { selector: 'article select' })
    fireEvent.change(state, { target: { value: 'In review' } })
    await waitFor(
      async () => expect((await own.lead.ask(readPlan, { params: { ref: plan } })).state).to.equal('In review'),
      soon,
    )
  })

  it('a run is offered with all that it most likely is', async () => {
    const screen = await pageOf(own, 'lead', plan)
    fireEvent.click(await screen.findByText('Open a run', { selector: 'article button' }))
    expect(await screen.findByDisplayValue('The plan, 1.0.1')).to.not.equal(null)
    const boxes = [...document.querySelectorAll<HTMLInputElement>('dialog fieldset input')]
    const named = boxes.filter(({ checked }) => checked).map((box) => box.parentElement?.textContent?.trim())
    expect(named).to.have.members(['Lead Person', 'Second Person', 'Tester Person'])
  })

  it('a suite pins cases in an order, and gives one back that was taken out', async () => {
    const screen = await pageOf(own, 'lead', 'TS-1')
    const order = async () => (await own.lead.ask(readSuite, { params: { ref: 'TS-1' } })).members.map(({ key }) => key)
    fireEvent.click(await screen.findByLabelText('TC-2 up'))
    await waitFor(async () => expect(await order()).to.deep.equal(['TC-2', 'TC-1']), soon)
    fireEvent.click(await screen.findByLabelText('Take TC-2 out'))
    await waitFor(async () => expect(await order()).to.deep.equal(['TC-1']), soon)
    fireEvent.click(await screen.findByText('Undo', undefined, soon))
    await waitFor(async () => expect(await order()).to.have.members(['TC-1', 'TC-2']), soon)
  })
})
