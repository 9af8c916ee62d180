import { expect } from 'chai'
import { isOpen } from '#core/defects/state.ts'
import {
  type Ask,
  caseAsks,
  defectAsks,
  itemAsks,
  planAsks,
  requirementAsks,
  routineAsks,
  runAsks,
  suiteAsks,
} from './asks.ts'
import {
  caseFields,
  defectFields,
  itemFields,
  planFields,
  requirementFields,
  routineFields,
  runFields,
  suiteFields,
} from './fields.ts'
import { conditionsOf, type FieldDefinition, operatorsFor, parseFilter } from '#core/lib/filter.ts'

const lists: readonly (readonly [name: string, asks: readonly Ask[], fields: readonly FieldDefinition[]])[] = [
  ['requirements', requirementAsks, requirementFields],
  ['cases', caseAsks, caseFields],
  ['routines', routineAsks, routineFields],
  ['plans', planAsks, planFields],
  ['suites', suiteAsks, suiteFields],
  ['runs', runAsks, runFields],
  ['items', itemAsks, itemFields],
  ['defects', defectAsks, defectFields],
]

for (const [name, asks, fields] of lists) {
  it(`offers of ${name} only what their list can be filtered by`, () => {
    for (const { words, filter } of asks) {
      expect(parseFilter(JSON.stringify(filter), fields), words).to.deep.equal({ filter })
      for (const { field, op, values } of conditionsOf(filter)) {
        const own = fields.find((each) => each.name === field)
        expect(operatorsFor(own?.kind ?? 'text'), words).to.include(op)
        if (own?.choices) expect(own.choices, words).to.include.members([...values])
      }
    }
  })
  it(`gives each question about ${name} words of its own`, () =>
    expect(new Set(asks.map(({ words }) => words)).size).to.equal(asks.length))
}
it('asks for open defects in the states that count as open', () => {
  const [open] = defectAsks
  expect(open && conditionsOf(open.filter)[0]?.values.every((state) => isOpen(String(state) as never))).to.equal(true)
})
