import { expect } from 'chai'
import { storeWorkingCopy } from '#core/cases/contract.ts'
import { updateMember } from '#core/people/members-contract.ts'
import { updateProject } from '#core/projects/contract.ts'
import { createTable, fillTable, readTable, updateTable } from '#core/reuse/table-contract.ts'
import { previewRun } from '#core/runs/contract.ts'
import { startAttempt } from '#core/runs/desk-contract.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { caseOf, idsOf, makeCase, makeRun, start, whole } from '#test/make.ts'

describe('what a run would be, before it is opened', () => {
  let of: Shop
  beforeEach(async () => {
    of = shop()
    for (const title of ['Adult', 'Child', 'Senior']) await makeCase(of.lead, title)
  })
  const asked = async (cases = ['TC-1', 'TC-2', 'TC-3']) => ({
    build: of.builds[1],
    cases: await idsOf(of.lead, cases),
    environments: [...of.environments],
  })
  const foreseen = async (cases?: string[]) => of.viewer.ask(previewRun, { body: await asked(cases) })

  it('is told with its items and minutes, as the run has them then', async () => {
    const told = await foreseen()
    const run = await makeRun(of, ['TC-1', 'TC-2', 'TC-3'], { environments: of.environments })
    expect([told.items, told.minutes]).to.deep.equal([
      run.items.length,
      run.items.reduce((sum, { minutes }) => sum + minutes, 0),
    ])
    expect(told).to.deep.include({ leftOut: [], leftOutCount: 0, unapproved: [], unapprovedCount: 0, data: [] })
  })
  it('names what has no approved version where only approved ones are executed', async () => {
    await of.lead.ask(updateProject, { body: { approvalRequired: true } })
    const told = await foreseen(['TC-1', 'TC-3'])
    expect([told.unapproved, told.unapprovedCount]).to.deep.equal([['TC-1', 'TC-3'], 2])
  })
  it('says what the team can give on its days, and who has no hours', async () => {
    const days = { startOn: '2026-11-23', endOn: '2026-11-24' }
    const told = async (people: string[], of_: object = days) =>
      (await of.viewer.ask(previewRun, { body: { ...(await asked()), people, ...of_ } })).team
    const one = (await told(['tester']))?.minutes ?? 0
    expect(one).to.be.greaterThan(0)
    expect(await told(['tester', 'second'])).to.deep.equal({ minutes: 2 * one, none: [] })
    await of.lead.ask(updateMember, { params: { person: 'tester' }, body: { sharePercent: 0 } })
    expect(await told(['tester', 'second'])).to.deep.equal({ minutes: one, none: ['Tester Person'] })
    expect(await told(['tester'])).to.deep.equal({ minutes: 0, none: ['Tester Person'] })
    // A weekend, nobody, and days that end before they begin.
    expect((await told(['second'], { startOn: '2026-11-28', endOn: '2026-11-29' }))?.minutes).to.equal(0)
    expect([await told([]), await told(['second'], { startOn: '2026-11-24', endOn: '2026-11-23' })]).to.deep.equal([
      null,
      null,
    ])
  })
  it('is refused in a sentence where it would hold nothing, and stores nothing', async () => {
    const { detail, status } = await of.viewer.refused(previewRun, { body: { ...(await asked([])), cases: [] } })
    expect([status, detail]).to.deep.equal([
      422,
      'There is no case to run: nothing of what was chosen holds one that is there and can be tested by now.',
    ])
  })
})

describe('rows of data that an execution uses up', () => {
  let of: Shop
  let table: number
  beforeEach(async () => {
    of = shop()
    for (const title of ['Adult', 'Child']) await makeCase(of.lead, title)
    table = (await of.lead.ask(createTable, { body: { name: 'Test cards', columns: ['number'] } })).id
    await of.lead.ask(updateTable, {
      params: { id: table },
      body: { rows: ['4000', '4111'].map((number) => ({ id: null, values: { number } })), usedUp: true },
      version: 1,
    })
    for (const ref of ['TC-1', 'TC-2']) {
      const { content, contentStamp } = await caseOf(of.lead, ref)
      await of.lead.ask(storeWorkingCopy, {
        params: { ref },
        body: { content: { ...content, table: { id: table, mode: 'one' } }, stamp: contentStamp },
      })
    }
  })
  const sheet = () => of.viewer.ask(readTable, { params: { id: table } })
  const usedIn = async () => (await sheet()).values.map((row) => row.usedIn)
  const needed = async (cases = ['TC-1', 'TC-2']) =>
    (
      await of.viewer.ask(previewRun, {
        body: { build: of.builds[1], cases: await idsOf(of.lead, cases), environments: [...of.environments] },
      })
    ).data

  it('are counted against what the items need, in each environment, before a run opens', async () => {
    expect(await needed()).to.deep.equal([
      { table: 'Test cards', environment: 'Blue', needed: 2, left: 2 },
      { table: 'Test cards', environment: 'Red', needed: 2, left: 2 },
    ])
    const run = await makeRun(of, ['TC-1', 'TC-2'])
    const attempt = await start(of, run.items[0]?.id ?? 0)
    expect(attempt.rows).to.deep.equal([{ number: '4000' }])
    await whole(of, attempt.id, 'Passed')
    // Checked in again, and used up all the same; in the other environment it is as before.
    expect(await usedIn()).to.deep.equal([['Red'], []])
    expect((await needed()).map(({ environment, left }) => [environment, left])).to.deep.equal([
      ['Blue', 2],
      ['Red', 1],
    ])
  })
  it('are refused when all are used up, and are there again when the table is filled up, which is taken back', async () => {
    const run = await makeRun(of, ['TC-1', 'TC-2'])
    const [first, second] = run.items
    for (const item of [first, second]) {
      const attempt = await start(of, item?.id ?? 0)
      await whole(of, attempt.id, 'Passed')
    }
    const again = await of.tester.refused(startAttempt, { params: { id: first?.id ?? 0 }, body: {} })
    expect(again.detail).to.include('All 2 rows of Test cards are used up in this environment')
    of.pass(minute)
    const filled = await of.tester.ask(fillTable, { params: { id: table }, body: {} })
    expect([filled.rows, await usedIn()]).to.deep.equal([2, [[], []]])
    await of.tester.ask(fillTable, { params: { id: table }, body: { back: filled.at } })
    expect(await usedIn()).to.deep.equal([['Red'], ['Red']])
    await of.tester.ask(fillTable, { params: { id: table }, body: { environment: of.environments[1] } })
    expect(await usedIn()).to.deep.equal([['Red'], ['Red']])
    await of.tester.ask(fillTable, { params: { id: table }, body: { environment: of.environments[0] } })
    expect((await start(of, first?.id ?? 0)).rows).to.deep.equal([{ number: '4000' }])
  })
  it('are not used up in a table whose rows can be used again', async () => {
    await of.lead.ask(updateTable, { params: { id: table }, body: { usedUp: false }, version: 2 })
    expect(await needed()).to.deep.equal([])
    const run = await makeRun(of, ['TC-1'])
    const attempt = await start(of, run.items[0]?.id ?? 0)
    await whole(of, attempt.id, 'Passed')
    expect(await usedIn()).to.deep.equal([[], []])
  })
  it('are all taken where a case executes each of them', async () => {
    const { content, contentStamp } = await caseOf(of.lead, 'TC-1')
    await of.lead.ask(storeWorkingCopy, {
      params: { ref: 'TC-1' },
      body: { content: { ...content, table: { id: table, mode: 'each' } }, stamp: contentStamp },
    })
    expect((await needed(['TC-1']))[0]).to.deep.include({ needed: 2, left: 2 })
    const run = await makeRun(of, ['TC-1'])
    expect((await start(of, run.items[0]?.id ?? 0)).rows).to.have.lengthOf(2)
    expect(await usedIn()).to.deep.equal([['Red'], ['Red']])
  })
})
