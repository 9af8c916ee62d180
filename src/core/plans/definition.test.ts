import { expect } from 'chai'
import fc from 'fast-check'
import { changedKinds, definitionChanges, type Saying } from './definition.ts'
import { planParts } from './state.ts'

const sayings = fc.array(
  fc.record({
    part: fc.constantFrom(...planParts),
    kind: fc.constantFrom('Risk', 'Suite', 'Milestone'),
    name: fc.constantFrom('a', 'b', 'c', ''),
    said: fc.constantFrom('', 'one', 'two'),
  }),
  { maxLength: 12 },
)
const suite = (name: string, said: string): Saying => ({ part: 'what', kind: 'Suite', name, said })
const sorted = (all: readonly Saying[]) => all.map((each) => JSON.stringify(each)).sort()

describe('definitions of a plan', () => {
  it('that say the same have no changes, and what is said twice is told apart', () =>
    fc.assert(
      fc.property(sayings, (all) => {
        expect(definitionChanges(all, all)).to.deep.equal([])
      }),
    ))
  it('are the same again once their changes are applied', () =>
    fc.assert(
      fc.property(sayings, sayings, (before, after) => {
        const rest: Saying[] = [...before]
        for (const { before: was, after: is, ...of } of definitionChanges(before, after)) {
          const at = rest.findIndex((each) => JSON.stringify(each) === JSON.stringify({ ...of, said: was }))
          if (was !== null) rest.splice(at, 1)
          if (is !== null) rest.push({ ...of, said: is })
        }
        expect(sorted(rest)).to.deep.equal(sorted(after))
      }),
    ))
  it('tell what is new, gone and changed, in the order of the questions', () => {
    const risk: Saying = { part: 'why', kind: 'Risk', name: 'Storm', said: 'likelihood 2 × impact 5' }
    const changes = definitionChanges(
      [suite('TS-1', 'pinned TC-1'), suite('TS-2', 'pinned TC-3')],
      [suite('TS-1', 'pinned TC-1, TC-2'), risk],
    )
    expect(changes.map(({ name, before, after }) => [name, before, after])).to.deep.equal([
      ['Storm', null, 'likelihood 2 × impact 5'],
      ['TS-1', 'pinned TC-1', 'pinned TC-1, TC-2'],
      ['TS-2', 'pinned TC-3', null],
    ])
    expect(changedKinds(changes)).to.equal('risk, suite')
  })
})
