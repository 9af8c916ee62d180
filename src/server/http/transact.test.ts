import { expect } from 'chai'
import { listCases, writeCaseLines } from '#core/cases/contract.ts'
import { writeRequirementLines } from '#core/requirements/contract.ts'
import { shop } from '#test/app.ts'

it('does a request with an Idempotency-Key once, and gives its answer again', async () => {
  const of = shop()
  const body = { lines: 'Once only' }
  const first = await of.tester.ask(writeCaseLines, { body, idempotencyKey: 'k1' })
  const second = await of.tester.ask(writeCaseLines, { body, idempotencyKey: 'k1' })
  expect(second).to.deep.equal(first)
  expect((await of.lead.ask(listCases)).total).to.equal(1)
})
it('refuses the same key for another body, and keeps what the first one stored', async () => {
  const of = shop()
  await of.tester.ask(writeCaseLines, { body: { lines: 'Once only' }, idempotencyKey: 'k1' })
  const other = await of.tester.refused(writeCaseLines, { body: { lines: 'Another' }, idempotencyKey: 'k1' })
  expect([other.status, other.detail]).to.deep.equal([
    409,
    'This Idempotency-Key was used for another request; nothing was stored. Use a new key.',
  ])
})
it('takes a key for each person’s own: another may use the same', async () => {
  const of = shop()
  await of.tester.ask(writeCaseLines, { body: { lines: 'Mine' }, idempotencyKey: 'k1' })
  await of.lead.ask(writeCaseLines, { body: { lines: 'Mine too' }, idempotencyKey: 'k1' })
  expect((await of.lead.ask(listCases)).total).to.equal(2)
})
it('stores nothing of a request that is refused halfway', async () => {
  const of = shop()
  const long = 'x'.repeat(301)
  const refused = await of.tester.refused(writeRequirementLines, { body: { lines: `Good\n${long}` } })
  expect(refused.detail).to.match(/^Line 2 is longer than 300 characters/)
  expect(of.db.$client.prepare('select count(*) as n from requirement').get()).to.deep.equal({ n: 0 })
  expect(of.db.$client.prepare('select count(*) as n from change').get()).to.deep.equal({ n: 0 })
})
it('tells listeners of a project what was committed, in its order, and others nothing', async () => {
  const of = shop()
  const heard: string[] = []
  const stop = of.services.events.listen(of.project().id, (events) =>
    heard.push(...events.map(({ ref, action }) => `${ref} ${action}`)),
  )
  of.services.events.listen(of.project().id + 1, () => heard.push('of another project'))
  await of.tester.ask(writeRequirementLines, { body: { lines: 'One\nTwo' } })
  stop()
  await of.tester.ask(writeRequirementLines, { body: { lines: 'Three' } })
  expect(heard).to.deep.equal(['RQ-1 created', 'RQ-2 created'])
})
it('says what does not fit field by field', async () => {
  const of = shop()
  const answer = await of.tester.send('POST', '/projects/SHOP/defects', { severity: 'Huge', priority: 9 })
  expect(answer.status).to.equal(400)
  expect(answer.body.field.map(({ field }: { field: string }) => field)).to.include.members(['severity', 'priority'])
})
it('refuses a body that is not JSON, and one that is too long before it is read', async () => {
  const of = shop()
  expect((await of.tester.send('POST', '/projects/SHOP/cases/lines', '{')).body.detail).to.equal(
    'The body is not JSON; nothing was stored.',
  )
  const long = await of.tester.send('POST', '/projects/SHOP/cases/lines', '{}', { 'content-length': '9000000' })
  expect(long.status).to.equal(413)
})
