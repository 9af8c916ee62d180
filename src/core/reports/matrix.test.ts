import { expect } from 'chai'
import fc from 'fast-check'
import { defaultFreshness } from '#core/runs/freshness.ts'
import { verdicts } from '#core/lib/verdict.ts'
import { caseCells, matrixFigures, matrixPlaces, passedCells } from './matrix.ts'
import {
  type AnsweredSlot,
  type CoverageFacts,
  coverageNodes,
  nodesIfPassed,
  type StandingFact,
} from './scope-coverage.ts'

const stands = (caseId: number, environmentId: number): StandingFact => ({
  caseId,
  environmentId,
  buildId: 1,
  attemptId: caseId * 100 + environmentId,
  verdict: 'Passed',
  finishedAt: 1,
  fingerprint: '',
})
const anySlot = fc.record({
  environment: fc.integer({ min: 1, max: 4 }),
  verdict: fc.constantFrom(...verdicts),
  stale: fc.boolean(),
})
const slotOf = (
  id: number,
  { environment, verdict, stale }: typeof anySlot extends fc.Arbitrary<infer S> ? S : never,
) =>
  ({
    environment,
    verdict,
    confidence: stale ? 0.5 : 1,
    reasons: stale ? ['too old'] : [],
    standing: verdict === 'Not run' ? null : stands(id, environment),
  }) satisfies AnsweredSlot
/** Some cases with slots, and requirements they prove, over links some of which are suspect. */
const anyWorld = fc.record({
  slots: fc.array(fc.uniqueArray(anySlot, { selector: ({ environment }) => environment, maxLength: 4 }), {
    minLength: 1,
    maxLength: 6,
  }),
  designed: fc.array(fc.boolean(), { minLength: 6, maxLength: 6 }),
  links: fc.array(fc.tuple(fc.nat(5), fc.nat(5), fc.boolean()), { maxLength: 10 }),
  passes: fc.array(fc.tuple(fc.nat(5), fc.integer({ min: 1, max: 4 })), { maxLength: 8 }),
})

it('an outline as if some slots passed is that of slots that did pass, also when most of it is taken from before', () =>
  fc.assert(
    fc.property(anyWorld, fc.nat(5), ({ slots: all, designed, links, passes }, changed) => {
      const facts: Pick<CoverageFacts, 'cases' | 'requirements' | 'links'> = {
        cases: all.map((_, id) => ({ id, designed: designed[id] ?? true, fingerprint: null })),
        requirements: [0, 1, 2, 3, 4, 5].map((id) => ({ id, parent: null, risk: 9, revision: 2 })),
        links: links.map(([requirement, own, suspect]) => ({
          requirement,
          case: own,
          confirmedRevision: suspect ? 1 : 2,
        })),
      }
      const named = new Set(passes.map(([id, environment]) => `${id} ${environment}`))
      const does = (id: number, environment: number) => named.has(`${id} ${environment}`)
      const slots = new Map(all.map((own, id) => [id, own.map((slot) => slotOf(id, slot))]))
      const memo = new WeakMap()
      const then = () => {
        const nodes = coverageNodes(facts, slots, defaultFreshness)
        return nodesIfPassed(nodes, { slots, passes: does, rules: defaultFreshness }, memo)
      }
      const plainly = () => {
        const passed = [...slots].map(([id, own]): [number, AnsweredSlot[]] => [
          id,
          own.map((slot) =>
            does(id, slot.environment) ? { ...slot, verdict: 'Passed', reasons: [], confidence: 1 } : slot,
          ),
        ])
        return coverageNodes(facts, new Map(passed), defaultFreshness)
      }
      const seen = (nodes: ReturnType<typeof coverageNodes>) =>
        nodes.map(({ id, cases }) => [
          id,
          cases.map((each) => [
            each.case,
            each.slots.map(({ verdict, confidence, reasons }) => [verdict, confidence, reasons]),
          ]),
        ])
      expect(seen(then())).to.deep.equal(seen(plainly()))
      if (slots.has(changed)) slots.set(changed, [slotOf(changed, { environment: 1, verdict: 'Failed', stale: false })])
      expect(seen(then())).to.deep.equal(seen(plainly()))
    }),
  ))

it('the figures of a matrix are those of its slots, counted one by one', () =>
  fc.assert(
    fc.property(anyWorld, ({ slots: all }) => {
      const slots = new Map(all.map((own, id) => [id, own.map((slot) => slotOf(id, slot))]))
      const flat = [...slots].flatMap(([id, own]) => own.map((slot) => ({ id, ...slot })))
      const memo = new WeakMap()
      for (const told of [0, 1].map(() => matrixFigures(slots, (id) => id + 1, memo)))
        expect(told).to.deep.equal({
          slots: flat.length,
          empty: flat.filter(({ standing }) => standing === null).length,
          stale: flat.filter(({ standing, reasons }) => standing !== null && reasons.length > 0).length,
          failing: flat.filter(({ verdict }) => verdict === 'Failed' || verdict === 'Blocked').length,
          minutes: flat.reduce((sum, { id }) => sum + id + 1, 0),
        })
    }),
  ))

describe('rows of a matrix', () => {
  const passed = slotOf(1, { environment: 2, verdict: 'Passed', stale: false })
  const slots = new Map([
    [1, [passed]],
    [2, [slotOf(2, { environment: 3, verdict: 'Failed', stale: true })]],
    [3, []],
  ])

  it('stand under each requirement they prove, and last under none', () => {
    const requirements = [
      { id: 7, cases: [2, 1] },
      { id: 8, cases: [] },
      { id: 9, cases: [1] },
    ]
    const rows = matrixPlaces({ slots, requirements }, 'requirements').map(({ kind, id }) => `${kind} ${id}`)
    expect(rows).to.deep.equal([
      'requirement 7',
      'case 2',
      'case 1',
      'requirement 9',
      'case 1',
      'requirement 0',
      'case 3',
    ])
    expect(matrixPlaces({ slots, requirements }, 'cases').map(({ id }) => id)).to.deep.equal([1, 2, 3])
  })
  it('say how much passed of what is asked in each column', () =>
    expect(passedCells([1, 2, 3], { slots, columns: [3, 2, 4] })).to.deep.equal([
      { passed: 0, of: 1 },
      { passed: 1, of: 1 },
      { passed: 0, of: 0 },
    ]))
  it('show a slot of any of several in each of them, and its result only where it was gained', () => {
    const cells = caseCells([{ ...passed, among: [2, 3] }], [2, 3, 4])
    expect(cells.map((cell) => cell && [cell.any, cell.verdict, cell.attempt])).to.deep.equal([
      [true, 'Passed', 102],
      [true, 'Not run', null],
      null,
    ])
  })
})
