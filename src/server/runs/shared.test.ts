import { expect } from 'chai'
import { changeAttempts } from '#core/runs/attempts-contract.ts'
import { readShared } from '#core/runs/share-contract.ts'
import { shop, type Shop } from '#test/app.ts'
import { execute, makeCase, makeRequirements, makeRun } from '#test/make.ts'

const shared = (of: Shop, ref: string) => of.viewer.ask(readShared, { query: { of: ref } })

describe('what failures share, over the API', () => {
  it('is the engine on which all of a run failed, with the passes that back it; struck attempts are left aside', async () => {
    const of = shop()
    const [fares = ''] = await makeRequirements(of.lead, 'Fares')
    const keys = []
    for (const title of ['Adult', 'Child', 'Senior'])
      keys.push(await makeCase(of.lead, title, { proves: fares, steps: ['Do'] }))
    const run = await makeRun(of, keys, { environments: of.environments })
    const made: Record<string, number> = {}
    for (const item of run.items) {
      if (item.case === 'TC-3' && item.environment === 'Blue') continue
      const { id } = await execute(of, item.id, item.environment === 'Blue' ? 'Failed' : 'Passed')
      made[`${item.case} ${item.environment}`] = id
    }
    const told = await shared(of, run.key)
    expect([told.failures, told.passes, told.unexplained]).to.deep.equal([2, 3, 0])
    expect(told.explanations).to.deep.equal([{ values: { engine: 'Blue' }, failures: 2, backing: 3, instead: [] }])
    expect((await shared(of, fares)).explanations[0]?.values).to.deep.equal({ engine: 'Blue' })
    expect((await shared(of, 'TC-1')).explanations).to.deep.equal([
      { values: { engine: 'Blue' }, failures: 1, backing: 1, instead: [] },
    ])
    await of.lead.ask(changeAttempts, {
      body: { ids: [made['TC-1 Blue'] ?? 0, made['TC-2 Blue'] ?? 0], set: { struck: 'wrong bench' } },
    })
    expect((await shared(of, run.key)).failures).to.equal(0)
  })
  it('names the open item that tells one explanation from another', async () => {
    const of = shop()
    const keys = [
      await makeCase(of.lead, 'Adult', { steps: ['Do'] }),
      await makeCase(of.lead, 'Child', { steps: ['Do'] }),
    ]
    const run = await makeRun(of, keys, { environments: of.environments })
    const at = (own: string, environment: string) =>
      run.items.find((item) => item.case === own && item.environment === environment)?.id ?? 0
    await execute(of, at('TC-1', 'Red'), 'Failed')
    await execute(of, at('TC-2', 'Blue'), 'Passed')
    const { explanations, next } = await shared(of, run.key)
    expect(explanations[0]).to.deep.include({ failures: 1, values: { case: 'TC-1' }, instead: [{ engine: 'Red' }] })
    expect(next).to.deep.include({ case: 'TC-1', environment: 'Blue', run: run.key, against: 1, of: 2 })
  })
  it('refuses what is none of a run, a case or a requirement, and what is not there', async () => {
    const of = shop()
    expect((await of.viewer.refused(readShared, { query: { of: 'DF-1' } })).status).to.equal(400)
    expect((await of.viewer.refused(readShared, { query: { of: 'RN-7' } })).status).to.equal(404)
  })
})
