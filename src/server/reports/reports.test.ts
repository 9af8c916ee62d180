import { expect } from 'chai'
import { retiredFilter } from '#test/make.ts'
import { changeCases, listCases } from '#core/cases/contract.ts'
import { coverageCsv, readBoard, readCoverage, readGaps, readStale } from '#core/reports/contract.ts'
import { readFrame } from '#core/projects/contract.ts'
import { listRequirements, updateRequirement } from '#core/requirements/contract.ts'
import { day, type Shop, shop } from '#test/app.ts'
import {
  addRemark,
  caseOf,
  remark,
  execute,
  idsOf,
  makeCase,
  makeDefect,
  makePlan,
  makeRequirements,
  makeRun,
  requirement,
} from '#test/make.ts'

/** Two requirements, one proved by a case that passed and one that failed, in the first environment. */
async function tested(of: Shop) {
  const [pay = '', leave = ''] = await makeRequirements(of.tester, 'Pay', 'Leave')
  const passes = await makeCase(of.tester, 'Pays', { steps: ['One'], proves: pay })
  const fails = await makeCase(of.tester, 'Pays late', { steps: ['One'], proves: pay })
  await makePlan(of, [passes, fails], [of.environments[0]])
  const run = await makeRun(of, [passes, fails])
  const item = (key: string) => run.items.find((each) => each.case === key)?.id ?? 0
  await execute(of, item(passes), 'Passed')
  const failed = await execute(of, item(fails), 'Failed')
  return { pay, leave, passes, fails, failed }
}
const coverage = (of: Shop, query: object = {}) => of.viewer.ask(readCoverage, { query: { ids: 'all', ...query } })

it('rolls results up to requirements, and says what has no case', async () => {
  const of = shop()
  const { pay } = await tested(of)
  const answer = await coverage(of)
  expect(answer.nodes.map(({ key, state }) => [key, state])).to.deep.equal([
    [pay, 'Failed'],
    ['RQ-2', 'uncovered'],
  ])
  const { figures } = answer.total
  expect([figures.slots, figures.verdicts['Passed'], figures.uncovered]).to.deep.equal([2, 1, 1])
})
it('keeps to the scope it is asked for, and refuses one that does not exist', async () => {
  const of = shop()
  await tested(of)
  const older = await coverage(of, { build: '1.0.0' })
  expect(older.total.figures.verdicts['Not run']).to.equal(2)
  expect((await coverage(of, { environment: 'Blue' })).total.figures.slots).to.equal(0)
  const refused = await of.viewer.refused(readCoverage, { query: { environment: 'Mauve' } })
  expect(refused.detail).to.match(/no environment “Mauve”/)
})
it('says what stood at an instant before', async () => {
  const of = shop()
  const before = of.now()
  of.pass(day)
  await tested(of)
  const past = await coverage(of, { asOf: before })
  expect([past.nodes.length, past.total.figures.slots]).to.deep.equal([0, 0])
})
it('tells the gaps, each with its total, as many as the figures count', async () => {
  const of = shop()
  const { leave, fails, failed } = await tested(of)
  await makeCase(of.tester, 'Alone')
  const gaps = await of.viewer.ask(readGaps)
  expect(gaps.requirementsWithoutCase.map(({ key }) => key)).to.deep.equal([leave])
  expect(gaps.casesWithoutRequirement.map(({ key }) => key)).to.deep.equal(['TC-3'])
  expect(gaps.failingWithoutDefect.map(({ key }) => key)).to.deep.equal([fails])
  await makeDefect(of, failed)
  expect((await of.viewer.ask(readGaps)).totals['failingWithoutDefect']).to.equal(0)
})
it('calls a result stale with its reason, and the least trusted first', async () => {
  const of = shop()
  const { pay } = await tested(of)
  expect((await of.viewer.ask(readStale)).total).to.equal(0)
  const { version } = await requirement(of.tester, pay)
  await of.tester.ask(updateRequirement, { params: { ref: pay }, body: { title: 'Pay now' }, version })
  of.pass(30 * day)
  const stale = await of.viewer.ask(readStale, { query: { requirement: pay, limit: 1, asOf: of.now() } })
  expect([stale.total, stale.next]).to.deep.equal([2, 1])
  expect(stale.rows[0]?.reasons).to.have.members(['too old', 'requirement changed'])
})
it('says the project’s own word wherever a result stands, now and as of then', async () => {
  const of = shop()
  addRemark(of)
  const [pay = ''] = await makeRequirements(of.tester, 'Pay')
  const key = await makeCase(of.tester, 'Pays', { steps: ['One'], proves: pay })
  const { items } = await makeRun(of, [key])
  await remark(of, items[0]?.id ?? 0)
  const said = 'With a remark'
  expect((await coverage(of)).nodes[0]?.figures.words).to.deep.equal({ [said]: 1 })
  expect((await of.viewer.ask(readBoard)).results.map(({ word }) => word)).to.deep.equal([said])
  expect((await caseOf(of.viewer, key)).slots.map(({ verdict, word }) => [verdict, word])).to.deep.equal([
    ['Passed', said],
  ])
  expect((await of.viewer.ask(readFrame)).meter.words).to.deep.equal({ [said]: 1 })
  const then = of.now()
  of.pass(30 * day)
  expect((await of.viewer.ask(readStale)).rows.map(({ word }) => word)).to.deep.equal([said])
  await execute(of, items[0]?.id ?? 0, 'Failed')
  expect((await coverage(of)).total.figures.words).to.deep.equal({})
  expect((await coverage(of, { asOf: then })).total.figures.words).to.deep.equal({ [said]: 1 })
})
it('filters lists by what results say in the scope', async () => {
  const of = shop()
  const { fails, leave } = await tested(of)
  const asked = (value: string) => JSON.stringify({ field: 'finding', op: 'is', values: [value] })
  const cases = await of.viewer.ask(listCases, { query: { filter: asked('failing') } })
  expect(cases.rows.map(({ key }) => key)).to.deep.equal([fails])
  const uncovered = await of.viewer.ask(listRequirements, { query: { filter: asked('uncovered') } })
  expect(uncovered.rows.map(({ key }) => key)).to.deep.equal([leave])
  const refused = await of.viewer.refused(listCases, { query: { filter: asked('splendid') } })
  expect(refused.detail).to.match(/nothing that can be found in a scope/)
})
it('counts a retired case no more', async () => {
  const of = shop()
  const { fails } = await tested(of)
  await of.tester.ask(changeCases, { body: { ids: await idsOf(of.tester, [fails]), set: { retired: true } } })
  expect((await coverage(of)).nodes[0]?.state).to.equal('Passed')
  expect((await of.viewer.ask(listCases, { query: { filter: retiredFilter } })).total).to.equal(1)
})
it('puts everything on the board, with what is missing where', async () => {
  const of = shop()
  const { leave } = await tested(of)
  const board = await of.viewer.ask(readBoard)
  expect(board.requirements.find(({ key }) => key === leave)?.gap).to.deep.equal(['no case'])
  expect(board.results.filter(({ gap }) => gap.includes('failing with no defect'))).to.have.length(1)
  expect(board.links).to.have.length(2)
})
it('writes coverage as CSV, a requirement a line', async () => {
  const of = shop()
  await tested(of)
  const { body, headers } = await of.viewer.send(
    'GET',
    `/projects/SHOP${coverageCsv.path.replace('/projects/:key', '')}`,
  )
  const lines = String(body).trim().split('\r\n').join('\n').split('\n')
  expect([headers.get('content-type'), lines.length]).to.deep.equal(['text/csv; charset=utf-8', 3])
  expect(lines[1]).to.match(/^RQ-1,Pay,0,Failed/)
})
