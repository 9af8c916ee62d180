import { expect } from 'chai'
import { fireEvent, waitFor } from '@testing-library/react'
import { changeCases, listCases } from '#core/cases/contract.ts'
import { createSuite, listSuites, readSuite } from '#core/plans/suite-contract.ts'
import { readPlan } from '#core/plans/contract.ts'
import { noticeMembers } from '#server/plans/keep-members.ts'
import { idsOf, makeCase, makePlan, makeRequirements, makeSuite } from '#test/make.ts'
import { shop, type Shop } from '#test/app.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }
const press = (key: string) => fireEvent.keyDown(document.body, { key })

describe('suites', () => {
  let own: Shop
  beforeEach(async () => {
    own = shop()
    const [fares = ''] = await makeRequirements(own.lead, 'Fares')
    await makeCase(own.lead, 'Adult pays', { proves: fares })
    await makeCase(own.lead, 'Child pays half')
    await makeCase(own.lead, 'Ticket is printed')
  })
  afterEach(() => closeScreen())
  const suite = (ref = 'TS-1') => own.lead.ask(readSuite, { params: { ref } })
  const keys = async (ref = 'TS-1') => (await suite(ref)).members.map(({ key }) => key)

  it('get a rule, with what it brings beside it while it is typed', async () => {
    await makeSuite(own.lead, 'Fares', [])
    const screen = await pageOf(own, 'tester', 'TS-1')
    await screen.findByText('Nothing yet: pin cases, or say what brings them.')
    press('r')
    const words = await screen.findByLabelText('Words in title or steps', undefined, soon)
    fireEvent.change(words, { target: { value: 'pays' } })
    await screen.findByText('2 cases', { selector: '[role=status] b' }, soon)
    fireEvent.click(screen.getByText('Add the rule'))
    await waitFor(async () => expect(await keys()).to.deep.equal(['TC-1', 'TC-2']), soon)
    await screen.findByText('“pays”', undefined, soon)
    fireEvent.click(screen.getByLabelText('Take away: “pays”'))
    await waitFor(async () => expect(await keys()).to.deep.equal([]), soon)
    fireEvent.click(await screen.findByText('Undo', undefined, soon))
    await waitFor(async () => expect(await keys()).to.deep.equal(['TC-1', 'TC-2']), soon)
  })

  it('leave a case out with a reason, and let it in again', async () => {
    await own.tester.ask(createSuite, {
      body: { title: 'All', sources: [{ kind: 'rule', words: 'pays', filter: null }] },
    })
    const screen = await pageOf(own, 'tester', 'TS-1')
    fireEvent.click(await screen.findByLabelText('Take TC-2 out', undefined, soon))
    fireEvent.change(await screen.findByLabelText('Why'), { target: { value: 'Half fares come later' } })
    fireEvent.click(screen.getByText('Leave it out'))
    await screen.findByText(/Half fares come later; Tester Person/, undefined, soon)
    expect(await keys()).to.deep.equal(['TC-1'])
    fireEvent.click(screen.getByText('let in'))
    await waitFor(async () => expect(await keys()).to.deep.equal(['TC-1', 'TC-2']), soon)
  })

  it('are closed with a reason, locked, and say so', async () => {
    await makeSuite(own.lead, 'Fares', ['TC-1'])
    const screen = await pageOf(own, 'tester', 'TS-1')
    fireEvent.change(await screen.findByLabelText('State', { selector: 'article select' }), {
      target: { value: 'Closed' },
    })
    fireEvent.change(await screen.findByLabelText('Why'), { target: { value: 'The fares are done' } })
    fireEvent.click(screen.getByText('Close it'))
    await screen.findByText('Closed: The fares are done.', undefined, soon)
    expect(screen.queryByLabelText('Take TC-1 out')).to.equal(null)
    expect((await suite()).state).to.equal('Closed')
  })

  it('say what cannot be followed any more, and keep what it held apart', async () => {
    await makeSuite(own.lead, 'Inner', ['TC-1', 'TC-3'])
    await own.tester.ask(createSuite, { body: { title: 'Outer', sources: [{ kind: 'suite', suite: 1 }] } })
    await noticeMembers(own.services, own.project().id, 0)
    await own.lead.send('POST', '/projects/SHOP/suites/delete', { ids: [1] })
    await noticeMembers(own.services, own.project().id, 0)
    const screen = await pageOf(own, 'viewer', 'TS-2')
    await screen.findByText('The suite was deleted. Change it or take it away.', undefined, soon)
    fireEvent.click(screen.getByText('The 2 cases it held last, kept apart: they count no more'))
    await screen.findByText('Ticket is printed', undefined, soon)
  })

  it('are made of ticked cases, of what a list shows, and of a requirement, by a key and Enter', async () => {
    const cases = await pageOf(own, 'tester', 'cases')
    fireEvent.click(await cases.findByLabelText('Tick row 1', undefined, soon))
    fireEvent.click(cases.getByLabelText('Tick row 3'))
    await cases.findByText('2 ticked', undefined, soon)
    press('s')
    fireEvent.submit((await cases.findByDisplayValue('2 chosen cases', undefined, soon)).closest('form')!)
    await waitFor(async () => expect(await keys()).to.deep.equal(['TC-1', 'TC-3']), soon)
    closeScreen()
    const filtered = await pageOf(own, 'tester', 'cases?text=pays')
    await filtered.findAllByText(/2 of 3/, undefined, soon)
    press('s')
    fireEvent.submit((await filtered.findByDisplayValue('Cases: “pays”', undefined, soon)).closest('form')!)
    await waitFor(async () => expect(await keys('TS-2')).to.deep.equal(['TC-1', 'TC-2']), soon)
    closeScreen()
    const outline = await pageOf(own, 'tester', 'RQ-1')
    await outline.findByText('Fares', { selector: 'article *' }, soon)
    press('s')
    const title = await waitFor(() => {
      const input = document.querySelector<HTMLInputElement>('dialog input')
      expect(input?.value).to.equal('Fares')
      return input
    }, soon)
    fireEvent.submit(title!.closest('form')!)
    await waitFor(async () => expect(await keys('TS-3')).to.deep.equal(['TC-1']), soon)
  })

  it('take the cases that are dropped on them, and plans the suites', async () => {
    await makePlan(own, [])
    const { rows } = await own.lead.ask(listCases, {})
    const carried = { 'application/x-rovant-ids': rows.map(({ id }) => id).join(',') }
    const drop = (over: HTMLElement, data: Record<string, string>) => {
      const dataTransfer = { types: Object.keys(data), getData: (type: string) => data[type] ?? '' }
      fireEvent.dragOver(over, { dataTransfer })
      fireEvent.drop(over, { dataTransfer })
    }
    const cases = await pageOf(own, 'tester', 'cases?tree=suites')
    drop((await cases.findByText('What is asked for', undefined, soon)).closest('li')!, carried)
    await waitFor(async () => expect(await keys()).to.have.length(3), soon)
    await cases.findByText('3 cases pinned to What is asked for, which has 3 pinned now.', undefined, soon)
    closeScreen()
    const more = await makeSuite(own.lead, 'More', [])
    const suites = await pageOf(own, 'lead', 'suites?tray=plans')
    drop((await suites.findByText('The plan', undefined, soon)).closest('li')!, {
      'application/x-rovant-suites': String(more.id),
    })
    const asked = async () =>
      (await own.lead.ask(readPlan, { params: { ref: 'PL-1' } })).suiteList.map(({ key }) => key)
    await waitFor(async () => expect(await asked()).to.deep.equal(['TS-1', 'TS-2']), soon)
  })

  it('are listed with what they are made of, what is new and what is broken', async () => {
    await own.tester.ask(createSuite, {
      body: {
        title: 'Important',
        sources: [{ kind: 'rule', words: '', filter: { field: 'importance', op: 'is', values: ['Critical'] } }],
      },
    })
    const [id = 0] = await idsOf(own.lead, ['TC-1'])
    await own.lead.ask(changeCases, { body: { ids: [id], set: { importance: 'Critical' } } })
    await noticeMembers(own.services, own.project().id, 0)
    const screen = await pageOf(own, 'viewer', 'suites')
    await screen.findByText('1 rule', undefined, soon)
    expect((await own.viewer.ask(listSuites, {})).rows[0]).to.include({ cases: 1, broken: 0 })
  })

  it('take the best within some minutes, frozen and living again, and stand in an order', async () => {
    await makeSuite(own.lead, 'Smoke', [])
    const screen = await pageOf(own, 'tester', 'TS-1')
    fireEvent.click(await screen.findByText('the best in some minutes', undefined, soon))
    const minutes = await screen.findByLabelText('Minutes, or hours such as 1 h 30', undefined, soon)
    fireEvent.change(minutes, { target: { value: 'soon' } })
    expect((screen.getByText('Add it') as HTMLButtonElement).disabled).to.equal(true)
    fireEvent.change(minutes, { target: { value: '1 h' } })
    await screen.findByText('adds RQ-1: 9 of risk in 4 min', undefined, soon)
    fireEvent.click(screen.getByText('Add it'))
    await screen.findByText('the best within 1 h', undefined, soon)
    fireEvent.click(screen.getByText('freeze'))
    await screen.findByText('let it live', undefined, soon)
    expect((await suite()).sources[0]).to.include({ frozen: true, cases: 1 })
    fireEvent.click(screen.getByText('let it live'))
    await screen.findByText('freeze', undefined, soon)
    fireEvent.change(screen.getByLabelText('Order'), { target: { value: 'risk' } })
    await waitFor(async () => expect((await suite()).orderedBy).to.equal('risk'), soon)
  })

  it('say what came in since a day, and which requirements they prove', async () => {
    await makeSuite(own.lead, 'Fares', ['TC-1'])
    const screen = await pageOf(own, 'viewer', 'TS-1')
    fireEvent.click(await screen.findByText('1 case came in', undefined, soon))
    fireEvent.click(await screen.findByText('1 requirement proved by it', undefined, soon))
    await screen.findByText('RQ-1', { selector: 'li .key' }, soon)
    fireEvent.change(screen.getByLabelText('Since'), { target: { value: String(Date.now()) } })
    expect(screen.getAllByText(/Lead Person/).length).to.be.greaterThan(0)
  })

  it('leave out what cannot be tested yet in what one looks at, and list it apart', async () => {
    await makeSuite(own.lead, 'Fares', ['TC-1', 'TC-2'])
    const body = { ids: await idsOf(own.lead, ['TC-2']), set: { fromReleaseId: own.nextRelease } }
    await own.lead.ask(changeCases, { body })
    const screen = await pageOf(own, 'viewer', 'TS-1?release=1.0')
    const apart = await screen.findByText('1 case cannot be tested yet in what you look at', undefined, soon)
    expect(screen.queryByText('Child pays half')).to.equal(null)
    fireEvent.click(apart)
    await screen.findByText('Child pays half', undefined, soon)
    expect(screen.getByText('2.0', { selector: 'span' })).to.not.equal(null)
    closeScreen()
    const later = await pageOf(own, 'viewer', 'TS-1?release=2.0')
    await later.findByText('Child pays half', undefined, soon)
    expect(later.queryByText(/cannot be tested yet/)).to.equal(null)
  })
})
