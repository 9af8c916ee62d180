import { expect } from 'chai'
import { expectSound } from '#test/sound.ts'
import { listHistory } from '#core/history/contract.ts'
import { readProject, updateProject } from '#core/projects/contract.ts'
import { setPolicy } from '#core/projects/words-contract.ts'
import { createRun, listItems, readRun, updateRun } from '#core/runs/contract.ts'
import { readDesk, recordStep, startAttempt } from '#core/runs/desk-contract.ts'
import { commentStep } from '#core/runs/note-contract.ts'
import { type Policy, usualPolicy } from '#core/projects/policy.ts'
import { replayAttempts } from '#db/runs/replay.ts'
import { closeRuns, quietFor } from './close-runs.ts'
import { day, minute, type Shop, shop } from '#test/app.ts'
import { execute, makeCase, makeRun, sent, start, whole } from '#test/make.ts'

type Rules = Partial<Policy>
const ruled = async (of: Shop, rules: Rules) => {
  const { policyVersion: version } = await of.lead.ask(readProject)
  return of.lead.ask(setPolicy, { body: { ...usualPolicy, ...rules }, version })
}
const runOf = async (of: Shop, steps = ['Do', 'Look']) => {
  const run = await makeRun(of, [await makeCase(of.lead, 'Pays', { steps })])
  return { ...run, id: run.items[0]?.id ?? 0 }
}
const desk = (of: Shop, id: number) => of.tester.ask(readDesk, { params: { id } })
const sheet = (of: Shop, ref: string) => of.lead.ask(readRun, { params: { ref } })
const change = async (of: Shop, ref: string, body: object) =>
  of.lead.ask(updateRun, { params: { ref }, body, version: (await sheet(of, ref)).version })
/** What is derived is what the attempts say, under the policies they began with. */
const isSound = (of: Shop) => {
  expectSound(of)
  expect([...replayAttempts(of.db)].filter(({ differs }) => differs)).to.deep.equal([])
}

describe('when a run closes', () => {
  const state = async (of: Shop, ref: string) => (await sheet(of, ref)).state
  const tick = (of: Shop) => closeRuns(of.services)

  it('by hand: neither when all is executed nor at its end', async () => {
    const of = shop()
    const run = await runOf(of)
    await execute(of, run.id, 'Failed')
    of.pass(20 * day)
    expect([tick(of), await state(of, run.key)]).to.deep.equal([0, 'Open'])
  })
  it('when all is executed, once nothing was said for ten minutes, and nothing is asked for any more', async () => {
    const of = shop()
    await ruled(of, { closes: 'when all is executed', asked: { Failed: ['a word'] } })
    const run = await makeRun(of, [
      await makeCase(of.lead, 'A', { steps: ['Do'] }),
      await makeCase(of.lead, 'B', { steps: ['Do'] }),
    ])
    const [first, second] = run.items.map(({ id }) => id)
    const attempt = await execute(of, first ?? 0, 'Failed')
    of.pass(quietFor)
    expect(tick(of)).to.equal(0)
    await execute(of, second ?? 0, 'Passed')
    of.pass(quietFor)
    expect(tick(of), 'a word is asked for').to.equal(0)
    const place = { id: attempt.id, row: 1, step: attempt.steps[0]?.id ?? 0 }
    await of.tester.ask(commentStep, { params: place, body: { text: 'It froze' } })
    await whole(of, (await start(of, second ?? 0)).id, 'Passed')
    of.pass(quietFor - minute)
    expect(tick(of), 'the last verdict is fresh').to.equal(0)
    of.pass(minute)
    expect([tick(of), tick(of)]).to.deep.equal([1, 0])
    const closed = await sheet(of, run.key)
    expect([closed.state, closed.endedReason]).to.deep.equal(['Closed', 'By its policy: all is executed.'])
    const { rows } = await of.lead.ask(listHistory, { query: { ref: run.key } })
    expect([rows[0]?.action, rows[0]?.person]).to.deep.equal(['closed', null])
  })
  it('at its end: the day after its last, by the days of the project; what is open stays as it is', async () => {
    const of = shop()
    await ruled(of, { closes: 'at its end' })
    const run = await runOf(of)
    of.pass(7 * day)
    expect([tick(of), await state(of, run.key)]).to.deep.equal([0, 'Open'])
    of.pass(day)
    expect([tick(of), await state(of, run.key)]).to.deep.equal([1, 'Closed'])
    expect((await desk(of, run.id)).item.verdict).to.equal('Not run')
  })
})

describe('results of a closed run', () => {
  const closedWith = async (of: Shop, rules: Rules) => {
    await ruled(of, rules)
    const run = await runOf(of)
    const attempt = await execute(of, run.id, 'Failed')
    of.pass(minute)
    await change(of, run.key, { state: 'Closed' })
    of.pass(minute)
    return { ...run, attempt }
  }
  const amend = async (
    of: Shop,
    by: 'tester' | 'lead',
    { attempt }: { attempt: { id: number; steps: readonly { id: number }[] } },
  ) =>
    of[by].ask(recordStep, {
      params: { id: attempt.id, row: 1, step: attempt.steps[0]?.id ?? 0 },
      body: { verdict: 'Blocked', ...sent(of), client: `test-${by}-1` },
    })

  it('stay where nobody may amend them', async () => {
    const of = shop()
    const run = await closedWith(of, {})
    expect((await amend(of, 'lead', run)).counts).to.equal(false)
    expect((await desk(of, run.id)).item.verdict).to.equal('Failed')
  })
  it('are amended by leads, for so many days, and marked', async () => {
    const of = shop()
    const run = await closedWith(of, { amends: 'leads', amendDays: 2 })
    expect([(await desk(of, run.id)).run.amendUntil, (await amend(of, 'tester', run)).counts]).to.deep.equal([
      null,
      false,
    ])
    const answer = await amend(of, 'lead', run)
    expect([answer.counts, answer.itemVerdict, answer.said]).to.deep.equal([
      true,
      'Blocked',
      'RN-1 is closed; this amends its result, and counts.',
    ])
    const shown = await sheet(of, run.key)
    expect([shown.state, shown.afterCloseCount, shown.amendedCount]).to.deep.equal(['Closed', 2, 1])
    expect(shown.afterClose.map(({ verdict, counts }) => [verdict, counts])).to.deep.equal([
      ['Blocked', true],
      ['Blocked', false],
    ])
    expect((await desk(of, run.id)).attempt?.odd).to.deep.include({ amended: 1, afterClose: 1 })
    isSound(of)
    of.pass(2 * day)
    expect((await amend(of, 'lead', run)).counts, 'the time is over').to.equal(false)
    isSound(of)
  })
  it('are amended by everybody who executes, also under rules of the run’s own', async () => {
    const of = shop()
    const run = await closedWith(of, {})
    await change(of, run.key, { policy: { ...usualPolicy, amends: 'everybody', amendDays: 1 } })
    expect((await desk(of, run.id)).run.amendUntil).to.equal(of.now() - minute + day)
    expect((await amend(of, 'tester', run)).counts).to.equal(true)
    expect((await amend(of, 'tester', run)).counts).to.equal(true)
    isSound(of)
  })
})

describe('what is executed, and what spoils it', () => {
  it('is an approved version alone, where the run says so and the project does not', async () => {
    const of = shop()
    const run = await runOf(of)
    await change(of, run.key, { policy: { ...usualPolicy, approvedOnly: true } })
    expect((await of.tester.refused(startAttempt, { params: { id: run.id }, body: {} })).detail).to.equal(
      'TC-1 has no approved version, and this run executes approved cases only.',
    )
    expect((await sheet(of, run.key)).unapproved).to.deep.equal(['TC-1'])
  })
  it('a result on another build counts as still to be done, until the run is closed', async () => {
    const of = shop()
    await ruled(of, { spoiledByBuild: true })
    const run = await makeRun(of, [await makeCase(of.lead, 'A')], { build: of.builds[0] })
    const id = run.items[0]?.id ?? 0
    await execute(of, id, 'Passed')
    const figures = async () => {
      const { done, spoiled, outcome } = await sheet(of, run.key)
      return [done, spoiled, outcome]
    }
    expect(await figures()).to.deep.equal([1, 0, 'Passed'])
    await change(of, run.key, { build: of.builds[1] })
    expect(await figures()).to.deep.equal([0, 1, 'Not run'])
    const { rows } = await of.lead.ask(listItems, {
      params: { ref: run.key },
      query: { filter: JSON.stringify({ field: 'spoiled', op: 'is', values: ['another build'] }) },
    })
    expect(rows.map((row) => [row.verdict, row.spoiled])).to.deep.equal([['Passed', 'another build']])
    await change(of, run.key, { state: 'Closed' })
    expect(await figures()).to.deep.equal([1, 0, 'Passed'])
  })
  it('a result of a changed case counts as still to be done', async () => {
    const of = shop()
    await ruled(of, { spoiledByCase: true })
    const key = await makeCase(of.lead, 'A', { steps: ['Do'] })
    const run = await makeRun(of, [key])
    await execute(of, run.items[0]?.id ?? 0, 'Passed')
    expect((await sheet(of, run.key)).spoiled).to.equal(0)
    of.db.$client.prepare('update case_version set fingerprint = ? where case_id = 1').run('as it was')
    await makeRun(of, [await makeCase(of.lead, 'B')])
    of.db.$client
      .prepare(
        `insert into case_version (case_id, major, minor, fingerprint, created_at, preconditions)
         values (1, 0, 9, 'another', ?, '')`,
      )
      .run(of.now())
    of.db.$client
      .prepare(
        'update test_case set newest_version_id = (select max(id) from case_version where case_id = 1) where id = 1',
      )
      .run()
    expect((await sheet(of, run.key)).spoiled).to.equal(1)
  })
})

describe('changing the rules', () => {
  it('two leads at once: the second is told, and the first one’s stand', async () => {
    const of = shop()
    const { policyVersion: version } = await of.lead.ask(readProject)
    await of.lead.ask(setPolicy, { body: { ...usualPolicy, records: 'named' }, version })
    const refused = await of.as('second').refused(setPolicy, { body: { ...usualPolicy, decides: 'tester' }, version })
    expect([refused.status, refused.detail]).to.deep.equal([
      412,
      'Somebody changed the policy while you were writing. Your text is kept here; look at the newer one, then store again.',
    ])
    expect((await of.lead.ask(readProject)).policy).to.deep.equal({ ...usualPolicy, records: 'named' })
  })
  it('is history in words, and makes rows that never change; the same rules are one row', async () => {
    const of = shop()
    await ruled(of, { records: 'named' })
    await ruled(of, { records: 'anyone' })
    await ruled(of, { records: 'named' })
    const { rows } = await of.lead.ask(listHistory, { query: { kind: 'project' } })
    expect(rows.map(({ action }) => action)).to.deep.equal(['policy changed', 'policy changed', 'policy changed'])
    expect(JSON.stringify(rows[0])).to.include('Only the named person records')
    expect(of.db.$client.prepare('select count(*) as n from policy').get()).to.deep.equal({ n: 2 })
  })
  it('of a run: its own stay when the project’s change, and go back to the project’s', async () => {
    const of = shop()
    const run = await of.lead.ask(createRun, {
      body: {
        title: 'Own rules',
        build: of.builds[1],
        cases: [(await of.lead.ask(listItems, { params: { ref: (await runOf(of)).key } })).rows[0]?.caseId ?? 0],
        environments: [of.environments[0]],
        startOn: '2026-11-23',
        endOn: '2026-11-30',
        policy: { ...usualPolicy, decides: 'tester' },
      },
    })
    await ruled(of, { records: 'named' })
    const own = await sheet(of, run.key)
    expect([own.ownPolicy, own.policy.decides, own.policy.records]).to.deep.equal([true, 'tester', 'anyone'])
    await change(of, run.key, { policy: null })
    const as = await sheet(of, run.key)
    expect([as.ownPolicy, as.policy.decides, as.policy.records]).to.deep.equal([false, 'steps', 'named'])
    const { rows } = await of.lead.ask(listHistory, { query: { ref: run.key } })
    expect(rows[0]?.action).to.equal('policy changed')
  })
  it('is refused to those who do not lead, and with days that cannot be', async () => {
    const of = shop()
    const body = { ...usualPolicy, amends: 'leads' as const }
    expect((await of.tester.refused(setPolicy, { body, version: 0 })).status).to.equal(403)
    const refused = await of.lead.refused(setPolicy, { body: { ...body, amendDays: 0 }, version: 0 })
    expect([refused.status, refused.fields]).to.deep.equal([400, ['amendDays']])
  })
  it('a project that asks for approval goes on asking', async () => {
    const of = shop()
    await of.lead.ask(updateProject, { body: { approvalRequired: true } })
    await ruled(of, { approvedOnly: false, decides: 'tester' })
    const run = await runOf(of)
    expect((await of.tester.refused(startAttempt, { params: { id: run.id }, body: {} })).detail).to.match(
      /this project executes approved cases only/,
    )
  })
})
