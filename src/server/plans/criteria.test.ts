import { expect } from 'chai'
import { changeCases } from '#core/cases/contract.ts'
import { listHistory } from '#core/history/contract.ts'
import type { CriterionRule } from '#core/plans/criteria.ts'
import {
  addCriterion,
  changeCriterion,
  readCriteria,
  readReadiness,
  readShortestWay,
  removeCriterion,
  waiveCriterion,
} from '#core/plans/criteria-contract.ts'
import { readPlan, readPlanSince, updatePlan } from '#core/plans/contract.ts'
import { pinCases } from '#core/plans/suite-contract.ts'
import { createBuild } from '#core/projects/builds-contract.ts'
import { readFrame } from '#core/projects/contract.ts'
import { updateRequirement } from '#core/requirements/contract.ts'
import { createRun, listItems } from '#core/runs/contract.ts'
import { addAbsence } from '#db/people/hours.ts'
import { day, minute, shop, type Shop } from '#test/app.ts'
import { execute, idsOf, makeCase, makeDefect, makePlan, makeRequirements, makeRun, requirement } from '#test/make.ts'

const passing: CriterionRule = {
  kind: 'share',
  measure: 'passing',
  basis: 'current',
  byRisk: false,
  branch: null,
  atLeast: 100,
}
const important: CriterionRule = { kind: 'important', importance: 'Critical', days: null }

describe('criteria of a plan', () => {
  let of: Shop
  let keys: string[]
  let ids: number[]
  beforeEach(async () => {
    of = shop()
    const [fares = '', bands = ''] = await makeRequirements(of.lead, 'Fares', 'Age bands')
    keys = [
      await makeCase(of.lead, 'Adult pays', { proves: fares }),
      await makeCase(of.lead, 'Child pays half', { proves: bands }),
    ]
    ids = await idsOf(of.lead, keys)
    await makePlan(of, keys, [of.environments[0]])
  })
  const params = { ref: 'PL-1' }
  const ask = (rule: CriterionRule, side: 'entry' | 'exit' = 'exit') =>
    of.lead.ask(addCriterion, { params, body: { side, rule } })
  const told = () => of.viewer.ask(readCriteria, { params })

  it('are told from the data, with exactly what is missing, and again after a verdict', async () => {
    await ask(passing)
    const { items } = await makeRun(of, keys)
    await execute(of, items[0]?.id ?? 0, 'Passed')
    const before = await told()
    expect(before.exit).to.deep.equal({ met: 0, of: 1, waived: 0 })
    expect(before.criteria[0]).to.deep.include({ outcome: 'not met', figure: 0.5, figureText: '50 %' })
    const bands = await requirement(of.lead, 'RQ-2')
    expect(before.criteria[0]?.missing).to.deep.equal({
      of: 'requirements',
      total: 1,
      ids: [bands.id],
      first: [{ key: 'RQ-2', title: 'Age bands', detail: 'risk not given' }],
    })
    await execute(of, items[1]?.id ?? 0, 'Passed')
    expect((await told()).exit).to.deep.equal({ met: 1, of: 1, waived: 0 })
  })

  it('decide nothing where there is nothing to count, and are never met by it', async () => {
    const [empty = ''] = await makeRequirements(of.lead, 'Nothing tests it')
    const { id } = await requirement(of.lead, empty)
    await ask({ ...passing, branch: id, atLeast: 0 })
    expect((await told()).criteria[0]).to.include({ outcome: 'undecidable', figure: null, figureText: '–' })
    expect((await told()).exit.met).to.equal(0)
  })

  it('are waived by somebody, for a reason, to the end of a day in the project’s time', async () => {
    const { id } = await ask(passing)
    const waive = (body: { reason: string; until: string | null }) =>
      of.lead.ask(waiveCriterion, { params: { ...params, criterion: id }, body })
    const refused = async (body: { reason: string; until: string | null }) =>
      (await of.lead.refused(waiveCriterion, { params: { ...params, criterion: id }, body })).fields
    expect(await refused({ reason: '', until: '2026-11-25' })).to.deep.equal(['reason'])
    expect(await refused({ reason: 'Old phone', until: '2026-11-22' })).to.deep.equal(['until'])
    await waive({ reason: 'Old phone in repair', until: '2026-11-23' })
    const waived = await told()
    expect(waived.exit).to.deep.equal({ met: 0, of: 1, waived: 1 })
    expect(waived.criteria[0]?.waiver).to.deep.include({
      by: 'Lead Person',
      reason: 'Old phone in repair',
      holds: true,
    })
    of.pass(day)
    const after = await told()
    expect([after.exit.waived, after.criteria[0]?.outcome]).to.deep.equal([0, 'not met'])
    of.pass(-day)
    await waive({ reason: '', until: null })
    expect((await told()).criteria[0]?.waiver).to.equal(null)
  })

  it('stand in an order, are changed and taken away with a way back, and are told in the history', async () => {
    const first = await ask(passing)
    const second = await ask(important)
    const order = async () => (await told()).criteria.map(({ id }) => id)
    const at = { ...params, criterion: second.id }
    await of.lead.ask(changeCriterion, { params: at, body: { before: first.id } })
    expect(await order()).to.deep.equal([second.id, first.id])
    await of.lead.ask(changeCriterion, { params: at, body: { rule: { ...important, importance: 'High' } } })
    expect((await told()).criteria[0]?.words).to.equal('All cases that are High or above executed on the newest build')
    await of.lead.ask(removeCriterion, { params: at })
    expect(await order()).to.deep.equal([first.id])
    await of.lead.ask(removeCriterion, { params: at, query: { undo: 'yes' } })
    expect(await order()).to.deep.equal([second.id, first.id])
    const { rows } = await of.viewer.ask(listHistory, { query: { ref: 'PL-1' } })
    expect(rows.map(({ action }) => action)).to.include.members(['criterion taken away', 'criterion brought back'])
    expect((await of.tester.refused(addCriterion, { params, body: { rule: passing } })).status).to.equal(403)
  })

  it('leave out the branches a plan leaves out', async () => {
    const { items } = await makeRun(of, keys)
    await execute(of, items[0]?.id ?? 0, 'Passed')
    await ask(passing)
    const bands = await requirement(of.lead, 'RQ-2')
    const { version } = await of.viewer.ask(readPlan, { params })
    const branches = [{ id: bands.id, inside: false, reason: 'Next release' }]
    await of.lead.ask(updatePlan, { params, body: { branches }, version })
    expect((await told()).criteria[0]).to.include({ outcome: 'met', figure: 1 })
  })

  it('count in the frame of every page, those of the iteration before those of the release', async () => {
    expect((await of.viewer.ask(readFrame, {})).criteria).to.equal(null)
    await ask(passing)
    await ask({ kind: 'runs' })
    const frame = await of.viewer.ask(readFrame, {})
    expect(frame.criteria).to.deep.equal({ met: 1, of: 2, waived: 0 })
    expect(frame.counts.reports).to.equal(1)
    const readiness = await of.viewer.ask(readReadiness, {})
    expect([readiness.exit.of, readiness.plans.map(({ plan }) => plan.key)]).to.deep.equal([2, ['PL-1']])
    expect((await of.viewer.ask(readReadiness, { query: { release: '2.0' } })).plans).to.deep.equal([])
  })

  it('are told as they were at an instant', async () => {
    const { items } = await makeRun(of, keys)
    await ask({ kind: 'items', atLeast: 100 })
    await execute(of, items[0]?.id ?? 0, 'Passed')
    const then = of.now()
    of.pass(minute)
    await execute(of, items[1]?.id ?? 0, 'Passed')
    const figure = async (asOf?: number) =>
      (await of.viewer.ask(readCriteria, { params, query: asOf === undefined ? {} : { asOf } })).criteria[0]?.figure
    expect([await figure(then), await figure()]).to.deep.equal([0.5, 1])
  })

  it('name what testing cannot mend beside the shortest way to what it can', async () => {
    const { items } = await makeRun(of, keys)
    const attempt = await execute(of, items[1]?.id ?? 0, 'Failed')
    await makeDefect(of, attempt)
    const [criticals] = [{ kind: 'defects' as const, severity: 'Cosmetic' as const, atMost: 0 }]
    await ask(criticals)
    await ask(passing)
    await of.lead.ask(changeCases, { body: { ids: [ids[0] ?? 0], set: { estimate: 7 } } })
    await of.lead.ask(changeCases, { body: { ids: [ids[1] ?? 0], set: { estimate: 5 } } })
    const way = await of.viewer.ask(readShortestWay, { params })
    expect(way).to.include({ minutes: 12, total: 2, exact: true })
    expect(way.items.map(({ key, verdict, why }) => [key, verdict, why])).to.deep.equal([
      ['TC-1', 'Not run', 'never executed'],
      ['TC-2', 'Failed', 'Failed on 1.0.1, DF-1'],
    ])
    expect(way.cannot.map(({ missing }) => missing.first.map(({ key }) => key))).to.deep.equal([['DF-1']])
    // The way becomes a run of exactly these items, and shrinks as verdicts come in.
    const body = { title: 'The way', build: of.builds[1], items: [...way.slots, ...way.slots], people: ['tester'] }
    const run = await of.lead.ask(createRun, { body: { ...body, startOn: '2026-11-23', endOn: '2026-11-24' } })
    const { rows } = await of.viewer.ask(listItems, { params: { ref: run.key } })
    expect(run.items).to.equal(2)
    for (const { id } of rows) await execute(of, id, 'Passed')
    expect((await of.viewer.ask(readShortestWay, { params })).total).to.equal(0)
    expect((await told()).exit).to.deep.equal({ met: 1, of: 2, waived: 0 })
  })
})

describe('what a plan says', () => {
  it('stands in its five parts, and a newer one is not written over', async () => {
    const of = shop()
    const [fares = ''] = await makeRequirements(of.lead, 'Fares')
    const { id } = await requirement(of.lead, fares)
    await makePlan(of, [await makeCase(of.lead, 'Adult pays')])
    const params = { ref: 'PL-1' }
    const { version } = await of.viewer.ask(readPlan, { params })
    const risk = { title: 'A wrong fare', likelihood: 3, impact: 5, requirements: [id], cases: [] }
    await of.lead.ask(updatePlan, {
      params,
      body: {
        parts: { why: '<p>Spring</p><script>no()</script>' },
        risks: [{ ...risk, title: 'A small one', impact: 1 }, risk],
        people: [{ id: 'tester', part: 'on the phone' }],
        milestones: [{ title: 'Go', on: '2026-12-10' }],
        branches: [{ id, inside: true, reason: 'new' }],
      },
      version,
    })
    const plan = await of.viewer.ask(readPlan, { params })
    expect(plan.parts.why).to.equal('<p>Spring</p>')
    expect(plan.risks.map(({ title, answers }) => [title, answers.map(({ key }) => key)])).to.deep.equal([
      ['A wrong fare', ['RQ-1']],
      ['A small one', ['RQ-1']],
    ])
    expect(plan.people[0]).to.include({ name: 'Tester Person', part: 'on the phone' })
    expect(plan.people[0]?.minutes).to.be.greaterThan(0)
    expect([plan.milestones, plan.branches.map(({ key, inside }) => [key, inside])]).to.deep.equal([
      [{ title: 'Go', on: '2026-12-10' }],
      [['RQ-1', true]],
    ])
    expect(plan.unproved.map(({ key }) => key)).to.deep.equal(['RQ-1'])
    const late = await of.lead.refused(updatePlan, { params, body: { milestones: [] }, version })
    expect(late.status).to.equal(412)
    const foreign = await of.lead.refused(updatePlan, {
      params,
      body: { people: [{ id: 'stranger', part: '' }] },
      version: plan.version,
    })
    expect(foreign.status).to.equal(400)
  })

  it('is locked when the plan is closed', async () => {
    const of = shop()
    await makePlan(of, [])
    const params = { ref: 'PL-1' }
    const { version } = await of.viewer.ask(readPlan, { params })
    const closed = await of.lead.ask(updatePlan, { params, body: { state: 'Closed' }, version })
    const refused = await of.lead.refused(updatePlan, { params, body: { title: 'x' }, version: closed.version })
    expect(refused.detail).to.match(/PL-1 is closed/)
    expect((await of.lead.refused(addCriterion, { params, body: { rule: { kind: 'runs' } } })).status).to.equal(422)
    await of.lead.ask(updatePlan, { params, body: { state: 'Drafting' }, version: closed.version })
  })

  it('is told since an instant: cases, requirements, builds, who is away, and what others did', async () => {
    const of = shop()
    const [fares = ''] = await makeRequirements(of.lead, 'Fares')
    const [first, second] = [await makeCase(of.lead, 'Adult pays', { proves: fares }), await makeCase(of.lead, 'Child')]
    await makePlan(of, [first])
    const params = { ref: 'PL-1' }
    const since = of.now()
    of.pass(minute)
    const told = () => of.viewer.ask(readPlanSince, { params, query: { since } })
    expect(await told()).to.deep.equal({ came: [], went: [], reworded: [], builds: [], away: [], acts: [] })
    const ids = await idsOf(of.lead, [first, second])
    const suite = { ref: 'TS-1' }
    await of.tester.ask(pinCases, { params: suite, body: { add: [second], remove: ids.slice(0, 0) } })
    const { version: before } = await requirement(of.lead, fares)
    await of.tester.ask(updateRequirement, {
      params: { ref: fares },
      body: { title: 'Fares of 2027' },
      version: before,
    })
    await of.lead.ask(createBuild, { body: { release: of.release, name: '1.0.2' } })
    const { version } = await of.viewer.ask(readPlan, { params })
    await of.lead.ask(updatePlan, { params, body: { people: [{ id: 'tester', part: '' }] }, version })
    addAbsence(of.db, { personId: 'tester', startOn: '2026-11-26', endOn: '2026-11-27' })
    const after = await told()
    expect([after.came, after.went]).to.deep.equal([[{ key: 'TC-2', title: 'Child' }], []])
    expect(after.reworded).to.deep.equal([{ key: 'RQ-1', title: 'Fares of 2027', suspect: 1 }])
    expect(after.builds.map(({ name, state }) => [name, state])).to.deep.equal([['1.0.2', 'Offered']])
    expect(after.away.map(({ name, startOn }) => [name, startOn])).to.deep.equal([['Tester Person', '2026-11-26']])
    expect(after.acts.map(({ action, person }) => [action, person])).to.deep.equal([['changed', 'Lead Person']])
    expect((await of.lead.ask(readPlanSince, { params, query: { since } })).acts).to.deep.equal([])
    of.pass(minute)
    await of.tester.ask(pinCases, { params: suite, body: { remove: ids } })
    expect((await told()).went.map(({ key }) => key)).to.deep.equal(['TC-1'])
  })
})
