import { expect } from 'chai'
import {
  changeDefects,
  createDefect,
  deleteDefects,
  draftDefectFrom,
  linkDefect,
  listDefects,
  orderDefects,
  readDefect,
  updateDefect,
} from '#core/defects/contract.ts'
import { listHistory, restoreObject } from '#core/history/contract.ts'
import { type Shop, minute, shop } from '#test/app.ts'
import { caseOf, execute, makeCase, makeDefect, makeRequirements, makeRun } from '#test/make.ts'

/** A case that fails on the newest build, with its attempt. */
async function failing(of: Shop) {
  const [proves = ''] = await makeRequirements(of.tester, 'Pay')
  const key = await makeCase(of.tester, 'Pays', { steps: ['Insert the card => It is read', 'Take it'], proves })
  const run = await makeRun(of, [key])
  return { key, proves, attempt: await execute(of, run.items[0]?.id ?? 0, 'Failed') }
}
const defect = (of: Shop, ref: string) => of.viewer.ask(readDefect, { params: { ref } })
const edit = async (of: Shop, ref: string, body: object) =>
  of.tester.ask(updateDefect, { params: { ref }, body, version: (await defect(of, ref)).version })

it('drafts a defect from the failing step: what was done, what was expected, where', async () => {
  const of = shop()
  const { attempt, proves } = await failing(of)
  const draft = await of.tester.ask(draftDefectFrom, {
    query: { attempt: attempt.id, row: 1, step: attempt.steps[0]?.id ?? 0 },
  })
  expect(draft).to.include({ build: '1.0.1', environment: 'Red' })
  expect(draft.steps).to.contain('Insert the card')
  expect(draft.requirement).to.contain(proves)
  expect((await of.tester.refused(draftDefectFrom, { query: { attempt: 99 } })).status).to.equal(404)
})
it('links a defect to attempt, item, case and requirement in one act', async () => {
  const of = shop()
  const { attempt, key, proves } = await failing(of)
  const made = await makeDefect(of, attempt)
  const [link] = (await defect(of, made.key)).links
  expect([link?.case, link?.requirement, link?.attemptVerdict]).to.deep.equal([key, proves, 'Failed'])
  expect((await caseOf(of.viewer, key)).defects.map((each) => [each.key, each.open])).to.deep.equal([[made.key, true]])
})
it('links one that is known to another failing step, once', async () => {
  const of = shop()
  const { attempt, key } = await failing(of)
  const made = await makeDefect(of, attempt)
  const run = await makeRun(of, [key], { environments: [of.environments[1]] })
  const second = await execute(of, run.items[0]?.id ?? 0, 'Failed')
  const body = { attempt: second.id, row: 1, step: second.steps[0]?.id ?? null }
  await of.tester.ask(linkDefect, { params: { ref: made.key }, body })
  await of.tester.ask(linkDefect, { params: { ref: made.key }, body })
  expect((await defect(of, made.key)).results).to.equal(2)
})
it('reports one that was seen elsewhere, and refuses one of no build here', async () => {
  const of = shop()
  const body = { title: 'Wrong sum', severity: 'Minor' as const }
  const made = await of.tester.ask(createDefect, { body: { ...body, foundIn: of.builds[0] } })
  expect(await defect(of, made.key)).to.include({ foundIn: '1.0.0', state: 'Reported', results: 0 })
  expect((await of.tester.refused(createDefect, { body: { ...body, foundIn: 77 } })).status).to.equal(400)
})
it('moves only where a defect can go, and wants the build of the repair first', async () => {
  const of = shop()
  const made = await of.tester.ask(createDefect, { body: { title: 'Wrong sum', severity: 'Minor' } })
  const params = { ref: made.key }
  const version = async () => (await defect(of, made.key)).version
  const early = await of.tester.refused(updateDefect, {
    params,
    body: { state: 'Ready to retest' },
    version: await version(),
  })
  expect(early.detail).to.match(/^Name the build it is fixed in first/)
  await edit(of, made.key, { state: 'Ready to retest', fixedInId: of.builds[1] })
  await edit(of, made.key, { state: 'Closed' })
  const back = await of.tester.refused(updateDefect, { params, body: { state: 'Reported' }, version: await version() })
  expect(back.detail).to.equal('A defect that is Closed cannot become Reported; it can become Confirmed, In repair.')
  expect((await defect(of, made.key)).states.map(({ state }) => state)).to.deep.equal([
    'Reported',
    'Ready to retest',
    'Closed',
  ])
})
it('tells each move in the history by its own act', async () => {
  const of = shop()
  const made = await of.tester.ask(createDefect, { body: { title: 'Wrong sum', severity: 'Minor' } })
  await edit(of, made.key, { state: 'Confirmed' })
  await edit(of, made.key, { state: 'In repair' })
  const { rows } = await of.viewer.ask(listHistory, { query: { ref: made.key } })
  expect(rows.map(({ action }) => action)).to.deep.equal(['in repair', 'confirmed', 'reported'])
})
it('makes the failing result stale once its defect is fixed in a later build', async () => {
  const of = shop()
  const [proves = ''] = await makeRequirements(of.tester, 'Pay')
  const key = await makeCase(of.tester, 'Pays', { proves })
  const run = await makeRun(of, [key], { build: of.builds[0] })
  const made = await makeDefect(of, await execute(of, run.items[0]?.id ?? 0, 'Failed'))
  of.pass(minute)
  await edit(of, made.key, { state: 'Ready to retest', fixedInId: of.builds[1] })
  expect((await caseOf(of.viewer, key)).slots[0]?.reasons).to.include('defect fixed since')
})
it('changes many, and takes it back', async () => {
  const of = shop()
  for (const title of ['A', 'B']) await of.tester.ask(createDefect, { body: { title, severity: 'Minor' } })
  const { ids } = await of.viewer.ask(orderDefects)
  const done = await of.tester.ask(changeDefects, { body: { ids, set: { severity: 'Critical', ownerId: 'lead' } } })
  expect([done.changed, done.undo[0]?.set]).to.deep.equal([2, { severity: 'Minor', ownerId: null }])
  expect((await of.tester.refused(changeDefects, { body: { ids, set: { ownerId: 'stranger' } } })).status).to.equal(400)
  expect((await of.viewer.ask(listDefects)).rows.every(({ severity }) => severity === 'Critical')).to.equal(true)
})
it('deletes and brings back, with its links', async () => {
  const of = shop()
  const { attempt } = await failing(of)
  const made = await makeDefect(of, attempt)
  const { refs } = await of.lead.ask(deleteDefects, { body: { ids: [made.id] } })
  expect((await of.viewer.refused(readDefect, { params: { ref: made.key } })).status).to.equal(410)
  await of.tester.ask(restoreObject, { body: { refs } })
  expect((await defect(of, made.key)).results).to.equal(1)
})
it('proposes what a new defect may repeat', async () => {
  const of = shop()
  const { attempt, key } = await failing(of)
  await makeDefect(of, attempt)
  const run = await makeRun(of, [key], { environments: [of.environments[1]] })
  const second = await execute(of, run.items[0]?.id ?? 0, 'Failed')
  const draft = await of.tester.ask(draftDefectFrom, { query: { attempt: second.id } })
  expect(draft.like.map((each) => each.key)).to.deep.equal(['DF-1'])
})
