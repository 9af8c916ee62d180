import { expect } from 'chai'
import { readRun, updateRun } from '#core/runs/contract.ts'
import { readDesk, recordStep } from '#core/runs/desk-contract.ts'
import { listInbox } from '#core/talk/contract.ts'
import { type Shop, minute, shop } from '#test/app.ts'
import { makeItem, sent, start, whole } from '#test/make.ts'

const desk = (of: Shop, id: number) => of.tester.ask(readDesk, { params: { id } })
describe('the time of a verdict', () => {
  const claimed = (of: Shop, attempt: { id: number; steps: readonly { id: number }[] }, claim: object) =>
    of.tester.ask(recordStep, {
      params: { id: attempt.id, row: 1, step: attempt.steps[0]?.id ?? 0 },
      body: { verdict: 'Failed', ...sent(of), ...claim },
    })
  const events = (of: Shop) =>
    of.db.$client.prepare('select at, claimed_at as claimed, doubtful, arrival from verdict_event order by id').all()
  const close = async (of: Shop, ref: string, state: 'Open' | 'Closed') => {
    const { version } = await of.lead.ask(readRun, { params: { ref } })
    await of.lead.ask(updateRun, { params: { ref }, body: { state }, version })
  }

  it('is corrected by what the client’s clock says at the sending', async () => {
    const of = shop()
    const attempt = await start(of, (await makeItem(of)).id)
    of.pass(10 * minute)
    const [wrong, waited] = [-3 * 3600_000, 2 * minute]
    await claimed(of, attempt, { at: of.now() + wrong - waited, sent: of.now() + wrong })
    expect(events(of)).to.deep.equal([
      { at: of.now() - waited, claimed: of.now() + wrong - waited, doubtful: 0, arrival: 'in time' },
    ])
    const { attempt: shown } = await desk(of, attempt.item ?? 0)
    expect(shown?.finishedAt).to.equal(of.now() - waited)
  })
  it('is that of arrival, marked and told, where the claim cannot be', async () => {
    const of = shop()
    const attempt = await start(of, (await makeItem(of)).id)
    of.pass(10 * minute)
    const answer = await claimed(of, attempt, { at: of.now() + 400 * 86_400_000 })
    expect([answer.counts, answer.said]).to.deep.equal([
      true,
      'The time this browser tells cannot be right, so the verdict bears the time it arrived.',
    ])
    const { attempt: shown } = await desk(of, attempt.item ?? 0)
    expect([shown?.finishedAt, shown?.odd.doubtful]).to.deep.equal([of.now(), 1])
  })
  it('lies before the close of the run: it counts, and is marked late', async () => {
    const of = shop()
    const run = await makeItem(of)
    const attempt = await start(of, run.id)
    const given = of.now()
    of.pass(10 * minute)
    await close(of, run.key, 'Closed')
    of.pass(10 * minute)
    const answer = await claimed(of, attempt, { at: given, sent: of.now() })
    expect([answer.counts, answer.itemVerdict]).to.deep.equal([true, 'Failed'])
    expect(answer.said).to.equal('RN-1 has been closed since; this verdict was given before, and counts.')
    const shown = await desk(of, run.id)
    expect([shown.item.verdict, shown.attempt?.odd.late]).to.deep.equal(['Failed', 1])
    expect((await of.viewer.ask(readRun, { params: { ref: run.key } })).afterCloseCount).to.equal(0)
  })
  it('lies after the close: it is kept and does not count, and both sides are told', async () => {
    const of = shop()
    const run = await makeItem(of)
    const attempt = await start(of, run.id)
    of.pass(10 * minute)
    await close(of, run.key, 'Closed')
    of.pass(10 * minute)
    const answer = await claimed(of, attempt, { sent: of.now() })
    expect([answer.counts, answer.verdict, answer.itemVerdict]).to.deep.equal([false, 'Not run', 'Not run'])
    expect(answer.said).to.match(/^RN-1 was closed before this verdict was given: it is kept and does not count/)
    const shown = await desk(of, run.id)
    expect([shown.item.verdict, shown.attempt?.marks.length, shown.attempt?.canUndo]).to.deep.equal([
      'Not run',
      0,
      false,
    ])
    const sheet = await of.lead.ask(readRun, { params: { ref: run.key } })
    expect(sheet.afterClose).to.deep.equal([
      { item: run.id, case: run.case, person: 'Tester Person', verdict: 'Failed', at: of.now(), counts: false },
    ])
    await claimed(of, attempt, { sent: of.now() })
    const { rows } = await of.lead.ask(listInbox)
    expect(rows.map(({ kind, ref }) => [kind, ref])).to.deep.equal([['late', run.key]])
    expect(events(of)).to.have.length(2)
  })
  it('is as before when the run goes on', async () => {
    const of = shop()
    const run = await makeItem(of)
    const attempt = await start(of, run.id)
    await close(of, run.key, 'Closed')
    await close(of, run.key, 'Open')
    of.pass(minute)
    expect((await claimed(of, attempt, { sent: of.now() })).said).to.equal('')
  })
  it('is answered alike at a second sending', async () => {
    const of = shop()
    const run = await makeItem(of)
    const attempt = await start(of, run.id)
    await close(of, run.key, 'Closed')
    of.pass(minute)
    const event = sent(of)
    const first = await claimed(of, attempt, event)
    const second = await claimed(of, attempt, event)
    expect(second).to.deep.equal(first)
    expect(events(of)).to.have.length(1)
  })
})
it('takes an item’s result from its newest begun attempt, and says when another attempt’s counts', async () => {
  const of = shop()
  const { id } = await makeItem(of, ['One'])
  const first = await start(of, id)
  of.pass(minute)
  const second = await start(of, id)
  of.pass(minute)
  await whole(of, second.id, 'Passed')
  of.pass(minute)
  // Finished later, begun before: it counts for the case, and the item keeps its own.
  const answer = await whole(of, first.id, 'Blocked', 'The till is off')
  expect([answer.attempt.verdict, answer.itemVerdict]).to.deep.equal(['Blocked', 'Passed'])
  const shown = await desk(of, id)
  expect([shown.item.verdict, shown.item.stands, shown.attempt?.id]).to.deep.equal(['Passed', 'Blocked', second.id])
})
