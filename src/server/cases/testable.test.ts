import { expect } from 'chai'
import { changeCases, listCases, readCase, updateCase } from '#core/cases/contract.ts'
import { readPrice } from '#core/plans/asks-contract.ts'
import { createPlan } from '#core/plans/contract.ts'
import { createIteration, readProject } from '#core/projects/contract.ts'
import { readCoverage } from '#core/reports/contract.ts'
import { updateRequirement } from '#core/requirements/contract.ts'
import { createRun, listItems } from '#core/runs/contract.ts'
import { shop, type Shop } from '#test/app.ts'
import { caseOf, idsOf, makeCase, makeRequirements, makeSuite, requirement } from '#test/make.ts'

describe('a case that cannot be tested yet', () => {
  let of: Shop
  let keys: string[]
  let ids: number[]
  let first: { id: number; name: string }
  let last: { id: number; name: string }
  beforeEach(async () => {
    of = shop()
    const { iterations } = await of.viewer.ask(readProject)
    const own = iterations.filter(({ release }) => release === of.release)
    const add = async (name: string) => ({
      id: (await of.lead.ask(createIteration, { body: { release: of.release, name } })).id,
      name,
    })
    first = own[0] ?? (await add('Early'))
    last = await add('Late')
    const [early = '', late = ''] = await makeRequirements(of.lead, 'Fares', 'Deck')
    const from = async (ref: string, iteration: number) =>
      of.lead.ask(updateRequirement, {
        params: { ref },
        body: { targets: [{ release: of.release, iteration }] },
        version: (await requirement(of.lead, ref)).version,
      })
    await from(early, first.id)
    await from(late, last.id)
    keys = [
      await makeCase(of.lead, 'Early', { proves: early }),
      await makeCase(of.lead, 'Late', { proves: late }),
      await makeCase(of.lead, 'Always'),
    ]
    ids = await idsOf(of.lead, keys)
  })
  const inIteration = async (iteration: string) =>
    (
      await of.viewer.ask(listCases, {
        query: { iteration, filter: JSON.stringify({ field: 'finding', op: 'is', values: ['in scope'] }) },
      })
    ).rows.map(({ title }) => title)
  const from = async (ref: string, body: object) =>
    of.lead.ask(updateCase, { params: { ref }, body, version: (await caseOf(of.lead, ref)).version })

  it('follows the latest of its requirements, and has no slot before', async () => {
    expect(await inIteration(first.name)).to.have.members(['Early', 'Always'])
    expect(await inIteration(last.name)).to.have.members(['Early', 'Late', 'Always'])
    const sheet = await of.viewer.ask(readCase, { params: { ref: keys[1] ?? '' }, query: { iteration: first.name } })
    expect([sheet.notYet, sheet.slots.length]).to.deep.equal([`1.0 from ${last.name}`, 0])
    expect((await caseOf(of.viewer, keys[1] ?? '')).notYet).to.equal(null)
  })
  it('waits as long as it is said by hand, whatever its requirements say, and its requirement is not uncovered', async () => {
    await from(keys[0] ?? '', { fromReleaseId: of.release, fromIterationId: last.id })
    expect(await inIteration(first.name)).to.deep.equal(['Always'])
    const told = await of.viewer.ask(readCoverage, { query: { iteration: first.name, ids: 'all' } })
    const fares = told.nodes.find(({ key }) => key === 'RQ-1')
    expect([fares?.state, fares?.figures.slots, fares?.figures.uncovered]).to.deep.equal(['Not run', 0, 0])
    await from(keys[0] ?? '', { fromReleaseId: null, fromIterationId: null })
    expect(await inIteration(first.name)).to.have.members(['Early', 'Always'])
  })
  it('is said of many at once, and taken back', async () => {
    const set = { fromReleaseId: of.release, fromIterationId: last.id }
    const { changed, undo } = await of.lead.ask(changeCases, { body: { ids, set } })
    expect(changed).to.equal(3)
    expect(await inIteration(first.name)).to.deep.equal([])
    for (const { id, set: back } of undo) await of.lead.ask(changeCases, { body: { ids: [id], set: back } })
    expect(await inIteration(first.name)).to.have.members(['Early', 'Always'])
  })
  it('is of an iteration of the release it is said with', async () => {
    const other = (await of.viewer.ask(readProject)).releases.find(({ id }) => id !== of.release)?.id ?? 0
    const refused = await of.lead.refused(updateCase, {
      params: { ref: keys[0] ?? '' },
      body: { fromReleaseId: other, fromIterationId: first.id },
      version: (await caseOf(of.lead, keys[0] ?? '')).version,
    })
    expect([refused.status, refused.fields]).to.deep.equal([400, ['fromIterationId']])
  })
  it('is left out of a plan and a run of an iteration, and told apart with its reason', async () => {
    const suite = await makeSuite(of.lead, 'All', keys)
    const plan = await of.lead.ask(createPlan, {
      body: {
        title: 'First slice',
        release: of.release,
        iteration: first.id,
        suites: [suite.id],
        environments: [of.environments[0] ?? 0],
      },
    })
    const price = await of.viewer.ask(readPrice, { params: { ref: plan.key } })
    expect(price.now.slots).to.equal(2)
    expect(price.notYet.map(({ key, from: until }) => [key, until])).to.deep.equal([[keys[1], `1.0 from ${last.name}`]])
    const run = await of.lead.ask(createRun, {
      body: { title: 'First', plan: plan.id, build: of.builds[1] ?? 0, startOn: '2026-11-23', endOn: '2026-11-30' },
    })
    expect([run.items, run.leftOut]).to.deep.equal([2, 1])
    const { rows } = await of.viewer.ask(listItems, { params: { ref: run.key } })
    expect(rows.map(({ title }) => title)).to.have.members(['Early', 'Always'])
  })
})
