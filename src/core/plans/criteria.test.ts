import { expect } from 'chai'
import fc from 'fast-check'
import {
  criterionRule,
  type CriterionRule,
  criterionWords,
  evaluate,
  figureText,
  isWaived,
  shortened,
  wantedText,
} from './criteria.ts'

const said = (rule: unknown): CriterionRule => criterionRule.parse(rule)
const words = (rule: unknown, branch: string | null = null): string => criterionWords(said(rule), branch)

describe('a criterion in words', () => {
  it('reads as a sentence, with its branch where it has one', () => {
    expect(words({ kind: 'share', measure: 'passing', basis: 'current', byRisk: true, atLeast: 90 })).to.equal(
      'Passing by risk on current results: at least 90 %',
    )
    expect(words({ kind: 'share', measure: 'designed', atLeast: 95 }, 'RQ-3 Fares')).to.equal(
      'Designed in RQ-3 Fares: at least 95 %',
    )
    expect(words({ kind: 'share', measure: 'fully passing', basis: 'confident', atLeast: 1 })).to.equal(
      'Fully passing weighted by confidence: at least 1 %',
    )
    expect(words({ kind: 'defects', severity: 'Critical', atMost: 0 })).to.equal('No open defect that is Critical')
    expect(words({ kind: 'defects', severity: 'Major', atMost: 2 })).to.equal(
      'At most 2 open defects that are Major or worse',
    )
    expect(words({ kind: 'important', importance: 'Critical' })).to.equal(
      'All cases that are Critical executed on the newest build',
    )
    expect(words({ kind: 'important', importance: 'High', days: 7 })).to.equal(
      'All cases that are High or above executed within 7 days',
    )
    expect(words({ kind: 'untold' })).to.equal('No failing result without a defect')
    expect(words({ kind: 'suspect', atMost: 3 })).to.equal('At most 3 suspect links')
    expect(words({ kind: 'approved', atLeast: 100 })).to.equal('Cases approved: at least 100 %')
    expect(words({ kind: 'runs' })).to.equal('No run left open')
  })

  it('tells its figure as a share that is never rounded up, as a count, or as nothing', () => {
    const share = said({ kind: 'items', atLeast: 100 })
    expect([0, 0.001, 0.9999, 1, null].map((figure) => figureText(share, figure))).to.deep.equal([
      '0 %',
      '<1 %',
      '99 %',
      '100 %',
      '–',
    ])
    expect(figureText(said({ kind: 'suspect', atMost: 1 }), 0)).to.equal('0')
    expect(wantedText(said({ kind: 'suspect', atMost: 0 }))).to.equal('none')
    expect(wantedText(share)).to.equal('at least 100 %')
  })

  it('refuses a share above all and a count that is none', () => {
    for (const wrong of [
      { kind: 'items', atLeast: 101 },
      { kind: 'suspect', atMost: -1 },
      { kind: 'suspect', atMost: 1.5 },
      { kind: 'important', importance: 'High', days: 0 },
      { kind: 'guess' },
    ])
      expect(criterionRule.safeParse(wrong).success, JSON.stringify(wrong)).to.equal(false)
  })
})

describe('a waiver', () => {
  it('holds to the end of its day and not a day longer', () => {
    expect(['2026-11-22', '2026-11-23', '2026-11-24'].map((today) => isWaived('2026-11-23', today))).to.deep.equal([
      true,
      true,
      false,
    ])
    expect(isWaived(null, '2026-11-23')).to.equal(false)
  })
})

describe('what is missing', () => {
  const facts = (open: number) => ({
    shares: () => null,
    lacking: () => [],
    defects: [],
    suspect: [],
    openRuns: Array.from({ length: open }, (_, at) => at + 1),
    cases: Array.from({ length: open }, (_, at) => ({
      id: at + 1,
      importance: 'High' as const,
      approved: false,
      slots: [{ environment: 1, verdict: 'Not run', stale: false, onNewest: false, days: null, told: false }],
    })),
  })

  it('is told whole in number, and no more of it than is asked', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 0, max: 50 }), (open, most) => {
        for (const rule of [said({ kind: 'runs' }), said({ kind: 'items', atLeast: 100 })]) {
          const { missing, missingTotal, outcome } = shortened(evaluate(rule, facts(open)), most)
          const n = missing.of === 'slots' ? missing.slots.length : missing.ids.length
          expect([n, missingTotal, outcome]).to.deep.equal([Math.min(open, most), open, 'not met'])
        }
      }),
    )
  })

  it('of nothing decides nothing', () => {
    const { outcome, figure } = evaluate(said({ kind: 'items', atLeast: 0 }), facts(0))
    expect([outcome, figure]).to.deep.equal(['undecidable', null])
  })
})
