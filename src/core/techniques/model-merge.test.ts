import { expect } from 'chai'
import fc from 'fast-check'
import { draftModel } from './draft-row.ts'
import { linesOf } from './lines.ts'
import { mergedModel, type ModelText, saysTheSameModel, withTheirs } from './model-merge.ts'

const text = (model: unknown): ModelText => {
  const rest = draftModel.parse(model)
  return { rest, source: linesOf(rest) }
}
const combos = (parameters: Record<string, string[]>, more: { strength?: number; constraints?: unknown[] } = {}) =>
  text({ technique: 'combos', body: { parameters, ...more } })
const table = (rules: { when?: Record<string, string[]>; then: Record<string, string> }[], per = 'rule') =>
  text({ technique: 'decisions', per, body: { conditions: { age: ['child', 'adult'] }, rules } })

describe('a model that two type at once', () => {
  const base = combos({ device: ['phone', 'desk'], pay: ['card', 'cash'] })

  it('keeps what each wrote in another part', () => {
    const mine = combos({ device: ['phone', 'desk'], pay: ['card', 'cash', 'voucher'] })
    const theirs = combos(
      { device: ['phone', 'desk'], pay: ['card', 'cash'] },
      { strength: 3, constraints: [{ forbid: { device: ['phone'], pay: ['cash'] } }] },
    )
    const { text: both, clashes } = mergedModel(base, mine, theirs)
    expect(clashes).to.deep.equal([])
    expect(both.source['parameters']).to.deep.equal(mine.source['parameters'])
    expect(both.source['rules']).to.deep.equal(['never device phone with pay cash'])
    expect(both.rest.technique === 'combos' && both.rest.body.strength).to.equal(3)
  })

  it('tells both where they wrote in one part, mine until it is decided', () => {
    const mine = combos({ device: ['phone'], pay: ['card', 'cash'] })
    const theirs = combos({ device: ['tablet'], pay: ['card', 'cash'] })
    const { text: both, clashes } = mergedModel(base, mine, theirs)
    expect(clashes.map(({ name, mine: m, theirs: t }) => [name, m, t])).to.deep.equal([
      ['parameters', 'device: phone\npay: card, cash', 'device: tablet\npay: card, cash'],
    ])
    expect(both.source).to.deep.equal(mine.source)
    expect(withTheirs(both, theirs, clashes[0]!).source['parameters']).to.deep.equal(theirs.source['parameters'])
  })

  it('holds rules of a table and its cases apart', () => {
    const before = table([{ then: { fare: 'full' } }])
    const mine = table([{ when: { age: ['child'] }, then: { fare: 'half' } }])
    const theirs = table([{ then: { fare: 'full' } }], 'combination')
    const merged = mergedModel(before, mine, theirs)
    expect(merged.clashes).to.deep.equal([])
    expect(merged.text.rest).to.deep.include({ per: 'combination' })
    expect(merged.text.rest.body).to.deep.equal(mine.rest.body)
    const other = table([{ then: { fare: 'none' } }])
    expect(mergedModel(before, mine, other).clashes).to.deep.equal([
      { name: 'rules', setting: 'rules', mine: 'age child → fare: half', theirs: 'always → fare: none' },
    ])
  })

  const graph = (criterion: string, invalid: boolean) =>
    text({
      technique: 'paths',
      criterion,
      invalid,
      body: { initial: 'a', transitions: [{ from: 'a', event: 'x', to: 'b' }] },
    })
  const edges = (values: number) =>
    text({
      technique: 'boundaries',
      body: { inputs: { n: { type: 'integer', partitions: [{ name: 'p', from: 1 }] } }, values },
    })
  it('takes every setting from the one who changed it, and from theirs where that is chosen', () => {
    expect(mergedModel(graph('states', false), graph('states', true), graph('pairs', false)).text.rest).to.deep.include(
      {
        criterion: 'pairs',
        invalid: true,
      },
    )
    expect(mergedModel(edges(2), edges(2), edges(3)).text.rest.body).to.deep.include({ values: 3 })
    const { text: mine, clashes } = mergedModel(
      graph('states', false),
      graph('transitions', false),
      graph('pairs', false),
    )
    expect(clashes.map(({ name }) => name)).to.deep.equal(['criterion'])
    expect(withTheirs(mine, graph('pairs', false), clashes[0]!).rest).to.deep.include({ criterion: 'pairs' })
  })

  it('is mine or theirs where only one changed, whatever it is, and the same where both did the same', () => {
    const some = fc.record({
      values: fc.uniqueArray(fc.constantFrom('a', 'b', 'c'), { minLength: 1 }),
      strength: fc.integer({ min: 1, max: 3 }),
    })
    fc.assert(
      fc.property(some, some, (one, other) => {
        const [a, b] = [one, other].map(({ values, strength }) => combos({ p: values, q: ['x'] }, { strength }))
        for (const [base, mine, theirs] of [
          [a!, a!, b!],
          [a!, b!, a!],
          [a!, b!, b!],
        ] as const) {
          const merged = mergedModel(base, mine, theirs)
          expect(merged.clashes).to.deep.equal([])
          expect(saysTheSameModel(merged.text, b!)).to.equal(true)
        }
        expect(saysTheSameModel(a!, b!)).to.equal(JSON.stringify(one) === JSON.stringify(other))
      }),
    )
  })

  it('says the same with an empty line more', () => {
    const more = { ...base, source: { ...base.source, rules: ['', '  '] } }
    expect(saysTheSameModel(base, more)).to.equal(true)
  })
})
