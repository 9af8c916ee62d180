import { expect } from 'chai'
import { defaultFreshness } from '#core/runs/freshness.ts'
import { coverage } from './coverage.ts'
import {
  answerSlots,
  type CoverageFacts,
  coverageNodes,
  type CoverageScope,
  type StandingFact,
} from './scope-coverage.ts'

const day = 86_400_000
const now = 1000 * day
const standing = (of: Partial<StandingFact>): StandingFact => ({
  caseId: 1,
  environmentId: 10,
  buildId: 1,
  attemptId: 1,
  verdict: 'Passed',
  finishedAt: now - day,
  fingerprint: 'a',
  ...of,
})
const facts: CoverageFacts = {
  requirements: [{ id: 1, parent: null, risk: 9, revision: 1 }],
  links: [{ requirement: 1, case: 1, confirmedRevision: 1 }],
  cases: [{ id: 1, designed: true, fingerprint: 'a' }],
  slots: [],
  quarantined: [],
  builds: [
    { id: 1, release: 1, position: 1, state: 'Offered' },
    { id: 2, release: 1, position: 2, state: 'Offered' },
  ],
  standing: [standing({})],
  fixes: new Map(),
  anyEnvironment: 9,
}
const scope: CoverageScope = { release: 1, build: 1, environment: null, asOf: now, rules: defaultFreshness }
const slotOf = (change: Partial<CoverageFacts>, at: Partial<CoverageScope> = {}) =>
  answerSlots({ ...facts, ...change }, { ...scope, ...at }).get(1) ?? []

it('gives a case nobody asked for one slot, answered by any environment', () =>
  expect(slotOf({})).to.have.length(1).and.have.nested.property('[0].verdict', 'Passed'))
it('asks each named environment for itself', () => {
  const slots = slotOf({
    slots: [
      { case: 1, environment: 10 },
      { case: 1, environment: 11 },
    ],
  })
  expect(slots.map(({ verdict }) => verdict)).to.deep.equal(['Passed', 'Not run'])
})
it('lets no late retest on an older build outrank a newer one', () => {
  const both = [
    standing({ buildId: 2, attemptId: 2, verdict: 'Failed', finishedAt: now - 2 * day }),
    standing({ attemptId: 3, finishedAt: now - 1 }),
  ]
  expect(slotOf({ standing: both }, { build: 2 })[0]).to.deep.include({ verdict: 'Failed' })
  expect(slotOf({ standing: both }, { build: 1 })[0]).to.deep.include({ verdict: 'Passed' })
})
it('tells older build, changed case and fixed defect', () => {
  expect(slotOf({}, { build: 2 })[0]?.reasons).to.deep.equal(['older build'])
  expect(slotOf({ cases: [{ id: 1, designed: true, fingerprint: 'b' }] })[0]?.reasons).to.deep.equal(['case changed'])
  const failed = [standing({ verdict: 'Failed' })]
  expect(slotOf({ standing: failed, fixes: new Map([[1, [2]]]) }, { build: 2 })[0]?.reasons).to.deep.equal([
    'older build',
    'defect fixed since',
  ])
  expect(
    slotOf({ standing: failed, fixes: new Map([[1, [2]]]) }, { build: 1 })[0]?.reasons,
    'the repair is in a build outside the scope',
  ).to.deep.equal([])
})
it('counts a quarantined slot as Not run', () =>
  expect(slotOf({ quarantined: [{ case: 1, environment: null }] })[0]?.verdict).to.equal('Not run'))
it('keeps to the environment of the scope', () =>
  expect(slotOf({}, { environment: 12 })[0]?.verdict).to.equal('Not run'))
it('leaves withdrawn builds out', () =>
  expect(slotOf({ builds: [{ id: 1, release: 1, position: 1, state: 'Withdrawn' }] })[0]?.verdict).to.equal('Not run'))
it('takes a suspect link off its own requirement only', () => {
  const two = {
    ...facts,
    requirements: [
      { id: 1, parent: null, risk: 9, revision: 2 },
      { id: 2, parent: null, risk: 9, revision: 1 },
    ],
    links: [
      { requirement: 1, case: 1, confirmedRevision: 1 },
      { requirement: 2, case: 1, confirmedRevision: 1 },
    ],
  }
  const { byId } = coverage(coverageNodes(two, answerSlots(two, scope), scope.rules))
  expect(byId.get(1)?.figures.passing.plain).to.deep.equal({ recorded: 1, current: 0, confident: 0.6 })
  expect(byId.get(2)?.figures.passing.plain).to.deep.equal({ recorded: 1, current: 1, confident: 1 })
})
