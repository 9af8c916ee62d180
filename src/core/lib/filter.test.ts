import { expect } from 'chai'
import fc from 'fast-check'
import { caseFields } from '#core/finding/fields.ts'
import {
  conditionOn,
  conditionsOf,
  filledFilter,
  type Filter,
  filterWords,
  operatorsFor,
  parseFilter,
  parseSort,
  searchWords,
  withCondition,
} from './filter.ts'

const nested = {
  all: [
    { field: 'importance', op: 'is' as const, values: ['High', 'Critical'] },
    {
      any: [
        { field: 'owner', op: 'is empty' as const, values: [] },
        { field: 'steps', op: 'above' as const, values: [10] },
      ],
    },
  ],
}
it('reads a nested filter and says it in words', () => {
  expect(parseFilter(JSON.stringify(nested), caseFields)).to.deep.equal({ filter: nested })
  expect(filterWords(nested, caseFields)).to.equal(
    'importance is High or Critical and (owner is empty or steps above 10)',
  )
  expect(conditionsOf(nested)).to.have.length(3)
})
it('asks for nothing by conditions that are not filled in', () => {
  const open = { field: 'importance', op: 'is' as const, values: [] }
  const empty = { field: 'title', op: 'contains' as const, values: [''] }
  expect(filledFilter(nested)).to.deep.equal(nested)
  expect(filledFilter({ all: [open, nested, { any: [open, empty] }] })).to.deep.equal({ all: [nested] })
  expect(filledFilter({ any: [open] })).to.equal(null)
  expect(filledFilter({ ...open, op: 'is empty' })).to.deep.equal({ ...open, op: 'is empty' })
})
it('answers what is no filter with a sentence', () => {
  expect(parseFilter('{', caseFields))
    .to.have.property('problem')
    .that.matches(/cannot be read/)
  expect(parseFilter('{"field":"title"}', caseFields))
    .to.have.property('problem')
    .that.matches(/not complete/)
  expect(parseFilter('{"field":"colour","op":"is","values":["red"]}', caseFields)).to.deep.equal({
    problem: 'There is no field “colour” to filter by here.',
  })
})
it('reads sort keys and words with phrases', () => {
  expect(parseSort('risk,-title')).to.deep.equal([
    { field: 'risk', descending: false },
    { field: 'title', descending: true },
  ])
  expect(searchWords('Card "once on" ')).to.deep.equal(['card', 'once on'])
  expect(operatorsFor('choice')).to.not.include('above')
})

describe('what a filter asks of one field', () => {
  const values = fc.array(fc.constantFrom('a', 'b'), { minLength: 1, maxLength: 2 })
  const condition = fc.record({ field: fc.constantFrom('x', 'y', 'z'), op: fc.constant('is' as const), values })
  const part: fc.Arbitrary<Filter> = fc.oneof(
    condition,
    fc.record({ any: fc.array(condition, { minLength: 1, maxLength: 3 }) }),
  )
  const any: fc.Arbitrary<Filter | null> = fc.oneof(
    fc.constant(null),
    part,
    fc.record({ all: fc.array(part, { maxLength: 4 }) }),
  )

  it('is what was set last, and nothing else changes', () => {
    fc.assert(
      fc.property(any, condition, (filter, asked) => {
        const once = withCondition(filter, 'x', { ...asked, field: 'x' })
        expect(conditionOn(once, 'x')?.values).to.deep.equal(
          // A second condition on the field that stands there from elsewhere is another one, and comes first by then.
          conditionOn(withCondition(filter, 'x', null), 'x')?.values ?? asked.values,
        )
        for (const other of ['y', 'z']) expect(conditionOn(once, other)).to.deep.equal(conditionOn(filter, other))
      }),
    )
  })
  it('is taken away as if it had never been asked', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.constant(null),
          condition.filter(({ field }) => field !== 'x'),
        ),
        condition,
        (filter, asked) => {
          expect(withCondition(withCondition(filter, 'x', { ...asked, field: 'x' }), 'x', null)).to.deep.equal(filter)
        },
      ),
    )
  })
  it('is not what a group of others asks', () => {
    const x = { field: 'x', op: 'is' as const, values: ['a'] }
    expect(conditionOn({ any: [x] }, 'x')).to.equal(null)
    expect(withCondition({ any: [x] }, 'x', x)).to.deep.equal({ all: [{ any: [x] }, x] })
  })
})
