import { expect } from 'chai'
import { caseFields } from '#core/finding/fields.ts'
import { conditionsOf, filledFilter, filterWords, operatorsFor, parseFilter, parseSort, searchWords } from './filter.ts'

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
