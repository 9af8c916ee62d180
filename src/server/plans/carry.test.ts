import { expect } from 'chai'
import { changeCases, deleteCases } from '#core/cases/contract.ts'
import { carryPlan, readCarry, takeCarryBack } from '#core/plans/carry-contract.ts'
import { addCriterion, readCriteria } from '#core/plans/criteria-contract.ts'
import { listPlans, readPlan, updatePlan } from '#core/plans/contract.ts'
import { readSuite } from '#core/plans/suite-contract.ts'
import { createRelease } from '#core/projects/contract.ts'
import { updateRequirement } from '#core/requirements/contract.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { execute, idsOf, makeCase, makePlan, makeRequirements, makeRun, requirement } from '#test/make.ts'

const params = { ref: 'PL-1' }

describe('a plan carried over', () => {
  let of: Shop
  let keys: string[]
  let next: number
  beforeEach(async () => {
    of = shop()
    const [fares = '', deck = '', quay = ''] = await makeRequirements(of.lead, 'Fares', 'Deck', 'Quay')
    keys = [
      await makeCase(of.lead, 'Holds', { proves: fares }),
      await makeCase(of.lead, 'Fails', { proves: fares }),
      await makeCase(of.lead, 'Is new', { proves: fares }),
      await makeCase(of.lead, 'Rests on other words', { proves: deck }),
      await makeCase(of.lead, 'Rests on nothing', { proves: quay }),
      await makeCase(of.lead, 'Is retired', { proves: fares }),
    ]
    await makePlan(of, keys, [of.environments[0] ?? 0])
    const run = await makeRun(of, keys)
    const verdicts = ['Passed', 'Failed', null, 'Passed', 'Passed', 'Passed'] as const
    for (const [at, verdict] of verdicts.entries()) if (verdict) await execute(of, run.items[at]?.id ?? 0, verdict)
    of.pass(minute)
    const edit = async (ref: string, body: object) =>
      of.lead.ask(updateRequirement, { params: { ref }, body, version: (await requirement(of.lead, ref)).version })
    await edit(deck, { text: '<p>In other words</p>' })
    await edit(quay, { state: 'Dropped' })
    const [, , , , , retired = 0] = await idsOf(of.lead, keys)
    await of.lead.ask(changeCases, { body: { ids: [retired], set: { retired: true } } })
    next = (await of.lead.ask(createRelease, { body: { name: '3.0' } })).id
  })
  const groups = async () =>
    Object.fromEntries(
      (await of.viewer.ask(readCarry, { params })).groups.map(({ group, rows }) => [group, rows.map(({ key }) => key)]),
    )

  it('has every case in the first group that holds, on the last build that was offered', async () => {
    expect(await groups()).to.deep.equal({
      retired: ['TC-6'],
      'basis gone': ['TC-5'],
      failing: ['TC-2'],
      'not executed': ['TC-3'],
      'basis changed': ['TC-4'],
      'still holds': ['TC-1'],
    })
    expect((await of.viewer.ask(readCarry, { params })).build).to.equal('1.0.1')
  })
  it('lists requirements that came since and that nothing proves', async () => {
    of.pass(minute)
    const [fresh = ''] = await makeRequirements(of.lead, 'Battery cars can be reached')
    expect((await of.viewer.ask(readCarry, { params })).uncovered.map(({ key }) => key)).to.deep.equal([fresh])
  })
  it('becomes the plan of the next release in one act, which is taken back; the old plan stays as it is', async () => {
    await of.lead.ask(addCriterion, { params, body: { side: 'exit', rule: { kind: 'runs' } } })
    const before = await of.viewer.ask(readPlan, { params })
    const cases = await idsOf(of.lead, ['TC-2', 'TC-1'])
    const made = await of.lead.ask(carryPlan, { params, body: { title: 'Regression 3.0', release: next, cases } })
    const plan = await of.viewer.ask(readPlan, { params: { ref: made.key } })
    expect([plan.release, plan.suites, plan.cases, plan.environments]).to.deep.equal(['3.0', 1, 2, 1])
    const suite = await of.viewer.ask(readSuite, { params: { ref: plan.suiteList[0]?.key ?? '' } })
    expect(suite.members.map(({ key }) => key)).to.deep.equal(['TC-1', 'TC-2'])
    expect((await of.viewer.ask(readCriteria, { params: { ref: made.key } })).exit.of).to.equal(1)
    expect(await of.viewer.ask(readPlan, { params })).to.deep.equal(before)
    await of.lead.ask(takeCarryBack, { params: { ref: made.key } })
    expect((await of.viewer.refused(readPlan, { params: { ref: made.key } })).status).to.equal(410)
    expect((await of.viewer.ask(listPlans)).total).to.equal(1)
    await of.lead.ask(takeCarryBack, { params: { ref: made.key }, query: { undo: 'yes' } })
    expect((await of.viewer.ask(readPlan, { params: { ref: made.key } })).cases).to.equal(2)
  })
  it('is made of cases of that plan alone, for an iteration of that release', async () => {
    const [other = 0] = await idsOf(of.lead, [await makeCase(of.lead, 'Of no suite')])
    const refused = await of.lead.refused(carryPlan, { params, body: { title: 'x', release: next, cases: [other] } })
    expect(refused.detail).to.match(/None of these cases is in a suite of this plan/)
    const empty = await of.lead.refused(carryPlan, { params, body: { title: 'x', release: next, cases: [] } })
    expect([empty.status, empty.fields]).to.deep.equal([400, ['cases']])
    expect((await of.lead.refused(takeCarryBack, { params })).detail).to.match(/was not carried over in one act/)
    expect(
      (await of.tester.refused(carryPlan, { params, body: { title: 'x', release: next, cases: [1] } })).status,
    ).to.equal(403)
  })
  it('keeps a closed plan readable, and a deleted case among the retired', async () => {
    const { version } = await of.viewer.ask(readPlan, { params })
    await of.lead.ask(updatePlan, { params, body: { state: 'Closed' }, version })
    await of.lead.ask(deleteCases, { body: { ids: await idsOf(of.lead, ['TC-3']) } })
    expect((await groups())['retired']).to.have.members(['TC-3', 'TC-6'])
  })
})
