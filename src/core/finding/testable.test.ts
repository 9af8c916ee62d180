import { expect } from 'chai'
import fc from 'fast-check'
import type { Filter } from '#core/lib/filter.ts'
import { nextTestable } from './testable.ts'

const names = ['Iteration 1', 'Iteration 2']
const condition = (n: number): Filter => ({ field: 'risk', op: 'above', values: [n] })
const filterShape: fc.Arbitrary<Filter | null> = fc.oneof(
  fc.constant(null),
  fc.nat(9).map(condition),
  fc.array(fc.nat(9).map(condition), { minLength: 2, maxLength: 4 }).map((all) => ({ all })),
  fc.array(fc.nat(9).map(condition), { minLength: 2, maxLength: 4 }).map((any) => ({ any })),
)

describe('what can be tested when, by one key', () => {
  it('goes through the iterations and the release, and back to all with what else was asked', () => {
    fc.assert(
      fc.property(filterShape, (filter) => {
        const seen: (string | null)[] = []
        let now: { iteration: string | null; filter: Filter | null } = { iteration: null, filter }
        for (let press = 0; press < 3; press++) {
          now = nextTestable(now, names)
          seen.push(now.iteration)
          expect(JSON.stringify(now.filter)).to.include('in scope')
        }
        expect(seen).to.deep.equal([...names, null])
        expect(nextTestable(now, names)).to.deep.include({ iteration: null, filter })
      }),
    )
  })
  it('says what is shown', () => {
    const first = nextTestable({ iteration: null, filter: null }, names)
    expect(first.says).to.equal('What can be tested in Iteration 1.')
    expect(nextTestable({ iteration: null, filter: null }, []).says).to.equal(
      'What can be tested in the whole release.',
    )
  })
  it('begins with the first iteration, whichever the scope names, unless it is asked already', () => {
    expect(nextTestable({ iteration: 'Iteration 2', filter: null }, names).iteration).to.equal('Iteration 1')
  })
})
