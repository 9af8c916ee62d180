import { expect } from 'chai'
import { changeCases, deleteCases } from '#core/cases/contract.ts'
import { listCases } from '#core/cases/contract.ts'
import type { Filter } from '#core/lib/filter.ts'
import type { SourceSaid } from '#core/plans/source.ts'
import {
  addSource,
  changeSource,
  changeSuites,
  createSuite,
  deleteSuites,
  excludeCases,
  listMembers,
  listSuites,
  pinCases,
  placeMembers,
  readSuite,
  readSuiteChanges,
  readSuiteNotYet,
  readSuiteRequirements,
  removeSource,
  tryBest,
  tryRule,
  updateSuite,
} from '#core/plans/suite-contract.ts'
import { createCustomField, deleteCustomField } from '#core/projects/custom.ts'
import { readCoverage } from '#core/reports/contract.ts'
import { changeRequirements, moveRequirement, updateRequirement } from '#core/requirements/contract.ts'
import { createRun } from '#core/runs/contract.ts'
import { wrongStays } from '#db/plans/stays.ts'
import { noticeMembers } from '#server/plans/keep-members.ts'
import { day, minute, shop, type Shop } from '#test/app.ts'
import { idOf, idsOf, makeCase, makePlan, makeRequirements, makeSuite, requirement } from '#test/make.ts'

const is = (field: string, ...values: string[]): Filter => ({ field, op: 'is', values })
const rule = (filter: Filter): SourceSaid => ({ kind: 'rule', words: '', filter })

describe('what a suite is made of', () => {
  let of: Shop
  let keys: string[]
  let ids: number[]
  beforeEach(async () => {
    of = shop()
    const [fares = '', bands = ''] = await makeRequirements(of.lead, 'Fares', 'Age bands')
    keys = [
      await makeCase(of.lead, 'Adult pays', { proves: fares }),
      await makeCase(of.lead, 'Child pays half', { proves: bands }),
      await makeCase(of.lead, 'Infant sails free', { proves: bands }),
      await makeCase(of.lead, 'Ticket is printed'),
    ]
    ids = await idsOf(of.lead, keys)
  })
  const params = { ref: 'TS-1' }
  const sheet = () => of.viewer.ask(readSuite, { params })
  const members = async () => (await sheet()).members.map(({ key }) => key)
  const notice = () => noticeMembers(of.services, of.project().id, 0)
  const make = (...sources: SourceSaid[]) => of.tester.ask(createSuite, { body: { title: 'Suite', sources } })
  const makeImportant = (id: number | undefined, importance: 'Critical' | 'Low') =>
    of.lead.ask(changeCases, { body: { ids: [id ?? 0], set: { importance } } })

  it('lets a case join by itself when it gets the value a rule asks for, and leave again', async () => {
    await make(rule(is('importance', 'Critical')))
    expect(await members()).to.deep.equal([])
    await makeImportant(ids[1], 'Critical')
    expect(await members()).to.deep.equal(['TC-2'])
    await makeImportant(ids[1], 'Low')
    expect(await members()).to.deep.equal([])
  })

  it('asks requirements as well: of one of them where it says, of all where it denies', async () => {
    const bands = (await requirement(of.lead, 'RQ-2')).id
    await of.lead.ask(changeRequirements, { body: { ids: [bands], set: { component: 'Booking' } } })
    await make(rule(is('requirement.component', 'Booking')))
    expect(await members()).to.deep.equal(['TC-2', 'TC-3'])
    const { rows } = await of.viewer.ask(listCases, {
      query: { filter: JSON.stringify({ field: 'requirement.component', op: 'is not', values: ['Booking'] }) },
    })
    expect(rows.map(({ key }) => key)).to.deep.equal(['TC-1', 'TC-4'])
  })

  it('follows a branch: what covers it or what is below it, once it is linked or moved there', async () => {
    const [fares, bands] = [await requirement(of.lead, 'RQ-1'), await requirement(of.lead, 'RQ-2')]
    await make({ kind: 'branch', requirement: fares.id })
    expect(await members()).to.deep.equal(['TC-1'])
    await of.lead.ask(moveRequirement, { params: { ref: bands.key }, body: { under: fares.id } })
    expect(await members()).to.deep.equal(['TC-1', 'TC-2', 'TC-3'])
    expect((await sheet()).sources[0]).to.deep.include({ kind: 'branch', cases: 3, problem: null })
  })

  it('holds a case once, by all that brings it', async () => {
    await make(rule(is('importance', 'Medium')), {
      kind: 'branch',
      requirement: (await requirement(of.lead, 'RQ-1')).id,
    })
    await of.tester.ask(pinCases, { params, body: { add: ['TC-1'] } })
    const { members: all, sources, cases } = await sheet()
    const [first, second] = sources
    expect(cases).to.equal(4)
    expect(all.find(({ key }) => key === 'TC-1')?.by).to.deep.equal([0, first?.id, second?.id])
    expect(all.find(({ key }) => key === 'TC-4')?.by).to.deep.equal([first?.id])
  })

  it('holds other suites, and never itself', async () => {
    await make(rule(is('importance', 'Medium')))
    const outer = await of.tester.ask(createSuite, { body: { title: 'Outer', sources: [{ kind: 'suite', suite: 1 }] } })
    expect((await of.viewer.ask(readSuite, { params: { ref: outer.key } })).cases).to.equal(4)
    const circle = await of.tester.refused(addSource, { params, body: { kind: 'suite', suite: outer.id } })
    expect(circle.detail).to.equal('This suite would contain itself, by way of TS-2 in TS-1; nothing was stored.')
    const self = await of.tester.refused(addSource, { params, body: { kind: 'suite', suite: 1 } })
    expect(self.detail).to.equal('TS-1 would contain itself; nothing was stored.')
    expect((await sheet()).within.map(({ key }) => key)).to.deep.equal(['TS-2'])
  })

  it('leaves a case out with a reason, whatever brings it, until it is let in again', async () => {
    await make(rule(is('importance', 'Medium')))
    const add = { add: [ids[3] ?? 0] }
    expect((await of.tester.refused(excludeCases, { params, body: add })).fields).to.deep.equal(['reason'])
    await of.tester.ask(excludeCases, { params, body: { ...add, reason: 'The printer is away' } })
    expect(await members()).to.deep.equal(['TC-1', 'TC-2', 'TC-3'])
    expect((await sheet()).exclusions[0]).to.include({
      key: 'TC-4',
      reason: 'The printer is away',
      by: 'Tester Person',
    })
    await of.tester.ask(pinCases, { params, body: { add: ['TC-4'] } })
    expect(await members()).to.not.include('TC-4')
    await of.tester.ask(excludeCases, { params, body: { remove: [ids[3] ?? 0] } })
    expect(await members()).to.include('TC-4')
  })

  it('chooses the most risk within some minutes, says why, and stays as it is when it is frozen', async () => {
    const risks = async (ref: string, likelihood: number) =>
      of.lead.ask(changeRequirements, {
        body: { ids: [(await requirement(of.lead, ref)).id], set: { likelihood, impact: 4 } },
      })
    await risks('RQ-1', 1)
    await risks('RQ-2', 5)
    for (const id of ids) await of.lead.ask(changeCases, { body: { ids: [id], set: { estimate: 10 } } })
    await of.lead.ask(changeCases, { body: { ids: [ids[2] ?? 0], set: { estimate: 4 } } })
    const tried = await of.viewer.ask(tryBest, { query: { minutes: 10 } })
    expect(tried).to.deep.include({ total: 1, minutes: 4 })
    expect(tried.first[0]).to.deep.include({ key: 'TC-3', why: 'adds RQ-2: 20 of risk in 4 min' })
    await make({ kind: 'best', minutes: 14, requirement: null, frozen: true })
    expect(await members()).to.deep.equal(['TC-1', 'TC-3'])
    expect((await sheet()).members[1]?.why).to.equal('adds RQ-2: 20 of risk in 4 min')
    await risks('RQ-1', 0 + 1)
    await of.lead.ask(changeCases, { body: { ids: [ids[1] ?? 0], set: { estimate: 1 } } })
    expect(await members()).to.deep.equal(['TC-1', 'TC-3'])
    const { sources, version } = await sheet()
    const at = { params: { ...params, source: sources[0]?.id ?? 0 } }
    await of.tester.ask(changeSource, {
      ...at,
      body: { kind: 'best', minutes: 14, requirement: null, frozen: false },
      version,
    })
    expect(await members()).to.deep.equal(['TC-1', 'TC-2'])
  })

  it('says that a field was deleted, and keeps what the rule held last apart', async () => {
    const { id } = await of.lead.ask(createCustomField, {
      body: { owner: 'case', name: 'Area', kind: 'text', required: false, choices: [], types: [] },
    })
    await make(rule({ field: `own:${id}`, op: 'is empty', values: [] }))
    await notice()
    expect(await members()).to.have.length(4)
    of.pass(minute)
    await of.lead.ask(deleteCustomField, { params: { id } })
    await notice()
    const after = await sheet()
    expect([after.cases, after.broken]).to.deep.equal([0, 1])
    expect(after.sources[0]?.problem).to.equal('It asks for the field “Area”, which was deleted.')
    expect(after.sources[0]?.last.map(({ key }) => key)).to.deep.equal(keys)
    expect(wrongStays(of.db)).to.deep.equal([])
  })

  it('refuses a rule over what is found out by executing, or over nothing', async () => {
    await make()
    const refused = async (body: SourceSaid) => (await of.tester.refused(addSource, { params, body })).detail
    expect(await refused(rule(is('finding', 'failing')))).to.match(/cannot ask for “finding”/)
    expect(await refused(rule({ field: 'attempts', op: 'above', values: [0] }))).to.match(/cannot ask for “attempts”/)
    expect(await refused({ kind: 'rule', words: '', filter: null })).to.match(/would bring every case/)
    expect(await refused(rule({ all: [{ any: [] }] }))).to.match(/would bring every case/)
    expect((await sheet()).sources).to.deep.equal([])
  })

  it('tells what a rule would bring while it is typed', async () => {
    const tried = await of.viewer.ask(tryRule, { query: { words: 'pays' } })
    expect([tried.total, tried.first.map(({ key }) => key)]).to.deep.equal([2, ['TC-1', 'TC-2']])
    const wrong = await of.viewer.ask(tryRule, { query: { filter: JSON.stringify(is('nothing', 'x')) } })
    expect(wrong.problem).to.match(/no field “nothing”/)
  })

  it('takes a source away and brings the very same back', async () => {
    await make(rule(is('importance', 'Medium')))
    const before = await sheet()
    const at = { params: { ...params, source: before.sources[0]?.id ?? 0 } }
    await of.tester.ask(removeSource, at)
    expect(await members()).to.deep.equal([])
    await of.tester.ask(removeSource, { ...at, query: { undo: 'yes' } })
    expect((await sheet()).sources).to.deep.equal(before.sources)
  })

  it('is locked when it is closed, and says why', async () => {
    await make(rule(is('importance', 'Medium')))
    const { version } = await sheet()
    const body = { state: 'Closed' as const, closedReason: 'The fares are done' }
    const closed = await of.tester.ask(updateSuite, { params, body, version })
    const refused = await of.tester.refused(pinCases, { params, body: { add: ['TC-1'] } })
    expect(refused.detail).to.equal(
      'TS-1 is closed (The fares are done); nothing was stored. Open it again to change it.',
    )
    const renamed = await of.tester.refused(updateSuite, { params, body: { title: 'x' }, version: closed.version })
    expect(renamed.status).to.equal(422)
    for (const source of (await sheet()).sources)
      expect((await of.tester.refused(removeSource, { params: { ...params, source: source.id } })).status).to.equal(422)
    expect(await members()).to.have.length(4)
    await of.tester.ask(changeSuites, { body: { ids: [1], set: { state: 'Active' } } })
    expect((await sheet()).closedReason).to.equal('')
    await of.tester.ask(pinCases, { params, body: { add: ['TC-1'] } })
  })

  it('stands by hand, where a newcomer comes last, or by what its cases are', async () => {
    await make(rule(is('importance', 'Medium')))
    await of.tester.ask(placeMembers, { params, body: { order: [ids[2] ?? 0, ids[0] ?? 0] } })
    expect(await members()).to.deep.equal(['TC-3', 'TC-1', 'TC-2', 'TC-4'])
    // It leaves by the rule and comes back to where it stood.
    await makeImportant(ids[2], 'Critical')
    expect(await members()).to.deep.equal(['TC-1', 'TC-2', 'TC-4'])
    await of.lead.ask(changeCases, { body: { ids: [ids[2] ?? 0], set: { importance: 'Medium' } } })
    await makeCase(of.lead, 'A newcomer')
    expect(await members()).to.deep.equal(['TC-3', 'TC-1', 'TC-2', 'TC-4', 'TC-5'])
    const by = async (orderedBy: 'importance' | 'outline') => {
      await of.tester.ask(updateSuite, { params, body: { orderedBy }, version: (await sheet()).version })
      return members()
    }
    expect(await by('outline')).to.deep.equal(['TC-1', 'TC-2', 'TC-3', 'TC-4', 'TC-5'])
    expect(await by('importance')).to.have.length(5)
  })

  it('pages its cases in order', async () => {
    await make(rule(is('importance', 'Medium')))
    const first = await of.viewer.ask(listMembers, { params, query: { limit: 3 } })
    expect([first.rows.length, first.total, first.next]).to.deep.equal([3, 4, 3])
    const rest = await of.viewer.ask(listMembers, { params, query: { limit: 3, cursor: 3 } })
    expect([rest.rows.map(({ key }) => key), rest.next]).to.deep.equal([['TC-4'], null])
  })

  it('tells what came in, went out and was rewritten since its last run, by whom and by which source', async () => {
    await make(rule(is('importance', 'Critical', 'High')))
    await makeImportant(ids[0], 'Critical')
    await makeImportant(ids[1], 'Critical')
    await notice()
    const of10 = { title: 'Run', build: of.builds[1], suites: [1], environments: [of.environments[0]] }
    const run = { ...of10, people: ['tester'], startOn: '2026-11-23', endOn: '2026-11-30', state: 'Open' as const }
    await of.lead.ask(createRun, { body: run })
    of.pass(day)
    await makeImportant(ids[2], 'Critical')
    await makeImportant(ids[0], 'Low')
    await notice()
    const told = await of.viewer.ask(readSuiteChanges, { params })
    const { sources } = await sheet()
    expect(told.run?.key).to.equal('RN-1')
    expect(told.came).to.deep.equal([
      {
        id: ids[2],
        key: 'TC-3',
        title: 'Infant sails free',
        at: of.now(),
        by: 'Lead Person',
        sources: [sources[0]?.id],
      },
    ])
    expect(told.went.map(({ key }) => key)).to.deep.equal(['TC-1'])
    expect((await of.viewer.ask(readSuiteChanges, { params, query: { since: of.now() } })).came).to.deep.equal([])
    // What came and went again in between is no news.
    await makeImportant(ids[3], 'Critical')
    await notice()
    of.pass(minute)
    await makeImportant(ids[3], 'Low')
    await notice()
    expect((await of.viewer.ask(readSuiteChanges, { params })).went.map(({ key }) => key)).to.deep.equal(['TC-1'])
  })

  it('counts in its list as soon as it is noticed, and in coverage at once', async () => {
    await makePlan(of, [], of.environments)
    const before = (await of.viewer.ask(readCoverage, {})).total.figures.slots
    await of.tester.ask(addSource, { params, body: rule(is('importance', 'Medium')) })
    const after = (await of.viewer.ask(readCoverage, {})).total.figures.slots
    // Three cases prove a requirement: one slot each before, one for each of two environments now.
    expect([before, after]).to.deep.equal([3, 6])
    await notice()
    expect((await of.viewer.ask(listSuites, {})).rows[0]).to.include({ cases: 4, made: '1 rule', news: 4, inPlans: 1 })
    await of.lead.ask(deleteCases, { body: { ids: [ids[0] ?? 0] } })
    await notice()
    expect((await of.viewer.ask(listSuites, {})).rows[0]).to.include({ cases: 3 })
  })

  it('names the requirements its cases prove, and those of its plans that nothing asked for proves', async () => {
    await makePlan(of, ['TC-1'])
    await notice()
    const { proved, missing } = await of.viewer.ask(readSuiteRequirements, { params })
    expect(proved.map(({ key, cases }) => [key, cases])).to.deep.equal([['RQ-1', 1]])
    expect(missing.map(({ key }) => key)).to.deep.equal(['RQ-2'])
  })

  it('filters cases by the suites they are in', async () => {
    await makeSuite(of.lead, 'Two', ['TC-1', 'TC-4'])
    const filter = JSON.stringify(is('suite', 'TS-1'))
    expect((await of.viewer.ask(listCases, { query: { filter } })).rows.map(({ key }) => key)).to.deep.equal([
      'TC-1',
      'TC-4',
    ])
    await of.lead.ask(deleteSuites, { body: { ids: [1] } })
    expect((await of.viewer.ask(listCases, { query: { filter } })).total).to.equal(0)
  })

  it('says that a suite within it was deleted', async () => {
    await makeSuite(of.lead, 'Inner', ['TC-1'])
    const outer = await of.tester.ask(createSuite, { body: { title: 'Outer', sources: [{ kind: 'suite', suite: 1 }] } })
    await notice()
    await of.lead.ask(deleteSuites, { body: { ids: [1] } })
    const told = await of.viewer.ask(readSuite, { params: { ref: outer.key } })
    expect([told.cases, told.sources[0]?.problem]).to.deep.equal([0, 'The suite was deleted.'])
    expect(await idOf(of.lead, 'TC-1')).to.equal(ids[0])
  })
})

it('tells which of its cases wait for a later iteration than one looks at, and from when they can be tested', async () => {
  const of = shop()
  const [now = '', later = ''] = await makeRequirements(of.lead, 'Now', 'Later')
  const keys = [await makeCase(of.lead, 'A', { proves: now }), await makeCase(of.lead, 'B', { proves: later })]
  const suite = await makeSuite(of.lead, 'Both', keys)
  await of.lead.ask(updateRequirement, {
    params: { ref: later },
    body: { targets: [{ release: of.nextRelease, iteration: null }] },
    version: (await requirement(of.lead, later)).version,
  })
  const told = async (release: string) =>
    (await of.viewer.ask(readSuiteNotYet, { params: { ref: suite.key }, query: { release } })).rows.map(
      ({ key, from }) => [key, from],
    )
  expect([await told('1.0'), await told('2.0')]).to.deep.equal([[[keys[1], '2.0']], []])
  const { status } = await of.viewer.refused(readSuiteNotYet, { params: { ref: suite.key }, query: { release: '9.9' } })
  expect(status).to.equal(400)
})
