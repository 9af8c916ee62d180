import { expect } from 'chai'
import { updatePlan, readPlan } from '#core/plans/contract.ts'
import { addCriterion } from '#core/plans/criteria-contract.ts'
import { answerPlanReview, askPlanReview } from '#core/plans/versions-contract.ts'
import { shop, type Shop } from '#test/app.ts'
import { execute, makeCase, makePlan, makeRequirements, makeRun } from '#test/make.ts'

const params = { ref: 'PL-1' }
const paper = (of: Shop, query: string) => of.viewer.send('GET', `/projects/SHOP/plans/PL-1/paper?${query}`)

describe('a plan on paper', () => {
  let of: Shop
  beforeEach(async () => {
    of = shop()
    const [fares = ''] = await makeRequirements(of.lead, 'Fares', 'Quay')
    const cases = [await makeCase(of.lead, 'Adult pays', { proves: fares })]
    await makePlan(of, cases, [of.environments[0] ?? 0])
    const edit = {
      objective: '<p>Nobody pays <b>too much</b> | or # too little</p>',
      risks: [{ title: 'A storm', likelihood: 2, impact: 5 }],
      milestones: [{ title: 'Go or no-go', on: '2026-12-10' }],
    }
    const { version } = await of.lead.ask(readPlan, { params })
    await of.lead.ask(updatePlan, { params, body: edit, version })
    await of.lead.ask(addCriterion, { params, body: { side: 'exit', rule: { kind: 'items', atLeast: 50 } } })
    const run = await makeRun(of, cases)
    await execute(of, run.items[0]?.id ?? 0, 'Passed')
    await of.lead.ask(askPlanReview, { params, body: { people: ['tester'] } })
    await of.tester.ask(answerPlanReview, {
      params: { ...params, version: 1 },
      body: { answer: 'approved', words: 'Go.' },
    })
  })

  it('has its tables, its criteria as they stand, and its signatures, as Markdown', async () => {
    const { status, body, headers } = await paper(of, 'as=markdown')
    expect([status, headers.get('content-disposition')]).to.deep.equal([200, 'attachment; filename="PL-1.md"'])
    for (const line of [
      '# PL-1 The plan',
      'Nobody pays too much \\| or \\# too little',
      '| A storm | 2 | 5 | 10 |  |',
      '| TS-1 | What is asked for | 1 |',
      '| RQ-2 | Quay | not given |',
      'It asks for 1 slot, 4 min of execution. Passing now 50 % by risk; 50 % if all of it passed.',
      '| 2026-12-10 | Go or no-go |',
      '### Exit criteria: 1 of 1 met',
      '| Planned items executed: at least 50 % | 100 % | met |',
      '| 1 | Signed off | Tester Person | signed | Go. | 23 Nov 2026, 09:00 |',
    ])
      expect(String(body)).to.include(line)
  })
  it('is a version as it was put up, whatever the plan says now', async () => {
    const { version } = await of.lead.ask(readPlan, { params })
    await of.lead.ask(updatePlan, { params, body: { risks: [] }, version })
    const { body } = await paper(of, 'as=markdown&version=1')
    expect(String(body)).to.include('# PL-1 The plan, version 1\n')
    expect(String(body)).to.include('| Risk | A storm | likelihood 2 × impact 5 |')
    expect(String((await paper(of, 'as=markdown')).body)).to.not.include('A storm')
    expect((await paper(of, 'as=markdown&version=2')).status).to.equal(404)
  })
  it('is a PDF, also of a plan that says nothing yet', async () => {
    for (const query of ['as=pdf', 'as=pdf&version=1']) {
      const { status, headers, body } = await paper(of, query)
      expect([status, headers.get('content-type')]).to.deep.equal([200, 'application/pdf'])
      expect(String(body).slice(0, 5)).to.equal('%PDF-')
    }
    const { body } = await of.viewer.send('GET', '/projects/SHOP/plans/PL-1/paper?as=word')
    expect(body.status).to.equal(400)
  })
})
