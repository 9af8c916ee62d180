import { expect } from 'chai'
import { expectSound } from '#test/sound.ts'
import { listItems, readRun, updateRun } from '#core/runs/contract.ts'
import { readDesk } from '#core/runs/desk-contract.ts'
import { giveVerdicts, takeVerdictsBack } from '#core/runs/many-contract.ts'
import { listHistory } from '#core/history/contract.ts'
import { shop, type Shop } from '#test/app.ts'
import { execute, makeCase, makeRun } from '#test/make.ts'

describe('one verdict for many items', () => {
  let of: Shop
  let run: Awaited<ReturnType<typeof makeRun>>
  let ids: number[]
  beforeEach(async () => {
    of = shop()
    run = await makeRun(of, [
      await makeCase(of.lead, 'A'),
      await makeCase(of.lead, 'B', { steps: ['Do', 'Look'] }),
      await makeCase(of.lead, 'C'),
    ])
    ids = run.items.map(({ id }) => id)
  })
  /** What is derived is what the attempts say. */
  afterEach(() => {
    expectSound(of)
  })
  const give = (verdict: 'Skipped' | 'Blocked', some = ids) =>
    of.lead.ask(giveVerdicts, { params: { ref: run.key }, body: { ids: some, verdict, reason: 'The bench is away' } })
  const shown = async () =>
    (await of.lead.ask(listItems, { params: { ref: run.key } })).rows.map(({ verdict, assigneeId }) => [
      verdict,
      assigneeId,
    ])

  it('stands with its reason in an attempt of each, which took no time; nobody becomes their tester by it', async () => {
    const before = await shown()
    expect((await give('Skipped')).changed).to.equal(3)
    expect(await shown()).to.deep.equal(before.map(([, assignee]) => ['Skipped', assignee]))
    const { attempt } = await of.lead.ask(readDesk, { params: { id: ids[1] ?? 0 } })
    expect([attempt?.comment, attempt?.seconds, attempt?.final]).to.deep.equal(['The bench is away', 0, true])
    const { rows } = await of.lead.ask(listHistory, { query: { kind: 'attempt' } })
    expect(rows.filter(({ action }) => action === 'recorded')).to.have.length(3)
  })
  it('is taken back as one act; what was executed before counts again, and the attempts stay', async () => {
    await execute(of, ids[0] ?? 0, 'Passed')
    of.pass(1000)
    const { undo } = await give('Blocked')
    expect((await shown()).map(([verdict]) => verdict)).to.deep.equal(['Blocked', 'Blocked', 'Blocked'])
    await of.lead.ask(takeVerdictsBack, { params: { ref: run.key }, body: { ids: undo } })
    expect((await shown()).map(([verdict]) => verdict)).to.deep.equal(['Not run', 'Not run', 'Not run'])
    const { before } = await of.lead.ask(readDesk, { params: { id: ids[0] ?? 0 } })
    expect(before.map(({ verdict }) => verdict)).to.include('Passed')
  })
  it('is refused as a whole for items of another run, for a run that is not open, and for those who do not lead', async () => {
    const other = await makeRun(of, ['TC-1'])
    const body = { ids: [...ids, other.items[0]?.id ?? 0], verdict: 'Skipped' as const, reason: 'No' }
    expect((await of.lead.refused(giveVerdicts, { params: { ref: run.key }, body })).detail).to.match(/another run/)
    expect((await shown()).map(([verdict]) => verdict)).to.deep.equal(['Not run', 'Not run', 'Not run'])
    expect((await of.tester.refused(giveVerdicts, { params: { ref: run.key }, body })).status).to.equal(403)
    const { undo } = await give('Skipped', ids.slice(0, 1))
    const back = { params: { ref: other.key }, body: { ids: undo } }
    expect((await of.lead.refused(takeVerdictsBack, back)).detail).to.match(/another run/)
    await of.lead.ask(updateRun, { params: { ref: run.key }, body: { state: 'Closed' }, version: 1 })
    const closed = await of.lead.refused(giveVerdicts, { params: { ref: run.key }, body: { ...body, ids } })
    expect(closed.detail).to.match(/only an open run is executed/)
  })
})

describe('a run that ends', () => {
  it('early is asked why; the reason is shown, kept in history, and gone once it goes on', async () => {
    const of = shop()
    const run = await makeRun(of, [await makeCase(of.lead, 'A')])
    const params = { ref: run.key }
    const refused = await of.lead.refused(updateRun, { params, body: { state: 'Aborted' }, version: 1 })
    expect([refused.detail, refused.fields]).to.deep.equal([
      `Say why ${run.key} ends early; nothing was changed.`,
      ['reason'],
    ])
    await of.lead.ask(updateRun, { params, body: { state: 'Aborted', reason: 'The build was withdrawn' }, version: 1 })
    const sheet = () => of.lead.ask(readRun, { params })
    expect([(await sheet()).state, (await sheet()).endedReason]).to.deep.equal(['Aborted', 'The build was withdrawn'])
    const { rows } = await of.lead.ask(listHistory, { query: { ref: run.key } })
    expect(JSON.stringify(rows[0])).to.include('The build was withdrawn')
    await of.lead.ask(updateRun, { params, body: { state: 'Open' }, version: 2 })
    expect([(await sheet()).endedReason, (await sheet()).closedAt]).to.deep.equal(['', null])
  })
})
