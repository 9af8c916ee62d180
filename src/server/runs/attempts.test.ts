import { expect } from 'chai'
import { expectSound } from '#test/sound.ts'
import fc from 'fast-check'
import { listHistory } from '#core/history/contract.ts'
import type { FinalVerdict } from '#core/lib/verdict.ts'
import { readCoverage } from '#core/reports/contract.ts'
import {
  changeAttempts,
  doubtAttempts,
  liftDoubt,
  listAttempts,
  listDoubts,
  orderAttempts,
  readAttempt,
  tellDoubt,
} from '#core/runs/attempts-contract.ts'
import { changeItems, listItems } from '#core/runs/contract.ts'
import { readDesk } from '#core/runs/desk-contract.ts'
import { minute, type Shop, shop } from '#test/app.ts'
import { execute, makeCase, makeDefect, makeRequirements, makeRun } from '#test/make.ts'

const isSound = (of: Shop) => {
  expectSound(of)
}
const rows = async (of: Shop, query: object = {}) => (await of.viewer.ask(listAttempts, { query })).rows
const filter = (field: string, ...values: (string | number)[]) => ({
  filter: JSON.stringify({ field, op: 'is', values }),
})

/** Two cases of one requirement in both environments, on the newest build. */
async function world() {
  const of = shop()
  const [fares = ''] = await makeRequirements(of.lead, 'Fares')
  const keys = [
    await makeCase(of.lead, 'Adult', { proves: fares, steps: ['Do'] }),
    await makeCase(of.lead, 'Child', { proves: fares, steps: ['Do'] }),
  ]
  const run = await makeRun(of, keys, { environments: of.environments })
  const items = run.items.map(({ id }) => id)
  const give = async (at: number, verdict: FinalVerdict) => {
    of.pass(minute)
    return execute(of, items[at] ?? 0, verdict)
  }
  return { of, run, items, give }
}

describe('all attempts', () => {
  it('are listed with who, where, on what, and how they count; filtered by any of it, and in a fixed order', async () => {
    const { of, give } = await world()
    const first = await give(0, 'Failed')
    await makeDefect(of, first)
    const second = await give(0, 'Passed')
    await give(2, 'Blocked')
    const all = await rows(of)
    expect(all.map(({ verdict }) => verdict)).to.deep.equal(['Blocked', 'Passed', 'Failed'])
    expect(all[2]).to.deep.include({
      case: 'TC-1',
      environment: 'Red',
      build: '1.0.1',
      run: 'RN-1',
      person: 'Tester Person',
      recordedBy: null,
      stands: false,
      defects: ['DF-1'],
    })
    const shown = async (...of_: Parameters<typeof filter>) => (await rows(of, filter(...of_))).map(({ id }) => id)
    expect(await shown('counts', 'stands'))
      .to.include(second.id)
      .and.not.include(first.id)
    expect(await shown('verdict', 'Failed')).to.deep.equal([first.id])
    expect(await shown('run', 1)).to.have.length(3)
    expect(await shown('defects', 1)).to.deep.equal([first.id])
    expect(await shown('person', 'Lead Person')).to.deep.equal([])
    expect((await rows(of, { text: 'adult' })).length).to.equal(2)
    const { ids, total } = await of.viewer.ask(orderAttempts)
    expect([ids, total]).to.deep.equal([all.map(({ id }) => id), 3])
    const { row, attempt } = await of.viewer.ask(readAttempt, { params: { id: first.id } })
    expect([row.case, attempt.marks.map(({ verdict }) => verdict)]).to.deep.equal(['TC-1', ['Failed']])
  })
  it('are struck out for a reason: kept and shown, counted nowhere, and brought back to the same', async () => {
    const { of, run, items, give } = await world()
    await give(0, 'Passed')
    const wrong = await give(0, 'Failed')
    const before = await of.lead.ask(readCoverage)
    const strike = (struck: string | null) =>
      of.lead.ask(changeAttempts, { body: { ids: [wrong.id], set: { struck } } })
    const { undo } = await strike('Executed on the wrong bench')
    isSound(of)
    const { rows: shown } = await of.lead.ask(listItems, { params: { ref: run.key } })
    expect(shown[0]?.verdict).to.equal('Passed')
    expect((await rows(of, filter('counts', 'struck out'))).map(({ struck }) => struck)).to.deep.equal([
      'Executed on the wrong bench',
    ])
    const { before: past } = await of.lead.ask(readDesk, { params: { id: items[0] ?? 0 } })
    expect(past.map(({ verdict }) => verdict)).to.not.include('Failed')
    await of.lead.ask(changeAttempts, { body: { ids: [wrong.id], set: undo[0]?.set ?? {} } })
    isSound(of)
    const after = await of.lead.ask(readCoverage)
    expect(after.total).to.deep.equal(before.total)
    const { rows: history } = await of.lead.ask(listHistory, { query: { kind: 'attempt' } })
    expect(history.map(({ action }) => action).slice(0, 2)).to.deep.equal(['brought back', 'struck out'])
    expect(
      (await of.tester.refused(changeAttempts, { body: { ids: [wrong.id], set: { struck: 'no' } } })).status,
    ).to.equal(403)
  })
  it('that were made elsewhere than recorded go to another environment, build or person, with all that is theirs', async () => {
    const { of, run, give } = await world()
    const attempt = await give(0, 'Failed')
    await makeDefect(of, attempt)
    const put = (set: object) => of.lead.ask(changeAttempts, { body: { ids: [attempt.id], set } })
    const { undo } = await put({ environmentId: of.environments[1], buildId: of.builds[0], personId: 'second' })
    isSound(of)
    const [row] = await rows(of)
    expect([row?.environment, row?.build, row?.person, row?.recordedBy, row?.defects]).to.deep.equal([
      'Blue',
      '1.0.0',
      'Second Person',
      'Tester Person',
      ['DF-1'],
    ])
    const { rows: items } = await of.lead.ask(listItems, { params: { ref: run.key } })
    expect(items.map(({ environment, verdict }) => `${environment} ${verdict}`)).to.deep.equal([
      'Red Not run',
      'Blue Failed',
      'Red Not run',
      'Blue Not run',
    ])
    await put(undo[0]?.set ?? {})
    isSound(of)
    expect((await rows(of))[0]).to.deep.include({ environment: 'Red', build: '1.0.1', person: 'Tester Person' })
  })
  it('do not go where their run has no item, or to what is not of the project', async () => {
    const of = shop()
    const run = await makeRun(of, [await makeCase(of.lead, 'Adult', { steps: ['Do'] })])
    const attempt = await execute(of, run.items[0]?.id ?? 0, 'Passed')
    const there = { ids: [attempt.id], set: { environmentId: of.environments[1] } }
    expect((await of.lead.refused(changeAttempts, { body: there })).detail).to.match(/^Its run has no item/)
    const nobody = { ids: [attempt.id], set: { personId: 'stranger' } }
    expect((await of.lead.refused(changeAttempts, { body: nobody })).status).to.be.oneOf([400, 404, 422])
    isSound(of)
  })
})

describe('a doubt', () => {
  it('is dated and for a reason, leaves verdicts readable but not current, and is lifted to the same figures', async () => {
    const { of, give } = await world()
    const ids = [(await give(0, 'Passed')).id, (await give(1, 'Passed')).id]
    const before = await of.lead.ask(readCoverage)
    const { id, attempts } = await of.lead.ask(doubtAttempts, { body: { ids, reason: 'The bench had old data' } })
    expect(attempts).to.equal(2)
    isSound(of)
    const during = await of.lead.ask(readCoverage)
    expect([during.total.figures.passing.plain.recorded, during.total.figures.passing.plain.current]).to.deep.equal([
      before.total.figures.passing.plain.recorded,
      0,
    ])
    expect((await rows(of, filter('counts', 'doubted'))).map(({ doubt }) => doubt)).to.deep.equal([
      'The bench had old data',
      'The bench had old data',
    ])
    const again = await of.lead.refused(doubtAttempts, { body: { ids, reason: 'Again' } })
    expect(again.detail).to.match(/^None of the chosen attempts can be doubted/)
    of.pass(minute)
    expect((await of.lead.ask(liftDoubt, { params: { id } })).attempts).to.equal(2)
    isSound(of)
    expect((await of.lead.ask(readCoverage)).total).to.deep.equal(before.total)
    const { rows: doubts } = await of.lead.ask(listDoubts)
    expect(doubts).to.deep.equal([
      {
        id,
        reason: 'The bench had old data',
        attempts: 2,
        person: 'Lead Person',
        at: of.now() - minute,
        liftedAt: of.now(),
        liftedBy: 'Lead Person',
      },
    ])
    expect((await of.tester.refused(doubtAttempts, { body: { ids, reason: 'No' } })).status).to.equal(403)
    const nothing = await of.lead.refused(doubtAttempts, { body: { ids: [], reason: 'No' } })
    expect(nothing.status).to.equal(400)
  })
  it('tells what falls: slots with what counts instead, requirements, and the fewest items that would settle it', async () => {
    const { of, items, give } = await world()
    await give(0, 'Failed')
    const passed = await give(0, 'Passed')
    const alone = await give(1, 'Passed')
    const told = await of.viewer.ask(tellDoubt, { body: { ids: [passed.id, alone.id] } })
    expect(told.slots).to.deep.equal([
      { key: 'TC-1', title: 'Adult', environment: 'Red', from: 'Passed', to: 'Failed', by: 'Failed on 1.0.1, Red' },
      { key: 'TC-1', title: 'Adult', environment: 'Blue', from: 'Passed', to: 'Not run', by: null },
    ])
    expect(told.repair.map(({ key, environment }) => [key, environment])).to.deep.equal([
      ['TC-1', of.environments[0]],
      ['TC-1', of.environments[1]],
    ])
    expect(told.requirements.map(({ from, to }) => [from, to])).to.deep.equal([['In progress', 'Failed']])
    expect([told.passing.before, told.passing.after]).to.deep.equal([0.5, 0])
    // Nothing was changed by asking.
    expect((await of.lead.ask(readDesk, { params: { id: items[0] ?? 0 } })).item.verdict).to.equal('Passed')
  })
  it('tells exactly what striking the same attempts out makes of every slot and figure, and that is undone', async () => {
    const verdicts = ['Passed', 'Failed', 'Blocked', 'Skipped'] as const
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(3), fc.constantFrom(...verdicts)), { minLength: 1, maxLength: 8 }),
        fc.array(fc.boolean(), { minLength: 8, maxLength: 8 }),
        async (history, chosen) => {
          const { of, give } = await world()
          const made: number[] = []
          for (const [at, verdict] of history) made.push((await give(at, verdict)).id)
          const ids = made.filter((_id, at) => chosen[at])
          if (ids.length === 0) return
          const before = await of.lead.ask(readCoverage, { query: { ids: 'all' } })
          const told = await of.lead.ask(tellDoubt, { body: { ids } })
          const { undo } = await of.lead.ask(changeAttempts, { body: { ids, set: { struck: 'not to be believed' } } })
          const after = await of.lead.ask(readCoverage, { query: { ids: 'all' } })
          expect(told.passing).to.deep.equal({
            before: before.total.figures.passing.plain.recorded,
            after: after.total.figures.passing.plain.recorded,
          })
          const moved = before.nodes.flatMap((node, at) =>
            node.state === after.nodes[at]?.state ? [] : [[node.key, node.state, after.nodes[at]?.state]],
          )
          expect(told.requirements.map(({ key, from, to }) => [key, from, to])).to.deep.equal(moved)
          for (const { id, set } of undo) await of.lead.ask(changeAttempts, { body: { ids: [id], set } })
          expect((await of.lead.ask(readCoverage)).total).to.deep.equal(before.total)
          isSound(of)
        },
      ),
      { numRuns: 12 },
    )
  })
  it('names defects that were closed by nothing else, and is not told of what is struck out', async () => {
    const { of, give } = await world()
    const failed = await give(0, 'Failed')
    const { key } = await makeDefect(of, failed)
    const state = (to: string) =>
      of.db.$client
        .prepare('insert into defect_state_at (defect_id, state, at, person_id) values (1, ?, ?, ?)')
        .run(to, of.now(), 'lead')
    state('Ready to retest')
    const retest = await give(0, 'Passed')
    of.pass(minute)
    state('Closed')
    of.db.$client.prepare(`update defect set state = 'Closed' where id = 1`).run()
    const told = async () =>
      (await of.lead.ask(tellDoubt, { body: { ids: [retest.id] } })).defects.map((each) => each.key)
    expect(await told()).to.deep.equal([key])
    await of.lead.ask(changeAttempts, { body: { ids: [retest.id], set: { struck: 'by mistake' } } })
    expect(await told()).to.deep.equal([])
    await of.lead.ask(changeItems, { params: { ref: 'RN-1' }, body: { ids: [1], set: { estimate: 5 } } })
  })
})
