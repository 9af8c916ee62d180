import { expect } from 'chai'
import { changeItems } from '#core/runs/contract.ts'
import { createDefect } from '#core/defects/contract.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { execute, idOf, makeCase, makeRun, start } from '#test/make.ts'
import { findAttempt, previousAttempts, verdictInRun } from './attempts.ts'
import { putPlaces } from '#db/schedule/places.ts'
import { findItem, itemsOfRun, openItemsOf, queueOf, saveItem } from './items.ts'
import { findRun, runRows, setTeam, teamIds, teamOf } from './runs.ts'

describe('runs as they are stored', () => {
  let own: Shop
  let run: { id: number; items: readonly { id: number }[] }
  let cases: string[]
  beforeEach(async () => {
    own = shop()
    cases = [
      await makeCase(own.lead, 'Pay by card', { steps: ['Tap => Paid', 'Look => One charge'] }),
      await makeCase(own.lead, 'Hold a place'),
    ]
    const made = await makeRun(own, cases, { environments: own.environments, people: ['tester', 'lead'] })
    run = { id: findRun(own.db, own.project().id, 1)?.id ?? 0, items: made.items }
  })
  const item = (at: number) => run.items[at]?.id ?? 0
  const give = async (at: number, person: string | null) => saveItem(own.db, item(at), { assigneeId: person })

  it('a team is told with what each has and has left, and with nobody twice', async () => {
    for (const at of [0, 1, 2]) await give(at, 'tester')
    await give(3, null)
    await execute(own, item(0), 'Passed')
    const told = teamOf(own.db, run.id)
    expect(told.map(({ name, items }) => [name, items])).to.deep.equal([
      ['Lead Person', 0],
      ['Tester Person', 3],
    ])
    const [, tester] = told
    const minutes = itemsOfRun(own.db, run.id, [item(0)])[0]?.minutes ?? 0
    expect(minutes).to.be.above(0)
    expect(tester?.left).to.equal((tester?.minutes ?? 0) - minutes)
  })

  it('whoever has items and is not of the team is told too', async () => {
    setTeam(own.db, run.id, ['lead'])
    await give(0, 'second')
    expect(teamIds(own.db, run.id)).to.deep.equal(['lead'])
    expect(teamOf(own.db, run.id).map(({ id }) => id)).to.deep.equal(['lead', 'second'])
  })

  it('a desk goes through the items in their order, or those of one person', async () => {
    await give(1, 'lead')
    for (const at of [0, 2, 3]) await give(at, 'tester')
    expect(queueOf(own.db, run.id, null).map(({ id }) => id)).to.deep.equal(run.items.map(({ id }) => id))
    expect(queueOf(own.db, run.id, 'lead').map(({ id }) => id)).to.deep.equal([item(1)])
    expect(queueOf(own.db, run.id, 'stranger')).to.deep.equal([])
  })

  it('what waits for a person is of open runs, and what is done waits no more', async () => {
    for (const at of [0, 1]) await give(at, 'tester')
    for (const at of [2, 3]) await give(at, 'lead')
    const waiting = () => openItemsOf(own.db, own.project().id, 'tester').map(({ id }) => id)
    expect(waiting()).to.have.members([item(0), item(1)])
    await execute(own, item(0), 'Passed')
    expect(waiting()).to.deep.equal([item(1)])
    expect(openItemsOf(own.db, own.project().id + 1, 'tester')).to.deep.equal([])
  })

  it('what waits is in the order of one’s days first, then by when it is due', async () => {
    for (const at of [0, 1, 2]) await give(at, 'tester')
    const place = (at: number, day: string, start: number) => ({
      item: item(at),
      person: 'tester',
      day,
      start,
      minutes: 5,
      pinned: false,
    })
    putPlaces(own.db, [place(2, '2001-01-01', 0), place(1, '2001-01-01', 5)])
    const waiting = openItemsOf(own.db, own.project().id, 'tester')
    expect(waiting.map(({ id }) => id)).to.deep.equal([item(2), item(1), item(0)])
    expect(waiting.map(({ plannedOn }) => plannedOn)).to.deep.equal(['2001-01-01', '2001-01-01', null])
  })

  it('earlier attempts are told without the one at hand and without what is not said yet', async () => {
    const card = await idOf(own.lead, cases[0] ?? '')
    const first = await execute(own, item(0), 'Failed')
    own.pass(minute)
    const second = await execute(own, item(0), 'Passed')
    const running = await start(own, item(0))
    const told = (attempt: number | null) => previousAttempts(own.db, card, { attempt }).map(({ id }) => id)
    expect(told(null)).to.deep.equal([second.id, first.id])
    expect(told(second.id)).to.deep.equal([first.id])
    expect(findAttempt(own.db, own.project().id, running.id)?.final).to.equal(false)
    expect(findAttempt(own.db, own.project().id + 1, running.id)).to.equal(undefined)
  })

  it('a case comes in a run to the newest of its verdicts, over its environments', async () => {
    const card = await idOf(own.lead, cases[0] ?? '')
    expect(verdictInRun(own.db, run.id, card)).to.equal('Not run')
    const of = itemsOfRun(own.db, run.id, null).filter(({ caseId }) => caseId === card)
    await execute(own, of[0]?.id ?? 0, 'Failed')
    own.pass(minute)
    await execute(own, of[1]?.id ?? 0, 'Passed')
    expect(verdictInRun(own.db, run.id, card)).to.equal('Passed')
  })

  it('a run is told with its verdicts counted, and in the order asked for', async () => {
    const other = await makeRun(own, cases.slice(0, 1))
    const second = findRun(own.db, own.project().id, 2)?.id ?? 0
    expect(other.key).to.equal('RN-2')
    await execute(own, item(0), 'Failed')
    const rows = runRows(own.db, own.project().id, [second, run.id])
    expect(rows.map(({ key, items, done }) => [key, items, done])).to.deep.equal([
      ['RN-2', 1, 0],
      ['RN-1', 4, 1],
    ])
    expect(rows[1]?.verdicts).to.deep.equal({ Failed: 1, 'Not run': 3 })
  })

  it('an item that was taken out is no item of the run, and its results stay', async () => {
    const attempt = await execute(own, item(0), 'Failed')
    await own.tester.ask(createDefect, {
      body: { title: 'Charged twice', severity: 'Major', from: { attempt: attempt.id, row: 1, step: null } },
    })
    saveItem(own.db, item(0), { deletedAt: own.now() })
    expect(findItem(own.db, own.project().id, item(0))).to.equal(undefined)
    expect(itemsOfRun(own.db, run.id, null)).to.have.lengthOf(3)
    expect(findAttempt(own.db, own.project().id, attempt.id)?.verdict).to.equal('Failed')
  })

  it('estimates are those given, and else what is guessed from the steps', async () => {
    const guessed = itemsOfRun(own.db, run.id, [item(0)])[0]?.minutes
    await own.lead.ask(changeItems, { params: { ref: 'RN-1' }, body: { ids: [item(0)], set: { estimate: 17 } } })
    expect(itemsOfRun(own.db, run.id, [item(0)])[0]?.minutes).to.equal(17)
    expect(guessed).to.not.equal(17)
  })
})
