import { expect } from 'chai'
import fc from 'fast-check'
import { type Observation, sharedByFailures } from './share.ts'

type Values = Readonly<Record<string, string>>
const has = (values: Values, part: Values): boolean =>
  Object.entries(part).every(([factor, value]) => values[factor] === value)
const factors = { engine: ['Chromium', 'Gecko', 'WebKit'], device: ['desk', 'phone'], language: ['en', 'ov', 'sk'] }
/** Every way to choose a value of each. */
const all = Object.entries(factors).reduce<Values[]>(
  (made, [factor, values]) => made.flatMap((each) => values.map((value) => ({ ...each, [factor]: value }))),
  [{}],
)
const anyPart = fc
  .subarray(Object.keys(factors), { minLength: 1 })
  .chain((names) =>
    fc
      .tuple(...names.map((name) => fc.constantFrom(...factors[name as keyof typeof factors])))
      .map((values) => Object.fromEntries(names.map((name, at) => [name, values[at] ?? '']))),
  )
/** Every combination of up to three values there is. */
const everyPart: Values[] = Object.entries(factors).reduce<Values[]>(
  (made, [factor, values]) => [
    ...made,
    ...made.flatMap((each) => values.map((value) => ({ ...each, [factor]: value }))),
  ],
  [{}],
)

describe('what failures share', () => {
  it('is the planted fault, where everything was executed: of one engine, device or language, or of several together', () => {
    fc.assert(
      fc.property(anyPart, (planted) => {
        const told = sharedByFailures(all.map((values) => ({ values, failed: has(values, planted) })))
        expect(told.explanations.map(({ values }) => values)).to.deep.equal([planted])
        expect([told.explanations[0]?.instead, told.unexplained]).to.deep.equal([[], 0])
        expect(told.explanations[0]?.backing).to.be.greaterThan(0)
      }),
    )
  })
  it('holds no pass, explains every failure that anything explains, is as small as it can be, and there are no fewer', () => {
    const histories = fc.array(fc.record({ values: fc.constantFrom(...all), failed: fc.boolean() }), { maxLength: 9 })
    fc.assert(
      fc.property(histories, (observations: Observation[]) => {
        const told = sharedByFailures(observations)
        const [failures, passes] = [true, false].map((failed) => observations.filter((each) => each.failed === failed))
        const free = everyPart.filter(
          (part) => Object.keys(part).length > 0 && !passes!.some(({ values }) => has(values, part)),
        )
        for (const { values, failures: n } of told.explanations) {
          expect(passes!.some((pass) => has(pass.values, values))).to.equal(false)
          expect(failures!.filter((each) => has(each.values, values)).length).to.equal(n)
          for (const factor of Object.keys(values)) {
            const { [factor]: _, ...less } = values
            if (Object.keys(less).length > 0) expect(passes!.some((pass) => has(pass.values, less))).to.equal(true)
          }
        }
        const explainable = failures!.filter(({ values }) => free.some((part) => has(values, part)))
        expect(told.unexplained).to.equal(failures!.length - explainable.length)
        const covers = (parts: readonly Values[]) =>
          explainable.every(({ values }) => parts.some((part) => has(values, part)))
        expect(covers(told.explanations.map(({ values }) => values))).to.equal(true)
        // Exhaustively: no fewer combinations hold them all.
        const fewer = told.explanations.length - 1
        const useful = free.filter((part) => explainable.some(({ values }) => has(values, part)))
        const some = (n: number, from: number, chosen: readonly Values[]): boolean =>
          covers(chosen) ||
          (n > 0 && useful.slice(from).some((part, at) => some(n - 1, from + at + 1, [...chosen, part])))
        if (fewer >= 1 && fewer <= 2) expect(some(fewer, 0, [])).to.equal(false)
        if (fewer === 0) expect(explainable.length).to.be.greaterThan(0)
      }),
      { numRuns: 60 },
    )
  })
  it('names what would tell the most next: the thing on which explanations of the same failures disagree', () => {
    const seen = [
      { values: { engine: 'Gecko', device: 'phone' }, failed: true },
      { values: { engine: 'Chromium', device: 'desk' }, failed: false },
    ]
    const told = sharedByFailures(seen, [
      { id: 'the same again', values: { engine: 'Gecko', device: 'phone' } },
      { id: 'Gecko at the desk', values: { engine: 'Gecko', device: 'desk' } },
    ])
    expect(told.explanations[0]).to.deep.include({
      failures: 1,
      values: { device: 'phone' },
      instead: [{ engine: 'Gecko' }],
    })
    expect(told.next).to.deep.equal({ id: 'Gecko at the desk', against: 1, of: 2 })
    expect(sharedByFailures(seen, [{ id: 1, values: seen[0]!.values }]).next).to.equal(null)
  })
  it('is nothing where nothing failed, and says what cannot be explained', () => {
    expect(sharedByFailures([{ values: { engine: 'Gecko' }, failed: false }])).to.deep.equal({
      failures: 0,
      passes: 1,
      explanations: [],
      unexplained: 0,
      next: null,
    })
    const same = { engine: 'Gecko' }
    const told = sharedByFailures([
      { values: same, failed: true },
      { values: same, failed: false },
    ])
    expect([told.explanations, told.unexplained]).to.deep.equal([[], 1])
  })
  it('tells two faults of one run apart, each with its own combination', () => {
    const told = sharedByFailures(
      all.map((values) => ({
        values,
        failed: has(values, { engine: 'Gecko' }) || has(values, { device: 'phone', language: 'sk' }),
      })),
    )
    expect(told.explanations.map(({ values }) => values)).to.deep.equal([
      { engine: 'Gecko' },
      { device: 'phone', language: 'sk' },
    ])
  })
})
