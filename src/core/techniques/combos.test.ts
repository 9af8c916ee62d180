import { expect } from 'chai'
import fc from 'fast-check'
import { Refusal } from '#core/lib/refusal.ts'
import { combosProblem, ruleText } from './combos-model.ts'
import { combine, type CombosAnswer, type CombosOptions, finished } from './combos.ts'
import { type CombosModel, checkModel, combosModel } from './models.ts'
import { combosModels } from '../../../test/models.ts'

// The checks below share nothing with the search: they walk through every row there could be.

type Row = Readonly<Record<string, string>>
type Given = Partial<CombosModel> & Pick<CombosModel, 'parameters'>

const solve = (model: Given, options: CombosOptions = {}): CombosAnswer =>
  finished(combine(combosProblem(checkModel(combosModel, model)), { moves: 3000, ...options }))

function breaks(row: Row, rule: CombosModel['constraints'][number]): boolean {
  const holds = (terms: Readonly<Record<string, readonly string[]>>): boolean =>
    Object.entries(terms).every(([name, values]) => values.includes(row[name]!))
  return 'forbid' in rule ? holds(rule.forbid) : holds(rule.if) && !holds(rule.then)
}

function everyRow(parameters: CombosModel['parameters']): Row[] {
  return Object.entries(parameters).reduce<Row[]>(
    (rows, [name, values]) => rows.flatMap((row) => values.map((value) => ({ ...row, [name]: value }))),
    [{}],
  )
}

const choose = (names: readonly string[], size: number): string[][] =>
  size === 0 ? [[]] : names.flatMap((name, at) => choose(names.slice(at + 1), size - 1).map((rest) => [name, ...rest]))
const tuplesIn = (row: Row, sets: readonly (readonly string[])[]): string[] =>
  sets.map((set) => set.map((name) => `${name}=${row[name]!}`).join('&'))

function expected(model: CombosModel): {
  readonly valid: Row[]
  readonly sets: string[][]
  readonly feasible: Set<string>
  readonly all: number
} {
  const names = Object.keys(model.parameters)
  const strength = Math.min(model.strength, names.length)
  const stronger = model.stronger.flatMap(({ of, strength: own }) =>
    Math.min(own, of.length) > strength
      ? choose(
          names.filter((name) => of.includes(name)),
          Math.min(own, of.length),
        )
      : [],
  )
  const sets = [...new Map([...choose(names, strength), ...stronger].map((set) => [set.join(), set])).values()]
  const valid = everyRow(model.parameters).filter((row) => !model.constraints.some((rule) => breaks(row, rule)))
  const feasible = new Set(valid.flatMap((row) => tuplesIn(row, sets)))
  return {
    valid,
    sets,
    feasible,
    all: sets.reduce((sum, set) => sum + set.reduce((product, name) => product * model.parameters[name]!.length, 1), 0),
  }
}

describe('combinations', () => {
  it('hold every possible tuple in valid rows, and count the impossible ones, on thousands of random models', () => {
    fc.assert(
      fc.property(combosModels, (model) => {
        const { valid, sets, feasible, all } = expected(model)
        if (valid.length === 0) {
          expect(() => solve(model)).to.throw(Refusal)
          return
        }
        const answer = solve(model)
        const ordinary = answer.rows.slice(0, answer.rows.length - answer.negative)
        for (const row of answer.rows)
          expect(
            model.constraints.some((rule) => breaks(row, rule)),
            JSON.stringify(row),
          ).to.equal(false)
        const held = new Set(ordinary.flatMap((row) => tuplesIn(row, sets)))
        expect([...feasible].filter((tuple) => !held.has(tuple))).to.deep.equal([])
        expect([answer.tuples, answer.infeasible, answer.covered]).to.deep.equal([
          feasible.size,
          all - feasible.size,
          feasible.size,
        ])
        expect(answer.least).to.be.at.most(ordinary.length)
        for (const row of answer.rows.slice(ordinary.length))
          expect(Object.values(row).filter((value) => value === 'bad')).to.have.length(1)
      }),
      { numRuns: 2500, seed: 7 },
    )
  })

  it('never claim a bound above what can be reached, checked by trying all sets of rows of small models', () => {
    fc.assert(
      fc.property(
        combosModels.filter((model) => expected(model).valid.length <= 9 && model.strength <= 2),
        (model) => {
          const { valid, sets, feasible } = expected(model)
          if (valid.length === 0) return
          let fewest = valid.length
          for (let set = 1; set < 1 << valid.length; set++) {
            const chosen = valid.filter((_, at) => (set & (1 << at)) !== 0)
            if (chosen.length < fewest && new Set(chosen.flatMap((row) => tuplesIn(row, sets))).size === feasible.size)
              fewest = chosen.length
          }
          expect(solve(model).least).to.be.at.most(fewest)
        },
      ),
      { numRuns: 150, seed: 3 },
    )
  })

  it('keep existing rows first and unchanged, complete partial ones, and count only what was there', () => {
    fc.assert(
      fc.property(
        combosModels,
        fc.array(fc.array(fc.nat(5), { minLength: 5, maxLength: 5 }), { maxLength: 4 }),
        (model, given) => {
          const { valid, sets, feasible } = expected(model)
          if (valid.length === 0) return
          const names = Object.keys(model.parameters)
          const existing = given.map((values) =>
            Object.fromEntries(names.map((name, at) => [name, model.parameters[name]![values[at]!] ?? ''])),
          )
          const fits = (row: Row): Row[] =>
            valid.filter((full) => names.every((name) => row[name] === '' || row[name] === full[name]))
          const usable = existing.filter((row) => fits(row).length > 0)
          const answer = solve(model, { existing })
          expect(answer.existing.rows).to.equal(usable.length)
          usable.forEach((row, at) => {
            for (const name of names) if (row[name] !== '') expect(answer.rows[at]![name]).to.equal(row[name])
          })
          const held = new Set(
            usable.flatMap((row) =>
              tuplesIn(
                row,
                sets.filter((set) => set.every((name) => row[name] !== '')),
              ),
            ),
          )
          expect(answer.existing.covered).to.equal([...held].filter((tuple) => feasible.has(tuple)).length)
          expect(answer.covered).to.equal(feasible.size)
          expect(answer.notices.filter(({ at }) => at.startsWith('existing'))).to.have.length(
            existing.length - usable.length,
          )
        },
      ),
      { numRuns: 500, seed: 11 },
    )
  })

  it('name a minimal set of rules that contradict each other', () => {
    fc.assert(
      fc.property(
        combosModels.filter((model) => expected(model).valid.length === 0),
        (model) => {
          let fields: readonly { readonly field: string }[] = []
          try {
            solve(model)
          } catch (error) {
            if (error instanceof Refusal) fields = error.detail.fields ?? []
          }
          const named = fields.map(({ field }) => Number(/\d+/.exec(field)?.[0]))
          const left = (rules: readonly number[]): number =>
            everyRow(model.parameters).filter((row) => !rules.some((rule) => breaks(row, model.constraints[rule]!)))
              .length
          expect(named.length).to.be.greaterThan(0)
          expect(left(named)).to.equal(0)
          for (const one of named)
            expect(left(named.filter((other) => other !== one)), 'without one rule there are rows').to.be.greaterThan(0)
        },
      ),
      { numRuns: 60, seed: 5 },
    )
  })

  it('give the same rows for the same seed, and an answer at any moment from the first full one on', () => {
    const model: Given = {
      parameters: { a: ['1', '2', '3'], b: ['1', '2', '3'], c: ['1', '2', '3'], d: ['1', '2'], e: ['1', '2'] },
      constraints: [{ forbid: { a: ['1'], d: ['2'] } }],
    }
    expect(solve(model, { seed: 9 })).to.deep.equal(solve(model, { seed: 9 }))
    let rows = Infinity
    for (const step of combine(combosProblem(checkModel(combosModel, model)), { moves: 5000 })) {
      if (!step.answer) continue
      expect(step.answer.covered).to.equal(step.answer.tuples)
      expect(step.answer.rows.length).to.be.below(rows)
      rows = step.answer.rows.length
    }
  })

  const sizes: readonly (readonly [name: string, levels: readonly number[], strength: number, most: number])[] = [
    ['3^4', Array<number>(4).fill(3), 2, 9],
    ['3^13', Array<number>(13).fill(3), 2, 15],
    ['2^100', Array<number>(100).fill(2), 2, 10],
    [
      '4^15 3^17 2^29',
      [...Array<number>(15).fill(4), ...Array<number>(17).fill(3), ...Array<number>(29).fill(2)],
      2,
      32,
    ],
    ['triples of 2^10', Array<number>(10).fill(2), 3, 12],
    ['triples of 4^6', Array<number>(6).fill(4), 3, 64],
    ['triples of 5^6', Array<number>(6).fill(5), 3, 125],
    ['triples of 3^6', Array<number>(6).fill(3), 3, 36],
  ]
  for (const [name, levels, strength, most] of sizes)
    it(`find at most ${most} rows for ${name}`, () => {
      const parameters = Object.fromEntries(
        levels.map((level, at) => [`p${at}`, Array.from({ length: level }, (_, value) => String(value))]),
      )
      const answer = solve({ parameters, strength }, { moves: 400_000 })
      const sets = choose(Object.keys(parameters), strength)
      expect(new Set(answer.rows.flatMap((row) => tuplesIn(row, sets))).size).to.equal(answer.tuples)
      expect(answer.rows.length).to.be.at.most(most)
    }).timeout(60_000)

  it('prefer heavier values where they cost nothing', () => {
    const share = (weight: number): number =>
      solve({
        parameters: { a: ['x', 'y', 'z'], b: ['1', '2', '3', '4'], c: ['1', '2', '3', '4'] },
        weights: { a: { z: weight } },
      }).rows.filter((row) => row['a'] === 'z').length
    expect(share(50)).to.be.greaterThan(share(0))
  })

  it('say rules in words', () => {
    expect(ruleText({ if: { vehicle: ['freight'] }, then: { payment: ['account', 'voucher'] } })).to.equal(
      'when vehicle is freight, payment is account or voucher',
    )
    expect(ruleText({ forbid: { class: ['first'], vehicle: ['≤ 9'] } })).to.equal('never class first with vehicle ≤ 9')
  })

  const bad: readonly (readonly [why: string, model: Given, place: string])[] = [
    ['no parameters', { parameters: {} }, 'parameters'],
    ['no values', { parameters: { a: [] } }, 'parameters.a'],
    ['a value twice', { parameters: { a: ['x', 'x'], b: ['y'] } }, 'parameters.a[1]'],
    ['a negative value that is ordinary', { parameters: { a: ['x'] }, negative: { a: ['x'] } }, 'negative.a[0]'],
    ['a negative value of nothing', { parameters: { a: ['x'] }, negative: { b: ['y'] } }, 'negative.b'],
    [
      'a rule about nothing',
      { parameters: { a: ['x'] }, constraints: [{ forbid: { b: ['y'] } }] },
      'constraints[0].forbid.b',
    ],
    [
      'an unknown value in a rule',
      { parameters: { a: ['x'], b: ['y'] }, constraints: [{ if: { a: ['z'] }, then: { b: ['y'] } }] },
      'constraints[0].if.a',
    ],
    [
      'ten thousand values each',
      {
        parameters: {
          a: Array.from({ length: 10_000 }, (_, at) => String(at)),
          b: Array.from({ length: 10_000 }, (_, at) => String(at)),
        },
      },
      'strength',
    ],
    ['a group of unknown parameters', { parameters: { a: ['x'] }, stronger: [{ of: ['q'], strength: 3 }] }, 'stronger'],
  ]
  for (const [why, model, place] of bad)
    it(`refuse ${why} at its place`, () => {
      expect(() => solve(model))
        .to.throw(Refusal)
        .with.nested.property('detail.fields[0].field', place)
    })

  it('cap a strength above the number of parameters, and say so', () => {
    const answer = solve({ parameters: { a: ['x', 'y'], b: ['1'] }, strength: 6 })
    expect(answer.rows).to.have.length(2)
    expect(answer.notices.map(({ at }) => at)).to.include.members(['strength', 'parameters.b'])
  })

  it('tell a negative value that the rules exclude', () => {
    const answer = solve({
      parameters: { a: ['x'], b: ['y'] },
      negative: { a: ['bad'] },
      constraints: [{ if: {}, then: { a: ['x'] } }],
    })
    expect(answer.negative).to.equal(0)
    expect(answer.notices.map(({ at }) => at)).to.include('negative.a[0]')
  })
})
