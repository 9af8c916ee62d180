import { expect } from 'chai'
import fc from 'fast-check'
import { buildSaidBy, type Installed, installedAt, movesBy, type Placed, timeTouched } from './installed.ts'

const entries = fc
  .uniqueArray(
    fc.record({ fromAt: fc.integer({ min: 0, max: 20 }), build: fc.option(fc.integer({ min: 1, max: 3 })) }),
    {
      selector: ({ fromAt }) => fromAt,
      maxLength: 6,
    },
  )
  .map((all) => all.map((each, at): Installed => ({ ...each, id: at + 1 })))
const attempts = fc
  .array(
    fc.record({
      startedAt: fc.integer({ min: 0, max: 20 }),
      build: fc.integer({ min: 1, max: 3 }),
      buildBy: fc.constantFrom(...buildSaidBy),
      ofRun: fc.option(fc.integer({ min: 1, max: 3 })),
    }),
    { maxLength: 12 },
  )
  .map((all) => all.map((each, at): Placed => ({ ...each, id: at + 1 })))
const moved = (all: readonly Placed[], by: readonly Installed[]): Placed[] => {
  const moves = new Map(movesBy(by, all).map((move) => [move.id, move]))
  return all.map((each) => {
    const move = moves.get(each.id)
    return move ? { ...each, build: move.to, buildBy: move.buildBy } : each
  })
}

describe('what is installed where', () => {
  it('is what was said last before an instant', () =>
    fc.assert(
      fc.property(entries, fc.integer({ min: 0, max: 20 }), (all, at) => {
        const before = [...all].sort((a, b) => a.fromAt - b.fromAt).filter(({ fromAt }) => fromAt <= at)
        expect(installedAt(all, at)).to.equal(before.at(-1) ?? null)
      }),
    ))
  it('is the build of every attempt made meanwhile, but of those a person said otherwise of', () =>
    fc.assert(
      fc.property(entries, attempts, (all, made) => {
        for (const [at, after] of moved(made, all).entries()) {
          const stood = installedAt(all, after.startedAt)?.build ?? null
          if (after.buildBy === 'person') expect(after).to.equal(made[at])
          else if (stood !== null) expect(after.build).to.equal(stood)
        }
      }),
    ))
  it('moves nothing a second time', () =>
    fc.assert(
      fc.property(entries, attempts, (all, made) => {
        expect(movesBy(all, moved(made, all))).to.deep.equal([])
      }),
    ))
  it('differs by an entry only in the time that it touches', () =>
    fc.assert(
      fc.property(entries, fc.integer({ min: 0, max: 20 }), (all, at) => {
        const [own, ...rest] = all
        if (!own) return
        const { from, until } = timeTouched(rest, [own, null])
        if (at < from || (until !== null && at >= until))
          expect(installedAt(all, at)?.build).to.equal(installedAt(rest, at)?.build)
      }),
    ))
})
