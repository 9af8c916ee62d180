import { expect } from 'chai'
import { readRun, updateRun } from '#core/runs/contract.ts'
import { removeMember } from '#core/people/members-contract.ts'
import { readLine, readOwnLine, readPlanLine } from '#core/schedule/contract.ts'
import {
  applyWhatIf,
  type Changes,
  createWhatIf,
  dropWhatIf,
  listWhatIfs,
  noChanges,
  putRunWay,
  updateWhatIf,
  weighWhatIf,
} from '#core/schedule/what-if-contract.ts'
import { createRun, dealItems, listItems } from '#core/runs/contract.ts'
import { shop, type Shop } from '#test/app.ts'
import { execute, idsOf, makePlan, makeProving, makeRun } from '#test/make.ts'

describe('another way a run could go', () => {
  let of: Shop
  let run: Awaited<ReturnType<typeof makeRun>>
  beforeEach(async () => {
    of = shop()
    const cases = await makeProving(of.lead, 'Card', 'Cash', 'Voucher')
    run = await makeRun(of, cases, { environments: of.environments })
  })
  const params = () => ({ ref: run.key })
  const figures = (id?: number) =>
    of.viewer.ask(weighWhatIf, { params: params(), query: id === undefined ? {} : { id } })
  const keep = async (changes: Partial<Changes>, name = 'A way') =>
    (await of.lead.ask(createWhatIf, { params: params(), body: { name, changes: { ...noChanges, ...changes } } })).id
  const listed = () => of.viewer.ask(listWhatIfs, { params: params() })

  it('is weighed beside the present: people, days, environments and the reserve each by themselves', async () => {
    const present = await figures()
    expect([present.people, present.items, present.above]).to.deep.equal([1, 6, 6])
    const more = await figures(await keep({ more: 1 }))
    // A new tester has 60 % of eight hours on each working day there is.
    expect(more.minutes - present.minutes).to.equal(288 * present.days)
    const joined = await figures(await keep({ join: ['second'] }))
    expect([joined.people, joined.minutes - present.minutes]).to.deep.equal([2, 288 * present.days])
    const later = await figures(await keep({ endOn: '2026-12-02' }))
    expect([later.days - present.days, later.minutes - present.minutes]).to.deep.equal([2, 2 * 288])
    const kept = await figures(await keep({ reservePercent: 50 }))
    expect(kept.minutes).to.equal(present.minutes / 2)
    const [, blue] = of.environments
    const without = await figures(await keep({ without: [blue] }))
    expect([without.items, without.above, without.minutes]).to.deep.equal([6, 3, present.minutes])
    expect(without.riskLeft).to.be.closeTo(present.riskLeft, 1)
    // Asking has touched nothing.
    expect(await figures()).to.deep.equal(present)
  })

  it('leaves more risk below where there is less time, and says how much of it finds a place', async () => {
    const present = await figures()
    const { hours } = await of.viewer.ask(readLine, { params: params() })
    expect([present.riskLeft, present.minutes, present.placed.items]).to.deep.equal([0, hours, 6])
    await of.lead.ask(updateRun, { params: params(), body: { endOn: '2026-11-23' }, version: 1 })
    const tight = await figures(await keep({ reservePercent: 90 }))
    expect(tight.minutes).to.equal(29)
    expect(tight.placed.items).to.be.at.most(tight.above)
    expect(tight.ends.chance).to.be.below(1)
  })

  it('is changed part by part, so that two leads who change different parts both keep theirs', async () => {
    const id = await keep({ more: 1 })
    const change = (changes: Partial<Changes>) => of.lead.ask(updateWhatIf, { params: { id }, body: { changes } })
    await change({ endOn: '2026-12-02' })
    await change({ reservePercent: 5 })
    await of.lead.ask(updateWhatIf, { params: { id }, body: { name: 'By hand' } })
    const [row] = (await listed()).rows
    expect(row).to.deep.include({
      name: 'By hand',
      changes: { ...noChanges, more: 1, endOn: '2026-12-02', reservePercent: 5 },
    })
  })

  it('is put in force as a whole, and taken back as a whole', async () => {
    const before = await of.viewer.ask(readRun, { params: params() })
    const [, blue] = of.environments
    const id = await keep({ join: ['second'], endOn: '2026-12-02', without: [blue], reservePercent: 10 })
    const { version } = (await listed()).run
    const done = await of.lead.ask(applyWhatIf, { params: { id }, body: { version } })
    const after = await of.viewer.ask(readRun, { params: params() })
    expect([after.team.map((each) => each.id).sort(), after.endOn]).to.deep.equal([['second', 'tester'], '2026-12-02'])
    const line = await of.viewer.ask(readLine, { params: params() })
    expect(line.held.filter((side) => side === 'below')).to.have.length(3)
    expect([line.runs[0]?.reserve, line.runs[0]?.ownReserve, (await listed()).rows]).to.deep.equal([10, true, []])
    await of.lead.ask(putRunWay, { params: params(), body: done.before })
    await of.lead.ask(dropWhatIf, { params: { id }, query: { undo: 'yes' } })
    const back = await of.viewer.ask(readLine, { params: params() })
    expect([back.held.some((side) => side !== null), back.runs[0]?.ownReserve]).to.deep.equal([false, false])
    const restored = await of.viewer.ask(readRun, { params: params() })
    expect([restored.team.map((each) => each.id), restored.endOn]).to.deep.equal([
      before.team.map((each) => each.id),
      before.endOn,
    ])
    expect((await listed()).rows.map((row) => row.id)).to.deep.equal([id])
  })

  it('is not put in force over what somebody changed meanwhile, nor with a tester nobody has named', async () => {
    const id = await keep({ more: 1 })
    const { version } = (await listed()).run
    await of.lead.ask(updateRun, { params: params(), body: { title: 'Another' }, version })
    const stale = await of.lead.refused(applyWhatIf, { params: { id }, body: { version } })
    expect([stale.status, stale.detail]).to.deep.equal([
      412,
      'RN-1 was changed since its figures were worked out; nothing was stored. Look at them again.',
    ])
    const unnamed = await of.lead.refused(applyWhatIf, { params: { id }, body: { version: version + 1 } })
    expect(unnamed.detail).to.match(/has a tester nobody has named; choose who joins/)
    expect((await listed()).rows).to.have.length(1)
  })

  it('is not put in force where it changes nothing, nor brought back where as many stand side by side as may', async () => {
    const id = await keep({})
    const { version } = (await listed()).run
    const nothing = await of.lead.refused(applyWhatIf, { params: { id }, body: { version } })
    expect(nothing.detail).to.equal('“A way” changes nothing yet; say what would be different, then put it in force.')
    await of.lead.ask(dropWhatIf, { params: { id } })
    for (let n = 0; n < 5; n++) await keep({}, `Way ${n}`)
    const back = await of.lead.refused(dropWhatIf, { params: { id }, query: { undo: 'yes' } })
    expect([back.detail, (await listed()).rows.length]).to.deep.equal([
      'RN-1 has 5 what-ifs already, as many as stand side by side; drop one first.',
      5,
    ])
  })

  it('is not put in force with somebody who has left the project meanwhile', async () => {
    const id = await keep({ join: ['second'] })
    const { version } = (await listed()).run
    await of.lead.ask(removeMember, { params: { person: 'second' } })
    const gone = await of.lead.refused(applyWhatIf, { params: { id }, body: { version } })
    expect(gone.detail).to.match(/^Second Person of “A way” is not of the project any more/)
    // Looked at it can still be, without them.
    expect((await figures(id)).people).to.equal(1)
  })

  it('refuses a last day that is over or before the start, and more ways than stand side by side', async () => {
    const body = (changes: Partial<Changes>) => ({ name: 'A way', changes: { ...noChanges, ...changes } })
    const refused = async (changes: Partial<Changes>) =>
      (await of.lead.refused(createWhatIf, { params: params(), body: body(changes) })).detail
    expect(await refused({ endOn: '2026-11-01' })).to.equal(
      '2026-11-01 is before today, 2026-11-23; nothing was stored.',
    )
    expect(await refused({ join: ['stranger'] })).to.match(/not one of this project/)
    expect(await refused({ without: [999] })).to.match(/environment/)
    for (let n = 0; n < 5; n++) await keep({}, `Way ${n}`)
    expect(await refused({})).to.equal('RN-1 has 5 what-ifs already, as many as stand side by side; drop one first.')
    expect((await of.tester.refused(createWhatIf, { params: params(), body: body({}) })).status).to.equal(403)
  })
})

describe('the line of a plan, and of one’s own day', () => {
  it('takes the runs of a plan that go on as one, and leaves the places of a case in two of them counted once', async () => {
    const of = shop()
    const cases = await makeProving(of.lead, 'Card', 'Cash')
    const plan = await makePlan(of, cases)
    const made = async (title: string) =>
      (
        await of.lead.ask(createRun, {
          body: {
            title,
            plan: plan.id,
            build: of.builds[1],
            cases: await idsOf(of.lead, cases),
            environments: [of.environments[0]],
            people: ['tester'],
            startOn: '2026-11-23',
            endOn: '2026-11-24',
            state: 'Open',
          },
        })
      ).key
    const [first, second] = [await made('First'), await made('Second')]
    const line = await of.viewer.ask(readPlanLine, { params: { ref: plan.key } })
    expect([line.about.kind, line.about.key, line.runs.map(({ key }) => key)]).to.deep.equal([
      'plan',
      plan.key,
      [second, first],
    ])
    expect(line.ids).to.have.length(4)
    // What two items answer both is worth what one of them is.
    const one = await of.viewer.ask(readLine, { params: { ref: first } })
    expect(line.reached.whole).to.be.closeTo(one.reached.whole, 1e-9)
    expect(line.hours).to.equal(one.hours)
    await of.lead.ask(updateRun, { params: { ref: second }, body: { state: 'Aborted', reason: 'no time' }, version: 1 })
    expect((await of.viewer.ask(readPlanLine, { params: { ref: plan.key } })).runs.map(({ key }) => key)).to.deep.equal(
      [first],
    )
  })

  it('tells of one’s own day only what is one’s own and waits for nothing, in the minutes of today', async () => {
    const of = shop()
    const cases = await makeProving(of.lead, 'Card', 'Cash')
    const run = await makeRun(of, cases, { people: ['tester', 'second'] })
    await of.lead.ask(dealItems, { params: { ref: run.key }, body: {} })
    const { rows } = await of.lead.ask(listItems, { params: { ref: run.key } })
    const own = rows.filter(({ assigneeId }) => assigneeId === 'tester')
    expect(own.length).to.be.within(1, 1)
    const day = await of.tester.ask(readOwnLine)
    expect([day.ids, day.hours, day.days[0]]).to.deep.equal([own.map(({ id }) => id), 288, '2026-11-23'])
    await execute(of, own[0]?.id ?? 0, 'Passed')
    expect((await of.tester.ask(readOwnLine)).ids).to.deep.equal([])
    expect((await of.viewer.ask(readOwnLine)).ids).to.deep.equal([])
  })
})
