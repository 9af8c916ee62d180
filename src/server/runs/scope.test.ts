import { expect } from 'chai'
import { pinCases } from '#core/plans/suite-contract.ts'
import { addItems, dropItems } from '#core/runs/compose-contract.ts'
import { listHistory } from '#core/history/contract.ts'
import { createRun, orderItems } from '#core/runs/contract.ts'
import { readDesk } from '#core/runs/desk-contract.ts'
import { placeItems, readRunScope } from '#core/runs/scope-contract.ts'
import { noticeMembers } from '#server/plans/keep-members.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { idsOf, makeCase, makeRequirements, makeSuite } from '#test/make.ts'

describe('the scope of a run in the middle', () => {
  let of: Shop
  let ref: string
  let suite: { key: string; id: number }
  const scope = () => of.viewer.ask(readRunScope, { params: { ref } })
  const named = (rows: readonly { key: string; place: string }[]) => rows.map(({ key, place }) => `${key} ${place}`)
  const notice = () => noticeMembers(of.services, of.project().id, 0)
  beforeEach(async () => {
    of = shop()
    for (const title of ['Adult', 'Child', 'Senior']) await makeCase(of.lead, title)
    suite = await makeSuite(of.lead, 'Fares', ['TC-1', 'TC-2'])
    await notice()
    of.pass(minute)
    const made = await of.lead.ask(createRun, {
      body: {
        title: 'The run',
        build: of.builds[1],
        suites: [suite.id],
        environments: [...of.environments],
        startOn: '2026-11-23',
        endOn: '2026-11-30',
      },
    })
    ref = made.key
    of.pass(minute)
  })

  it('is as at its opening, until its suites change: what came in and went out is listed, and nothing happens by itself', async () => {
    expect(await scope()).to.deep.equal({ gained: [], lost: [], out: [], items: 4 })
    const [, child = 0, senior = 0] = await idsOf(of.lead, ['TC-1', 'TC-2', 'TC-3'])
    await of.lead.ask(pinCases, { params: { ref: suite.key }, body: { addIds: [senior], remove: [child] } })
    await notice()
    const told = await scope()
    expect([named(told.gained), named(told.lost), told.items]).to.deep.equal([
      ['TC-3 Red', 'TC-3 Blue'],
      ['TC-2 Red', 'TC-2 Blue'],
      4,
    ])
    await of.lead.ask(addItems, {
      params: { ref },
      body: { items: told.gained.map((row) => ({ case: row.case, environment: row.environment })) },
    })
    await of.lead.ask(dropItems, {
      params: { ref },
      body: { ids: told.lost.map(({ item }) => item), reason: 'went out of its suites' },
    })
    const after = await scope()
    expect([after.gained, after.lost, after.items, named(after.out).sort()]).to.deep.equal([
      [],
      [],
      4,
      ['TC-2 Blue', 'TC-2 Red'],
    ])
    expect(new Set(after.out.map(({ reason }) => reason))).to.deep.equal(new Set(['went out of its suites']))
  })
  it('keeps what was taken out listed with its reason until it is brought back, and does not offer it as new', async () => {
    const before = await scope()
    expect(before.out).to.deep.equal([])
    await of.lead.ask(dropItems, { params: { ref }, body: { ids: [1, 2], reason: 'The bench is away' } })
    const told = await scope()
    expect([told.items, told.gained, told.out.map(({ reason, at }) => [reason, at])]).to.deep.equal([
      2,
      [],
      [
        ['The bench is away', of.now()],
        ['The bench is away', of.now()],
      ],
    ])
    await of.lead.ask(dropItems, { params: { ref }, body: { ids: told.out.map(({ item }) => item), undo: true } })
    expect(await scope()).to.deep.equal(before)
  })
})

describe('the order of items', () => {
  it('is that of the queue: put anew as a whole, those not named behind, told in history, and by groups of any of their fields', async () => {
    const of = shop()
    const [fares = ''] = await makeRequirements(of.lead, 'Fares')
    for (const title of ['Adult', 'Child', 'Senior']) await makeCase(of.lead, title, { proves: fares })
    const suite = await makeSuite(of.lead, 'Core', ['TC-1', 'TC-2', 'TC-3'])
    await noticeMembers(of.services, of.project().id, 0)
    const { key: ref } = await of.lead.ask(createRun, {
      body: {
        title: 'The run',
        build: of.builds[1],
        suites: [suite.id],
        environments: [of.environments[0]],
        startOn: '2026-11-23',
        endOn: '2026-11-30',
      },
    })
    const params = { ref }
    const { ids } = await of.lead.ask(orderItems, { params })
    const [first = 0, second = 0, third = 0] = ids
    const place = (order: number[]) => of.lead.ask(placeItems, { params, body: { order } })
    expect((await place([third, first])).moved).to.equal(3)
    expect((await of.lead.ask(orderItems, { params })).ids).to.deep.equal([third, first, second])
    const { queue } = await of.lead.ask(readDesk, { params: { id: first }, query: {} })
    expect(queue.map(({ id }) => id)).to.deep.equal([third, first, second])
    expect((await place([third, first, third, second])).moved).to.equal(0)
    const { rows } = await of.lead.ask(listHistory, { query: { ref } })
    expect(rows[0]?.action).to.equal('items placed')
    for (const [group, value] of [
      ['suite', 'Core'],
      ['requirement', 'Fares'],
      ['folder', null],
      ['verdict', 'Not run'],
    ] as const) {
      const told = await of.viewer.ask(orderItems, { params, query: { group } })
      expect(told.groups, group).to.deep.equal([{ value, count: 3 }])
    }
    expect((await of.tester.refused(placeItems, { params, body: { order: ids } })).status).to.equal(403)
  })
})
