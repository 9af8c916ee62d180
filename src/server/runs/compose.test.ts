import { expect } from 'chai'
import fc from 'fast-check'
import { changeCases, cutVersion, storeWorkingCopy } from '#core/cases/contract.ts'
import { createRun, listItems, readRun, updateRun } from '#core/runs/contract.ts'
import { addItems, composeItems, composeRun, dropItems } from '#core/runs/compose-contract.ts'
import { type RunReason, runReasons } from '#core/runs/compose.ts'
import { updateRequirement } from '#core/requirements/contract.ts'
import { type FinalVerdict, finalVerdicts } from '#core/lib/verdict.ts'
import { addBuild } from '#db/projects/releases.ts'
import { dropLeftovers } from '#server/formats/leftovers.ts'
import { day, minute, shop, type Shop } from '#test/app.ts'
import { caseOf, execute, idsOf, makeCase, makeDefect, makePlan, makeRequirements, makeRun, whole } from '#test/make.ts'

const reasonsIn = (...reasons: RunReason[]) => reasons.join(',')

describe('what is executed again', () => {
  let of: Shop
  let fares: string
  let keys: string[]
  let run: Awaited<ReturnType<typeof makeRun>>
  beforeEach(async () => {
    of = shop()
    ;[fares = ''] = await makeRequirements(of.lead, 'Fares')
    keys = []
    for (const title of ['Adult', 'Child', 'Senior', 'Group'])
      keys.push(await makeCase(of.lead, title, { proves: fares }))
    run = await makeRun(of, keys)
    of.pass(minute)
  })
  const give = async (at: number, verdict: FinalVerdict) => {
    const attempt = await execute(of, run.items[at]?.id ?? 0, 'Passed')
    if (verdict !== 'Passed') await whole(of, attempt.id, verdict, 'so it is')
    of.pass(minute)
    return attempt
  }
  const again = (query: object = {}) =>
    of.tester.ask(composeRun, { query: { build: of.builds[1], runs: run.key, ...query } as never })
  const shown = async (query: object = {}) => (await again(query)).rows.map(({ key, why }) => `${key} ${why}`)

  it('is counted by each reason, and listed with why for those chosen', async () => {
    await give(0, 'Passed')
    await give(1, 'Failed')
    await give(2, 'Blocked')
    const told = await again({ reasons: reasonsIn('failed', 'stuck') })
    expect(told.counts).to.deep.equal({ failed: 1, stuck: 1, 'basis changed': 0, 'too old': 0, 'never tried': 1 })
    expect([told.looked, told.total, told.one, told.several]).to.deep.equal([4, 2, 2, 0])
    expect(told.rows.map(({ key, verdict, why }) => [key, verdict, why])).to.deep.equal([
      ['TC-2', 'Failed', 'failed'],
      ['TC-3', 'Blocked', 'stuck'],
    ])
    expect(told.minutes).to.equal(told.rows.reduce((sum, { minutes }) => sum + minutes, 0))
  })
  it('names the defect it waits for, what was reworded, and how old a result is', async () => {
    const failed = await give(1, 'Failed')
    await makeDefect(of, failed)
    await give(0, 'Passed')
    expect(await shown({ reasons: reasonsIn('failed') })).to.deep.equal(['TC-2 failed: DF-1'])
    await of.lead.ask(updateRequirement, { params: { ref: fares }, body: { text: '<p>Anew</p>' }, version: 1 })
    expect(await shown({ reasons: reasonsIn('basis changed') })).to.deep.equal([
      'TC-1 RQ-1 changed',
      'TC-2 failed: DF-1 · RQ-1 changed',
    ])
    expect((await again({ reasons: reasonsIn('failed', 'basis changed') })).several).to.equal(1)
    of.pass(20 * day)
    expect(await shown({ reasons: reasonsIn('too old') })).to.deep.equal([
      'TC-1 RQ-1 changed · 20 days old',
      'TC-2 failed: DF-1 · RQ-1 changed · 20 days old',
    ])
  })
  it('knows what stood at the end of another release, judged on the first build of the next', async () => {
    await give(1, 'Failed')
    await give(0, 'Passed')
    const next = addBuild(of.db, of.project().id, { releaseId: of.nextRelease, name: '2.0.0', offeredAt: of.now() })
    const told = await again({ build: next, reasons: reasonsIn('failed', 'never tried') })
    expect(told.rows.map(({ key, verdict, why }) => [key, verdict, why])).to.deep.equal([
      ['TC-2', 'Failed', 'failed'],
      ['TC-3', 'Not run', 'never tried'],
      ['TC-4', 'Not run', 'never tried'],
    ])
    // Nobody said what the new build touches: one alone does not make a result old.
    expect((await again({ build: next, reasons: reasonsIn('too old', 'basis changed') })).total).to.equal(0)
  })
  it('knows what was found out in another run since', async () => {
    await give(1, 'Failed')
    const other = await makeRun(of, [keys[1] ?? ''])
    expect(await shown({ reasons: reasonsIn('failed') })).to.deep.equal(['TC-2 failed'])
    await execute(of, other.items[0]?.id ?? 0, 'Passed')
    expect(await shown({ reasons: reasonsIn('failed') })).to.deep.equal([])
  })
  it('is narrowed by words and by any filter of cases, also by what was found out in executing them', async () => {
    await give(1, 'Failed')
    await give(2, 'Failed')
    await of.lead.ask(changeCases, {
      body: { ids: await idsOf(of.lead, [keys[2] ?? '']), set: { importance: 'Critical' } },
    })
    const reasons = reasonsIn('failed')
    const filtered = (field: string, ...values: string[]) =>
      shown({ reasons, filter: JSON.stringify({ field, op: 'is', values }) })
    expect(await filtered('importance', 'Critical')).to.deep.equal(['TC-3 failed'])
    expect(await filtered('earlier', 'Failed')).to.have.length(2)
    expect(await filtered('tester', 'Tester Person')).to.have.length(2)
    expect(await filtered('tester', 'Lead Person')).to.deep.equal([])
    expect(await filtered('quarantined', 'yes')).to.deep.equal([])
    expect(await shown({ reasons, words: 'senior' })).to.deep.equal(['TC-3 failed'])
    const wrong = await of.tester.refused(composeRun, {
      query: { build: of.builds[1], filter: '{"field":"finding","op":"is","values":["stale"]}' } as never,
    })
    expect(wrong.detail).to.match(/finding/)
  })
  it('says which cases turn between passing and failing on one build', async () => {
    for (const verdict of ['Passed', 'Failed', 'Passed'] as const) await give(0, verdict)
    await give(1, 'Failed')
    const filter = JSON.stringify({ field: 'unreliable', op: 'is', values: ['yes'] })
    const all = reasonsIn(...runReasons)
    expect((await again({ reasons: all, filter })).looked).to.equal(1)
  })
  it('comes out of a plan, out of runs and a plan together, or out of the whole scope', async () => {
    const plan = await makePlan(of, keys.slice(0, 2), [of.environments[1]])
    const never = reasonsIn('never tried')
    const places = async (query: object) => {
      const { rows } = await of.tester.ask(composeRun, {
        query: { build: of.builds[1], reasons: never, ...query } as never,
      })
      return rows.map(({ key, environmentName }) => `${key} ${environmentName}`)
    }
    expect(await places({ plan: plan.key })).to.deep.equal(['TC-1 Blue', 'TC-2 Blue'])
    expect(await places({ plan: plan.key, runs: run.key })).to.have.members([
      ...keys.map((key) => `${key} Red`),
      'TC-1 Blue',
      'TC-2 Blue',
    ])
    expect(await places({})).to.have.members(['TC-1 Blue', 'TC-2 Blue', 'TC-3 Red', 'TC-4 Red'])
  })
  it('is refused in words where a run, a plan or a build is not there, and keeps nothing where no reason is chosen', async () => {
    const refused = async (query: object) =>
      (await of.tester.refused(composeRun, { query: { build: of.builds[1], ...query } as never })).detail
    expect(await refused({ runs: 'RN-99' })).to.match(/RN-99/)
    expect(await refused({ plan: 'PL-9' })).to.match(/PL-9/)
    expect(await refused({ build: 999 })).to.match(/build/)
    const told = await again()
    expect([told.total, told.rows]).to.deep.equal([0, []])
  })
  it('makes a run of exactly what was shown, which keeps the reasons', async () => {
    await give(1, 'Failed')
    const reasons = reasonsIn('failed', 'never tried')
    const told = await again({ reasons })
    const all = await of.tester.ask(composeItems, {
      query: { build: of.builds[1], runs: run.key, reasons } as never,
    })
    expect([all.mark, all.total]).to.deep.equal([told.mark, told.total])
    const made = await of.lead.ask(createRun, {
      body: {
        title: 'Again',
        build: of.builds[1],
        items: all.items,
        startOn: '2026-11-23',
        endOn: '2026-11-24',
        composed: { runs: [run.key], reasons: ['failed', 'never tried'] },
      },
    })
    const sheet = await of.lead.ask(readRun, { params: { ref: made.key } })
    expect(sheet.composed).to.deep.include({ runs: [run.key], reasons: ['failed', 'never tried'] })
    const { rows } = await of.lead.ask(listItems, { params: { ref: made.key } })
    expect(rows.map((row) => [row.case, row.reasons])).to.deep.equal([
      ['TC-1', ['never tried']],
      ['TC-2', ['failed']],
      ['TC-3', ['never tried']],
      ['TC-4', ['never tried']],
    ])
    await give(2, 'Passed')
    expect((await again({ reasons })).mark).to.not.equal(told.mark)
  })
  it('joins a run that is open: what is there is named and not doubled, and what came in is taken back', async () => {
    const all = await idsOf(of.lead, keys)
    const red = of.environments[0]
    const other = await makeRun(of, keys.slice(0, 2))
    const items = all.map((id) => ({ case: id, environment: red, reasons: ['failed' as const] }))
    const joined = await of.lead.ask(addItems, { params: { ref: other.key }, body: { items } })
    expect([joined.added, joined.there]).to.deep.equal([2, 2])
    const listed = async () =>
      (await of.lead.ask(listItems, { params: { ref: other.key } })).rows.map((row) => row.case)
    expect(await listed()).to.deep.equal(keys)
    const drop = (undo: boolean) =>
      of.lead.ask(dropItems, { params: { ref: other.key }, body: { ids: joined.undo, undo } })
    expect(await drop(false)).to.deep.equal({ changed: 2, begun: 0 })
    expect(await listed()).to.deep.equal(keys.slice(0, 2))
    expect((await drop(true)).changed).to.equal(2)
    expect(await listed()).to.deep.equal(keys)
    await of.lead.ask(updateRun, { params: { ref: other.key }, body: { state: 'Closed' }, version: 1 })
    const refused = await of.lead.refused(addItems, { params: { ref: other.key }, body: { items } })
    expect(refused.detail).to.equal(`${other.key} is closed; its items stay as they are. Open it again to change them.`)
    expect((await of.tester.refused(addItems, { params: { ref: other.key }, body: { items } })).status).to.equal(403)
  })
  it('does not bring an item back where another stands in its place', async () => {
    const ids = [run.items[0]?.id ?? 0]
    const params = { ref: run.key }
    await of.lead.ask(dropItems, { params, body: { ids, reason: 'Not asked for' } })
    const [id = 0] = await idsOf(of.lead, keys)
    await of.lead.ask(addItems, { params, body: { items: [{ case: id, environment: of.environments[0] }] } })
    expect(await of.lead.ask(dropItems, { params, body: { ids, undo: true } })).to.deep.equal({ changed: 0, begun: 0 })
  })
})

describe('a large run', () => {
  const many = 260
  async function withMany() {
    const of = shop()
    const key = await makeCase(of.lead, 'One')
    const insert = of.db.$client.prepare(
      'insert into test_case (project_id, number, title, position, created_at, updated_at) values (?, ?, ?, ?, 1, 1)',
    )
    for (let n = 0; n < many; n++) insert.run(of.project().id, 1000 + n, `Case ${n}`, 1000 + n)
    const ids = of.db.$client.prepare('select id from test_case order by id').pluck().all().map(Number)
    return { ...of, key, ids }
  }
  const bodyOf = (of: Shop, ids: readonly number[]) => ({
    title: 'Large',
    build: of.builds[1],
    cases: [...ids],
    environments: [of.environments[0]],
    people: ['tester', 'second'],
    deal: 'evenly' as const,
    startOn: '2026-11-23',
    endOn: '2026-11-24',
  })
  const runs = (of: Shop, where: string) =>
    Number(of.db.$client.prepare(`select count(*) from run where ${where}`).pluck().get())

  it('is made out of sight and then shown at once, dealt evenly, once for one Idempotency-Key', async () => {
    const of = await withMany()
    const seen = new Set<number>()
    const stop = of.services.events.listen(of.project().id, () => seen.add(runs(of, 'deleted_at is null')))
    const ask = { body: bodyOf(of, of.ids), idempotencyKey: 'k' }
    const made = await of.lead.ask(createRun, ask)
    stop()
    expect(made.items).to.equal(many + 1)
    expect([...seen]).to.deep.equal([1])
    expect(await of.lead.ask(createRun, ask)).to.deep.equal(made)
    expect(runs(of, '1')).to.equal(1)
    const { team, items } = await of.lead.ask(readRun, { params: { ref: made.key } })
    expect(items).to.equal(many + 1)
    expect(Math.abs((team[0]?.minutes ?? 0) - (team[1]?.minutes ?? 0))).to.be.at.most(10)
  })
  it('that was cut off leaves nothing that anybody sees, and nothing at all after the next start', async () => {
    const of = await withMany()
    of.db.$client.exec(
      `create trigger cut before insert on item when new.position > 150 begin select raise(abort, 'cut'); end`,
    )
    let broke: unknown
    try {
      await of.lead.ask(createRun, { body: bodyOf(of, of.ids) })
    } catch (error) {
      broke = error
    }
    expect(String(broke)).to.include('cut')
    expect(runs(of, '1')).to.equal(0)
    of.db.$client.exec('drop trigger cut')
    of.db.$client
      .prepare(
        `insert into run (project_id, number, title, release_id, build_id, start_on, end_on, created_at, updated_at, deleted_at)
         values (?, 77, 'Cut', ?, ?, '2026-11-23', '2026-11-24', 1, 1, 1)`,
      )
      .run(of.project().id, of.release, of.builds[0])
    expect((await of.lead.refused(readRun, { params: { ref: 'RN-77' } })).status).to.equal(404)
    dropLeftovers({ db: of.db } as Parameters<typeof dropLeftovers>[0])
    expect(runs(of, '1')).to.equal(0)
  })
})

/** A new version of a case that says something else. */
async function rewrite(of: Shop, key: string): Promise<void> {
  const { content, contentStamp } = await caseOf(of.lead, key)
  const steps = content.steps.map((step) => ({ ...step, action: `${step.action} anew` }))
  await of.lead.ask(storeWorkingCopy, {
    params: { ref: key },
    body: { content: { ...content, steps }, stamp: contentStamp },
  })
  await of.lead.ask(cutVersion, { params: { ref: key }, body: { why: 'said anew' } })
}

describe('what is composed of anything that happened', () => {
  /** The reasons straight from the attempts, one unit after the other. */
  function naively(of: Shop, runKey: string, chosen: readonly RunReason[]): string[] {
    const q = (text: string, ...values: unknown[]) =>
      of.db.$client.prepare(text).all(...values) as Record<string, never>[]
    const units = q(
      `select distinct i.case_id, i.environment_id from item i join run r on r.id = i.run_id
       where 'RN-' || r.number = ? and i.deleted_at is null order by 1, 2`,
      runKey,
    )
    return units.flatMap(({ case_id: id, environment_id: environment }) => {
      const [last] = q(
        `select a.verdict, a.finished_at, v.fingerprint, b.position from attempt a
         join build b on b.id = a.build_id join case_version v on v.id = a.version_id
         where a.case_id = ? and a.environment_id = ? and a.final = 1
         order by b.position desc, a.finished_at desc, a.id desc limit 1`,
        id,
        environment,
      )
      const reasons = new Set<RunReason>()
      if (!last || last['verdict'] === 'Skipped') reasons.add('never tried')
      else {
        if (last['verdict'] === 'Failed') reasons.add('failed')
        if (last['verdict'] === 'Blocked' || last['verdict'] === 'Inconclusive') reasons.add('stuck')
        const [now] = q(
          'select v.fingerprint from test_case c join case_version v on v.id = c.newest_version_id where c.id = ?',
          id,
        )
        const [reworded] = q(
          `select count(*) as n from link l join requirement r on r.id = l.requirement_id
           where l.case_id = ? and l.until_at is null and r.revision > l.confirmed_revision`,
          id,
        )
        if (now?.['fingerprint'] !== last['fingerprint'] || Number(reworded?.['n']) > 0) reasons.add('basis changed')
        if (of.now() - Number(last['finished_at']) > 14 * day) reasons.add('too old')
      }
      return chosen.some((reason) => reasons.has(reason)) ? [`${String(id)} ${String(environment)}`] : []
    })
  }
  const anyAct = fc.oneof(
    { weight: 6, arbitrary: fc.tuple(fc.constant('execute'), fc.nat(5), fc.constantFrom(...finalVerdicts)) },
    { weight: 1, arbitrary: fc.tuple(fc.constant('write'), fc.nat(2), fc.constant('Passed' as const)) },
    { weight: 1, arbitrary: fc.tuple(fc.constant('reword'), fc.constant(0), fc.constant('Passed' as const)) },
    { weight: 1, arbitrary: fc.tuple(fc.constant('wait'), fc.nat(20), fc.constant('Passed' as const)) },
  )

  it('is what a plain look at each case in each environment finds, and what a run is made of', async function () {
    this.timeout(120_000)
    await fc.assert(
      fc.asyncProperty(
        fc.array(anyAct, { maxLength: 12 }),
        fc.uniqueArray(fc.constantFrom<RunReason>(...runReasons)),
        async (acts, chosen) => {
          const of = shop()
          const [fares = ''] = await makeRequirements(of.lead, 'Fares')
          const keys: string[] = []
          for (const title of ['A', 'B', 'C']) keys.push(await makeCase(of.lead, title, { proves: fares }))
          const run = await makeRun(of, keys, { environments: of.environments })
          let revision = 1
          for (const [act, at, verdict] of acts) {
            of.pass(minute)
            if (act === 'execute') {
              const attempt = await execute(of, run.items[at]?.id ?? 0, 'Passed')
              if (verdict !== 'Passed') await whole(of, attempt.id, verdict, 'so it is')
            } else if (act === 'write') {
              await rewrite(of, keys[at] ?? '')
            } else if (act === 'reword')
              await of.lead.ask(updateRequirement, {
                params: { ref: fares },
                body: { text: `<p>${revision}</p>` },
                version: revision++,
              })
            else of.pass(at * day)
          }
          const query = { build: of.builds[1], runs: run.key, reasons: chosen.join(',') } as never
          const told = await of.tester.ask(composeRun, { query })
          const all = await of.tester.ask(composeItems, { query })
          const named = all.items.map((each) => `${each.case} ${each.environment}`)
          expect(named).to.deep.equal(naively(of, run.key, chosen))
          expect([told.total, told.mark]).to.deep.equal([all.total, all.mark])
          if (all.items.length === 0) return
          const body = { title: 'Again', build: of.builds[1], startOn: '2026-11-23', endOn: '2026-11-24' }
          const made = await of.lead.ask(createRun, { body: { ...body, items: all.items } })
          const { rows } = await of.lead.ask(listItems, { params: { ref: made.key } })
          expect(rows.map(({ caseId, reasons }) => [caseId, reasons])).to.deep.equal(
            all.items.map((each) => [each.case, each.reasons]),
          )
        },
      ),
      { numRuns: 25 },
    )
  })
})
