import { expect } from 'chai'
import { shop, type Shop } from '#test/app.ts'
import { idsOf, makeCase, makePlan, makeSuite } from '#test/make.ts'
import { hideRows } from '#db/finding/search.ts'
import { saveCase } from '#db/cases/cases.ts'
import {
  findPlan,
  planEnvironments,
  planMinutes,
  planRows,
  planSuites,
  setPlanEnvironments,
  setPlanSuites,
} from './plans.ts'
import { suitesNow } from './members.ts'
import { noticePins } from './stays.ts'
import { findSuite, memberRows, pinToSuite, placeCases, plansOfSuite, suiteRows, unpin } from './suites.ts'

describe('plans and suites as they are stored', () => {
  let own: Shop
  let ids: number[]
  let suite: number
  let project: number
  beforeEach(async () => {
    own = shop()
    project = own.project().id
    const keys = []
    for (const title of ['Pay by card', 'Hold a place', 'Give it back']) keys.push(await makeCase(own.lead, title))
    ids = await idsOf(own.lead, keys)
    await makeSuite(own.lead, 'Smoke', keys.slice(0, 2))
    suite = findSuite(own.db, project, 1)?.id ?? 0
  })
  const members = () => memberRows(own.db, suitesNow(own.db, project).ordered(suite)).map(({ key }) => key)
  const notice = () => noticePins(own.db, suite, { now: own.now(), personId: 'lead' })
  const row = () => suiteRows(own.db, project, [suite], own.now())[0]

  it('a case is pinned once, at the end', () => {
    expect(pinToSuite(own.db, suite, ids)).to.equal(1)
    expect(members()).to.deep.equal(['TC-1', 'TC-2', 'TC-3'])
    unpin(own.db, suite, [ids[0] ?? 0])
    expect(pinToSuite(own.db, suite, [ids[0] ?? 0])).to.equal(1)
    expect(members()).to.deep.equal(['TC-2', 'TC-3', 'TC-1'])
  })

  it('pins stand in the order given, and those not named keep theirs', () => {
    pinToSuite(own.db, suite, ids)
    placeCases(own.db, suite, [...ids].reverse())
    expect(members()).to.deep.equal(['TC-3', 'TC-2', 'TC-1'])
  })

  it('a deleted case is no pin, and counts neither as a case nor as minutes', () => {
    for (const id of ids) saveCase(own.db, id, { estimate: 10 })
    notice()
    expect([row()?.cases, row()?.minutes]).to.deep.equal([2, 20])
    hideRows(own.db, 'test_case', [ids[0] ?? 0], own.now())
    notice()
    expect([row()?.cases, row()?.minutes]).to.deep.equal([1, 10])
    expect(members()).to.deep.equal(['TC-2'])
  })

  it('a suite knows the plans it stands in, while they are there', async () => {
    const { key } = await makePlan(own, ['TC-1'])
    const plan = findPlan(own.db, project, 1)?.id ?? 0
    setPlanSuites(own.db, plan, [suite])
    expect(plansOfSuite(own.db, suite)).to.deep.equal([{ key, title: 'The plan' }])
    expect(row()?.inPlans).to.equal(1)
    hideRows(own.db, 'plan', [plan], own.now())
    expect(plansOfSuite(own.db, suite)).to.deep.equal([])
    expect(row()?.inPlans).to.equal(0)
  })

  it('a plan asks for a case once, in however many of its suites it stands', async () => {
    for (const id of ids) saveCase(own.db, id, { estimate: 10 })
    await makePlan(own, ['TC-1', 'TC-3'])
    const plan = findPlan(own.db, project, 1)?.id ?? 0
    const other = findSuite(own.db, project, 2)?.id ?? 0
    setPlanSuites(own.db, plan, [other, suite])
    expect(planSuites(own.db, plan).map(({ key, cases }) => [key, cases])).to.deep.equal([
      ['TS-2', 2],
      ['TS-1', 2],
    ])
    expect(planMinutes(own.db, plan)).to.equal(30)
    expect(planRows(own.db, project, [plan])[0]?.cases).to.equal(3)
  })

  it('environments of a plan are those set last', async () => {
    await makePlan(own, ['TC-1'], [own.environments[0]])
    const plan = findPlan(own.db, project, 1)?.id ?? 0
    const names = () => planEnvironments(own.db, plan).map(({ name }) => name)
    expect(names()).to.deep.equal(['Red'])
    setPlanEnvironments(own.db, plan, [own.environments[1]])
    expect(names()).to.deep.equal(['Blue'])
    setPlanEnvironments(own.db, plan, [])
    expect(names()).to.deep.equal([])
  })
})
