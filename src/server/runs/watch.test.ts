import { expect } from 'chai'
import { isStalled } from '#core/runs/watch.ts'
import { changeItems } from '#core/runs/contract.ts'
import { giveVerdicts } from '#core/runs/many-contract.ts'
import { timeAttempt } from '#core/runs/note-contract.ts'
import { watchRun } from '#core/runs/watch-contract.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { execute, makeCase, makeDealtRun, start, whole } from '#test/make.ts'

describe('watching a run', () => {
  let of: Shop
  let ids: number[]
  const params = { ref: 'RN-1' }
  const watched = () => of.viewer.ask(watchRun, { params })
  beforeEach(async () => {
    of = shop()
    for (const title of ['Adult', 'Child', 'Senior']) await makeCase(of.lead, title)
    ids = (await makeDealtRun(of, ['TC-1', 'TC-2', 'TC-3'])).items.map(({ id }) => id)
  })

  it('names who is on what, and since when nothing was heard of them', async () => {
    const [first = 0, second = 0] = ids
    expect((await watched()).now).to.deep.equal([])
    await start(of, first)
    of.pass(25 * minute)
    await start(of, second)
    const { now, nowCount } = await watched()
    expect(now.map(({ case: own, person, stalled }) => [own, person, stalled])).to.deep.equal([
      ['TC-1', 'Tester Person', false],
      ['TC-2', 'Tester Person', false],
    ])
    expect([nowCount, (now[1]?.since ?? 0) - (now[0]?.since ?? 0)]).to.deep.equal([2, 25 * minute])
    of.pass(20 * minute)
    expect((await watched()).now.map(({ stalled }) => stalled)).to.deep.equal([true, false])
    await whole(of, (await start(of, first)).id, 'Passed')
    expect((await watched()).now.map((each) => each.case)).to.deep.equal(['TC-2'])
  })
  it('counts what is due by today, and what of it has a result', async () => {
    expect((await watched()).due).to.deep.equal({ of: 0, done: 0 })
    const today = new Date(of.now()).toISOString().slice(0, 10)
    await of.lead.ask(changeItems, { params, body: { ids: ids.slice(0, 2), set: { dueOn: today } } })
    await execute(of, ids[0] ?? 0, 'Passed')
    expect((await watched()).due).to.deep.equal({ of: 2, done: 1 })
  })
  it('holds what results took against what they were planned to take, and tells what was shared out', async () => {
    await of.lead.ask(changeItems, { params, body: { ids, set: { estimate: 10 } } })
    const attempt = await execute(of, ids[0] ?? 0, 'Passed')
    expect((await watched()).minutes).to.deep.equal({ planned: 0, spent: 0, shared: 0, timed: 0 })
    await of.tester.ask(timeAttempt, { params: { id: attempt.id }, body: { minutes: 14 } })
    await of.lead.ask(giveVerdicts, {
      params,
      body: { ids: ids.slice(1), verdict: 'Passed', reason: 'Seen in passing', seconds: 180 },
    })
    expect((await watched()).minutes).to.deep.equal({ planned: 30, spent: 20, shared: 6, timed: 3 })
  })
  it('calls an attempt quiet after half an hour, or after three times what its item should take', () => {
    expect([isStalled(0, 5, 30 * minute), isStalled(0, 5, 30 * minute + 1)]).to.deep.equal([false, true])
    expect([isStalled(0, 20, 60 * minute), isStalled(0, 20, 60 * minute + 1)]).to.deep.equal([false, true])
  })
})
