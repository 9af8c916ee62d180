import { expect } from 'chai'
import fc from 'fast-check'
import { endOf, finishOf } from './finish.ts'

it('ends on the day on which the hours reach the minutes, and later than that to be sure', () => {
  const minutes = Array.from({ length: 30 }, () => 20)
  expect(finishOf(minutes, [300, 300, 300])).to.deep.include({ half: 1, sure: 2 })
  expect(finishOf(minutes, [300, 300, 300]).chance).to.be.above(0.99)
  expect(finishOf(minutes, [200, 200, 200]).chance).to.be.closeTo(0.5, 1e-6)
})
it('goes on after the last day as on an average one, and never ends where nobody has hours', () => {
  expect(finishOf([600], [100, 0, 100]).half).to.equal(2 + 4)
  expect(finishOf([600], [0, 0]).half).to.equal(Infinity)
})
it('of nothing to do has no chance to tell', () => {
  expect(finishOf([], [100])).to.deep.equal({ half: 0, sure: 0, chance: null })
})
it('is never surer than half, and more hours never make it later', () => {
  const minutes = fc.array(fc.integer({ min: 1, max: 90 }), { minLength: 1, maxLength: 40 })
  const hours = fc.array(fc.nat(500), { minLength: 1, maxLength: 10 })
  fc.assert(
    fc.property(minutes, hours, fc.nat(500), (work, days, more) => {
      const now = finishOf(work, days)
      const then = finishOf(work, [days[0]! + more, ...days.slice(1)])
      expect(now.sure).to.be.at.least(now.half)
      expect(then.chance!).to.be.at.least(now.chance! - 1e-7)
      if (now.half < days.length) expect(then.half).to.be.at.most(now.half)
    }),
  )
})
it('ends on plain dates, past the last of them where it must, and on none where nobody has hours', () => {
  const days = ['2026-11-27', '2026-11-28', '2026-11-29']
  const hand = { minutes: [100, 0, 100], busy: [0, 0, 40] }
  expect(endOf([90], [hand], days).half).to.equal('2026-11-27')
  // What is planned elsewhere is no hour of this run.
  expect(endOf([150], [hand], days).half).to.equal('2026-11-29')
  expect(endOf([320], [hand], days).half).to.equal('2026-12-01')
  expect(endOf([320], [{ minutes: [0, 0, 0], busy: [0, 0, 0] }], days)).to.include({ half: null, sure: null })
  expect(endOf([10], [], [])).to.include({ half: null })
})
