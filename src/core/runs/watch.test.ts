import { expect } from 'chai'
import fc from 'fast-check'
import { isStalled } from './watch.ts'

const minute = 60_000
const minutes = fc.integer({ min: 0, max: 2_000 })

describe('an attempt that goes on', () => {
  it('has stalled after half an hour, or three times what its item should take', () => {
    expect([30, 31].map((quiet) => isStalled(0, 5, quiet * minute))).to.deep.equal([false, true])
    expect([60, 61].map((quiet) => isStalled(0, 20, quiet * minute))).to.deep.equal([false, true])
  })
  it('does not stall before what was planned for it is over, nor come to life by waiting', () => {
    fc.assert(
      fc.property(minutes, minutes, minutes, fc.integer({ min: 0, max: 2 ** 40 }), (planned, quiet, more, last) => {
        const at = last + quiet * minute
        if (quiet <= planned) expect(isStalled(last, planned, at)).to.equal(false)
        if (isStalled(last, planned, at)) expect(isStalled(last, planned, at + more * minute)).to.equal(true)
      }),
    )
  })
})
