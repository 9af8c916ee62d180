import { expect } from 'chai'
import { fireEvent, waitFor, within } from '@testing-library/react'
import { readPlan } from '#core/plans/contract.ts'
import { addCriterion, readCriteria } from '#core/plans/criteria-contract.ts'
import { readSuite } from '#core/plans/suite-contract.ts'
import { makeCase, makePlan, makeRequirements, makeSuite } from '#test/make.ts'
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
    const screen = await pageOf(own, 'lead', `${plan}?part=where`)
    fireEvent.click(await screen.findByText('choose them'))
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
    await screen.findByText('4 slots', undefined, soon)
    fireEvent.keyDown(document.body, { key: '2' })
    await screen.findByText(/4 slots/, undefined, soon)
    expect(location.search).to.equal('?part=what')
  })

  it('a plan moves on by its state', async () => {
    const screen = await pageOf(own, 'lead', plan)
    const state = await screen.findByLabelText('State', { selector: 'article select' })
    expect([...state.querySelectorAll('option')].map(({ value }) => value)).to.deep.equal(['Drafting', 'Closed'])
    fireEvent.change(state, { target: { value: 'Closed' } })
    await waitFor(
      async () => expect((await own.lead.ask(readPlan, { params: { ref: plan } })).state).to.equal('Closed'),
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

  it('says why: risks with their weight and what answers them', async () => {
    await makeRequirements(own.lead, 'Fares')
    const screen = await pageOf(own, 'lead', plan)
    const line = await screen.findByLabelText(/^A risk, such as/)
    fireEvent.change(line, { target: { value: 'A wrong fare' } })
    fireEvent.submit(line)
    const likelihood = await screen.findByLabelText('Likelihood', undefined, soon)
    fireEvent.change(likelihood, { target: { value: '5' } })
    await screen.findByText('15', { selector: 'td b' }, soon)
    fireEvent.click(screen.getByText('add'))
    const keys = await screen.findByLabelText(/^Keys to add/)
    fireEvent.change(keys, { target: { value: 'RQ-1' } })
    fireEvent.submit(keys)
    await screen.findByText('RQ-1', { selector: 'td a' }, soon)
    const { risks } = await own.lead.ask(readPlan, { params: { ref: plan } })
    expect(risks[0]).to.deep.include({ title: 'A wrong fare', likelihood: 5, impact: 3 })
  })

  it('says when it is enough: a criterion is added, waived, and put in another place by key', async () => {
    await own.lead.ask(addCriterion, { params: { ref: plan }, body: { rule: { kind: 'runs' } } })
    const screen = await pageOf(own, 'lead', `${plan}?part=enough`)
    await screen.findByText('No run left open', undefined, soon)
    fireEvent.keyDown(document.body, { key: 'n' })
    fireEvent.change(await screen.findByLabelText('Kind'), { target: { value: 'items' } })
    fireEvent.click(screen.getByText('Add it'))
    const row = (await screen.findByText('Planned items executed', undefined, soon)).closest('li')!
    expect(row.dataset['outcome']).to.equal('not met')
    expect(row.textContent).to.include('0 %').and.to.include('2 items')
    row.focus()
    fireEvent.keyDown(row, { key: 'ArrowUp', altKey: true })
    const order = async () =>
      (await own.lead.ask(readCriteria, { params: { ref: plan } })).criteria.map(({ rule }) => rule.kind)
    await waitFor(async () => expect(await order()).to.deep.equal(['items', 'runs']), soon)
    fireEvent.click(within(row).getByText('waive'))
    fireEvent.change(await screen.findByLabelText('Why it need not hold'), { target: { value: 'The bench is away' } })
    fireEvent.change(screen.getByLabelText('Until the end of'), { target: { value: '2099-01-01' } })
    fireEvent.click(screen.getByText('Waive it'))
    await screen.findByText(/The bench is away/, undefined, soon)
    await waitFor(async () => {
      const { exit } = await own.lead.ask(readCriteria, { params: { ref: plan } })
      expect(exit).to.deep.equal({ met: 1, of: 2, waived: 1 })
    }, soon)
  })

  it('shows the shortest way to go, and opens it as a run', async () => {
    await own.lead.ask(addCriterion, { params: { ref: plan }, body: { rule: { kind: 'items', atLeast: 50 } } })
    const screen = await pageOf(own, 'lead', `${plan}?part=enough`)
    await screen.findByText(/meet 1 more criterion, if they pass/, undefined, soon)
    fireEvent.keyDown(document.body, { key: 'o' })
    expect(await screen.findByText('1 item, each in its own environment.', undefined, soon)).to.not.equal(null)
  })

  it('is read by a viewer, who is offered nothing to change', async () => {
    await own.lead.ask(addCriterion, { params: { ref: plan }, body: { rule: { kind: 'runs' } } })
    const screen = await pageOf(own, 'viewer', `${plan}?part=enough`)
    await screen.findByText('No run left open', undefined, soon)
    for (const words of ['Add a criterion', 'waive', 'Open a run']) expect(screen.queryByText(words)).to.equal(null)
  })

  it('says what: branches out of scope with a reason, which criteria then leave out', async () => {
    await makeRequirements(own.lead, 'Harbour dues')
    const screen = await pageOf(own, 'lead', `${plan}?part=what`)
    fireEvent.click(await screen.findByText('a branch out', undefined, soon))
    const keys = await screen.findByLabelText(/^Keys to leave out/)
    fireEvent.change(keys, { target: { value: 'RQ-1' } })
    fireEvent.submit(keys)
    const reason = await screen.findByLabelText('Why RQ-1 is out', undefined, soon)
    fireEvent.change(reason, { target: { value: 'The port reckons them' } })
    fireEvent.blur(reason)
    await waitFor(async () => {
      const { branches } = await own.lead.ask(readPlan, { params: { ref: plan } })
      expect(branches).to.deep.include.members([
        { ...branches[0]!, key: 'RQ-1', inside: false, reason: 'The port reckons them' },
      ])
    }, soon)
  })

  it('says who and when: people with their parts and hours, and milestones', async () => {
    const screen = await pageOf(own, 'lead', `${plan}?part=when`)
    fireEvent.change(await screen.findByLabelText('Somebody else', undefined, soon), { target: { value: 'tester' } })
    const part = await screen.findByLabelText('Part of Tester Person', undefined, soon)
    fireEvent.change(part, { target: { value: 'fares' } })
    fireEvent.blur(part)
    await waitFor(async () => {
      const { people } = await own.lead.ask(readPlan, { params: { ref: plan } })
      expect(people.map((each) => each.part)).to.deep.equal(['fares'])
    }, soon)
    fireEvent.change(screen.getByLabelText('Day of the milestone'), { target: { value: '2026-12-10' } })
    const title = screen.getByLabelText('Milestone')
    fireEvent.change(title, { target: { value: 'Go or no-go' } })
    fireEvent.submit(title)
    await screen.findByText('Go or no-go', undefined, soon)
    fireEvent.click(screen.getByLabelText('Take away Go or no-go'))
    await waitFor(async () => {
      expect((await own.lead.ask(readPlan, { params: { ref: plan } })).milestones).to.deep.equal([])
    }, soon)
  })
})
