import { expect } from 'chai'
import { createDefect, updateDefect } from '#core/defects/contract.ts'
import { storeWorkingCopy, updateCase } from '#core/cases/contract.ts'
import type { BodyOf } from '#core/lib/contract.ts'
import { listHistory } from '#core/history/contract.ts'
import { updateMember } from '#core/people/members-contract.ts'
import { readProject, updateProject } from '#core/projects/contract.ts'
import { listAttempts, orderAttempts } from '#core/runs/attempts-contract.ts'
import { createRun, dealItems, listItems, orderItems, readRun } from '#core/runs/contract.ts'
import { readDesk, recordWhole, startAttempt } from '#core/runs/desk-contract.ts'
import { giveVerdicts } from '#core/runs/many-contract.ts'
import { clockAttempt, timeAttempt } from '#core/runs/note-contract.ts'
import { endQuarantine, quarantineCases } from '#core/runs/quarantine-contract.ts'
import { holdItems, waitFor } from '#core/runs/waits-contract.ts'
import { listInbox } from '#core/talk/contract.ts'
import { waitState } from '#core/runs/waits.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { caseOf, execute, idsOf, makeCase, makeDealtRun, makeDefect, makeRun, sent, start, whole } from '#test/make.ts'

/** Writes into the working copy of TC-1. */
async function write(of: Shop, content: Partial<BodyOf<typeof storeWorkingCopy>['content']>): Promise<void> {
  const before = await caseOf(of.lead, 'TC-1')
  await of.lead.ask(storeWorkingCopy, {
    params: { ref: 'TC-1' },
    body: { content: { ...before.content, ...content }, stamp: before.contentStamp },
  })
}
const is = (field: string, value: string) => JSON.stringify({ field, op: 'is', values: [value] })

describe('what items of a run wait for', () => {
  let of: Shop
  let ids: number[]
  const params = { ref: 'RN-1' }
  const rows = async () => (await of.viewer.ask(listItems, { params })).rows
  const shown = async (value: string) =>
    (await of.viewer.ask(orderItems, { params, query: { filter: is('waits', value) } })).ids
  const say = (which: readonly number[], what: string | null) =>
    of.tester.ask(waitFor, { params, body: { ids: [...which], for: what } })
  const told = async () => (await of.tester.ask(listInbox, {})).rows.filter(({ kind }) => kind === 'freed')
  const repair = async (key: string) => {
    of.pass(minute)
    await of.lead.ask(updateDefect, {
      params: { ref: key },
      body: { state: 'Ready to retest', fixedInId: of.builds[1] },
      version: 1,
    })
  }
  beforeEach(async () => {
    of = shop()
    for (const title of ['Adult', 'Child', 'Senior']) await makeCase(of.lead, title)
    const run = await makeDealtRun(of, ['TC-1', 'TC-2', 'TC-3'])
    ids = run.items.map(({ id }) => id)
  })

  it('is a defect until it is repaired: whoever has the item is told, and the list says both', async () => {
    const [first = 0, second = 0] = ids
    const { key } = await of.lead.ask(createDefect, { body: { title: 'It is not there', severity: 'Major' } })
    expect(await say([first, second], key)).to.deep.include({ changed: 2 })
    expect((await rows()).map(({ waits }) => waits.map((each) => each.key))).to.deep.equal([[key], [key], []])
    expect(await shown('waiting')).to.deep.equal([first, second])
    expect(await told()).to.deep.equal([])
    await repair(key)
    expect(await shown('waiting')).to.deep.equal([])
    expect(await shown('freed')).to.deep.equal([first, second])
    const [one, two] = await told()
    expect([one?.ref, [one?.text, two?.text].sort()]).to.deep.equal([
      'RN-1',
      ['TC-1 on Red waits no more: DF-1 is ready to retest.', 'TC-2 on Red waits no more: DF-1 is ready to retest.'],
    ])
    await execute(of, first, 'Passed')
    expect(await shown('freed')).to.deep.equal([second])
  })
  it('is told only when nothing else holds it', async () => {
    const [first = 0, second = 0] = ids
    const { key } = await of.lead.ask(createDefect, { body: { title: 'It is not there', severity: 'Major' } })
    await say([first], key)
    await say([first], 'TC-2')
    await repair(key)
    expect([await told(), await shown('waiting')]).to.deep.equal([[], [first]])
    await of.lead.ask(giveVerdicts, { params, body: { ids: [second], verdict: 'Passed', reason: 'Seen' } })
    expect((await told()).map(({ text }) => text)).to.deep.equal(['TC-1 on Red waits no more: TC-2 has passed.'])
    expect(await shown('freed')).to.deep.equal([first])
  })
  it('is what an item is blocked by: it is freed when the last linked defect is repaired', async () => {
    const [first = 0] = ids
    const attempt = await start(of, first)
    await whole(of, attempt.id, 'Blocked')
    const { key } = await makeDefect(of, attempt)
    expect(await shown('waiting')).to.deep.equal([first])
    await repair(key)
    expect(await shown('freed')).to.deep.equal([first])
    const desk = await of.tester.ask(readDesk, { params: { id: first } })
    expect(desk.queue.map(({ waits }) => waits)).to.deep.equal(['freed', null, null])
    expect((await told()).map(({ text }) => text)).to.deep.equal([
      'TC-1 on Red waits no more: DF-1 is ready to retest.',
    ])
  })
  it('is what its case says must have run before, in the same environment and while it is not begun', async () => {
    await write(of, { needs: ['TC-3'] })
    const [first = 0, , third = 0] = ids
    expect((await rows())[0]?.waits).to.deep.equal([{ kind: 'case', key: 'TC-3', over: false }])
    expect(await shown('waiting')).to.deep.equal([first])
    await execute(of, third, 'Failed')
    expect([await shown('waiting'), await shown('freed')]).to.deep.equal([[], []])
  })
  it('says of every item what its row says of it', async () => {
    const [first = 0, second = 0, third = 0] = ids
    const { key } = await of.lead.ask(createDefect, { body: { title: 'It is not there', severity: 'Major' } })
    await say([first], key)
    await say([second], 'TC-1')
    await say([third], 'TC-2')
    await execute(of, second, 'Failed')
    for (const state of ['waiting', 'freed'] as const) {
      const own = (await rows()).filter((row) => waitState(row.waits, row.verdict) === state)
      expect(own.map(({ id }) => id)).to.deep.equal(await shown(state))
    }
    expect(await shown('waiting')).to.deep.equal([first, third])
  })
  it('is taken back as it was, and taken away', async () => {
    const [first = 0, second = 0] = ids
    await say([first], 'TC-3')
    const { undo } = await say([first, second], 'TC-3')
    expect(undo).to.deep.equal([{ item: second, defects: [], items: [] }])
    await of.tester.ask(holdItems, { params, body: { of: undo } })
    expect(await shown('waiting')).to.deep.equal([first])
    const gone = await say([first], null)
    expect([gone.changed, await shown('waiting')]).to.deep.equal([1, []])
    await of.tester.ask(holdItems, { params, body: { of: gone.undo } })
    expect(await shown('waiting')).to.deep.equal([first])
  })
  it('refuses in sentences what cannot be waited for, and nothing is stored', async () => {
    const [first = 0, second = 0, third = 0] = ids
    const asked = async (which: number[], what: string) =>
      (await of.tester.refused(waitFor, { params, body: { ids: which, for: what } })).detail
    expect(await asked([first], 'TC-1')).to.include('cannot wait for itself')
    await say([first], 'TC-2')
    expect(await asked([second, third], 'TC-1')).to.include('wait for each other')
    expect(await asked([first], 'DF-9')).to.include('DF-9')
    expect(await asked([first], 'soon')).to.include('neither a defect (DF-12) nor a case')
    await makeCase(of.lead, 'Elsewhere')
    expect(await asked([first], 'TC-4')).to.include('not in RN-1')
    await execute(of, third, 'Passed')
    expect(await asked([third], 'TC-2')).to.include('executed already')
    const { key } = await of.lead.ask(createDefect, { body: { title: 'Gone', severity: 'Minor' } })
    await repair(key)
    expect(await asked([first], key)).to.include('nothing to wait for')
    expect(await shown('waiting')).to.deep.equal([first])
    await of.viewer.refused(waitFor, { params, body: { ids: [first], for: null } })
  })
})

describe('what else is said of items', () => {
  let of: Shop
  beforeEach(() => {
    of = shop()
  })
  const params = { ref: 'RN-1' }

  it('follows its case until it is begun, and says that it was changed since', async () => {
    for (const title of ['Adult', 'Child']) await makeCase(of.lead, title, { steps: ['One'] })
    const run = await makeRun(of, ['TC-1', 'TC-2'])
    const moved = async () => (await of.viewer.ask(listItems, { params })).rows.map((row) => row.moved)
    expect(await moved()).to.deep.equal([false, false])
    await write(of, { preconditions: '<p>A ticket is held</p>' })
    expect(await moved()).to.deep.equal([true, false])
    expect((await of.viewer.ask(orderItems, { params, query: { filter: is('moved', 'yes') } })).ids).to.have.lengthOf(1)
    const begun = await start(of, run.items[0]?.id ?? 0)
    expect(begun.preconditions).to.include('A ticket is held')
    expect(await moved()).to.deep.equal([false, false])
  })
  it('is dealt to those who know it, as whoever opens the run says or deals', async () => {
    const second = of.as('second')
    for (const title of ['Adult', 'Child', 'Senior', 'Dog']) await makeCase(of.lead, title)
    const before = await makeRun(of, ['TC-1', 'TC-2'], { people: ['second'] })
    for (const { id } of before.items) {
      const attempt = await second.ask(startAttempt, { params: { id }, body: {} })
      await second.ask(recordWhole, { params: { id: attempt.id }, body: { verdict: 'Passed', ...sent(of) } })
    }
    const run = await makeRun(of, ['TC-1', 'TC-2', 'TC-3', 'TC-4'], { people: ['tester', 'second'] })
    const dealt = await of.lead.ask(dealItems, { params: { ref: run.key }, body: { way: 'knowing' } })
    expect(dealt).to.deep.include({ dealt: 4, known: 2 })
    const by = async (ref: string) =>
      (await of.lead.ask(listItems, { params: { ref } })).rows.map((row) => row.assigneeId)
    expect(await by(run.key)).to.deep.equal(['second', 'second', 'tester', 'tester'])
    await of.lead.ask(updateProject, { body: { dealing: 'knowing' } })
    expect((await of.viewer.ask(readProject, {})).dealing).to.equal('knowing')
    const made = await of.lead.ask(createRun, {
      body: {
        title: 'Known',
        build: of.builds[1],
        cases: await idsOf(of.lead, ['TC-1', 'TC-2', 'TC-3', 'TC-4']),
        environments: [of.environments[0]],
        people: ['tester', 'second'],
        startOn: '2026-11-23',
        endOn: '2026-11-30',
        deal: 'knowing',
      },
    })
    expect(await by(made.key)).to.deep.equal(['second', 'second', 'tester', 'tester'])
  })
  it('goes by a skill that its component names, where nobody has executed it', async () => {
    for (const title of ['Adult', 'Child']) await makeCase(of.lead, title)
    await of.lead.ask(updateCase, { params: { ref: 'TC-2' }, body: { component: 'Fares' }, version: 1 })
    await of.lead.ask(updateMember, { params: { person: 'tester' }, body: { skills: ['fares'] } })
    const run = await makeRun(of, ['TC-1', 'TC-2'], { people: ['second', 'tester'] })
    await of.lead.ask(dealItems, { params: { ref: run.key }, body: { way: 'knowing' } })
    const { rows } = await of.lead.ask(listItems, { params: { ref: run.key } })
    expect(rows.map((row) => row.assigneeId)).to.deep.equal(['second', 'tester'])
  })
  it('is in quarantine with a reason: executed and shown, not counted, until it is let out', async () => {
    for (const title of ['Adult', 'Child']) await makeCase(of.lead, title)
    const run = await makeRun(of, ['TC-1', 'TC-2'])
    const [first, second] = run.items
    await execute(of, first?.id ?? 0, 'Failed')
    await execute(of, second?.id ?? 0, 'Passed')
    const outcome = async () => (await of.viewer.ask(readRun, { params })).outcome
    expect(await outcome()).to.equal('Failed')
    const place = { case: first?.caseId ?? 0, environment: first?.environmentId ?? 0 }
    const kept = await of.lead.ask(quarantineCases, { body: { of: [{ ...place, reason: 'The rig flickers' }] } })
    expect(kept).to.deep.equal({ changed: 1, undo: [place] })
    expect(await outcome()).to.equal('Passed')
    const again = await of.lead.ask(quarantineCases, { body: { of: [{ ...place, reason: 'Again' }] } })
    expect(again.changed).to.equal(0)
    expect((await of.viewer.ask(listItems, { params })).rows.map((row) => row.quarantine)).to.deep.equal([
      'The rig flickers',
      null,
    ])
    const shown = await of.viewer.ask(orderItems, { params, query: { filter: is('quarantined', 'yes') } })
    expect(shown.ids).to.deep.equal([first?.id])
    const ended = await of.lead.ask(endQuarantine, { body: { of: [place] } })
    expect(ended).to.deep.equal({ changed: 1, undo: [{ ...place, reason: 'The rig flickers' }] })
    expect(await outcome()).to.equal('Failed')
    await of.lead.ask(quarantineCases, { body: { of: ended.undo } })
    expect(await outcome()).to.equal('Passed')
    const { rows } = await of.viewer.ask(listHistory, { query: { ref: 'TC-1' } })
    expect(rows.map(({ action }) => action)).to.include.members(['quarantined', 'out of quarantine'])
    await of.tester.refused(quarantineCases, { body: { of: [{ ...place, reason: 'Mine' }] } })
  })
  it('is let out everywhere where it was in quarantine everywhere', async () => {
    await makeCase(of.lead, 'Adult')
    const run = await makeRun(of, ['TC-1'], { environments: of.environments })
    const own = run.items[0]?.caseId ?? 0
    await of.lead.ask(quarantineCases, { body: { of: [{ case: own, environment: null, reason: 'All of it' }] } })
    const kept = async () => (await of.viewer.ask(listItems, { params })).rows.map((row) => row.quarantine)
    expect(await kept()).to.deep.equal(['All of it', 'All of it'])
    await of.lead.ask(endQuarantine, { body: { of: [{ case: own, environment: of.environments[0] }] } })
    expect(await kept()).to.deep.equal([null, null])
  })
  it('took as long as the clock says, as somebody typed, or as its share of what many took', async () => {
    for (const title of ['Adult', 'Child', 'Senior']) await makeCase(of.lead, title)
    const run = await makeDealtRun(of, ['TC-1', 'TC-2', 'TC-3'])
    const attempt = await start(of, run.items[0]?.id ?? 0)
    const clock = () => of.tester.ask(clockAttempt, { params: { id: attempt.id }, body: { seconds: 40 } })
    expect(await clock()).to.deep.equal({ seconds: 40 })
    const said = await of.tester.ask(timeAttempt, { params: { id: attempt.id }, body: { minutes: 5 } })
    expect(said).to.deep.equal({ seconds: 300, timing: 'typed' })
    expect(await clock()).to.deep.equal({ seconds: 300 })
    expect(
      (await of.as('second').ask(timeAttempt, { params: { id: attempt.id }, body: { minutes: 4 } })).seconds,
    ).to.equal(240)
    const ids = run.items.slice(1).map(({ id }) => id)
    await of.lead.ask(giveVerdicts, {
      params,
      body: { ids, verdict: 'Passed', reason: 'Seen in passing', seconds: 90 },
    })
    const times = (await of.viewer.ask(listAttempts, {})).rows.map((row) => [row.seconds, row.timing])
    expect(times.sort()).to.deep.equal([
      [240, 'typed'],
      [90, 'shared'],
      [90, 'shared'],
    ])
    const shared = await of.viewer.ask(orderAttempts, { query: { filter: is('timing', 'shared') } })
    expect(shared.ids).to.have.lengthOf(2)
  })
})
