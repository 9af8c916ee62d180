import { expect } from 'chai'
import { cutVersion, updateCase } from '#core/cases/contract.ts'
import { addComment } from '#core/talk/contract.ts'
import { reviewCase } from '#core/review/contract.ts'
import { shop, type Shop } from '#test/app.ts'
import { caseOf, makeCase, makeRequirements, makeRun } from '#test/make.ts'
import { takenOver } from './pages.tsx'
import { closeScreen } from './screen.tsx'

const places = [
  '',
  'requirements',
  'RQ-1',
  'cases',
  'TC-1',
  'plans',
  'suites',
  'runs',
  'RN-1',
  'defects',
  'reports',
  'set-up',
  'set-up/releases',
  'people/tester',
  'history',
]

describe('a page that the browser takes over', () => {
  let own: Shop
  before(async () => {
    own = shop()
    // What was done just before the server drew the page, by the clock pages are read by.
    own.pass(Date.now() - own.now())
    const [rq = ''] = await makeRequirements(own.lead, 'Tickets')
    const ref = await makeCase(own.lead, 'Pays', { proves: rq })
    const { version } = await caseOf(own.lead, ref)
    await own.lead.ask(updateCase, { params: { ref }, body: { objective: 'Paid once' }, version })
    await own.lead.ask(addComment, { body: { ref, text: 'Is it?' } })
    await own.lead.ask(cutVersion, { params: { ref }, body: {} })
    await own.lead.ask(reviewCase, { params: { ref }, body: { to: 'In review', people: ['tester'] } })
    await makeRun(own, [ref])
  })
  afterEach(() => closeScreen())
  for (const place of places)
    it(`is the same minutes later, at /p/SHOP/${place}`, async () => {
      for (const later of [0, 40_000, 3_700_000])
        expect(await takenOver(own, 'lead', place, later), `${later} ms later`).to.deep.equal([])
    })
})
