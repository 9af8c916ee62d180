import { expect } from 'chai'
import fc from 'fast-check'
import {
  amendableUntil,
  amenders,
  askables,
  askingVerdicts,
  closings,
  deciders,
  differing,
  mayRecord,
  openers,
  owed,
  type Policy,
  policy,
  policySentences,
  policyText,
  recorders,
  samePolicy,
  usualPolicy,
} from './policy.ts'
import { verdicts } from '#core/lib/verdict.ts'

const anyPolicy: fc.Arbitrary<Policy> = fc.record({
  decides: fc.constantFrom(...deciders),
  records: fc.constantFrom(...recorders),
  opens: fc.constantFrom(...openers),
  asked: fc.dictionary(fc.constantFrom(...askingVerdicts), fc.subarray([...askables])) as fc.Arbitrary<Policy['asked']>,
  closes: fc.constantFrom(...closings),
  amends: fc.constantFrom(...amenders),
  amendDays: fc.integer({ min: 1, max: 365 }),
  approvedOnly: fc.boolean(),
  spoiledByCase: fc.boolean(),
  spoiledByBuild: fc.boolean(),
})

describe('a policy', () => {
  it('is said in one way, which says the same again', () => {
    fc.assert(
      fc.property(anyPolicy, (own) => {
        const again = policy.parse(JSON.parse(policyText(own)))
        expect(policyText(again)).to.equal(policyText(own))
        expect(samePolicy(own, again)).to.equal(true)
        expect(differing(own, again)).to.deep.equal([])
      }),
    )
  })
  it('differs from another exactly where its sentences do', () => {
    fc.assert(
      fc.property(anyPolicy, anyPolicy, (one, other) => {
        const same = policySentences(one).join(' ') === policySentences(other).join(' ')
        expect(differing(one, other).length === 0).to.equal(same)
        expect(samePolicy(one, other)).to.equal(same)
      }),
    )
  })
  it('is told in four sentences', () => {
    expect(policySentences(usualPolicy)).to.deep.equal([
      'The steps decide: a failed one fails the item, and all passed pass it, at once.',
      'Anyone who executes records; a free item becomes that of whoever begins it.',
      'Nothing is asked for beside a verdict.',
      'The run closes by hand; afterwards results stay. The newest version allowed is executed; a result is spoiled by nothing.',
    ])
    const strict: Policy = {
      decides: 'tester',
      records: 'named',
      opens: 'free',
      asked: { Failed: ['a defect', 'a reason', 'evidence'], Blocked: ['a word'] },
      closes: 'at its end',
      amends: 'leads',
      amendDays: 1,
      approvedOnly: true,
      spoiledByCase: true,
      spoiledByBuild: true,
    }
    expect(policySentences(strict)).to.deep.equal([
      'The tester decides: what is said of steps is a note, until the whole item has its verdict.',
      'Only the named person records; a free item stays nobody’s when it is begun.',
      'Asked for on Failed a reason, evidence and a defect and on Blocked a word; nothing on Passed.',
      'The run closes at the end of its last day; afterwards leads may amend results for a day. Only approved versions are executed; a result is spoiled by a changed case or another build.',
    ])
  })
  it('asks for what was not given, never for more, and for nothing on Passed', () => {
    fc.assert(
      fc.property(
        anyPolicy,
        fc.constantFrom(...verdicts),
        fc.record({
          words: fc.boolean(),
          reason: fc.option(fc.constant('harbour closed')),
          evidence: fc.nat(2),
          defects: fc.nat(2),
        }),
        (own, verdict, given) => {
          const still = owed(own, { verdict, ...given })
          const wanted = verdict === 'Passed' ? [] : (own.asked[verdict as 'Failed'] ?? [])
          for (const each of askables) {
            const has = {
              'a word': given.words,
              'a reason': given.reason !== null,
              evidence: given.evidence > 0,
              'a defect': given.defects > 0,
            }[each]
            expect(still.includes(each), each).to.equal(wanted.includes(each) && !has)
          }
        },
      ),
    )
  })
  it('lets anyone record, or the named person and whoever has begun', () => {
    const may = (records: Policy['records'], assignee: string | null, begunBy: string | null) =>
      mayRecord({ records }, { person: 'mira', assignee, begunBy })
    expect([may('anyone', 'ola', null), may('anyone', null, null)]).to.deep.equal([true, true])
    expect([may('named', 'mira', null), may('named', 'ola', null), may('named', null, null)]).to.deep.equal([
      true,
      false,
      false,
    ])
    expect(may('named', 'ola', 'mira')).to.equal(true)
  })
  it('tells until when results may be amended, and by whom', () => {
    const until = (amends: Policy['amends'], lead: boolean) =>
      amendableUntil({ amends, amendDays: 2 }, { closedAt: 1000, lead })
    expect([until('nobody', true), until('leads', false)]).to.deep.equal([null, null])
    expect([until('leads', true), until('everybody', false)]).to.deep.equal([172_801_000, 172_801_000])
  })
})
