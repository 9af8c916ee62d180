import { expect } from 'chai'
import { listHistory } from '#core/history/contract.ts'
import { listDefects } from '#core/defects/contract.ts'
import { changeItems, createRun, dealItems, listItems, listRuns, readRun, updateRun } from '#core/runs/contract.ts'
import {
  addEvidence,
  readDesk,
  readEvidence,
  recordStep,
  recordWhole,
  startAttempt,
  undoVerdict,
} from '#core/runs/desk-contract.ts'
import { clockAttempt, commentStep, removeEvidence } from '#core/runs/note-contract.ts'
import { type Shop, minute, shop } from '#test/app.ts'
import {
  caseOf,
  execute,
  idOf,
  idsOf,
  makeCase,
  makeDefect,
  makeItem,
  makePlan,
  makeRun,
  sent,
  start,
  whole,
} from '#test/make.ts'
import { storeWorkingCopy } from '#core/cases/contract.ts'

const desk = (of: Shop, id: number) => of.tester.ask(readDesk, { params: { id } })
const mark = (
  of: Shop,
  attempt: number,
  step: number,
  verdict: 'Passed' | 'Failed' | 'Blocked' | 'Not run' | 'In progress',
) => of.tester.ask(recordStep, { params: { id: attempt, row: 1, step }, body: { verdict, ...sent(of) } })

it('makes an item of each case in each environment', async () => {
  const of = shop()
  const keys = [await makeCase(of.tester, 'A'), await makeCase(of.tester, 'B')]
  const run = await makeRun(of, keys, { environments: of.environments })
  expect(run.items.map((each) => `${each.case} ${each.environment}`)).to.have.members([
    'TC-1 Red',
    'TC-1 Blue',
    'TC-2 Red',
    'TC-2 Blue',
  ])
})
it('makes a run of a plan: its suites’ cases in its environments', async () => {
  const of = shop()
  const plan = await makePlan(of, [await makeCase(of.tester, 'A')], [of.environments[1]])
  const made = await of.lead.ask(createRun, {
    body: { title: 'From the plan', build: of.builds[1], plan: plan.id, startOn: '2026-11-23', endOn: '2026-11-30' },
  })
  const { rows } = await of.viewer.ask(listItems, { params: { ref: made.key } })
  expect(rows.map(({ environment }) => environment)).to.deep.equal(['Blue'])
  expect((await of.viewer.ask(readRun, { params: { ref: made.key } })).plan).to.equal(plan.key)
})
it('refuses a run on a build of nobody, with days the wrong way round, or with people of elsewhere', async () => {
  const of = shop()
  const cases = await idsOf(of.tester, [await makeCase(of.tester, 'A')])
  const body = { title: 'R', build: of.builds[1], cases, startOn: '2026-11-23', endOn: '2026-11-30' }
  for (const wrong of [{ build: 99 }, { startOn: '2026-12-01' }, { people: ['stranger'] }, { environments: [99] }])
    expect(
      (await of.lead.refused(createRun, { body: { ...body, ...wrong } })).status,
      JSON.stringify(wrong),
    ).to.be.oneOf([400, 422])
  expect((await of.viewer.ask(listRuns)).total).to.equal(0)
})
it('records a step, and the item, the run and the standing result say so', async () => {
  const of = shop()
  const own = await makeItem(of)
  const attempt = await start(of, own.id)
  const steps = attempt.steps.map(({ id }) => id)
  expect((await mark(of, attempt.id, steps[0] ?? 0, 'Passed')).itemVerdict).to.equal('In progress')
  expect((await mark(of, attempt.id, steps[1] ?? 0, 'Passed')).itemVerdict).to.equal('Passed')
  const run = await of.viewer.ask(readRun, { params: { ref: own.key } })
  expect([run.done, run.verdicts['Passed'], run.outcome]).to.deep.equal([1, 1, 'Passed'])
  expect((await caseOf(of.viewer, own.case)).slots.map(({ verdict, build }) => [verdict, build])).to.deep.equal([
    ['Passed', '1.0.1'],
  ])
})
it('is final at the first failed step, and later steps may stay as they are', async () => {
  const of = shop()
  const own = await makeItem(of)
  const attempt = await start(of, own.id)
  const answer = await mark(of, attempt.id, attempt.steps[0]?.id ?? 0, 'Failed')
  expect([answer.verdict, answer.final]).to.deep.equal(['Failed', true])
})
it('fills what is open with a whole Passed, refuses it over a failed step, and takes it with a reason', async () => {
  const of = shop()
  const own = await makeItem(of)
  const attempt = await start(of, own.id)
  await mark(of, attempt.id, attempt.steps[0]?.id ?? 0, 'Failed')
  const refused = await of.tester.refused(recordWhole, {
    params: { id: attempt.id },
    body: { verdict: 'Passed', ...sent(of) },
  })
  expect(refused.detail).to.match(/^A step failed, so the whole cannot be Passed/)
  expect((await whole(of, attempt.id, 'Passed', 'The till was off')).attempt.override).to.equal('The till was off')
  expect((await whole(of, attempt.id, null)).itemVerdict).to.equal('Failed')
})
it('takes the newest verdict back, again and again, until nothing is left to take', async () => {
  const of = shop()
  const own = await makeItem(of)
  const attempt = await start(of, own.id)
  for (const { id } of attempt.steps) await mark(of, attempt.id, id, 'Passed')
  const undo = () => of.tester.ask(undoVerdict, { params: { id: attempt.id }, body: sent(of) })
  expect([(await undo()).itemVerdict, (await undo()).itemVerdict]).to.deep.equal(['In progress', 'Not run'])
  const refused = await of.tester.refused(undoVerdict, { params: { id: attempt.id }, body: sent(of) })
  expect(refused.detail).to.match(/no verdict of yours/)
})
it('stores an event that is sent twice once, and refuses its number for another attempt', async () => {
  const of = shop()
  const own = await makeItem(of)
  const attempt = await start(of, own.id)
  const event = sent(of)
  const params = { id: attempt.id, row: 1, step: attempt.steps[0]?.id ?? 0 }
  await of.tester.ask(recordStep, { params, body: { verdict: 'Failed', ...event } })
  await mark(of, attempt.id, params.step, 'Passed')
  const again = await of.tester.ask(recordStep, { params, body: { verdict: 'Failed', ...event } })
  expect(again.verdict).to.equal('In progress')
  const other = await makeItem(of)
  const second = await start(of, other.id)
  const refused = await of.tester.refused(recordStep, {
    params: { id: second.id, row: 1, step: second.steps[0]?.id ?? 0 },
    body: { verdict: 'Passed', ...event },
  })
  expect(refused.status).to.equal(409)
})
it('refuses a verdict on a step or a row that the attempt does not have, and a word the project does not', async () => {
  const of = shop()
  const own = await makeItem(of)
  const attempt = await start(of, own.id)
  const step = attempt.steps[0]?.id ?? 0
  const body = { verdict: 'Passed' as const, ...sent(of) }
  const other = await caseOf(of.tester, await makeCase(of.tester, 'Pays otherwise'))
  const onStep = async (id: number) =>
    (await of.tester.refused(recordStep, { params: { id: attempt.id, row: 1, step: id }, body })).status
  expect([await onStep(other.content.steps[0]?.id ?? 0), await onStep(9999)]).to.deep.equal([422, 404])
  expect((await of.tester.refused(recordStep, { params: { id: attempt.id, row: 2, step }, body })).detail).to.equal(
    'There is no data row 2; this attempt has 1.',
  )
  const worded = await of.tester.refused(recordStep, {
    params: { id: attempt.id, row: 1, step },
    body: { ...body, word: 'Splendid' },
  })
  expect([worded.status, worded.fields]).to.deep.equal([400, ['word']])
})
it('takes a word of the project as what it counts as', async () => {
  const of = shop()
  of.db.$client
    .prepare(
      "insert into verdict_kind (project_id, word, counts_as, final, for_items, for_steps) values (?, 'Waiting', 'Blocked', 0, 1, 1)",
    )
    .run(of.project().id)
  const own = await makeItem(of)
  const attempt = await start(of, own.id)
  const answer = await of.tester.ask(recordStep, {
    params: { id: attempt.id, row: 1, step: attempt.steps[0]?.id ?? 0 },
    body: { verdict: 'Passed', word: 'waiting', ...sent(of) },
  })
  expect([answer.verdict, answer.final]).to.deep.equal(['In progress', false])
  expect((await desk(of, own.id)).attempt?.marks[0]).to.include({ word: 'Waiting', final: false })
})
it('executes the version it was started on, whatever the case says by then', async () => {
  const of = shop()
  const own = await makeItem(of, ['Old'])
  await start(of, own.id)
  const { content, contentStamp } = await caseOf(of.tester, own.case)
  const steps = content.steps.map((step) => ({ ...step, action: 'New' }))
  await of.tester.ask(storeWorkingCopy, {
    params: { ref: own.case },
    body: { content: { ...content, steps }, stamp: contentStamp },
  })
  expect((await desk(of, own.id)).attempt?.steps.map(({ action }) => action)).to.deep.equal(['Old'])
})
it('goes over each data row by itself', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays {amount}', { steps: ['Pay {amount}'] })
  const { content, contentStamp } = await caseOf(of.tester, key)
  const rows = [{ amount: '1' }, { amount: '2' }]
  await of.tester.ask(storeWorkingCopy, {
    params: { ref: key },
    body: { content: { ...content, rows }, stamp: contentStamp },
  })
  const run = await makeRun(of, [key])
  const attempt = await start(of, run.items[0]?.id ?? 0)
  expect(attempt.rows.map((row) => row['amount'])).to.deep.equal(['1', '2'])
  const step = attempt.steps[0]?.id ?? 0
  const say = (row: number, verdict: 'Passed' | 'Failed') =>
    of.tester.ask(recordStep, { params: { id: attempt.id, row, step }, body: { verdict, ...sent(of) } })
  expect((await say(1, 'Passed')).verdict).to.equal('In progress')
  expect((await say(2, 'Failed')).verdict).to.equal('Failed')
})
it('keeps what happened at a step, whatever becomes of its verdict, and without scripts', async () => {
  const of = shop()
  const own = await makeItem(of)
  const attempt = await start(of, own.id)
  const step = attempt.steps[0]?.id ?? 0
  const params = { id: attempt.id, row: 1, step }
  await of.tester.ask(commentStep, { params, body: { text: 'It blinked<script>x()</script>' } })
  await mark(of, attempt.id, step, 'Failed')
  await mark(of, attempt.id, step, 'Not run')
  expect((await desk(of, own.id)).attempt?.marks[0]?.comment).to.equal('It blinked')
})
it('adds up the time at the desk', async () => {
  const of = shop()
  const own = await makeItem(of)
  const attempt = await start(of, own.id)
  const clock = (seconds: number) => of.tester.ask(clockAttempt, { params: { id: attempt.id }, body: { seconds } })
  expect([(await clock(90)).seconds, (await clock(30)).seconds]).to.deep.equal([90, 120])
})
it('does not start an attempt in a run that is not open', async () => {
  const of = shop()
  const own = await makeItem(of)
  const { version } = await of.viewer.ask(readRun, { params: { ref: own.key } })
  await of.lead.ask(updateRun, { params: { ref: own.key }, body: { state: 'Closed' }, version })
  const refused = await of.tester.refused(startAttempt, { params: { id: own.id }, body: {} })
  expect(refused.status).to.equal(422)
})
it('assigns, estimates and dates many, with what each had before, and none of another run', async () => {
  const of = shop()
  const keys = [await makeCase(of.tester, 'A'), await makeCase(of.tester, 'B')]
  const [run, other] = [await makeRun(of, keys), await makeRun(of, keys.slice(0, 1))]
  const ids = run.items.map(({ id }) => id)
  const done = await of.lead.ask(changeItems, {
    params: { ref: run.key },
    body: { ids, set: { assigneeId: 'tester', estimate: 9, dueOn: '2026-11-25' } },
  })
  expect([done.changed, done.undo[0]?.set.dueOn]).to.deep.equal([2, null])
  const { rows } = await of.viewer.ask(listItems, { params: { ref: run.key } })
  expect(rows.map(({ assigneeId, minutes, dueOn }) => [assigneeId, minutes, dueOn])[0]).to.deep.equal([
    'tester',
    9,
    '2026-11-25',
  ])
  const body = { ids: [other.items[0]?.id ?? 0], set: { estimate: 1 } }
  const refused = await of.lead.refused(changeItems, { params: { ref: run.key }, body })
  expect(refused.detail).to.match(/of another run/)
  const nobody = { ids, set: { assigneeId: 'stranger' } }
  expect((await of.lead.refused(changeItems, { params: { ref: run.key }, body: nobody })).status).to.equal(400)
})
it('deals what nobody has evenly over the team by minutes, and can take it back', async () => {
  const of = shop()
  const keys: string[] = []
  for (const title of ['A', 'B', 'C', 'D']) keys.push(await makeCase(of.tester, title))
  const run = await makeRun(of, keys, { people: ['tester', 'lead'] })
  const done = await of.lead.ask(dealItems, { params: { ref: run.key }, body: {} })
  expect(done.dealt).to.equal(4)
  const { team, unassigned } = await of.viewer.ask(readRun, { params: { ref: run.key } })
  expect([team.map(({ items }) => items), unassigned]).to.deep.equal([[2, 2], 0])
  const alone = await makeRun(of, keys, { people: [] })
  const refused = await of.lead.refused(dealItems, { params: { ref: alone.key }, body: {} })
  expect(refused.detail).to.match(/no team/)
})
it('changes a run: its state, build and team, each with its act in the history', async () => {
  const of = shop()
  const own = await makeItem(of)
  const version = async () => (await of.viewer.ask(readRun, { params: { ref: own.key } })).version
  const change = async (body: object) =>
    of.lead.ask(updateRun, { params: { ref: own.key }, body, version: await version() })
  await change({ build: of.builds[0] })
  await change({ people: ['lead'] })
  await change({ state: 'Closed' })
  const { rows } = await of.viewer.ask(listHistory, { query: { ref: own.key } })
  expect(rows.map(({ action }) => action)).to.include.members(['closed', 'opened'])
  const late = await of.lead.refused(updateRun, { params: { ref: own.key }, body: { title: 'x' }, version: 1 })
  expect(late.status).to.equal(412)
})
it('keeps pictures as evidence by what they are, and refuses what they only claim to be', async () => {
  const of = shop()
  const own = await makeItem(of)
  const attempt = await start(of, own.id)
  const params = { id: attempt.id }
  const png = Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
    'base64',
  )
  const kept = await of.tester.ask(addEvidence, { params, query: { name: 'screen.png' }, file: png, mime: 'image/png' })
  expect([kept.mime, kept.size]).to.deep.equal(['image/png', png.length])
  const shown = await of.viewer.send('GET', `/projects/SHOP/evidence/${kept.id}`)
  expect([shown.status, shown.headers.get('content-security-policy')]).to.deep.equal([
    200,
    "default-src 'none'; sandbox",
  ])
  const lie = await of.tester.refused(addEvidence, { params, file: '<script>x()</script>', mime: 'image/png' })
  expect(lie.status).to.equal(415)
  await of.tester.ask(removeEvidence, { params: { id: kept.id } })
  expect((await of.viewer.refused(readEvidence, { params: { id: kept.id } })).status).to.equal(404)
  await of.tester.ask(removeEvidence, { params: { id: kept.id }, query: { undo: 'yes' } })
  expect((await desk(of, own.id)).attempt?.evidence.map(({ id }) => id)).to.deep.equal([kept.id])
})
it('lets the newest build answer, and an older one not outrank it later', async () => {
  const of = shop()
  const key = await makeCase(of.tester, 'Pays', { steps: ['One'] })
  const [older, newer] = [await makeRun(of, [key], { build: of.builds[0] }), await makeRun(of, [key])]
  await execute(of, newer.items[0]?.id ?? 0, 'Failed')
  of.pass(minute)
  await execute(of, older.items[0]?.id ?? 0, 'Passed')
  expect((await caseOf(of.viewer, key)).slots[0]).to.include({ verdict: 'Failed', build: '1.0.1' })
})
it('fills a defect from the failing step, and links it to everything behind', async () => {
  const of = shop()
  const own = await makeItem(of)
  const attempt = await execute(of, own.id, 'Failed')
  const made = await makeDefect(of, attempt)
  const [row] = (await of.viewer.ask(listDefects)).rows
  expect([row?.key, row?.foundIn, row?.results]).to.deep.equal([made.key, '1.0.1', 1])
  const { rows } = await of.viewer.ask(listItems, { params: { ref: own.key } })
  expect(rows[0]?.defects).to.deep.equal([made.key])
})

describe('items of a run', () => {
  it('are found by who executed them, on what, how long ago, and whether they are free to take', async () => {
    const of = shop()
    const run = await makeRun(of, [await makeCase(of.lead, 'A'), await makeCase(of.lead, 'B')])
    await execute(of, run.items[0]?.id ?? 0, 'Passed')
    of.pass(3 * 86_400_000)
    const found = async (field: string, op: string, ...values: (string | number)[]) =>
      (
        await of.lead.ask(listItems, {
          params: { ref: run.key },
          query: { filter: JSON.stringify({ field, op, values }) },
        })
      ).rows.map((row) => [row.case, row.by])
    const [executed, open] = [[['TC-1', 'Tester Person']], [['TC-2', null]]]
    expect(await found('executedBy', 'is', 'Tester Person')).to.deep.equal(executed)
    expect(await found('executedBy', 'is empty')).to.deep.equal(open)
    expect(await found('executedOn', 'is', '1.0.1')).to.deep.equal(executed)
    expect(await found('executed', 'above', 2)).to.deep.equal(executed)
    expect(await found('executed', 'above', 3)).to.deep.equal([])
    expect(await found('free', 'is', 'yes')).to.deep.equal(open)
  })
})

it('has an aim, which is changed like its name and days as long as one likes', async () => {
  const of = shop()
  const made = await of.lead.ask(createRun, {
    body: {
      title: 'The run',
      aim: 'Does it pay?',
      build: of.builds[1],
      cases: [await idOf(of.lead, await makeCase(of.lead, 'Pays'))],
      startOn: '2026-11-23',
      endOn: '2026-11-30',
    },
  })
  const params = { ref: made.key }
  expect((await of.viewer.ask(readRun, { params })).aim).to.equal('Does it pay?')
  const edit = { aim: 'Does it pay twice?', title: 'Paying', endOn: '2026-12-01' }
  await of.lead.ask(updateRun, { params, body: edit, version: 1 })
  expect(await of.viewer.ask(readRun, { params })).to.deep.include(edit)
  const { detail } = await of.lead.refused(updateRun, { params, body: { endOn: '2026-11-01' }, version: 2 })
  expect(detail).to.equal('The run would end before it starts.')
})
