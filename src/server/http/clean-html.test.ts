import { expect } from 'chai'
import fc from 'fast-check'
import { addComment } from '#core/talk/contract.ts'
import { markedIn } from '#core/lib/marked.ts'
import { richMark } from '#core/lib/rich-text.ts'
import { safeHtml } from '#core/lib/safe-html.ts'
import { createPlan, updatePlan } from '#core/plans/contract.ts'
import { createSuite, updateSuite } from '#core/plans/suite-contract.ts'
import { createDefect, updateDefect } from '#core/defects/contract.ts'
import { storeWorkingCopy, updateCase } from '#core/cases/contract.ts'
import { updateRequirement } from '#core/requirements/contract.ts'
import { commentStep } from '#core/runs/note-contract.ts'
import { shop } from '#test/app.ts'
import { caseOf, makeCase, makeItem, makeRequirements, start } from '#test/make.ts'
import { cleanHtml } from './clean-html.ts'

const script = '<p>Pay<img src=x onerror="alert(1)"></p><script>alert(2)</script>'

it('makes of anything a text that the second look leaves alone', () => {
  const part = fc.constantFrom(
    '<p>',
    '</p>',
    '<b>',
    '<table>',
    '<td>',
    '<a href="/x">',
    '</a>',
    '<',
    '&',
    '"',
    'x',
    '<img src="/api/v1/x">',
    '<ul>',
  )
  fc.assert(
    fc.property(fc.array(part, { maxLength: 12 }), (parts) => {
      const clean = cleanHtml(parts.join(''))
      expect(safeHtml(clean)).to.equal(clean)
    }),
    { numRuns: 1000 },
  )
})
it('stands at every endpoint that takes rich text: a script that is sent is stored nowhere', async () => {
  const of = shop()
  const [key = ''] = await makeRequirements(of.tester, 'Pay')
  const ref = await makeCase(of.tester, 'Pays')
  const item = await makeItem(of)
  const attempt = await start(of, item.id)
  const { content, contentStamp, version } = await caseOf(of.tester, ref)
  const suite = (await of.tester.ask(createSuite, { body: { title: 'Smoke' } })).key
  const plan = (await of.lead.ask(createPlan, { body: { title: 'Release', release: of.release } })).key
  const defect = (await of.tester.ask(createDefect, { body: { title: 'Broken', severity: 'Minor', text: script } })).key
  const steps = [{ id: null, action: script, expected: script, data: script }]
  await of.tester.ask(addComment, { body: { ref: key, text: script } })
  await of.tester.ask(updateRequirement, { params: { ref: key }, version: 1, body: { text: script } })
  await of.tester.ask(updateCase, { params: { ref }, version, body: { objective: script } })
  await of.tester.ask(storeWorkingCopy, {
    params: { ref },
    body: { content: { ...content, preconditions: script, steps }, stamp: contentStamp },
  })
  await of.tester.ask(updateSuite, { params: { ref: suite }, version: 1, body: { objective: script } })
  await of.lead.ask(updatePlan, { params: { ref: plan }, version: 1, body: { objective: script } })
  await of.tester.ask(updateDefect, { params: { ref: defect }, version: 1, body: { text: script } })
  const params = { id: attempt.id, row: 1, step: attempt.steps[0]?.id ?? 0 }
  await of.tester.ask(commentStep, { params, body: { text: script } })
  const { $client: sqlite } = of.db
  const tables = sqlite.prepare(`select name from sqlite_schema where type = 'table'`).pluck().all().map(String)
  const kept = JSON.stringify(tables.map((table) => sqlite.prepare(`select * from "${table}"`).all()))
  expect(kept.match(/<p>Pay<\/p>/g)?.length).to.be.greaterThan(9)
  expect(kept).to.not.match(/onerror|<script/)
})
it('is found by the mark wherever the text stands in a body', () => {
  const body = {
    content: {
      preconditions: 'a',
      steps: [{ id: null, action: 'b', expected: 'c', data: 'd' }],
      parameters: [],
      rows: [],
    },
    stamp: '',
  }
  expect(markedIn(storeWorkingCopy.body, body, richMark).map(({ path }) => path.join('.'))).to.have.members([
    'content.preconditions',
    'content.steps.0.action',
    'content.steps.0.expected',
    'content.steps.0.data',
  ])
  expect(markedIn(addComment.body, { ref: 'RQ-1', text: 'x' }, richMark)).to.have.length(1)
})
