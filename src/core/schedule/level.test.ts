import { expect } from 'chai'
import fc from 'fast-check'
import { seeded } from '#core/lib/random.ts'
import { readModel } from '#core/techniques/models.ts'
import { loadSolver } from '#server/schedule/solver.ts'
import { brokenRules, madeTeam } from '#test/teams.ts'
import { level } from './level.ts'
import { relax } from './level-bound.ts'
import { levelFew } from './level-few.ts'
import { circleIn, type Levelling, type LevelItem, possible, teamOf, worthOf } from './levelling.ts'
import { levelModel } from './models.ts'

const days = ['2026-11-23', '2026-11-24']
const skill = fc.constantFrom('card', 'phone')
const environment = fc.constantFrom('Gecko', 'WebKit')

/** Few items of all that may be asked of them, for three people and two days. */
const small = (most: number): fc.Arbitrary<Levelling> =>
  fc
    .record({
      people: fc.array(
        fc.record({
          minutes: fc.tuple(fc.nat(20), fc.nat(20)),
          skills: fc.uniqueArray(skill),
        }),
        { minLength: 1, maxLength: 3 },
      ),
      items: fc.array(
        fc.record({
          minutes: fc.integer({ min: 1, max: 12 }),
          worth: fc.nat(20),
          skills: fc.uniqueArray(skill, { maxLength: 1 }),
          environment: fc.option(environment, { nil: undefined }),
          after: fc.uniqueArray(fc.nat(most), { maxLength: 1 }),
          due: fc.option(fc.constantFrom('2026-11-20', ...days), { nil: undefined, freq: 4 }),
          pin: fc.option(fc.record({ name: fc.nat(2), day: fc.option(fc.constantFrom(...days), { nil: undefined }) }), {
            nil: undefined,
            freq: 6,
          }),
        }),
        { minLength: 1, maxLength: most },
      ),
      seats: fc.dictionary(environment, fc.integer({ min: 0, max: 2 }), { noNullPrototype: true }),
      switch: fc.constantFrom(0, 2, 5),
    })
    .map((of) => ({
      days,
      seats: of.seats,
      switch: of.switch,
      people: of.people.map((person, at) => ({ ...person, name: `P${at}` })),
      items: of.items.map((item, at): LevelItem => {
        const { pin, after, ...rest } = item
        return {
          ...rest,
          key: `I${at}`,
          after: after.filter((other) => other < at).map((other) => `I${other}`),
          ...(pin && { pin: { name: `P${pin.name % of.people.length}`, day: pin.day } }),
        }
      }),
    }))

/** The most worth there is, by beginning the items in every order, with everybody, on every day, as early as the rules allow. */
function mostOf(of: Levelling): number {
  interface Done {
    readonly item: LevelItem
    readonly person: number
    readonly day: number
    readonly start: number
    readonly end: number
  }
  let most = 0
  const walk = (done: readonly Done[], worth: number): void => {
    most = Math.max(most, worth)
    const open = of.items.filter((item) => !done.some((each) => each.item === item))
    if (worth + open.reduce((sum, item) => sum + item.worth, 0) <= most) return
    for (const item of open)
      for (const [person, hands] of of.people.entries())
        for (const [day, date] of of.days.entries()) {
          if (item.due !== undefined && date > item.due) continue
          if (item.pin && (item.pin.name !== hands.name || (item.pin.day ?? date) !== date)) continue
          if (!item.skills.every((each) => hands.skills.includes(each))) continue
          const before = item.after.map((key) => done.find((each) => each.item.key === key))
          if (before.some((each) => !each || each.day > day)) continue
          const own = done.filter((each) => each.person === person && each.day === day)
          const set = own.findLast((each) => each.item.environment !== undefined)?.item.environment
          const change = set !== undefined && item.environment !== undefined && set !== item.environment ? of.switch : 0
          const from = Math.max(
            (own.at(-1)?.end ?? 0) + change,
            ...before.map((each) => (each?.day === day ? each.end : 0)),
          )
          const there = done.filter(
            (each) => each.day === day && item.environment !== undefined && each.item.environment === item.environment,
          )
          const seats = item.environment === undefined ? Infinity : (of.seats[item.environment] ?? Infinity)
          const isFree = (start: number) =>
            [start, ...there.map((each) => each.start)]
              .filter((at) => at >= start && at < start + item.minutes)
              .every((at) => there.filter((each) => each.start <= at && each.end > at).length < seats)
          const start = [from, ...there.map(({ end }) => end).filter((end) => end > from)]
            .sort((a, b) => a - b)
            .find(isFree)
          if (seats === 0 || start === undefined || start + item.minutes > hands.minutes[day]!) continue
          walk([...done, { item, person, day, start, end: start + item.minutes }], worth + item.worth)
        }
  }
  walk([], 0)
  return most
}

const three: Levelling = {
  days,
  people: [
    { name: 'Mira', minutes: [60, 60], skills: ['card'] },
    { name: 'Tobin', minutes: [30, 0], skills: [] },
  ],
  items: [],
  seats: {},
  switch: 0,
}
const item = (key: string, of: Partial<LevelItem> = {}): LevelItem => ({
  key,
  minutes: 10,
  worth: 5,
  skills: [],
  after: [],
  ...of,
})
/** So many more items that not every plan is looked at, each of little worth. */
const many = Array.from({ length: 12 }, (_, at) => item(`M${at}`, { worth: 0.1 }))

describe('levelling a team', () => {
  let solve: Awaited<ReturnType<typeof loadSolver>>
  before(async () => (solve = await loadSolver()))

  it('is the optimum of few items, with seats, order, pins, due days and changes of environment', () => {
    fc.assert(
      fc.property(small(5), (of) => {
        const plan = level(of, solve)
        expect(brokenRules(of, plan)).to.deep.equal([])
        expect(plan.worth).to.be.closeTo(mostOf(of), 1e-9)
        expect(plan.bound).to.equal(plan.worth)
      }),
      { numRuns: 150 },
    )
  })

  it('looks at all plans of eight items, and gives up on none', () => {
    fc.assert(
      fc.property(small(8), (of) => {
        const team = teamOf(of)
        expect(levelFew(team, possible(team))).to.not.equal(null)
        expect(brokenRules(of, level(of, solve))).to.deep.equal([])
      }),
      { numRuns: 60 },
    )
  })

  it('proves a bound that no plan exceeds, with a solver, without, and at prices that are wrong', () => {
    fc.assert(
      fc.property(small(6), fc.infiniteStream(fc.double({ min: 0, max: 3, noNaN: true })), (of, stream) => {
        const team = teamOf(of)
        const can = possible(team)
        const worth = worthOf(team, levelFew(team, can) ?? [])
        const wrong: typeof solve = (program) => {
          const found = solve(program)
          return found && { ...found, prices: found.prices.map(() => stream.next().value ?? 0) }
        }
        for (const by of [solve, null, wrong]) expect(relax(team, can, by).bound).to.be.at.least(worth - 1e-6)
      }),
      { numRuns: 80 },
    )
  })

  it('breaks no rule with hundreds of items, whatever binds', () => {
    fc.assert(
      fc.property(
        fc.nat(),
        fc.double({ min: 0.5, max: 3, noNaN: true }),
        fc.record({ seats: fc.boolean(), after: fc.boolean(), pins: fc.boolean(), due: fc.boolean() }),
        (seed, work, of) => {
          const team = madeTeam(seeded(seed), { items: 200, people: 6, days: 4, work, switch: 10, ...of })
          expect(brokenRules(team, level(team, solve))).to.deep.equal([])
          expect(level(team, solve)).to.deep.equal(level(team, solve))
        },
      ),
      { numRuns: 25 },
    )
  })

  it('comes within a per cent of the bound where neither seats nor order bind', () => {
    for (const work of [1.3, 2, 3]) {
      const team = madeTeam(seeded(7), { items: 1500, people: 12, days: 8, work, switch: 10, due: true, pins: true })
      const plan = level(team, solve)
      expect(brokenRules(team, plan)).to.deep.equal([])
      expect(plan.worth / plan.bound, `${work} times more work than hours`).to.be.at.least(0.99)
    }
  })

  it('places everything where there is time for it, without a solver as well', () => {
    const team = madeTeam(seeded(3), { items: 300, people: 8, days: 5, work: 0.6 })
    expect(level(team, null).cut.filter(({ why }) => !/nobody has|longer than/.test(why))).to.deep.equal([])
  })

  const why = (items: LevelItem[], of: Partial<Levelling> = {}) =>
    Object.fromEntries(
      level({ ...three, ...of, items: [...items, ...many] }, solve).cut.map((each) => [each.key, each.why]),
    )

  it('names at each item why it cannot be placed, and places the rest', () => {
    const cut = why(
      [
        item('long', { minutes: 90 }),
        item('skill', { skills: ['deck'] }),
        item('past', { due: '2026-11-20' }),
        item('holiday', { pin: { name: 'Mira', day: '2026-11-28' } }),
        item('away', { pin: { name: 'Tobin', day: '2026-11-24' } }),
        item('lacks', { pin: { name: 'Tobin' }, skills: ['card'] }),
        item('late', { pin: { name: 'Mira', day: '2026-11-24' }, due: '2026-11-23' }),
        item('seatless', { environment: 'Terminal' }),
        item('behind', { after: ['long'] }),
        item('fits'),
      ],
      { seats: { Terminal: 0 } },
    )
    expect(cut).to.include({
      long: 'takes 90 min, longer than any day whoever may do it has for it (60 min)',
      skill: 'nobody has deck',
      past: 'due 2026-11-20, before the first day',
      holiday: 'pinned to 2026-11-28, which is none of the days',
      away: 'Tobin has no hours on 2026-11-24',
      lacks: 'Tobin lacks card',
      late: 'pinned to 2026-11-24, after it is due',
      seatless: 'Terminal has no seat',
      behind: 'waits for long, which is cut',
    })
    expect(cut).to.not.have.property('fits')
  })

  it('says of what only has no time left what it is worth, by when', () => {
    const full = Array.from({ length: 15 }, (_, at) => item(`F${at}`, { worth: 9 }))
    const cut = why([
      ...full,
      item('pinned', { pin: { name: 'Tobin' }, worth: 1 }),
      item('small', { worth: 1, due: days[0] }),
    ])
    expect(cut['pinned']).to.equal('Tobin has no time for it')
    expect(cut['small']).to.equal('no time is left by 2026-11-23 for what is worth 1 in 10 min')
  })

  it('says that it is the seat where there would be time', () => {
    const seated = Array.from({ length: 14 }, (_, at) => item(`S${at}`, { environment: 'Terminal', skills: ['card'] }))
    const cut = why(seated, {
      seats: { Terminal: 1 },
      people: [
        { name: 'Mira', minutes: [60, 60], skills: ['card'] },
        { name: 'Ansa', minutes: [60, 60], skills: ['card'] },
      ],
    })
    expect(Object.values(cut)).to.include('no seat of Terminal is free for it')
  })

  it('of nobody, or of no hours at all, is nothing, and says so', () => {
    expect(why([item('a')], { people: [] })['a']).to.equal('there is nobody')
    expect(why([item('a')], { people: [{ name: 'Mira', minutes: [0, 0], skills: [] }] })['a']).to.equal(
      'whoever may do it has no hours on any day it may be done',
    )
    expect(level({ ...three, items: [] }, solve)).to.deep.equal({ assigned: [], cut: [], worth: 0, bound: 0 })
  })
})

describe('a model of levelling', () => {
  const read = (of: object) => () => readModel(levelModel, JSON.stringify({ ...three, ...of }))

  it('is refused at its place where a name is unknown or stands twice', () => {
    expect(read({ items: [{ key: 'a', minutes: 1, worth: 1, after: ['b'] }] })).to.throw(/there is no item “b”/)
    expect(read({ items: [item('a'), item('a')] })).to.throw(/“a” stands twice/)
    expect(read({ items: [item('a', { pin: { name: 'Ansa' } })] })).to.throw(/nobody called “Ansa”/)
    expect(read({ days: [days[1], days[0]] })).to.throw(/does not come after/)
    expect(read({ people: [{ name: 'Mira', minutes: [1] }] })).to.throw(/2 days and minutes of 1/)
  })

  it('is refused where items wait for each other in a circle, which is named', () => {
    const round = [item('a', { after: ['c'] }), item('b', { after: ['a'] }), item('c', { after: ['b'] })]
    expect(read({ items: [item('x'), ...round] })).to.throw(/circle: a after c after b after a/)
  })

  it('finds a circle exactly where there is one', () => {
    fc.assert(
      fc.property(fc.array(fc.array(fc.nat(7), { maxLength: 3 }), { minLength: 1, maxLength: 8 }), (all) => {
        const items = all.map((after, at) => ({ key: `i${at}`, after: after.map((of) => `i${of % all.length}`) }))
        // What stands in no circle can be taken away, one after the other, until nothing is left.
        let left = items
        for (let size = Infinity; left.length < size;) {
          size = left.length
          const keys = new Set(left.map(({ key }) => key))
          left = left.filter(({ after }) => after.some((key) => keys.has(key)))
        }
        expect(circleIn(items) !== null).to.equal(left.length > 0)
      }),
    )
  })
})

describe('a levelling round what stays', () => {
  const taken = fc.array(
    fc.record({
      person: fc.nat(2),
      day: fc.constantFrom(...days),
      minutes: fc.integer({ min: 1, max: 8 }),
      environment: fc.option(environment, { nil: undefined }),
    }),
    { maxLength: 5 },
  )
  /** Each after what stands before it on the same day, with the minutes it takes to set it up. */
  const withHeld = (
    of: Levelling,
    all: readonly { person: number; day: string; minutes: number; environment?: string | undefined }[],
  ): Levelling => {
    const ends = new Map<string, { end: number; set: string | undefined }>()
    const held = all.map(({ person, ...each }, at) => {
      const name = `P${person % of.people.length}`
      const before = ends.get(`${name} ${each.day}`)
      const changes = before?.set !== undefined && each.environment !== undefined && before.set !== each.environment
      const start = (before?.end ?? 0) + (changes ? of.switch : 0)
      ends.set(`${name} ${each.day}`, { end: start + each.minutes, set: each.environment ?? before?.set })
      return { ...each, key: `H${at}`, person: name, start }
    })
    return { ...of, held }
  }
  /** Every other item comes after something that is held. */
  const afterHeld = (of: Levelling): Levelling => ({
    ...of,
    items: of.items.map((item, at) => ({
      ...item,
      after: at % 2 === 0 && of.held?.length ? [...item.after, `H${at % of.held.length}`] : item.after,
    })),
  })

  it('lets nobody begin before it has ended, and takes no seat that it holds', async () => {
    const solve = await loadSolver()
    fc.assert(
      fc.property(small(10), taken, (team, all) => {
        const of = withHeld(team, all)
        expect(brokenRules(of, level(of, solve))).to.deep.equal([])
      }),
      { numRuns: 400 },
    )
  })

  it('is waited for by what comes after it, on its day and before', async () => {
    const solve = await loadSolver()
    fc.assert(
      fc.property(small(10), taken, (team, all) => {
        const of = afterHeld(withHeld(team, all))
        expect(brokenRules(of, level(of, solve))).to.deep.equal([])
      }),
      { numRuns: 400 },
    )
    const people = ['Ann', 'Ben'].map((name) => ({ name, minutes: [30, 30], skills: [] }))
    const item = { minutes: 10, worth: 5, skills: [] }
    const of: Levelling = {
      days: [...days],
      people,
      items: [
        { ...item, key: 'next', after: ['first'] },
        { ...item, key: 'free', after: [] },
      ],
      seats: {},
      switch: 0,
      held: [{ key: 'first', person: 'Ann', day: days[1]!, start: 0, minutes: 15 }],
    }
    const { assigned } = level(of, solve)
    expect(assigned).to.have.length(2)
    expect(assigned.find(({ key }) => key === 'next')).to.include({ day: days[1], start: 15 })
  })

  it('has no more worth than without it, and as much where it takes nothing from anybody', async () => {
    const solve = await loadSolver()
    fc.assert(
      fc.property(small(6), taken, (team, all) => {
        const free = level(team, solve)
        const round = level(withHeld(team, all), solve)
        // Of few items without it the plan is the best there is.
        expect(round.worth).to.be.at.most(free.worth + 1e-6)
        expect(level({ ...team, held: [] }, solve)).to.deep.equal(free)
      }),
      { numRuns: 200 },
    )
  })

  it('keeps within a hundredth of its bound where seats do not bind', async () => {
    const solve = await loadSolver()
    const random = seeded(7)
    const team = madeTeam(random, { items: 400, people: 8, days: 5, work: 1.6, due: true, switch: 10 })
    const held = team.people.flatMap(({ name }) =>
      team.days.map((day) => ({ person: name, day, start: 0, minutes: 60, environment: 'E1' })),
    )
    const plan = level({ ...team, held }, solve)
    expect(brokenRules({ ...team, held }, plan)).to.deep.equal([])
    expect(plan.worth).to.be.at.least(0.98 * plan.bound)
    expect(Math.min(...plan.assigned.map(({ start }) => start))).to.be.at.least(60)
  })
})
