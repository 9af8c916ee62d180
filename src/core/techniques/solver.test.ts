import { expect } from 'chai'
import fc from 'fast-check'
import { seeded } from '#core/lib/random.ts'
import { type Clause, Solver } from './solver.ts'

const levels = Int32Array.of(2, 3, 2)
const anyLiteral = fc.nat(2).chain((column) =>
  fc.subarray([...Array(levels[column]!).keys()], { minLength: 1 }).map((values) => ({
    column,
    holds: Uint8Array.from({ length: levels[column]! }, (_, at) => (values.includes(at) ? 1 : 0)),
  })),
)
/** A clause names each column once. */
const anyClause: fc.Arbitrary<Clause> = fc
  .uniqueArray(anyLiteral, { minLength: 1, maxLength: 3, selector: ({ column }) => column })
  .map((literals) => ({ rule: 0, literals }))
const clauses = fc.array(anyClause, { maxLength: 6 })
const anyRow = fc.tuple(...[...levels].map((level) => fc.integer({ min: -1, max: level - 1 })))

const all: number[][] = [...levels].reduce<number[][]>(
  (rows, level) => rows.flatMap((row) => [...Array(level).keys()].map((value) => [...row, value])),
  [[]],
)
const breaks = (row: readonly number[], { literals }: Clause): boolean =>
  literals.every(({ column, holds }) => holds[row[column]!] === 1)
const allowed = (of: readonly Clause[], row: readonly number[]): boolean => !of.some((clause) => breaks(row, clause))

describe('rows that rules allow', () => {
  it('are completed from any given cells exactly when there is such a row', () => {
    fc.assert(
      fc.property(clauses, anyRow, fc.nat(), (of, given, seed) => {
        const fits = all.filter((row) => allowed(of, row) && given.every((value, at) => value < 0 || value === row[at]))
        const row = new Solver(levels, of).complete(given, levels, seeded(seed))
        expect(row !== null).to.equal(fits.length > 0)
        if (row) expect(fits.map(String)).to.include([...row].join())
      }),
    )
  })
  it('take only ordinary values where a cell is open, and any where it is given', () => {
    const solver = new Solver(levels, [])
    const ordinary = Int32Array.of(1, 1, 1)
    expect([...solver.complete([-1, -1, -1], ordinary, seeded(1))!]).to.deep.equal([0, 0, 0])
    expect([...solver.complete([1, 2, -1], ordinary, seeded(1))!]).to.deep.equal([1, 2, 0])
    expect(solver.complete([-1, -1, -1], Int32Array.of(0, 1, 1), seeded(1))).to.equal(null)
  })
  it('are completed with the values that are preferred, where the rules leave them', () => {
    const never = { rule: 0, literals: [{ column: 0, holds: Uint8Array.of(0, 1) }] }
    const row = new Solver(levels, [never]).complete([-1, -1, -1], levels, seeded(3), [1, 2, 1])
    expect([...row!]).to.deep.equal([0, 2, 1])
  })
  it('keep every clause that names a column', () => {
    fc.assert(
      fc.property(clauses, fc.constantFrom(...all), fc.nat(2), (of, row, column) => {
        const naming = of.filter(({ literals }) => literals.some((each) => each.column === column))
        const solver = new Solver(levels, of)
        expect(solver.keeps(row, column)).to.equal(allowed(naming, row))
        expect(solver.constrained(column)).to.equal(naming.length > 0)
      }),
    )
  })
  it('are the same for the same chance', () => {
    fc.assert(
      fc.property(clauses, fc.nat(), (of, seed) => {
        const once = new Solver(levels, of).complete([-1, -1, -1], levels, seeded(seed))
        const again = new Solver(levels, of).complete([-1, -1, -1], levels, seeded(seed))
        expect(once?.join()).to.equal(again?.join())
      }),
    )
  })
})
