import { expect } from 'chai'
import fc from 'fast-check'
import { OwnerSets } from './owner-sets.ts'

/** Targets by name, each answered by owners in their order. */
const answered = fc.array(fc.uniqueArray(fc.nat(6)), { maxLength: 40 })
const ascending = (owners: readonly number[]) => [...owners].sort((a, b) => a - b)
const setsOf = (targets: readonly (readonly number[])[]) => {
  const sets = new OwnerSets(targets.flat())
  return { sets, of: targets.map((owners) => ascending(owners).reduce((set, owner) => sets.with(set, owner), 0)) }
}

describe('sets of owners', () => {
  it('are the same number exactly where the same owners are in them', () => {
    fc.assert(
      fc.property(answered, (targets) => {
        const { of } = setsOf(targets)
        targets.forEach((owners, at) =>
          targets.forEach((others, other) =>
            expect(of[at] === of[other]).to.equal(ascending(owners).join() === ascending(others).join()),
          ),
        )
      }),
    )
  })

  it('count each target once, with its owners, and none that nobody answers', () => {
    fc.assert(
      fc.property(answered, (targets) => {
        const { sets, of } = setsOf(targets)
        const expected = new Map<string, number>()
        for (const owners of targets.filter(({ length }) => length > 0)) {
          const key = ascending(owners).join()
          expected.set(key, (expected.get(key) ?? 0) + 1)
        }
        const shared = sets.shared(of) ?? []
        expect(new Map(shared.map(({ owners, targets: n }) => [owners.join(), n]))).to.deep.equal(expected)
        expect(shared).to.have.length(expected.size)
      }),
    )
  })

  it('have an owner once, however many of their rows answer it', () => {
    const sets = new OwnerSets([3, 3, 900_000])
    const one = sets.with(sets.with(0, 3), 3)
    const both = sets.with(sets.with(one, 900_000), 900_000)
    expect(sets.shared([one, both], [both])).to.deep.equal([
      { owners: [3], targets: 1 },
      { owners: [3, 900_000], targets: 2 },
    ])
  })
})
