import { expect } from 'chai'
import fc from 'fast-check'
import { drawLine, type LineItem } from './line.ts'

/** Items at few places, so that several answer the same one; some are put on a side by hand, some are worth nothing. */
const items = fc
  .array(
    fc.record({
      minutes: fc.integer({ min: 1, max: 40 }),
      place: fc.constantFrom('a', 'b', 'c', 'd', 'e'),
      share: fc.constantFrom(0, 1, 3, 8),
      chance: fc.constantFrom(0, 0.2, 0.7, 1),
      held: fc.constantFrom(null, null, null, 'above' as const, 'below' as const),
    }),
    { maxLength: 12 },
  )
  .map((all): LineItem[] =>
    all.map(({ place, share, ...each }, at) => ({ key: String(at), ...each, parts: [{ of: place, share }] })),
  )
const minutesOf = (all: readonly LineItem[], keys: readonly string[]) =>
  keys.reduce((sum, key) => sum + all[Number(key)]!.minutes, 0)

describe('the line', () => {
  it('has each item on one side, what was put there by hand on its own, and no more above than fits besides that', () => {
    fc.assert(
      fc.property(items, fc.nat(200), (all, budget) => {
        const line = drawLine(all, budget, null)
        expect([...line.above, ...line.below].sort()).to.deep.equal(all.map(({ key }) => key).sort())
        const side = (held: 'above' | 'below') => all.filter((each) => each.held === held).map(({ key }) => key)
        expect(line.above).to.include.members(side('above'))
        expect(line.below).to.include.members(side('below'))
        expect(line.minutes).to.equal(minutesOf(all, line.above))
        expect(line.minutes).to.be.at.most(Math.max(budget, minutesOf(all, side('above'))))
      }),
    )
  })

  it('gives nothing up that still fits, though it may add nothing', () => {
    fc.assert(
      fc.property(items, fc.nat(200), (all, budget) => {
        const line = drawLine(all, budget, null)
        const left = budget - line.minutes
        for (const key of line.below)
          if (all[Number(key)]!.held !== 'below') expect(all[Number(key)]!.minutes).to.be.above(left)
      }),
    )
  })

  it('is worth no more than its bound, and all of it as much as the likeliest of each place', () => {
    fc.assert(
      fc.property(items, fc.nat(200), (all, budget) => {
        const { worth, bound, whole } = drawLine(all, budget, null)
        expect(worth).to.be.at.most(bound + 1e-9)
        const most = new Map<string, number>()
        const share = new Map<string, number>()
        const parts = all.flatMap((each) => each.parts.map((part) => ({ ...part, chance: each.chance })))
        for (const part of parts) {
          most.set(part.of, Math.max(most.get(part.of) ?? 0, part.chance))
          share.set(part.of, share.get(part.of) ?? part.share)
        }
        if (parts.every((part) => part.share === share.get(part.of))) {
          const sum = [...most].reduce((total, [place, chance]) => total + chance * share.get(place)!, 0)
          expect(whole).to.be.closeTo(sum, 1e-9)
        }
      }),
    )
  })
})
