import { expect } from 'chai'
import { fireEvent, waitFor } from '@testing-library/react'
import { listPlans, readPlan } from '#core/plans/contract.ts'
import { createRelease } from '#core/projects/contract.ts'
import { execute, makeCase, makePlan, makeRequirements, makeRun } from '#test/make.ts'
import { shop, type Shop } from '#test/app.ts'
import { pageOf } from '#test/screen/pages.tsx'
import { closeScreen } from '#test/screen/screen.tsx'

const soon = { timeout: 20_000 }

describe('carrying a plan over on its page', () => {
  let own: Shop
  beforeEach(async () => {
    own = shop()
    const [fares = ''] = await makeRequirements(own.lead, 'Fares')
    const cases = [
      await makeCase(own.lead, 'Holds', { proves: fares }),
      await makeCase(own.lead, 'Fails', { proves: fares }),
      await makeCase(own.lead, 'Is new', { proves: fares }),
    ]
    await makePlan(own, cases, [own.environments[0] ?? 0])
    const run = await makeRun(own, cases)
    await execute(own, run.items[0]?.id ?? 0, 'Passed')
    await execute(own, run.items[1]?.id ?? 0, 'Failed')
    await own.lead.ask(createRelease, { body: { name: '3.0' } })
  })
  afterEach(() => closeScreen())
  const unfold = async (screen: Awaited<ReturnType<typeof pageOf>>) => {
    await screen.findByText('Failing at the end', undefined, soon)
    for (const summary of document.querySelectorAll('article summary')) fireEvent.click(summary)
    await screen.findByLabelText('Take TC-2 over', undefined, soon)
  }
  const plans = async () => (await own.lead.ask(listPlans)).rows

  it('is an address of its own, where one decides group by group and row by row', async () => {
    const screen = await pageOf(own, 'lead', 'PL-1')
    fireEvent.click(await screen.findByText('carry over', undefined, soon))
    await screen.findByText('Failing at the end', undefined, soon)
    expect(location.search).to.equal('?carry=yes')
    const groups = screen.getAllByText(/^leave all/)
    expect(groups).to.have.length(3)
    for (const group of groups) fireEvent.click(group)
    await screen.findByText('Make the plan')
    expect(screen.getByText('Make the plan')).to.have.property('disabled', true)
    await unfold(screen)
    fireEvent.click(screen.getByLabelText('Take TC-2 over'))
    expect(screen.getByText('Make the plan')).to.have.property('disabled', false)
    fireEvent.click(screen.getByText('Who and when?'))
    expect(location.search).to.equal('?part=when')
  })
  it('offers nothing to a viewer but to read', async () => {
    const screen = await pageOf(own, 'viewer', 'PL-1?carry=yes')
    await unfold(screen)
    expect(screen.queryByText('Make the plan')).to.equal(null)
    expect(screen.getByLabelText('Take TC-2 over')).to.have.property('disabled', true)
  })
  it('makes a plan of what is taken', async () => {
    const screen = await pageOf(own, 'lead', 'PL-1?carry=yes')
    await unfold(screen)
    fireEvent.click(screen.getByLabelText('Take TC-3 over'))
    await screen.findByText(/1 case, .*: left behind/, undefined, soon)
    fireEvent.submit(screen.getByText('Make the plan').closest('form')!)
    await waitFor(async () => expect(await plans()).to.have.length(2), soon)
    const made = await own.lead.ask(readPlan, { params: { ref: 'PL-2' } })
    expect([made.title, made.release, made.cases]).to.deep.equal(['The plan, 3.0', '3.0', 2])
    fireEvent.click(await screen.findByText('Undo', undefined, soon))
    await waitFor(async () => expect(await plans()).to.have.length(1), soon)
  })
})
