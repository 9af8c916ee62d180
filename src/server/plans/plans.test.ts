import { expect } from 'chai'
import { listHistory, restoreObject } from '#core/history/contract.ts'
import { createPlan, listPlans, orderPlans, readPlan, updatePlan } from '#core/plans/contract.ts'
import {
  changeSuites,
  createSuite,
  deleteSuites,
  listSuites,
  orderSuites,
  pinCases,
  placeMembers,
  readSuite,
  updateSuite,
} from '#core/plans/suite-contract.ts'
import { updateProject } from '#core/projects/contract.ts'
import { reviewCase } from '#core/review/contract.ts'
import { readRun, previewRun } from '#core/runs/contract.ts'
import { shop } from '#test/app.ts'
import { idsOf, makeCase, makePlan, makeRun, makeSuite } from '#test/make.ts'

it('starts a plan for a release with suites and environments, and reads it as it was made', async () => {
  const of = shop()
  const made = await makePlan(of, [await makeCase(of.tester, 'A')], of.environments)
  const plan = await of.viewer.ask(readPlan, { params: { ref: made.key } })
  expect(plan).to.include({ key: 'PL-1', release: '1.0', cases: 1, suites: 1, environments: 2, runs: 0 })
  expect(plan.environmentList.map(({ name }) => name)).to.deep.equal(['Red', 'Blue'])
})
it('refuses an iteration of another release, and suites or environments of nobody', async () => {
  const of = shop()
  const body = { title: 'P', release: of.nextRelease }
  const wrong = [{ iteration: of.iteration }, { suites: [77] }, { environments: [77] }, { release: 77 }]
  for (const each of wrong)
    expect((await of.lead.refused(createPlan, { body: { ...body, ...each } })).status, JSON.stringify(each)).to.equal(
      400,
    )
  expect((await of.viewer.ask(listPlans)).total).to.equal(0)
})
it('changes a plan field by field, tells which in its history, and refuses a change over a newer one', async () => {
  const of = shop()
  const { key } = await makePlan(of, [])
  const params = { ref: key }
  const { version } = await of.viewer.ask(readPlan, { params })
  const suite = await makeSuite(of.lead, 'More', [await makeCase(of.tester, 'A')])
  await of.lead.ask(updatePlan, { params, body: { title: 'Named anew', suites: [suite.id] }, version })
  const after = await of.viewer.ask(readPlan, { params })
  expect([after.title, after.suiteList.map((each) => each.key)]).to.deep.equal(['Named anew', [suite.key]])
  const { rows } = await of.viewer.ask(listHistory, { query: { ref: key } })
  expect(Object.keys(rows[0]?.detail ?? {})).to.have.members(['title', 'suites'])
  expect((await of.lead.refused(updatePlan, { params, body: { title: 'x' }, version })).status).to.equal(412)
  expect((await of.lead.ask(updatePlan, { params, body: {}, version: after.version })).version).to.equal(after.version)
})
it('answers a plan that is not there as such', async () => {
  const of = shop()
  const refused = await of.viewer.refused(readPlan, { params: { ref: 'PL-9' } })
  expect([refused.status, refused.detail]).to.deep.equal([404, 'There is no PL-9 in this project.'])
})
it('lists a plan’s runs with how far each is', async () => {
  const of = shop()
  await makePlan(of, [await makeCase(of.tester, 'A')])
  await makeRun(of, ['TC-1'])
  expect((await of.viewer.ask(readPlan, { params: { ref: 'PL-1' } })).runList).to.deep.equal([])
  expect((await of.viewer.ask(orderPlans, { query: { text: 'plan' } })).total).to.equal(1)
})
it('pins cases in order, each once, and takes pins out', async () => {
  const of = shop()
  const keys = [await makeCase(of.tester, 'A'), await makeCase(of.tester, 'B'), await makeCase(of.tester, 'C')]
  const suite = await makeSuite(of.lead, 'Smoke', keys.slice(0, 2))
  const params = { ref: suite.key }
  const pinned = async () => (await of.viewer.ask(readSuite, { params })).members.map(({ key }) => key)
  expect((await of.tester.ask(pinCases, { params, body: { add: keys } })).pins).to.equal(3)
  const ids = await idsOf(of.tester, keys)
  await of.tester.ask(placeMembers, { params, body: { order: [...ids].reverse() } })
  expect(await pinned()).to.deep.equal([...keys].reverse())
  await of.tester.ask(pinCases, { params, body: { remove: ids.slice(0, 1) } })
  expect(await pinned()).to.deep.equal(['TC-3', 'TC-2'])
  expect((await of.tester.refused(pinCases, { params, body: { add: ['TC-99'] } })).status).to.equal(404)
})
it('refuses a suite of cases that are not of the project', async () => {
  const of = shop()
  expect((await of.tester.refused(createSuite, { body: { title: 'S', cases: [77] } })).detail).to.match(
    /no case 77 in this project/,
  )
  expect((await of.viewer.ask(listSuites)).total).to.equal(0)
})
it('finds, sorts and groups suites like any other list', async () => {
  const of = shop()
  const a = await makeCase(of.tester, 'A')
  await makeSuite(of.lead, 'Small', [a])
  await makeSuite(of.lead, 'Empty', [])
  const filter = JSON.stringify({ field: 'cases', op: 'is', values: [0] })
  expect((await of.viewer.ask(listSuites, { query: { filter } })).rows.map(({ title }) => title)).to.deep.equal([
    'Empty',
  ])
  const byMinutes = await of.viewer.ask(listSuites, { query: { sort: '-minutes' } })
  expect(byMinutes.rows.map(({ title }) => title)).to.deep.equal(['Small', 'Empty'])
  expect((await of.viewer.ask(orderSuites, { query: { group: 'state' } })).groups).to.deep.equal([
    { value: 'Drafting', count: 2 },
  ])
})
it('counts the plans that ask for a suite, and its minutes', async () => {
  const of = shop()
  await makePlan(of, [await makeCase(of.tester, 'A', { steps: ['One', 'Two'] })])
  expect((await of.viewer.ask(listSuites)).rows[0]).to.include({ inPlans: 1, cases: 1, minutes: 5 })
})
it('sets the state of many suites at once, and takes it back', async () => {
  const of = shop()
  const suites = [await makeSuite(of.lead, 'A', []), await makeSuite(of.lead, 'B', [])]
  await of.tester.ask(updateSuite, {
    params: { ref: suites[1]?.key ?? '' },
    body: { state: 'Active' },
    version: suites[1]?.version ?? 0,
  })
  const done = await of.tester.ask(changeSuites, {
    body: { ids: suites.map(({ id }) => id), set: { state: 'Active' } },
  })
  expect([done.changed, done.undo]).to.deep.equal([1, [{ id: suites[0]?.id, set: { state: 'Drafting' } }]])
  const gone = await of.tester.refused(changeSuites, { body: { ids: [77], set: { state: 'Closed' } } })
  expect(gone.status).to.equal(400)
})
it('deletes suites and leaves their cases; they come back with their pins', async () => {
  const of = shop()
  const suite = await makeSuite(of.lead, 'Smoke', [await makeCase(of.tester, 'A')])
  const { refs } = await of.lead.ask(deleteSuites, { body: { ids: [suite.id] } })
  expect((await of.viewer.ask(listSuites)).total).to.equal(0)
  await of.tester.ask(restoreObject, { body: { refs } })
  expect((await of.viewer.ask(readSuite, { params: { ref: suite.key } })).cases).to.equal(1)
})
it('names the cases that may not be executed before a run is opened over them, and in it', async () => {
  const of = shop()
  const keys = [await makeCase(of.tester, 'A'), await makeCase(of.tester, 'B')]
  const plan = await makePlan(of, keys)
  const unapproved = async () =>
    (await of.viewer.ask(previewRun, { body: { build: of.builds[1], plan: plan.id, environments: [] } })).unapproved
  expect(await unapproved()).to.deep.equal([])
  await of.lead.ask(updateProject, { body: { approvalRequired: true } })
  expect(await unapproved()).to.deep.equal(keys)
  for (const to of ['In review', 'Approved'] as const)
    await (to === 'Approved' ? of.lead : of.tester).ask(reviewCase, { params: { ref: 'TC-1' }, body: { to } })
  expect(await unapproved()).to.deep.equal(['TC-2'])
  const run = await makeRun(of, keys)
  expect((await of.viewer.ask(readRun, { params: { ref: run.key } })).unapproved).to.deep.equal(['TC-2'])
})
