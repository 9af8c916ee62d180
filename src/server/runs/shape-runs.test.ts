import { expect } from 'chai'
import { expectSound } from '#test/sound.ts'
import { restoreObject } from '#core/history/contract.ts'
import { setPolicy } from '#core/projects/words-contract.ts'
import { listAttempts } from '#core/runs/attempts-contract.ts'
import { changeItems, listItems, listRuns, readRun } from '#core/runs/contract.ts'
import { deleteRuns, endRuns, tagRuns, mergeRuns, splitRun, unmergeRuns } from '#core/runs/shape-contract.ts'
import { usualPolicy } from '#core/projects/policy.ts'
import { allStanding } from '#db/reports/standing.ts'
import { shop, type Shop } from '#test/app.ts'
import { execute, makeCase, makeRequirements, makeRun } from '#test/make.ts'

const itemsOf = async (of: Shop, ref: string) =>
  (await of.viewer.ask(listItems, { params: { ref } })).rows.map(
    (row) => `${row.case} ${row.environment} ${row.verdict}`,
  )
const isSound = (of: Shop) => {
  expectSound(of)
}
const cases = async (of: Shop) => [
  await makeCase(of.lead, 'Adult', { steps: ['Do'] }),
  await makeCase(of.lead, 'Child', { steps: ['Do'] }),
]

describe('a run that is split', () => {
  it('by environment leaves its largest part, and makes runs like it of the rest with what was executed; merged back', async () => {
    const of = shop()
    const run = await makeRun(of, await cases(of), { environments: of.environments })
    await execute(of, run.items.find(({ environment }) => environment === 'Red')?.id ?? 0, 'Failed')
    const { runs } = await of.lead.ask(splitRun, { params: { ref: run.key }, body: { by: 'environment' } })
    expect(runs).to.deep.equal([{ key: 'RN-2', title: 'The run: Red', items: 2 }])
    expect(await itemsOf(of, 'RN-2')).to.deep.equal(['TC-1 Red Failed', 'TC-2 Red Not run'])
    expect(await itemsOf(of, run.key)).to.deep.equal(['TC-1 Blue Not run', 'TC-2 Blue Not run'])
    const sheet = await of.viewer.ask(readRun, { params: { ref: 'RN-2' } })
    expect([sheet.build, sheet.team.map(({ id }) => id)]).to.deep.equal(['1.0.1', ['tester']])
    isSound(of)
    const back = await of.lead.ask(mergeRuns, { params: { ref: run.key }, body: { from: ['RN-2'], remove: true } })
    expect([back.moved, back.twins]).to.deep.equal([2, 0])
    expect((await itemsOf(of, run.key)).sort()).to.deep.equal([
      'TC-1 Blue Not run',
      'TC-1 Red Failed',
      'TC-2 Blue Not run',
      'TC-2 Red Not run',
    ])
    expect((await of.viewer.ask(listRuns)).rows.map(({ key }) => key)).to.deep.equal([run.key])
    isSound(of)
  })
  it('by tester and by requirement, and not where there is one alone', async () => {
    const of = shop()
    const [fares = '', decks = ''] = await makeRequirements(of.lead, 'Fares', 'Decks')
    const keys = [
      await makeCase(of.lead, 'Adult', { proves: fares }),
      await makeCase(of.lead, 'Child', { proves: fares }),
      await makeCase(of.lead, 'Lane', { proves: decks }),
    ]
    const run = await makeRun(of, keys)
    const split = (by: 'tester' | 'requirement' | 'environment') =>
      of.lead.ask(splitRun, { params: { ref: run.key }, body: { by } })
    expect((await split('requirement')).runs).to.deep.equal([{ key: 'RN-2', title: 'The run: Decks', items: 1 }])
    const one = await of.lead.refused(splitRun, { params: { ref: run.key }, body: { by: 'environment' } })
    expect(one.detail).to.equal('All of RN-1 is of one environment; there is nothing to split by that.')
    const [first] = run.items
    await of.lead.ask(changeItems, {
      params: { ref: run.key },
      body: { ids: [first?.id ?? 0], set: { assigneeId: 'tester' } },
    })
    expect((await split('tester')).runs.map(({ title, items }) => [title, items])).to.deep.equal([
      ['The run: nobody', 1],
    ])
  })
})

describe('runs that are merged', () => {
  it('become one with the attempts of both; what is in both stays and is counted, and it is taken back', async () => {
    const of = shop()
    const keys = await cases(of)
    const one = await makeRun(of, keys)
    const other = await makeRun(of, keys, { environments: of.environments })
    await execute(of, other.items.find(({ environment }) => environment === 'Blue')?.id ?? 0, 'Passed')
    const done = await of.lead.ask(mergeRuns, { params: { ref: one.key }, body: { from: [other.key] } })
    expect([done.moved, done.twins]).to.deep.equal([2, 2])
    expect(await itemsOf(of, one.key)).to.include('TC-1 Blue Passed')
    const emptied = await of.viewer.ask(readRun, { params: { ref: other.key } })
    expect([emptied.state, emptied.endedReason, emptied.items]).to.deep.equal(['Closed', `Merged into ${one.key}.`, 2])
    isSound(of)
    await of.lead.ask(unmergeRuns, { params: { ref: one.key }, body: { parts: done.undo } })
    expect(await itemsOf(of, one.key)).to.have.length(2)
    const back = await of.viewer.ask(readRun, { params: { ref: other.key } })
    expect([back.state, back.items, back.done]).to.deep.equal(['Open', 4, 1])
    isSound(of)
  })
  it('are another: not with itself, not with one that is over, not by somebody who does not lead', async () => {
    const of = shop()
    const keys = await cases(of)
    const one = await makeRun(of, keys)
    const other = await makeRun(of, keys)
    const merge = (from: string) => ({ params: { ref: one.key }, body: { from: [from] } })
    expect((await of.lead.refused(mergeRuns, merge(one.key))).detail).to.equal(
      'RN-1 cannot be merged with itself; choose another run.',
    )
    await of.lead.ask(endRuns, { body: { ids: [other.id], state: 'Closed' } })
    expect((await of.lead.refused(mergeRuns, merge(other.key))).detail).to.match(/^RN-2 is Closed; open it again/)
    expect((await of.tester.refused(mergeRuns, merge(other.key))).status).to.equal(403)
    expect((await of.lead.refused(mergeRuns, merge('RN-99'))).status).to.equal(404)
    const self = { params: { ref: one.key }, body: { parts: [{ run: one.key, ids: [] }] } }
    expect((await of.lead.refused(unmergeRuns, self)).detail).to.equal(
      'RN-1 was not merged with itself; nothing was changed.',
    )
  })
})

describe('several runs at once', () => {
  it('are closed, those that owe something left and named, and opened again as they were', async () => {
    const of = shop()
    await of.lead.ask(setPolicy, { body: { ...usualPolicy, asked: { Failed: ['a word'] } }, version: 0 })
    const keys = await cases(of)
    const one = await makeRun(of, keys)
    const other = await makeRun(of, keys, { state: 'Planned' })
    const owing = await makeRun(of, keys)
    await execute(of, owing.items[0]?.id ?? 0, 'Failed')
    const ids = [one.id, other.id, owing.id]
    const done = await of.lead.ask(endRuns, { body: { ids, state: 'Closed', reason: 'The season is over' } })
    expect([done.changed, done.left.map(({ run }) => run)]).to.deep.equal([2, [owing.key]])
    expect(done.left[0]?.why).to.match(/lacks what the policy asks for \(a word\)/)
    const states = async () => (await of.viewer.ask(listRuns)).rows.map(({ key, state }) => `${key} ${state}`).sort()
    expect(await states()).to.deep.equal(['RN-1 Closed', 'RN-2 Closed', 'RN-3 Open'])
    for (const part of done.undo) await of.lead.ask(endRuns, { body: part })
    expect(await states()).to.deep.equal(['RN-1 Open', 'RN-2 Planned', 'RN-3 Open'])
    expect((await of.lead.refused(endRuns, { body: { ids, state: 'Aborted' } })).detail).to.match(
      /^Say why RN-1 ends early/,
    )
  })
  it('are deleted with the attempts named that stay, count on, and are brought back', async () => {
    const of = shop()
    const run = await makeRun(of, await cases(of))
    await execute(of, run.items[0]?.id ?? 0, 'Passed')
    const before = allStanding(of.db)
    const { refs, attempts } = await of.lead.ask(deleteRuns, { body: { ids: [run.id, run.id] } })
    expect([refs, attempts]).to.deep.equal([[run.key], 1])
    expect((await of.viewer.refused(readRun, { params: { ref: run.key } })).status).to.be.oneOf([404, 410])
    expect((await of.viewer.ask(listAttempts)).rows).to.have.length(1)
    expect(allStanding(of.db)).to.deep.equal(before)
    await of.lead.ask(restoreObject, { body: { refs } })
    expect(await itemsOf(of, run.key)).to.have.length(2)
  })
  it('are tagged together: what was put on and taken off is told, shown, filtered by and taken back', async () => {
    const of = shop()
    const keys = await cases(of)
    const ids = [(await makeRun(of, keys)).id, (await makeRun(of, keys)).id]
    await of.lead.ask(tagRuns, { body: { ids: ids.slice(0, 1), add: ['smoke'] } })
    const done = await of.lead.ask(tagRuns, { body: { ids, add: ['night', 'smoke'], drop: ['day'] } })
    expect(done.changed).to.equal(2)
    const tags = async (query = {}) =>
      (await of.viewer.ask(listRuns, { query: { ...query, sort: 'number' } })).rows.map((row) => [row.key, row.tags])
    const all = [
      ['RN-1', ['night', 'smoke']],
      ['RN-2', ['night', 'smoke']],
    ]
    expect(await tags()).to.deep.equal(all)
    expect((await of.lead.ask(tagRuns, { body: { ids, add: ['night'] } })).changed).to.equal(0)
    for (const part of done.undo) await of.lead.ask(tagRuns, { body: part })
    expect(await tags()).to.deep.equal([
      ['RN-1', ['smoke']],
      ['RN-2', []],
    ])
    const filter = JSON.stringify({ field: 'tags', op: 'contains', values: ['smo'] })
    expect(await tags({ filter })).to.deep.equal([['RN-1', ['smoke']]])
    await of.tester.refused(tagRuns, { body: { ids, add: ['mine'] } })
  })
})
