import { expect } from 'chai'
import { listCases, updateCase } from '#core/cases/contract.ts'
import { listItems } from '#core/runs/contract.ts'
import { timeAttempt } from '#core/runs/note-contract.ts'
import { listMinutes, readSpent } from '#core/schedule/minutes-contract.ts'
import { fittedMinutes, isFarOff } from '#core/schedule/estimates.ts'
import { giveVerdicts } from '#core/runs/many-contract.ts'
import { learnedOf, putLearned, putModel } from '#db/schedule/minutes.ts'
import { minute, type Shop, shop } from '#test/app.ts'
import { caseOf, execute, idOf, makeCase, makeRun } from '#test/make.ts'
import { expectSound } from '#test/sound.ts'
import { renewMinutes } from './renew-minutes.ts'

/** Attempts of the first item of a run, each with its minutes typed by hand. */
async function spend(of: Shop, item: number, minutes: readonly number[]): Promise<void> {
  for (const each of minutes) {
    const attempt = await execute(of, item, 'Passed')
    await of.tester.ask(timeAttempt, { params: { id: attempt.id }, body: { minutes: each } })
    of.pass(minute)
  }
}

describe('minutes that are learned', () => {
  let of: Shop
  let key: string
  let run: Awaited<ReturnType<typeof makeRun>>
  beforeEach(async () => {
    of = shop()
    key = await makeCase(of.lead, 'Pay by card', { steps: ['One', 'Two'] })
    run = await makeRun(of, [key])
  })
  const item = () => run.items[0]?.id ?? 0
  const minutesOfItem = async () => (await of.viewer.ask(listItems, { params: { ref: run.key } })).rows[0]?.minutes
  const give = async (estimate: number | null) => {
    const { version } = await caseOf(of.lead, key)
    await of.lead.ask(updateCase, { params: { ref: key }, body: { estimate }, version })
  }

  it('take the place of the guess with the third attempt, and give way to what is given', async () => {
    const guessed = await minutesOfItem()
    await spend(of, item(), [20, 22])
    expect(await minutesOfItem()).to.equal(guessed)
    await spend(of, item(), [21])
    expect(await minutesOfItem()).to.equal(21)
    await give(7)
    expect(await minutesOfItem()).to.equal(7)
    expectSound(of)
  })

  it('are what is kept, whatever is done to attempts, and are set right by renewing where they are not', async () => {
    await spend(of, item(), [20, 22, 21, 24])
    const kept = () => learnedOf(of.db, of.project().id)
    const before = kept()
    expect(before.map(({ n }) => n)).to.deep.equal([4, 4])
    await renewMinutes(of.services)
    expect(kept()).to.deep.equal(before)
    putLearned(of.db, before[0]!, { minutes: 3, low: 2, high: 4, n: 9 })
    putLearned(of.db, before[1]!, null)
    await renewMinutes(of.services)
    expect(kept()).to.have.deep.members(before)
  })

  it('propose what is given far off, and count what is spent against what was planned', async () => {
    await spend(of, item(), [20, 22, 21])
    await give(60)
    const told = await of.viewer.ask(listMinutes)
    expect([told.total, told.far, told.next]).to.deep.equal([1, 1, null])
    expect(told.rows[0]).to.include({ key, given: 60, far: true, n: 3 })
    await give(22)
    expect((await of.viewer.ask(listMinutes)).rows).to.deep.equal([])
    expect((await of.viewer.ask(listMinutes, { query: { show: 'all' } })).rows).to.have.length(1)
    const spent = await of.viewer.ask(readSpent, { query: { by: 'environment' } })
    expect(spent.rows).to.deep.equal([{ name: 'Red', attempts: 3, planned: 66, spent: 63 }])
    expect((await of.tester.ask(readSpent, { query: { by: 'me' } })).rows.map(({ name }) => name)).to.deep.equal([
      `${key} Pay by card`,
    ])
    expect((await of.lead.ask(readSpent, { query: { by: 'me' } })).rows).to.deep.equal([])
  })

  it('tell by a regression what cases take that nobody has tried', async () => {
    for (let steps = 1; steps <= 14; steps++) {
      const own = await makeCase(of.lead, `Case ${steps}`, {
        steps: Array.from({ length: steps }, (_, at) => `Step ${at}`),
      })
      const other = await makeRun(of, [own])
      await spend(of, other.items[0]?.id ?? 0, [3 * (1 + steps), 3 * (1 + steps), 3 * (1 + steps)])
    }
    const fresh = await makeCase(of.lead, 'Never tried', { steps: ['1', '2', '3', '4', '5'] })
    await renewMinutes(of.services)
    const { model } = await of.viewer.ask(listMinutes)
    expect(model?.n).to.equal(14)
    const next = await makeRun(of, [fresh])
    const [row] = (await of.viewer.ask(listItems, { params: { ref: next.key } })).rows
    expect(row?.minutes).to.be.within(14, 22)
    expect((await of.viewer.ask(listCases, { query: { text: 'Never tried' } })).total).to.equal(1)
  })

  it('are far off in the list exactly where core calls them so', async () => {
    const id = await idOf(of.lead, key)
    for (const [given, learned, low, high] of [
      [15, 10, 8, 12],
      [16, 10, 8, 12],
      [16, 10, 5, 20],
      [6, 10, 8, 12],
      [6, 10, 5, 20],
      [7, 10, 8, 12],
    ] as const) {
      const taught = { minutes: learned, low, high, n: 5 }
      putLearned(of.db, { caseId: id, environmentId: 0 }, taught)
      await give(given)
      const [row] = (await of.viewer.ask(listMinutes, { query: { show: 'all' } })).rows
      expect(row?.far, `${given} for ${learned}`).to.equal(isFarOff(given, taught))
    }
  })

  it('are those of core’s regression for a case nobody has tried', async () => {
    const model = {
      base: 2.3,
      steps: 0.7,
      rows: 0.5,
      factors: new Map([[of.environments[0] ?? 0, 1.6]]),
      spread: 0.2,
      n: 20,
    }
    putModel(of.db, of.project().id, model, of.now())
    const told = fittedMinutes(model, { steps: 2, rows: 1, environment: of.environments[0] ?? 0 })
    expect(await minutesOfItem()).to.equal(Math.round(told.minutes))
  })

  it('are not taught by what was shared out over many', async () => {
    for (const verdict of ['Passed', 'Failed', 'Passed', 'Failed'] as const) {
      await of.lead.ask(giveVerdicts, {
        params: { ref: run.key },
        body: { ids: [item()], verdict, reason: 'seen elsewhere', seconds: 2400 },
      })
      of.pass(minute)
    }
    expect(learnedOf(of.db, of.project().id)).to.deep.equal([])
  })
})
