import { expect } from 'chai'
import fc from 'fast-check'
import { defaultFreshness, freshness, type FreshnessFacts } from './freshness.ts'

const day = 86_400_000
const facts: FreshnessFacts = {
  verdict: 'Passed',
  finishedAt: 100 * day,
  asOf: 101 * day,
  laterBuilds: 0,
  fingerprintChanged: false,
  suspect: false,
  defectFixedSince: false,
}

it('is current, with full confidence, when nothing has changed', () =>
  expect(freshness(facts)).to.deep.equal({ reasons: [], confidence: 1 }))
it('weighs each reason as defined and multiplies them', () => {
  expect(freshness({ ...facts, laterBuilds: 2 }).confidence).to.be.closeTo(0.7225, 1e-12)
  expect(freshness({ ...facts, fingerprintChanged: true }).confidence).to.equal(0.5)
  expect(freshness({ ...facts, suspect: true }).confidence).to.equal(0.6)
  expect(freshness({ ...facts, laterBuilds: 1, fingerprintChanged: true, suspect: true })).to.deep.equal({
    reasons: ['older build', 'case changed', 'requirement changed'],
    confidence: 0.85 * 0.5 * 0.6,
  })
})
it('is too old above the limit, not at it, and halves every half-life', () => {
  expect(freshness({ ...facts, asOf: 114 * day }).reasons).to.deep.equal([])
  expect(freshness({ ...facts, asOf: 114 * day + 1 }).reasons).to.deep.equal(['too old'])
  expect(freshness({ ...facts, asOf: 128 * day }).confidence).to.be.closeTo(0.5, 1e-9)
})
it('trusts a failure not at all once its defect is fixed since, but leaves a pass alone', () => {
  expect(freshness({ ...facts, verdict: 'Failed', defectFixedSince: true })).to.deep.equal({
    reasons: ['defect fixed since'],
    confidence: 0,
  })
  expect(freshness({ ...facts, verdict: 'Passed', defectFixedSince: true }).reasons).to.deep.equal([])
})
it('never gains confidence from one more reason', () => {
  fc.assert(
    fc.property(fc.nat(6), fc.boolean(), fc.boolean(), fc.nat(60), (laterBuilds, fingerprintChanged, suspect, age) => {
      const own = freshness({ ...facts, laterBuilds, fingerprintChanged, suspect, asOf: facts.finishedAt + age * day })
      const more = freshness({
        ...facts,
        laterBuilds: laterBuilds + 1,
        fingerprintChanged: true,
        suspect: true,
        asOf: facts.finishedAt + (age + 1) * day,
      })
      expect(more.confidence).to.be.at.most(own.confidence)
      expect(own.reasons.length === 0).to.equal(own.confidence === 1)
    }),
  )
})
it('takes the project’s own limit', () =>
  expect(freshness({ ...facts, asOf: 103 * day }, { ...defaultFreshness, limitDays: 1 }).reasons).to.deep.equal([
    'too old',
  ]))
