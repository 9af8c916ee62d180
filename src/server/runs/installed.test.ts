import { expect } from 'chai'
import { expectSound } from '#test/sound.ts'
import { writeCaseLines } from '#core/cases/contract.ts'
import { correctInstalled, listInstalled, sayInstalled, takeBackInstalled } from '#core/projects/installed-contract.ts'
import { addOutage, doubtOutage, listEnvironments } from '#core/projects/environments-contract.ts'
import { readCoverage } from '#core/reports/contract.ts'
import { listItems, updateRun } from '#core/runs/contract.ts'
import { readDesk, startAttempt } from '#core/runs/desk-contract.ts'
import { listHistory, stopGoing } from '#core/history/contract.ts'
import { findAttempt } from '#db/runs/attempts.ts'
import { findProject } from '#db/projects/projects.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { execute, makeCase, makePlan, makeRequirements, makeRun, meanwhile } from '#test/make.ts'

describe('which build is installed where', () => {
  let of: Shop
  let red: number
  let old: number
  let items: readonly { readonly id: number }[]
  let run: string
  let start: number
  beforeEach(async () => {
    of = shop()
    start = of.now()
    ;[red] = of.environments
    ;[old] = of.builds
    const [fares = ''] = await makeRequirements(of.lead, 'Fares')
    const cases = [await makeCase(of.lead, 'One', { proves: fares }), await makeCase(of.lead, 'Two', { proves: fares })]
    await makePlan(of, cases, [red])
    const made = await makeRun(of, cases)
    ;[items, run] = [made.items, made.key]
    of.pass(minute)
  })
  const say = (build: number | string | null, more: object = {}) =>
    of.tester.ask(sayInstalled, { body: { environment: red, build, ...more } })
  const desk = (at = 0) => of.tester.ask(readDesk, { params: { id: items[at]?.id ?? 0 } })
  const buildOf = (id: number) => {
    const own = findAttempt(of.db, findProject(of.db, 'SHOP')?.id ?? 0, id)
    return [own?.buildId === old ? '1.0.0' : '1.0.1', own?.buildBy]
  }
  /** What stands everywhere is what the attempts come to. */
  const isSound = () => {
    expectSound(of)
  }
  afterEach(isSound)
  const passes = (at = 0) => execute(of, items[at]?.id ?? 0, 'Passed')
  const passing = async (build: string) =>
    (await of.lead.ask(readCoverage, { query: { release: '1.0', build } })).total.figures.verdicts['Passed'] ?? 0

  it('is the build of what is executed there, which the desk shows; else that of the run is', async () => {
    expect(buildOf((await passes()).id)).to.deep.equal(['1.0.1', 'run'])
    await say('1.0.0')
    const { installed, run: shown } = await desk(1)
    expect([installed?.name, installed?.by, shown.build]).to.deep.equal(['1.0.0', 'Tester Person', '1.0.1'])
    expect(buildOf((await passes(1)).id)).to.deep.equal(['1.0.0', 'installation'])
    of.pass(minute)
    await say(null)
    expect((await desk()).installed).to.equal(null)
    expect(buildOf((await passes()).id)).to.deep.equal(['1.0.1', 'run'])
  })
  it('can be denied by whoever executes, and then stays what they said', async () => {
    await say('1.0.0')
    const id = items[0]?.id ?? 0
    const third = { build: 999 }
    expect((await of.tester.refused(startAttempt, { params: { id }, body: third })).status).to.be.within(400, 422)
    const { id: attempt } = await of.tester.ask(startAttempt, { params: { id }, body: { build: of.builds[1] } })
    expect(buildOf(attempt)).to.deep.equal(['1.0.1', 'person'])
    const { rows } = await of.tester.ask(listInstalled)
    const { moves } = await of.tester.ask(takeBackInstalled, { params: { id: rows[0]?.id ?? 0 } })
    expect([moves.total, buildOf(attempt)]).to.deep.equal([0, ['1.0.1', 'person']])
  })
  it('is said by a pipeline by names, as often as it likes; what is not there is refused', async () => {
    const made = await of.tester.ask(sayInstalled, { body: { environment: 'Red', build: '1.0.0' } })
    of.pass(minute)
    expect((await say('1.0.0')).id).to.equal(made.id)
    expect((await of.tester.ask(listInstalled)).rows).to.have.length(1)
    const refused = async (body: object) =>
      (await of.tester.refused(sayInstalled, { body: { environment: red, build: old, ...body } })).detail
    expect(await refused({ build: '9.9' })).to.equal('There is no build 9.9 in this project; nothing was stored.')
    expect(await refused({ environment: 'Green' })).to.equal(
      'There is no environment Green in this project; nothing was stored.',
    )
    expect(await refused({ fromAt: of.now() + 600_000 })).to.equal('That instant is still to come; nothing was stored.')
    expect(await refused({ build: null, fromAt: start + minute })).to.match(/since that very instant; correct that one/)
    expect((await of.viewer.refused(sayInstalled, { body: { environment: red, build: old } })).status).to.equal(403)
  })
  describe('said afterwards', () => {
    let attempts: number[]
    beforeEach(async () => {
      attempts = [(await passes(0)).id]
      of.pass(minute)
      attempts.push((await passes(1)).id)
      of.pass(minute)
    })
    it('tells first which attempts would go to which build, and then moves them, each with a line of history', async () => {
      const told = await say('1.0.0', { fromAt: start, only: 'told' })
      expect([told.id, told.moves.total, told.moves.rows.map((row) => [row.case, row.from, row.to])]).to.deep.equal([
        null,
        2,
        [
          ['TC-1', '1.0.1', '1.0.0'],
          ['TC-2', '1.0.1', '1.0.0'],
        ],
      ])
      expect((await of.tester.ask(listInstalled)).rows).to.deep.equal([])
      expect([await passing('1.0.0'), await passing('1.0.1')]).to.deep.equal([0, 2])
      expect((await say('1.0.0', { fromAt: start })).moves.total).to.equal(2)
      expect(attempts.map(buildOf)).to.deep.equal([
        ['1.0.0', 'installation'],
        ['1.0.0', 'installation'],
      ])
      expect(await passing('1.0.0')).to.equal(2)
      const { rows } = await of.lead.ask(listHistory, { query: { kind: 'attempt' } })
      expect(rows[0]).to.deep.include({ action: 'build corrected', person: 'Tester Person' })
    })
    it('moves those of its time alone, and back again when it is corrected or taken back', async () => {
      const { id } = await say('1.0.0', { fromAt: start + minute + 30_000 })
      expect(attempts.map((each) => buildOf(each)[0])).to.deep.equal(['1.0.1', '1.0.0'])
      const params = { id: id ?? 0 }
      const told = await of.tester.ask(correctInstalled, { params, body: { fromAt: start, only: 'told' } })
      expect([told.moves.total, told.moves.rows[0]?.case]).to.deep.equal([1, 'TC-1'])
      await of.tester.ask(correctInstalled, { params, body: { fromAt: start } })
      expect(attempts.map((each) => buildOf(each)[0])).to.deep.equal(['1.0.0', '1.0.0'])
      await of.tester.ask(takeBackInstalled, { params })
      expect(attempts.map((each) => buildOf(each)[0])).to.deep.equal(['1.0.1', '1.0.1'])
      await of.tester.ask(takeBackInstalled, { params, query: { undo: 'yes' } })
      expect(attempts.map((each) => buildOf(each)[0])).to.deep.equal(['1.0.0', '1.0.0'])
    })
    it('moves them back to the build their run had then, whatever it is on by now', async () => {
      await of.lead.ask(updateRun, { params: { ref: run }, body: { build: old }, version: 1 })
      const { id } = await say(old, { fromAt: start })
      expect(attempts.map((each) => buildOf(each)[0])).to.deep.equal(['1.0.0', '1.0.0'])
      await of.tester.ask(takeBackInstalled, { params: { id: id ?? 0 } })
      expect(attempts.map((each) => buildOf(each)[0])).to.deep.equal(['1.0.1', '1.0.1'])
    })
    it('tells how many of them are in closed runs', async () => {
      await of.lead.ask(updateRun, { params: { ref: run }, body: { state: 'Closed' }, version: 1 })
      expect((await say('1.0.0', { fromAt: start, only: 'told' })).moves.inClosed).to.equal(2)
    })
    it('lists until when it stood, and how many were begun meanwhile', async () => {
      await say('1.0.0', { fromAt: start })
      await say('1.0.1', { fromAt: start + minute + 30_000 })
      const { rows } = await of.tester.ask(listInstalled, { query: { environment: red } })
      expect(rows.map(({ build, untilAt, attempts: n }) => [build?.name, untilAt, n])).to.deep.equal([
        ['1.0.1', null, 1],
        ['1.0.0', start + minute + 30_000, 1],
      ])
    })
  })
  describe('said of hundreds of attempts', () => {
    const many = 130
    beforeEach(async () => {
      const lines = Array.from({ length: many }, (_, n) => `Case ${n}\n  Do => Done`).join('\n')
      await of.tester.ask(writeCaseLines, { body: { lines } })
      const made = await makeRun(
        of,
        Array.from({ length: many }, (_, n) => `TC-${n + 3}`),
      )
      const { rows } = await of.lead.ask(listItems, { params: { ref: made.key }, query: { limit: 200 } })
      for (const { id } of rows) await execute(of, id, 'Passed')
      of.pass(minute)
    })
    const count = (text: string) => Number(of.db.$client.prepare(`select count(*) from ${text}`).pluck().get())
    const moved = () => count(`attempt where build_by = 'installation'`)
    const told = () => count(`change where action = 'build corrected'`)

    it('moves them one after the other once it is stored; stopped half way it says so, and said again it moves the rest', async () => {
      let stopping: Promise<unknown> = Promise.resolve()
      meanwhile(of, () => void (stopping = of.tester.ask(stopGoing, { params: { job: 'j1' } })), 2)
      const body = { environment: red, build: old, fromAt: start }
      const { body: first } = await of.tester.send('POST', '/projects/SHOP/installations', body, { 'rovant-job': 'j1' })
      await stopping
      expect(moved()).to.be.within(1, many - 1)
      expect([first.moves.total, first.moves.stopped]).to.deep.equal([
        many,
        `It ended after ${moved()} of ${many}; do it again for the rest.`,
      ])
      isSound()
      const rest = many - moved()
      const again = await of.tester.ask(correctInstalled, { params: { id: first.id }, body: { fromAt: start } })
      expect([again.moves.total, again.moves.stopped]).to.deep.equal([rest, null])
      expect([moved(), told()]).to.deep.equal([many, many])
    })
  })
  describe('and an outage', () => {
    it('whose attempts are doubted in one act and believed again: none of them is current meanwhile', async () => {
      await passes(0)
      of.pass(minute)
      await of.tester.ask(addOutage, {
        body: { environment: red, fromAt: of.now() - 10, untilAt: of.now() + minute, reason: 'The mast is down' },
      })
      await passes(1)
      of.pass(10 * minute)
      const outage = async () =>
        (await of.lead.ask(listEnvironments)).rows.flatMap(({ outages }) => outages)[0] ?? {
          id: 0,
          attempts: 0,
          doubted: 0,
        }
      const current = async () =>
        (await of.lead.ask(readCoverage, { query: { release: '1.0' } })).total.figures.passing.plain
      const before = await current()
      const { id, attempts, doubted } = await outage()
      expect([attempts, doubted, before.recorded, before.current]).to.deep.equal([1, 0, 1, 1])
      const act = (doubt: boolean) => of.lead.ask(doubtOutage, { params: { id }, body: { doubt } })
      expect(await act(true)).to.deep.equal({ attempts: 1, stopped: null })
      const after = await current()
      expect([after.recorded, after.current, (await outage()).doubted]).to.deep.equal([1, 0.5, 1])
      expect((await desk(1)).attempt?.doubt).to.equal('made in an outage: The mast is down')
      expect(await act(true)).to.deep.equal({ attempts: 0, stopped: null })
      await act(false)
      expect([await current(), (await outage()).doubted]).to.deep.equal([before, 0])
    })
  })
})
