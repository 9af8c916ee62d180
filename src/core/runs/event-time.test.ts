import { expect } from 'chai'
import fc from 'fast-check'
import { arrivalOf, counts, eventTime, longestWait } from './event-time.ts'

const now = Date.UTC(2026, 10, 27, 12)
const startedAt = now - 600_000
const instant = fc.integer({ min: 0, max: now * 2 })

it('believes a clock that is right', () => {
  expect(eventTime({ at: now - 5000, sent: now }, { startedAt, now })).to.deep.equal({
    at: now - 5000,
    doubtful: false,
  })
})
it('corrects a clock that is wrong by any amount, by what it says at the sending', () => {
  fc.assert(
    fc.property(fc.integer({ min: -now, max: now }), fc.integer({ min: 0, max: 600_000 }), (wrong, waited) => {
      const claim = { at: now - waited + wrong, sent: now + wrong }
      expect(eventTime(claim, { startedAt, now })).to.deep.equal({ at: now - waited, doubtful: false })
    }),
  )
})
it('never tells a time later than now, before the start, or more than 30 days back', () => {
  fc.assert(
    fc.property(
      instant,
      fc.option(instant, { nil: undefined }),
      fc.integer({ min: 0, max: now }),
      (at, sent, began) => {
        const told = eventTime({ at, sent }, { startedAt: began, now })
        expect(told.at).to.be.at.most(now)
        expect(told.at).to.be.at.least(Math.min(now, Math.max(began, now - longestWait)))
      },
    ),
  )
})
for (const [name, at] of [
  ['later than now', now + 60_000],
  ['before the attempt began', startedAt - 60_000],
  ['of no number', Number.NaN],
] as const)
  it(`takes the time of arrival for a claim ${name}, and marks it`, () => {
    expect(eventTime({ at }, { startedAt, now })).to.deep.equal({ at: now, doubtful: true })
  })
it('does not believe what waited for more than 30 days', () => {
  const long = { startedAt: 0, now }
  expect(eventTime({ at: now - longestWait - 60_000 }, long).doubtful).to.equal(true)
  expect(eventTime({ at: now - longestWait + 60_000 }, long).doubtful).to.equal(false)
})
it('counts what happened before the close, however late it came', () => {
  expect([arrivalOf(5, null), arrivalOf(5, 9), arrivalOf(9, 9), arrivalOf(10, 9)]).to.deep.equal([
    'in time',
    'late',
    'after the close',
    'after the close',
  ])
  expect([counts('in time'), counts('late'), counts('after the close')]).to.deep.equal([true, true, false])
})
