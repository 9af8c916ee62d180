import { expect } from 'chai'
import fc from 'fast-check'
import { Refusal } from '#core/lib/refusal.ts'
import {
  casesPerCombination,
  decisions,
  type DecisionsAnswer,
  decisionsWithoutWrong,
  outcomeText,
} from './decisions.ts'
import { checkModel, type DecisionsModel, decisionsModel } from './models.ts'
import { tables } from '../../../test/models.ts'

type Row = Readonly<Record<string, string>>
const check = (model: unknown): DecisionsAnswer => decisions(checkModel(decisionsModel, model))
const all = (model: DecisionsModel): Row[] =>
  Object.entries(model.conditions).reduce<Row[]>(
    (rows, [name, values]) => rows.flatMap((row) => values.map((value) => ({ ...row, [name]: value }))),
    [{}],
  )
const holds = (terms: Readonly<Record<string, readonly string[]>>, row: Row): boolean =>
  Object.entries(terms).every(([name, values]) => values.includes(row[name]!))
/** Everything a table says of a combination: the different outcomes of the rules that hold. */
const says = (rules: DecisionsModel['rules'], row: Row): string =>
  [...new Set(rules.filter(({ when }) => holds(when, row)).map(({ then }) => outcomeText(then)))].sort().join('|')

describe('decision tables', () => {
  it('agree with a walk through all combinations: missing, conflicts, redundant, merged, cases', () => {
    fc.assert(
      fc.property(tables({ conditions: 4, values: 3, rules: 7, outcomes: 2 }), (model) => {
        const answer = check(model)
        const possible = all(model).filter((row) => !model.impossible.some((terms) => holds(terms, row)))
        expect(answer.combinations).to.equal(possible.length)
        const unanswered = possible.filter((row) => says(model.rules, row) === '')
        expect(possible.filter((row) => answer.missing.some((block) => holds(block, row)))).to.deep.equal(unanswered)
        for (const row of all(model))
          expect(answer.missing.filter((block) => holds(block, row)).length, 'blocks are disjoint').to.be.at.most(1)
        expect(answer.complete).to.equal(unanswered.length === 0)
        const clashes = model.rules.flatMap((a, i) =>
          model.rules.flatMap((b, j) =>
            i < j &&
            outcomeText(a.then) !== outcomeText(b.then) &&
            possible.some((row) => holds(a.when, row) && holds(b.when, row))
              ? [`${i},${j}`]
              : [],
          ),
        )
        expect(answer.conflicts.map(({ rules }) => rules.join())).to.deep.equal(clashes)
        for (const {
          rules: [i, j],
          example,
        } of answer.conflicts)
          expect(
            possible.some((row) => JSON.stringify(row) === JSON.stringify(example)) &&
              holds(model.rules[i]!.when, example) &&
              holds(model.rules[j]!.when, example),
          ).to.equal(true)
        const dropped = model.rules.filter((_, at) => !answer.redundant.includes(at))
        for (const row of possible) expect(says(dropped, row)).to.equal(says(model.rules, row))
        if (answer.merged === null) expect(clashes.length).to.be.greaterThan(0)
        else for (const row of possible) expect(says([...answer.merged], row)).to.equal(says(model.rules, row))
        for (const { when, then, rule } of answer.cases)
          expect(
            holds(model.rules[rule]!.when, when) &&
              possible.some((row) => JSON.stringify(row) === JSON.stringify(when)) &&
              outcomeText(then) === outcomeText(model.rules[rule]!.then),
          ).to.equal(true)
        const reachable = model.rules.flatMap(({ when }, at) => (possible.some((row) => holds(when, row)) ? [at] : []))
        expect(answer.cases.map(({ rule }) => rule)).to.deep.equal(reachable)
        expect(casesPerCombination(model, 1000)).to.have.length(possible.length - unanswered.length)
      }),
      { numRuns: 1500, seed: 4 },
    )
  })

  it('merge to the fewest rules there can be, checked by trying all sets of blocks of small tables', () => {
    fc.assert(
      fc.property(
        tables({ conditions: 3, values: 2, rules: 5, outcomes: 2 }).filter((model) => check(model).merged !== null),
        (model) => {
          const possible = all(model).filter((row) => !model.impossible.some((terms) => holds(terms, row)))
          const blocks = Object.entries(model.conditions).reduce<Record<string, string[]>[]>(
            (found, [name, values]) =>
              found.flatMap((block) => [
                ...values.map((value) => ({ ...block, [name]: [value] })),
                { ...block, [name]: values },
              ]),
            [{}],
          )
          let fewest = 0
          for (const outcome of new Set(model.rules.map(({ then }) => outcomeText(then)))) {
            const wanted = possible.filter((row) => says(model.rules, row) === outcome)
            const inside = blocks.filter((block) =>
              possible.every((row) => !holds(block, row) || says(model.rules, row) === outcome),
            )
            const covers = (left: readonly Row[], from: number, size: number): boolean =>
              left.length === 0 ||
              (size > 0 &&
                inside.slice(from).some((block, at) =>
                  covers(
                    left.filter((row) => !holds(block, row)),
                    from + at + 1,
                    size - 1,
                  ),
                ))
            let size = 0
            while (!covers(wanted, 0, size)) size++
            fewest += size
          }
          expect(check(model).merged).to.have.length(fewest)
        },
      ),
      { numRuns: 400, seed: 6 },
    )
  })

  it('answer a million combinations, with rules too many for the exact way, without change of meaning', () => {
    const names = Array.from({ length: 20 }, (_, at) => `c${at}`)
    const rules = Array.from({ length: 60 }, (_, rule) => ({
      when: Object.fromEntries(
        names
          .filter((_name, at) => (rule * 7 + at * 13) % 5 === 0)
          .map((name, at) => [name, [(rule >> (at % 6)) % 2 === 0 ? 'yes' : 'no']]),
      ),
      then: { fare: 'x' },
    }))
    const model = { conditions: Object.fromEntries(names.map((name) => [name, ['yes', 'no']])), rules, impossible: [] }
    const answer = check(model)
    expect(answer.combinations).to.equal(2 ** 20)
    for (let at = 0; at < 3000; at++) {
      const row = Object.fromEntries(
        names.map((name, bit) => [name, ((at * 2654435761) >>> bit) % 2 === 0 ? 'yes' : 'no']),
      )
      expect(answer.missing.some((block) => holds(block, row))).to.equal(says(rules, row) === '')
      expect(says([...answer.merged!], row)).to.equal(says(rules, row))
    }
    expect(answer.merged!.length).to.be.at.most(rules.length)
  })

  it('takes a condition of more values than a machine word has bits', () => {
    const values = Array.from({ length: 70 }, (_, at) => `v${at}`)
    const answer = check({
      conditions: { port: values, resident: ['yes', 'no'] },
      rules: values.map((port) => ({ when: { port: [port] }, then: { fare: port } })),
    })
    expect([answer.complete, answer.combinations, answer.merged?.length]).to.deep.equal([true, 140, 70])
  })

  it('keep a thousand values that are treated alike as one', () => {
    const values = Array.from({ length: 10_000 }, (_, at) => String(at))
    const answer = check({
      conditions: { n: values, b: ['yes', 'no'] },
      rules: [{ when: { b: ['yes'] }, then: { x: 1 } }],
    })
    expect([answer.combinations, answer.missing.length, answer.missing[0]!['n']!.length]).to.deep.equal([
      20_000, 1, 10_000,
    ])
  })

  for (const [why, model, place] of [
    ['no conditions', { conditions: {}, rules: [] }, 'conditions'],
    ['an unknown value', { conditions: { a: ['x'] }, rules: [{ when: { a: ['y'] }, then: {} }] }, 'rules[0].when.a'],
    [
      'an unknown condition',
      { conditions: { a: ['x'] }, rules: [{ when: { b: ['y'] }, then: {} }] },
      'rules[0].when.b',
    ],
    ['a value twice', { conditions: { a: ['x', 'x'] }, rules: [] }, 'conditions.a[1]'],
    [
      'an unknown impossible value',
      { conditions: { a: ['x'] }, rules: [], impossible: [{ a: ['q'] }] },
      'impossible[0].a',
    ],
  ] as const)
    it(`refuse ${why} at its place`, () =>
      expect(() => check(model))
        .to.throw(Refusal)
        .with.nested.property('detail.fields[0].field', place))

  it('leave a rule aside that names what the table does not have, and say of the others what they say without it', () => {
    fc.assert(
      fc.property(tables({ conditions: 3, values: 3, rules: 5, outcomes: 2 }), fc.nat(), (model, at) => {
        const place = at % (model.rules.length + 1)
        const wrong = { when: { gone: ['x'] }, then: { f: 'y' } }
        const without = decisions(model)
        const beside = decisionsWithoutWrong({ ...model, rules: model.rules.toSpliced(place, 0, wrong) })
        const moved = (rule: number): number => (rule < place ? rule : rule + 1)
        expect(beside.missing).to.deep.equal(without.missing)
        expect(beside.redundant).to.deep.equal(without.redundant.map(moved))
        expect(beside.conflicts.map(({ rules }) => rules)).to.deep.equal(
          without.conflicts.map(({ rules }) => rules.map(moved)),
        )
        expect(beside.cases).to.deep.equal(without.cases.map((each) => ({ ...each, rule: moved(each.rule) })))
        expect(beside.merged, 'merging would lose it').to.equal(null)
        expect(beside.notices[0]).to.deep.equal({
          at: `rules[${place}]`,
          message: 'There is no condition gone. The rule is left aside.',
        })
        expect(decisionsWithoutWrong(model)).to.deep.equal(without)
      }),
      { numRuns: 200, seed: 5 },
    )
  })

  it('tell a rule that can never apply', () => {
    const answer = check({
      conditions: { a: ['x', 'y'] },
      rules: [{ when: { a: ['x'] }, then: { f: 1 } }],
      impossible: [{ a: ['x'] }],
    })
    expect(answer.cases).to.have.length(0)
    expect(answer.notices[0]!.at).to.equal('rules[0]')
  })
})
