import { expect } from 'chai'
import {
  levelRun,
  holdAtLine,
  drawRunLine,
  moveOnDays,
  placeOnDays,
  readLine,
  readNextBest,
  restoreOnDays,
} from '#core/schedule/contract.ts'
import { updateEnvironment } from '#core/projects/environments-contract.ts'
import { changeItems, readRun, updateRun } from '#core/runs/contract.ts'
import { listInbox } from '#core/talk/contract.ts'
import { type Shop, shop } from '#test/app.ts'
import { execute, makeProving, makeRun } from '#test/make.ts'

/** A run of five cases: one that failed before, and four of which two have not been executed. */
async function filled(of: Shop) {
  const cases = await makeProving(of.lead, 'Card', 'Cash', 'Voucher', 'Points', 'Later')
  const first = await makeRun(of, cases)
  await execute(of, first.items[0]?.id ?? 0, 'Failed')
  await execute(of, first.items[1]?.id ?? 0, 'Passed')
  return makeRun(of, cases)
}

describe('the line of a run', () => {
  let of: Shop
  let run: Awaited<ReturnType<typeof filled>>
  beforeEach(async () => {
    of = shop()
    run = await filled(of)
  })
  const params = () => ({ ref: run.key })
  const line = (query: object = {}) => of.viewer.ask(readLine, { params: params(), query })

  it('weighs every open item by terms that multiply out exactly', async () => {
    const told = await line()
    expect(told.ids).to.have.members(run.items.map(({ id }) => id))
    told.ids.forEach((_, at) => {
      const chance = 1 - told.leaves[at]!.reduce((product, leaves) => product * leaves, 1)
      expect(told.worth[at]).to.be.closeTo(told.shares[at]! * chance, 1e-12)
    })
    const at = (item: number) => told.ids.indexOf(run.items[item]?.id ?? 0)
    // What failed is worth most, what passed least, and each says why.
    expect(told.worth[at(0)]).to.be.above(told.worth[at(2)]!).and.to.be.above(told.worth[at(1)]!)
    expect(told.why[at(0)]).to.equal('failed on 1.0.1')
    expect(told.why[at(2)]).to.equal('never executed')
    expect(told.reached.whole).to.be.closeTo(
      told.worth.reduce((sum, each) => sum + each, 0),
      1e-9,
    )
  })

  it('is drawn where the time ends: by what is asked, by hand, else by the team’s hours', async () => {
    const all = await line()
    expect([all.drawn, all.line]).to.deep.equal([false, all.hours])
    const some = await line({ minutes: 8 })
    expect([some.above, some.line]).to.deep.equal([2, 8])
    expect(some.reached.worth).to.be.at.most(some.reached.bound)
    expect((await of.lead.ask(drawRunLine, { params: params(), body: { minutes: 4 } })).before).to.equal(null)
    const drawn = await line()
    expect([drawn.drawn, drawn.above]).to.deep.equal([true, 1])
    await of.lead.ask(drawRunLine, { params: params(), body: { minutes: null } })
    expect((await line()).drawn).to.equal(false)
  })

  it('keeps what was put on a side by hand, and says what that costs', async () => {
    const least = (await line()).ids.at(-1) ?? 0
    const { before } = await of.lead.ask(holdAtLine, {
      params: params(),
      body: { sides: [{ ids: [least], side: 'above' }] },
    })
    const held = await line({ minutes: 4 })
    expect([held.ids[0], held.above]).to.deep.equal([least, 1])
    expect(held.reached.cost).to.be.above(0)
    await of.lead.ask(holdAtLine, { params: params(), body: { sides: before } })
    expect((await line({ minutes: 4 })).reached.cost).to.equal(null)
  })

  it('places what is above on the team’s days as a whole, and takes it back as a whole', async () => {
    const level = await of.lead.ask(levelRun, { params: params(), body: {} })
    expect([level.placed, level.moved, level.taken, level.cutTotal]).to.deep.equal([5, 0, 0, 0])
    expect(level.worth).to.be.closeTo(level.bound, 1e-9)
    const { places, assignees } = await line()
    const before = assignees.filter((each) => each !== null)
    expect(places).to.deep.equal([])
    const applied = await of.lead.ask(placeOnDays, { params: params(), body: level })
    expect([applied.before.places, applied.told]).to.deep.equal([[], 5])
    const now = await line()
    expect(now.places).to.have.deep.members(level.places)
    expect(now.hands.reduce((sum, { placed }) => sum + placed.reduce((all, each) => all + each, 0), 0)).to.equal(
      now.minutes.reduce((sum, each) => sum + each, 0),
    )
    const inbox = (await of.tester.ask(listInbox)).rows
    expect(inbox.map(({ kind }) => kind)).to.include('planned')
    expect(inbox[0]?.text).to.match(/^put \d items? of .* on your days: \d{4}-/)
    await of.lead.ask(restoreOnDays, { params: params(), body: applied.before })
    const back = await line()
    expect([back.places, back.assignees.filter((each) => each !== null)]).to.deep.equal([[], before])
  })

  it('refuses a plan that was worked out before another was put in force', async () => {
    const [mine, theirs] = [
      await of.lead.ask(levelRun, { params: params(), body: {} }),
      await of.lead.ask(levelRun, { params: params(), body: {} }),
    ]
    await of.lead.ask(placeOnDays, { params: params(), body: mine })
    const refused = await of.lead.refused(placeOnDays, { params: params(), body: theirs })
    expect([refused.status, refused.detail]).to.satisfy(
      ([status, told]: [number, string]) => status === 412 && /has changed; nothing was stored/.test(told),
    )
  })

  it('puts a plan in force although a verdict came meanwhile: what is done falls out, what was begun stays where it is', async () => {
    const first = await of.lead.ask(levelRun, { params: params(), body: {} })
    await of.lead.ask(placeOnDays, { params: params(), body: first })
    const [done, begun] = [first.places[0]!.item, first.places[1]!.item]
    const again = await of.lead.ask(levelRun, { params: params(), body: {} })
    await execute(of, done, 'Passed')
    // Its case has one step, so that no verdict of a step leaves it begun.
    of.db.$client.prepare(`update item set verdict = 'In progress' where id = ?`).run(begun)
    const { days } = await line()
    const last = days.at(-1) ?? ''
    const places = again.places.map((place) => (place.item === begun ? { ...place, day: last } : place))
    await of.lead.ask(placeOnDays, { params: params(), body: { ...again, places } })
    const after = await line()
    expect(after.places.find(({ item }) => item === begun)?.day).to.equal(first.places[1]!.day)
    expect(after.ids).to.not.include(done)
  })

  it('leaves what is pinned and what was begun where it is when all is levelled again', async () => {
    const { days, hands } = await line()
    const [hand] = hands
    const day = days.find((_, at) => (hand?.minutes[at] ?? 0) > 0) ?? ''
    const pinned = run.items[3]?.id ?? 0
    const moved = await of.lead.ask(moveOnDays, {
      params: params(),
      body: { ids: [pinned], to: { person: hand?.id ?? '', day } },
    })
    expect([moved.before.off, moved.over]).to.deep.equal([[pinned], 0])
    const level = await of.lead.ask(levelRun, { params: params(), body: {} })
    expect(level.stays).to.equal(1)
    expect(level.places.find(({ item }) => item === pinned)).to.include({
      person: hand?.id,
      day,
      start: 0,
      pinned: true,
    })
  })

  it('fills a day by the minutes its items have now, whatever they had when they were put there', async () => {
    const { days } = await line()
    const ids = [run.items[0]?.id ?? 0]
    const to = { person: 'tester', day: days[0] ?? '' }
    await of.lead.ask(moveOnDays, { params: params(), body: { ids, to } })
    const before = (await line()).hands[0]?.placed[0]
    await of.lead.ask(changeItems, { params: params(), body: { ids, set: { estimate: 90 } } })
    expect([before, (await line()).hands[0]?.placed[0]]).to.deep.equal([4, 90])
  })

  it('levels round what is pinned: it keeps the beginning of its day, and its seat', async () => {
    const [red] = of.environments
    await of.lead.ask(updateEnvironment, { params: { id: red }, body: { seats: 1 } })
    const { version } = await of.lead.ask(readRun, { params: params() })
    await of.lead.ask(updateRun, { params: params(), body: { people: ['tester', 'second'] }, version })
    const { days } = await line()
    const pinned = run.items[2]?.id ?? 0
    const to = { person: 'tester', day: days[0] ?? '' }
    await of.lead.ask(moveOnDays, { params: params(), body: { ids: [pinned], to } })
    const { places } = await of.lead.ask(levelRun, { params: params(), body: {} })
    const there = places.filter(({ day }) => day === days[0]).sort((a, b) => a.start - b.start)
    expect(there[0]).to.include({ item: pinned, start: 0, ...to })
    // One seat for two people: nobody sits down before who is there has got up.
    there.slice(1).forEach(({ start }, at) => expect(start).to.be.at.least(there[at]!.start + there[at]!.minutes))
    expect(there.length).to.equal(5)
  })

  it('says how far a pin fills a day over, and refuses days that are over or none of the run’s', async () => {
    const { days, hands } = await line()
    const hand = hands.find(({ minutes }) => minutes.some((each) => each > 0))
    const away = days.find((_, at) => hand?.minutes[at] === 0)
    const ids = [run.items[0]?.id ?? 0]
    const to = (day: string) => ({ params: params(), body: { ids, to: { person: hand?.id ?? '', day } } })
    if (away !== undefined) expect((await of.lead.ask(moveOnDays, to(away))).over).to.be.above(0)
    expect((await of.lead.refused(moveOnDays, to('2001-01-01'))).detail).to.match(/2001-01-01 is over/)
    expect((await of.lead.refused(moveOnDays, to('2999-01-01'))).detail).to.match(/none of the days of RN-2/)
  })

  it('refuses what is of another run, of days that are none of it, and of a run that has ended', async () => {
    const level = await of.lead.ask(levelRun, { params: params(), body: {} })
    const [first] = level.places
    if (!first) throw new Error('nothing was placed')
    const astray = { ...level, places: [{ ...first, day: '2001-01-01' }] }
    expect((await of.lead.refused(placeOnDays, { params: params(), body: astray })).detail).to.match(
      /2001-01-01 is none/,
    )
    const twice = { ...level, places: [first, first] }
    expect((await of.lead.refused(placeOnDays, { params: params(), body: twice })).detail).to.match(/stands twice/)
    const foreign = [{ ids: [1], side: 'above' as const }]
    expect((await of.lead.refused(holdAtLine, { params: params(), body: { sides: foreign } })).detail).to.match(
      /no items of/,
    )
    const again = { ids: [first.item, first.item], to: { person: first.person, day: first.day } }
    expect((await of.lead.ask(moveOnDays, { params: params(), body: again })).before.off).to.deep.equal([first.item])
    const { version } = await of.lead.ask(readRun, { params: params() })
    await of.lead.ask(updateRun, { params: params(), body: { state: 'Aborted', reason: 'no time' }, version })
    expect((await of.lead.refused(levelRun, { params: params(), body: {} })).detail).to.equal(
      'RN-2 is Aborted; what is left of it is not planned any more.',
    )
  })

  it('lets nobody but a lead draw, hold or level', async () => {
    for (const [asked, body] of [
      [drawRunLine, { minutes: 3 }],
      [levelRun, {}],
      [placeOnDays, { basis: '', places: [] }],
    ] as const)
      expect((await of.tester.refused(asked, { params: params(), body } as never)).status).to.equal(403)
  })

  it('tells each person what is worth most for its minutes of what is theirs or free, and nothing else', async () => {
    const { best, among } = await of.tester.ask(readNextBest)
    expect([best?.title, best?.why, among > 1]).to.deep.equal(['Card', 'failed on 1.0.1', true])
    const other = await of.tester.ask(readNextBest, { query: { not: best?.item } })
    expect(other.best?.item).to.not.equal(best?.item)
    const ids = run.items.map(({ id }) => id)
    await of.lead.ask(holdAtLine, { params: params(), body: { sides: [{ ids, side: 'below' }] } })
    await of.lead.ask(updateRun, { params: { ref: 'RN-1' }, body: { state: 'Closed' }, version: 1 }).catch(() => null)
    const left = (await of.tester.ask(readNextBest)).best
    expect(left === null || left.run === 'RN-1').to.equal(true)
  })
})
