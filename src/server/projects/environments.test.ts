import { expect } from 'chai'
import { listHistory } from '#core/history/contract.ts'
import { readPrice } from '#core/plans/asks-contract.ts'
import { createEnvironment, readProject } from '#core/projects/contract.ts'
import {
  addOutage,
  changeOutage,
  listEnvironments,
  removeEnvironment,
  removeOutage,
  setFactors,
  updateEnvironment,
} from '#core/projects/environments-contract.ts'
import { listItems } from '#core/runs/contract.ts'
import { readDesk } from '#core/runs/desk-contract.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { execute, makeCase, makePlan, makeRun } from '#test/make.ts'

describe('environments', () => {
  let of: Shop
  let first: number
  beforeEach(() => {
    of = shop()
    ;[first = 0] = of.environments
  })
  const list = () => of.viewer.ask(listEnvironments)
  const own = async (id = first) => (await list()).rows.find((row) => row.id === id)

  it('have an owner, an address, seats and values, and each change can be read', async () => {
    const body = {
      name: 'Gecko, tablet',
      seats: 2,
      owner: 'tester',
      address: 'https://blue.tarnsey.example/',
      notes: 'The mast is on the quay',
      values: { engine: 'Gecko', device: 'tablet' },
    }
    await of.lead.ask(updateEnvironment, { params: { id: first }, body })
    const { owner, ...rest } = body
    expect(await own()).to.deep.include(rest)
    expect((await own())?.owner?.id).to.equal(owner)
    const [entry] = (await of.viewer.ask(listHistory, { query: { kind: 'environment' } })).rows
    expect([entry?.action, entry?.detail?.['seats']]).to.deep.equal(['changed', [null, 2]])
    const before = (await of.viewer.ask(listHistory, { query: { kind: 'environment' } })).rows.length
    await of.lead.ask(updateEnvironment, { params: { id: first }, body })
    expect((await of.viewer.ask(listHistory, { query: { kind: 'environment' } })).rows).to.have.length(before)
  })
  it('are called differently, and are reached by http or https alone', async () => {
    const [, second = 0] = of.environments
    const taken = await of.lead.refused(updateEnvironment, {
      params: { id: second },
      body: { name: (await own())?.name ?? '' },
    })
    expect([taken.status, taken.fields]).to.deep.equal([422, ['name']])
    const wrong = await of.lead.refused(updateEnvironment, {
      params: { id: first },
      body: { address: 'javascript:alert(1)' },
    })
    expect([wrong.status, wrong.fields]).to.deep.equal([400, ['address']])
    expect((await of.tester.refused(updateEnvironment, { params: { id: first }, body: { seats: 1 } })).status).to.equal(
      403,
    )
  })
  it('are taken away and brought back; a name taken meanwhile is not had twice', async () => {
    const name = (await own())?.name ?? ''
    await of.lead.ask(removeEnvironment, { params: { id: first } })
    expect(await own()).to.equal(undefined)
    await of.lead.ask(createEnvironment, { body: { name } })
    const again = await of.lead.refused(removeEnvironment, { params: { id: first }, query: { undo: 'yes' } })
    expect(again.detail).to.match(/name that one anew first/)
    const twin = (await list()).rows.find((row) => row.name === name)?.id ?? 0
    await of.lead.ask(removeEnvironment, { params: { id: twin } })
    await of.lead.ask(removeEnvironment, { params: { id: first }, query: { undo: 'yes' } })
    expect((await own())?.name).to.equal(name)
  })
  it('of any kind stays as it is', async () => {
    const any = (await of.viewer.ask(readProject)).environments.find(({ isAny }) => isAny)?.id ?? 0
    expect((await of.lead.refused(removeEnvironment, { params: { id: any } })).detail).to.match(/stands for any/)
  })

  describe('and their factors', () => {
    beforeEach(async () => {
      const [, second = 0] = of.environments
      const values = (id: number, engine: string, device: string) =>
        of.lead.ask(updateEnvironment, { params: { id }, body: { values: { engine, device } } })
      await values(first, 'Gecko', 'tablet')
      await values(second, 'Chromium', 'desk')
    })
    it('refuse what is not understood, with the line, and store nothing of it', async () => {
      const wrong = await of.lead.refused(setFactors, { body: { factorRules: 'never engine Trident' } })
      expect(wrong.detail).to.match(/^“never engine Trident”: There is no value of engine here.*Nothing was stored\.$/)
      expect((await list()).factorRules).to.equal('')
    })
    it('name what is not allowed; a plan does not ask for it and says so', async () => {
      await makePlan(of, [await makeCase(of.lead, 'Pays')], [...of.environments])
      await of.lead.ask(setFactors, { body: { factorRules: 'never engine Gecko with device tablet' } })
      expect((await own())?.notAllowed).to.equal('never engine Gecko with device tablet')
      const price = await of.viewer.ask(readPrice, { params: { ref: 'PL-1' } })
      expect(price.now.slots).to.equal(of.environments.length - 1)
      expect(price.notAllowed.map(({ id }) => id)).to.deep.equal([first])
    })
    it('refuse rules that leave no environment', async () => {
      const { rows } = await list()
      for (const { id } of rows.slice(2)) await of.lead.ask(removeEnvironment, { params: { id } })
      const rules = 'never engine Gecko or Chromium'
      const refused = await of.lead.refused(setFactors, { body: { factorRules: rules } })
      expect(refused.detail).to.match(/^These rules leave no environment/)
      expect((await list()).factorRules).to.equal('')
    })
  })

  describe('and their outages', () => {
    const say = (of: Shop, more: object = {}) =>
      of.tester.ask(addOutage, { body: { environment: first, fromAt: of.now(), reason: 'Mast down', ...more } })
    it('hold what is not begun there until they end', async () => {
      const run = await makeRun(of, [await makeCase(of.lead, 'Pays')])
      const id = run.items[0]?.id ?? 0
      const { id: outage } = await say(of)
      expect((await of.viewer.ask(listItems, { params: { ref: run.key } })).rows[0]?.outage).to.equal('Mast down')
      expect((await of.viewer.ask(readDesk, { params: { id } })).item.outage).to.equal('Mast down')
      of.pass(30 * minute)
      await of.tester.ask(changeOutage, { params: { id: outage }, body: { untilAt: of.now() } })
      expect((await of.viewer.ask(listItems, { params: { ref: run.key } })).rows[0]?.outage).to.equal(null)
    })
    it('mark the attempts made meanwhile, and no others', async () => {
      const run = await makeRun(of, [await makeCase(of.lead, 'Pays'), await makeCase(of.lead, 'Sails')])
      await execute(of, run.items[0]?.id ?? 0, 'Passed')
      of.pass(minute)
      const { id: outage } = await say(of)
      of.pass(minute)
      await execute(of, run.items[1]?.id ?? 0, 'Failed')
      of.pass(minute)
      await of.tester.ask(changeOutage, { params: { id: outage }, body: { untilAt: of.now() } })
      const rows = (await of.viewer.ask(listItems, { params: { ref: run.key } })).rows
      expect(rows.map((row) => row.outage)).to.deep.equal([null, 'Mast down'])
      expect((await own())?.outages[0]).to.deep.include({ attempts: 1, reason: 'Mast down' })
    })
    it('end after they begin, and do not overlap', async () => {
      await say(of)
      const twice = await of.tester.refused(addOutage, {
        body: { environment: first, fromAt: of.now() + minute, reason: 'Again' },
      })
      expect(twice.detail).to.match(/There is an outage of this environment in that time already/)
      const backwards = await of.tester.refused(addOutage, {
        body: { environment: of.environments[1] ?? 0, fromAt: of.now(), untilAt: of.now() - 1, reason: 'Odd' },
      })
      expect(backwards.fields).to.deep.equal(['untilAt'])
    })
    it('are taken back and said again', async () => {
      const { id } = await say(of)
      await of.tester.ask(removeOutage, { params: { id } })
      expect((await own())?.outages).to.deep.equal([])
      await of.tester.ask(removeOutage, { params: { id }, query: { undo: 'yes' } })
      expect((await own())?.outages).to.have.length(1)
      const acts = (await of.viewer.ask(listHistory, { query: { kind: 'environment' } })).rows
      expect(acts.map(({ action }) => action).slice(0, 3)).to.deep.equal([
        'outage said again',
        'outage taken back',
        'outage said',
      ])
    })
  })
})
