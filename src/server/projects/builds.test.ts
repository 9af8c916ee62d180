import { expect } from 'chai'
import { listHistory } from '#core/history/contract.ts'
import {
  createBuild,
  readBuild,
  readPaths,
  setPaths,
  tellTouched,
  updateBuild,
} from '#core/projects/builds-contract.ts'
import { readCoverage } from '#core/reports/contract.ts'
import { updateRequirement } from '#core/requirements/contract.ts'
import { shop, type Shop } from '#test/app.ts'
import { execute, makeCase, makePlan, makeRequirements, makeRun, makeSuite, requirement } from '#test/make.ts'

describe('builds', () => {
  let of: Shop
  let keys: string[]
  beforeEach(async () => {
    of = shop()
    const [fares = '', deck = ''] = await makeRequirements(of.lead, 'Fares', 'Deck')
    for (const [ref, component] of [
      [fares, 'Fares'],
      [deck, 'Deck'],
    ] as const)
      await of.lead.ask(updateRequirement, {
        params: { ref },
        body: { component },
        version: (await requirement(of.lead, ref)).version,
      })
    keys = [
      await makeCase(of.lead, 'Adult pays', { proves: fares }),
      await makeCase(of.lead, 'Car is placed', { proves: deck }),
    ]
    await makePlan(of, keys, [of.environments[0] ?? 0])
    const run = await makeRun(of, keys)
    for (const { id } of run.items) await execute(of, id, 'Passed')
  })
  const add = (more: object = {}) => of.lead.ask(createBuild, { body: { release: of.release, name: '1.0.9', ...more } })
  const read = (id: number) => of.viewer.ask(readBuild, { params: { id } })
  const current = async () => (await of.viewer.ask(readCoverage)).total.figures.passing.plain

  it('make every result stale that they do not say they leave alone', async () => {
    const { id } = await add()
    const { effect, touches } = await read(id)
    expect(touches).to.equal(null)
    expect([effect.stale, effect.spared, effect.slots.length]).to.deep.equal([2, 0, 2])
    expect(await current()).to.deep.include({ recorded: 1, current: 0 })
  })
  it('leave current what they say they do not touch, and count it apart', async () => {
    const { id } = await add({ touches: { components: ['Fares'], requirements: [] } })
    const { effect } = await read(id)
    expect([effect.stale, effect.spared]).to.deep.equal([1, 1])
    expect(await current()).to.deep.include({ recorded: 1, current: 0.5 })
    const [, deck] = [await requirement(of.lead, 'RQ-1'), await requirement(of.lead, 'RQ-2')]
    await of.lead.ask(updateBuild, {
      params: { id },
      body: { touches: { components: [], requirements: [deck.id] } },
    })
    expect((await read(id)).touches?.requirements.map(({ key }) => key)).to.deep.equal(['RQ-2'])
    expect((await read(id)).effect.slots).to.have.length(1)
    await of.lead.ask(updateBuild, { params: { id }, body: { touches: { components: [], requirements: [] } } })
    expect(await current()).to.deep.include({ recorded: 1, current: 1 })
    await of.lead.ask(updateBuild, { params: { id }, body: { touches: null } })
    expect(await current()).to.deep.include({ recorded: 1, current: 0 })
  })
  it('make nothing stale in intake, and say what they will', async () => {
    const { id } = await add({ state: 'Intake' })
    expect(await current()).to.deep.include({ recorded: 1, current: 1 })
    expect((await read(id)).effect.stale).to.equal(2)
  })
  it('leave intake once the smoke suite has passed on them, or for a reason', async () => {
    const suite = await makeSuite(of.lead, 'Smoke', keys)
    await of.lead.ask(setPaths, { body: { smokeSuite: suite.id } })
    const { id } = await add({ state: 'Intake' })
    expect((await read(id)).smoke).to.deep.include({ passed: 0, of: 2 })
    const offer = { params: { id }, body: { state: 'Offered' as const } }
    const refused = await of.lead.refused(updateBuild, offer)
    expect(refused.detail).to.match(
      /^1\.0\.9 stays in intake: 2 of 2 cases of TS-\d+ have not passed on it \(TC-1, TC-2\)/,
    )
    const run = await makeRun(of, keys, { build: id })
    await execute(of, run.items[0]?.id ?? 0, 'Passed')
    expect((await of.lead.refused(updateBuild, offer)).detail).to.match(
      /1 of 2 cases of TS-\d+ has not passed on it \(TC-2\)/,
    )
    await execute(of, run.items[1]?.id ?? 0, 'Failed')
    expect((await read(id)).smoke?.missing.map(({ key }) => key)).to.deep.equal(['TC-2'])
    await of.lead.ask(updateBuild, { ...offer, body: { ...offer.body, reason: 'Known, and mended tomorrow' } })
    expect((await read(id)).state).to.equal('Offered')
  })
  it('say which component a changed path belongs to, and which path nobody knows', async () => {
    expect((await of.lead.refused(tellTouched, { body: { paths: 'src/a' } })).detail).to.match(/no table of paths yet/)
    const paths = 'src/: Deck\nsrc/fares/: Fares\n\n'
    const wrong = await of.lead.refused(setPaths, { body: { paths: `${paths}only words` } })
    expect(wrong.detail).to.match(/^“only words”: write a path, a colon and a component/)
    await of.lead.ask(setPaths, { body: { paths } })
    expect((await of.viewer.ask(readPaths)).paths).to.equal(paths)
    const told = await of.viewer.ask(tellTouched, { body: { paths: './src/fares/age.ts\nsrc/quay.ts\nREADME.md\n' } })
    expect(told).to.deep.equal({ components: ['Deck', 'Fares'], unknown: ['README.md'], unknownTotal: 1 })
  })
  it('keep what they say when it is said again, and write no history of it', async () => {
    const { id } = await add({ notes: 'Fares anew' })
    const acts = async () => (await of.viewer.ask(listHistory, { query: { kind: 'build' } })).rows.length
    const before = await acts()
    await of.lead.ask(updateBuild, { params: { id }, body: { notes: 'Fares anew' } })
    expect(await acts()).to.equal(before)
    expect((await read(id)).notes).to.equal('Fares anew')
    expect((await of.tester.refused(updateBuild, { params: { id }, body: { notes: 'x' } })).status).to.equal(403)
    const strange = await of.lead.refused(updateBuild, {
      params: { id },
      body: { touches: { components: [], requirements: [999] } },
    })
    expect(strange.detail).to.match(/^There is no requirement 999 in this project/)
  })
})
