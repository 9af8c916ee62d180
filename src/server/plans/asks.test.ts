import { expect } from 'chai'
import { dealPlan, readMatrix, readMatrixSlots, readPrice } from '#core/plans/asks-contract.ts'
import { readPlan, updatePlan } from '#core/plans/contract.ts'
import { pinCases } from '#core/plans/suite-contract.ts'
import { createEnvironment } from '#core/projects/contract.ts'
import { updateEnvironment } from '#core/projects/environments-contract.ts'
import { readCoverage } from '#core/reports/contract.ts'
import { createRun, listItems } from '#core/runs/contract.ts'
import { noticeMembers } from './keep-members.ts'
import { shop, type Shop } from '#test/app.ts'
import { execute, idsOf, makeCase, makePlan, makeRequirements, makeRun } from '#test/make.ts'

const params = { ref: 'PL-1' }

describe('what a plan asks of environments', () => {
  let of: Shop
  let keys: string[]
  let ids: number[]
  let places: number[]
  beforeEach(async () => {
    of = shop()
    const [fares = '', bands = ''] = await makeRequirements(of.lead, 'Fares', 'Age bands')
    keys = [
      await makeCase(of.lead, 'Adult pays', { proves: fares }),
      await makeCase(of.lead, 'Child pays half', { proves: bands }),
      await makeCase(of.lead, 'Infant is free', { proves: bands }),
    ]
    ids = await idsOf(of.lead, keys)
    const [first = 0, second = 0] = of.environments
    const { id: third } = await of.lead.ask(createEnvironment, {
      body: { name: 'Gecko, phone', values: { engine: 'Gecko', device: 'phone' } },
    })
    places = [first, second, third]
    const values = (id: number, engine: string, device: string) =>
      of.lead.ask(updateEnvironment, { params: { id }, body: { values: { engine, device } } })
    await values(first, 'Chromium', 'desk')
    await values(second, 'Gecko', 'desk')
    await makePlan(of, keys, places)
  })
  const plan = () => of.viewer.ask(readPlan, { params })
  type Asks = NonNullable<Parameters<typeof updatePlan.body.parse>[0]> & object
  const ask = async (asks: object[]) =>
    of.lead.ask(updatePlan, { params, body: { asks } as Asks, version: (await plan()).version })
  const price = (query: object = {}) => of.viewer.ask(readPrice, { params, query })
  const matrix = (query: object = {}) => of.viewer.ask(readMatrix, { params, query })

  it('is told with its price before it is chosen, and costs that once it is', async () => {
    const told = await price()
    const of9 = told.ways.map(({ way, slots }) => [way, slots])
    expect(of9).to.deep.equal([
      ['all', 9],
      ['any', 3],
      ['pairs', 9],
      ['spread', 3],
    ])
    expect(told.now).to.deep.equal({ slots: 9, minutes: told.ways[0]?.minutes })
    for (const { way, slots, minutes } of told.ways) {
      await ask([{ about: 'plan', id: 0, way }])
      expect((await price()).now).to.deep.equal({ slots, minutes })
    }
  })
  it('is what a case, its branch or its suite says, and shows in the scope at once', async () => {
    const [suite] = (await plan()).suiteList
    await ask([
      { about: 'suite', id: suite?.id, way: 'all', environments: [places[0]] },
      { about: 'case', id: ids[2], way: 'any' },
    ])
    expect((await price()).now.slots).to.equal(3)
    expect((await of.viewer.ask(readCoverage)).total.figures.slots).to.equal(3)
    expect((await plan()).asks.map(({ key, way }) => [key, way])).to.deep.equal([
      [keys[2], 'any'],
      [suite?.key, 'all'],
    ])
    await ask([])
    expect((await of.viewer.ask(readCoverage)).total.figures.slots).to.equal(9)
  })
  it('is answered by whichever environment comes first, where any would do', async () => {
    await ask([{ about: 'plan', id: 0, way: 'any' }])
    const run = await makeRun(of, [keys[0] ?? ''], { environments: [places[1] ?? 0] })
    await execute(of, run.items[0]?.id ?? 0, 'Passed')
    const { rows, figures } = await matrix({ by: 'cases' })
    expect(figures).to.deep.include({ slots: 3, empty: 2 })
    const cells = rows[0]?.kind === 'case' ? rows[0].cells : []
    expect(cells.map((cell) => cell && [cell.any, cell.verdict])).to.deep.equal([
      [true, 'Not run'],
      [true, 'Passed'],
      [true, 'Not run'],
    ])
    expect(
      (await of.viewer.ask(readCoverage, { query: { environment: 'Gecko, phone' } })).total.figures.slots,
    ).to.equal(3)
  })
  it('refuses what is not of the project, an empty list, and more than can be read', async () => {
    const version = (await plan()).version
    const refused = async (asks: unknown[]) =>
      (await of.lead.refused(updatePlan, { params, body: { asks } as Asks, version })).status
    expect(await refused([{ about: 'case', id: 999, way: 'any' }])).to.equal(400)
    expect(await refused([{ about: 'plan', id: 0, way: 'any', environments: [] }])).to.equal(400)
    expect(await refused([{ about: 'plan', id: 0, way: 'twice' }])).to.equal(400)
    expect(await refused([{ about: 'plan', id: 4, way: 'any' }])).to.equal(400)
    expect((await plan()).asks).to.deep.equal([])
  })
  it('becomes the items of a run that says nothing else', async () => {
    await ask([{ about: 'plan', id: 0, way: 'spread' }])
    const body = { title: 'All', build: of.builds[1] ?? 0, startOn: '2026-11-23', endOn: '2026-11-30' }
    const { id } = await plan()
    const made = await of.lead.ask(createRun, { body: { ...body, plan: id } })
    expect(made.items).to.equal(3)
    const whole = await of.lead.ask(createRun, { body: { ...body, plan: id, environments: places } })
    expect(whole.items).to.equal(9)
  })

  describe('spread', () => {
    const dealt = async () => {
      const { rows, columns } = await matrix({ by: 'cases' })
      return Object.fromEntries(
        rows.map((row) => [row.key, columns[row.cells.findIndex((cell) => cell !== null)]?.name ?? '']),
      )
    }
    const notice = () => noticeMembers(of.services, of.project().id, 0)
    it('stays where it was dealt when others come, which are dealt by themselves', async () => {
      await ask([{ about: 'plan', id: 0, way: 'spread' }])
      await notice()
      const before = await dealt()
      const fresh = await makeCase(of.lead, 'Pensioner pays less', { proves: 'RQ-2' })
      const [suite] = (await plan()).suiteList
      await of.lead.ask(pinCases, {
        params: { ref: suite?.key ?? '' },
        body: { add: [fresh] },
      })
      const live = await dealt()
      expect(live).to.deep.include(before)
      expect(Object.values(live)).to.have.length(4)
      await notice()
      expect(await dealt()).to.deep.equal(live)
      expect(of.db.$client.prepare('select count(*) from plan_deal').pluck().get()).to.equal(4)
    })
    it('is dealt again by an act that names what would be unseated, and is taken back', async () => {
      const [first = 0] = places
      await ask([{ about: 'plan', id: 0, way: 'spread', environments: [first] }])
      await notice()
      const run = await makeRun(of, keys, { environments: [first] })
      for (const { id } of run.items) await execute(of, id, 'Passed')
      await ask([{ about: 'plan', id: 0, way: 'spread' }])
      const told = await of.lead.ask(dealPlan, { params, body: { only: 'told' } })
      const before = await dealt()
      expect(told.moved).to.be.greaterThan(0)
      expect(told.unseated.map(({ verdict }) => verdict)).to.deep.equal(told.unseated.map(() => 'Passed'))
      expect(told.unseatedTotal).to.equal(told.moved)
      expect(await dealt()).to.deep.equal(before)
      const done = await of.lead.ask(dealPlan, { params, body: {} })
      expect(await dealt()).not.to.deep.equal(before)
      await of.lead.ask(dealPlan, { params, body: { deals: done.before } })
      expect(await dealt()).to.deep.equal(before)
    })
    it('has nothing to deal where nothing is spread, and is not dealt in a closed plan', async () => {
      expect((await of.lead.refused(dealPlan, { params, body: {} })).detail).to.match(/Nothing of this plan is spread/)
      await of.lead.ask(updatePlan, { params, body: { state: 'Closed' }, version: (await plan()).version })
      expect((await of.lead.refused(dealPlan, { params, body: {} })).detail).to.match(/PL-1 is closed/)
    })
  })

  describe('as a matrix', () => {
    it('has the results where they stand, by requirement or by case, and pages', async () => {
      const run = await makeRun(of, [keys[1] ?? ''], { environments: [places[0] ?? 0] })
      await execute(of, run.items[0]?.id ?? 0, 'Failed')
      const { rows, figures, columns, total } = await matrix()
      expect(columns.map(({ id }) => id)).to.deep.equal(places)
      expect(figures).to.deep.include({ slots: 9, empty: 8, stale: 0, failing: 1 })
      expect(rows.map(({ key }) => key)).to.deep.equal(['RQ-1', 'TC-1', 'RQ-2', 'TC-2', 'TC-3'])
      expect(total).to.equal(5)
      const page = await matrix({ cursor: 3, limit: 1 })
      expect([page.rows.map(({ key }) => key), page.next]).to.deep.equal([['TC-2'], 4])
      const cell = page.rows[0]?.kind === 'case' ? page.rows[0].cells[0] : null
      expect(cell).to.deep.include({ verdict: 'Failed', any: false, stale: false })
      expect(cell?.attempt).to.be.greaterThan(0)
      const [of2] = rows.filter(({ key }) => key === 'RQ-2')
      expect(of2?.kind === 'requirement' ? of2.cells[0] : null).to.deep.equal({ passed: 0, of: 2 })
    })
    it('finds what has no result, a stale or a failing one, to make a run of', async () => {
      const run = await makeRun(of, keys, { environments: [places[0] ?? 0] })
      await execute(of, run.items[0]?.id ?? 0, 'Passed')
      await execute(of, run.items[1]?.id ?? 0, 'Blocked')
      const found = (find: 'empty' | 'stale' | 'failing') => of.viewer.ask(readMatrixSlots, { params, query: { find } })
      expect((await found('empty')).total).to.equal(7)
      expect((await found('failing')).slots).to.deep.equal([{ case: ids[1], environment: places[0] }])
      const made = await of.lead.ask(createRun, {
        body: {
          title: 'What is empty',
          build: of.builds[1] ?? 0,
          plan: (await plan()).id,
          items: (await found('empty')).slots,
          startOn: '2026-11-23',
          endOn: '2026-11-30',
        },
      })
      expect((await of.lead.ask(listItems, { params: { ref: made.key } })).total).to.equal(7)
    })
    it('says what of each requirement is asked nowhere, and what would be covered if all passed', async () => {
      await ask([
        {
          about: 'requirement',
          id: (await of.viewer.send('GET', '/projects/SHOP/requirements/RQ-1')).body.id,
          way: 'all',
          environments: [places[0]],
        },
      ])
      const told = await price()
      expect(told.lacking.map(({ key, environments }) => [key, environments.length])).to.deep.equal([['RQ-1', 2]])
      expect(told.covered).to.deep.equal({ now: 0, then: 1 })
      expect(told.pairs).to.deep.include({ pair: ['Chromium', 'phone'], rule: null })
    })
    it('of a plan whose release is gone says so', async () => {
      of.db.$client.prepare('update release set deleted_at = 1').run()
      expect((await of.viewer.refused(readMatrix, { params })).detail).to.match(/release of this plan is gone/)
    })
  })
})
