import { expect } from 'chai'
import { ruleFields } from '#core/finding/fields.ts'
import { madeWords } from '#core/plans/made.ts'
import type { SourceShown } from '#core/plans/suite-contract.ts'
import { bestSaid, sourceLabels, sourceWords } from './source-words.ts'

const fields = ruleFields({ case: [], requirement: [] })
const source = (of: Partial<SourceShown> & Pick<SourceShown, 'id' | 'kind'>): SourceShown => ({
  cases: 0,
  requirement: null,
  suite: null,
  words: '',
  filter: null,
  minutes: null,
  frozen: false,
  problem: null,
  last: [],
  ...of,
})
const requirement = { id: 3, key: 'RQ-3', title: 'Fares' }
const importance = { field: 'importance', op: 'is' as const, values: ['Critical'] }

describe('a source in words', () => {
  it('says what it brings', () => {
    expect(sourceWords(source({ id: 1, kind: 'branch', requirement }), fields)).to.equal('what covers RQ-3 Fares')
    expect(sourceWords(source({ id: 1, kind: 'rule', words: 'pays', filter: importance }), fields)).to.equal(
      '“pays” and importance is Critical',
    )
    const suite = { id: 2, key: 'TS-2', title: 'Booking core' }
    expect(sourceWords(source({ id: 1, kind: 'suite', suite }), fields)).to.equal('all of TS-2 Booking core')
    expect(sourceWords(source({ id: 1, kind: 'best', minutes: 90, requirement }), fields)).to.equal(
      'the best within 1 h 30 for RQ-3 Fares',
    )
  })

  it('has a short name beside its cases, with a number where there are several of a kind', () => {
    const label = sourceLabels([
      source({ id: 4, kind: 'rule' }),
      source({ id: 5, kind: 'rule' }),
      source({ id: 6, kind: 'best' }),
      source({ id: 7, kind: 'branch', requirement }),
    ])
    expect([0, 4, 5, 6, 7, 9].map(label)).to.deep.equal([
      'pin',
      'rule 1',
      'rule 2',
      'best',
      'RQ-3',
      'a source taken away',
    ])
  })

  it('is said again frozen or living', () => {
    expect(bestSaid(source({ id: 1, kind: 'best', minutes: 30, requirement }), true)).to.deep.equal({
      kind: 'best',
      minutes: 30,
      requirement: 3,
      frozen: true,
    })
  })

  it('and its kin make a suite, in few words', () => {
    const none = { pins: 0, branch: 0, rule: 0, suite: 0, best: 0 }
    expect(madeWords(none)).to.equal('')
    expect(madeWords({ ...none, pins: 12, branch: 2, best: 1 })).to.equal('12 pinned, 2 branches, 1 choice by minutes')
  })
})
