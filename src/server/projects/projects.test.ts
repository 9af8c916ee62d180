import { expect } from 'chai'
import { listCases, updateCase } from '#core/cases/contract.ts'
import { createCustomField, deleteCustomField, listCustomFields, updateCustomField } from '#core/projects/custom.ts'
import { createBuild, updateBuild } from '#core/projects/builds-contract.ts'
import {
  createEnvironment,
  createIteration,
  createProject,
  createRelease,
  readFrame,
  readProject,
  readToday,
  readTracker,
  setTracker,
  updateProject,
} from '#core/projects/contract.ts'
import { type Shop, shop } from '#test/app.ts'
import { caseOf, execute, makeCase, makePlan, makeRequirements, makeRun, makeAdministrator } from '#test/make.ts'

const read = (of: Shop) => of.viewer.ask(readProject)

it('sets a release up with its iterations, builds and environments', async () => {
  const of = shop()
  const { id } = await of.lead.ask(createRelease, { body: { name: '3.0', dueOn: '2027-05-01' } })
  await of.lead.ask(createIteration, { body: { release: id, name: 'One', startOn: '2027-04-01' } })
  await of.lead.ask(createBuild, { body: { release: id, name: '3.0.0' } })
  await of.lead.ask(createEnvironment, { body: { name: 'Green', seats: 2, values: { engine: 'Gecko' } } })
  const project = await read(of)
  expect(project.releases.map(({ name }) => name)).to.include('3.0')
  expect(project.iterations.at(-1)).to.include({ release: id, name: 'One' })
  expect(project.builds.at(-1)).to.include({ name: '3.0.0', state: 'Offered' })
  expect(project.environments.at(-1)).to.deep.include({ name: 'Green', seats: 2, values: { engine: 'Gecko' } })
})
it('refuses an iteration or a build of a release of nobody', async () => {
  const of = shop()
  expect((await of.lead.refused(createIteration, { body: { release: 77, name: 'x' } })).status).to.be.oneOf([400, 404])
  expect((await of.lead.refused(createBuild, { body: { release: 77, name: 'x' } })).status).to.be.oneOf([400, 404])
})
it('withdraws a build, whose results then stand no more, and offers it again', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'A', { steps: ['One'] })
  const run = await makeRun(of, [key])
  await execute(of, run.items[0]?.id ?? 0, 'Passed')
  const standing = async () => (await caseOf(of.viewer, key)).slots[0]?.verdict
  expect(await standing()).to.equal('Passed')
  await of.lead.ask(updateBuild, { params: { id: of.builds[1] }, body: { state: 'Withdrawn' } })
  expect(await standing()).to.equal('Not run')
  await of.lead.ask(updateBuild, { params: { id: of.builds[1] }, body: { state: 'Offered' } })
  expect(await standing()).to.equal('Passed')
  expect((await of.lead.refused(updateBuild, { params: { id: 77 }, body: { state: 'Refused' } })).status).to.be.oneOf([
    400, 404,
  ])
})
it('changes the project’s own settings', async () => {
  const of = shop()
  await of.lead.ask(updateProject, { body: { name: 'The shop', freshnessDays: 5, approvalRequired: true } })
  expect(await read(of)).to.include({ name: 'The shop', freshnessDays: 5, approvalRequired: true })
})
it('lets an administrator make a project, and no key twice', async () => {
  const of = shop()
  const admin = makeAdministrator(of)
  await admin.ask(createProject, { body: { key: 'DEPOT', name: 'Depot', product: 'Depot' } })
  expect((await admin.refused(createProject, { body: { key: 'DEPOT', name: 'x', product: 'x' } })).status).to.be.oneOf([
    409, 422,
  ])
  expect((await of.lead.refused(createProject, { body: { key: 'OTHER', name: 'x', product: 'x' } })).status).to.equal(
    403,
  )
})
it('connects a tracker and never answers its token', async () => {
  const of = shop()
  await of.lead.ask(setTracker, { body: { name: 'Board', url: 'http://tracker.example', token: 'secret' } })
  const shown = await of.viewer.send('GET', '/projects/SHOP/tracker')
  expect([shown.body.name, shown.body.token, JSON.stringify(shown.body).includes('secret')]).to.deep.equal([
    'Board',
    true,
    false,
  ])
  await of.lead.ask(setTracker, { body: { name: '', url: '' } })
  expect((await of.viewer.ask(readTracker)).url).to.equal('')
})
it('gives cases a field of the project’s own, checked by its kind, listed and filtered by', async () => {
  const of = shop()
  const { id } = await of.lead.ask(createCustomField, {
    body: { owner: 'case', name: 'Lane', kind: 'choice', choices: ['Left', 'Right'] },
  })
  const key = await makeCase(of.tester, 'A')
  const { version } = await caseOf(of.tester, key)
  const wrong = await of.tester.refused(updateCase, {
    params: { ref: key },
    body: { custom: { [id]: ['Up'] } },
    version,
  })
  expect(wrong.status).to.equal(400)
  await of.tester.ask(updateCase, { params: { ref: key }, body: { custom: { [id]: ['Left'] } }, version })
  const filter = JSON.stringify({ field: `own:${id}`, op: 'is', values: ['Left'] })
  expect((await of.viewer.ask(listCases, { query: { filter } })).total).to.equal(1)
  expect((await of.viewer.ask(listCustomFields)).rows[0]).to.include({ name: 'Lane', used: 1 })
})
it('renames a field and takes it away; what has none is told so', async () => {
  const of = shop()
  const { id } = await of.lead.ask(createCustomField, { body: { owner: 'case', name: 'Lane', kind: 'text' } })
  await of.lead.ask(updateCustomField, { params: { id }, body: { name: 'Side' } })
  expect((await of.viewer.ask(listCustomFields)).rows.map(({ name }) => name)).to.deep.equal(['Side'])
  await of.lead.ask(deleteCustomField, { params: { id } })
  expect((await of.viewer.ask(listCustomFields)).rows).to.deep.equal([])
  expect((await of.lead.refused(updateCustomField, { params: { id: 77 }, body: { name: 'x' } })).status).to.equal(404)
})
it('shows on every page what wants attention, and how results of the scope stand', async () => {
  const of = shop()
  const [proves = ''] = await makeRequirements(of.tester, 'Pay', 'Leave')
  const key = await makeCase(of.tester, 'A', { steps: ['One'], proves })
  await makePlan(of, [key], [of.environments[0]])
  const run = await makeRun(of, [key])
  await execute(of, run.items[0]?.id ?? 0, 'Passed')
  const frame = await of.viewer.ask(readFrame)
  expect([frame.counts.requirements, frame.meter.slots, frame.meter.passing.recorded]).to.deep.equal([1, 1, 1])
  const older = await of.viewer.ask(readFrame, { query: { build: '1.0.0' } })
  expect(older.meter.passing.recorded).to.equal(0)
  expect((await of.viewer.refused(readFrame, { query: { release: '9' } })).detail).to.equal(
    'There is no release “9” in this project.',
  )
})
it('shows a tester today what is assigned and open, against the minutes of the day', async () => {
  const of = shop()
  const run = await makeRun(of, [await makeCase(of.tester, 'A', { steps: ['One'] })])
  const ids = run.items.map(({ id }) => id)
  await of.lead.send('PATCH', `/projects/SHOP/runs/${run.key}/items`, { ids, set: { assigneeId: 'tester' } })
  const today = await of.tester.ask(readToday)
  expect([today.queueTotal, today.queue[0]?.case, today.capacityMinutes]).to.deep.equal([1, 'TC-1', 288])
  await execute(of, ids[0] ?? 0, 'Passed')
  expect((await of.tester.ask(readToday)).queueTotal).to.equal(0)
})
it('asks for a tracker’s token again when its address is another, and keeps what was there', async () => {
  const of = shop()
  const connect = { name: 'Board', url: 'https://board.example/x', token: 'secret' }
  await of.lead.ask(setTracker, { body: connect })
  expect(of.db.$client.prepare('select token from tracker').pluck().get()).to.match(/^sealed\./)
  await of.lead.ask(setTracker, { body: { name: 'Harbour board', url: 'https://board.example/y' } })
  const elsewhere = { name: 'Board', url: 'https://elsewhere.example/x' }
  const refused = await of.lead.refused(setTracker, { body: elsewhere })
  expect([refused.status, refused.fields]).to.deep.equal([400, ['token']])
  const kept = () =>
    of.db.$client
      .prepare('select url, token from tracker')
      .all()
      .map((row) => [Reflect.get(Object(row), 'url'), of.services.seal.open(String(Reflect.get(Object(row), 'token')))])
  expect(kept()).to.deep.equal([['https://board.example/y', 'secret']])
  await of.lead.ask(setTracker, { body: { ...elsewhere, token: '' } })
  expect(kept()).to.deep.equal([['https://elsewhere.example/x', '']])
})
