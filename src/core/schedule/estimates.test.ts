import { expect } from 'chai'
import fc from 'fast-check'
import {
  combinedMinutes,
  fitMinutes,
  fittedMinutes,
  givenError,
  isFarOff,
  learnedMinutes,
  learning,
  median,
  type Sample,
} from './estimates.ts'

const minutes = fc.double({ min: 0.5, max: 500, noNaN: true })

describe('minutes that attempts teach', () => {
  it('are nothing of too few attempts', () => {
    expect([learnedMinutes([]), learnedMinutes([5, 6]), learnedMinutes([0, 0, 0, 0])]).to.deep.equal([null, null, null])
  })

  it('leave out a lunch that went on the clock, and say how many are left', () => {
    const learned = learnedMinutes([10, 11, 9, 10, 95, 10])
    expect(learned?.minutes).to.be.closeTo(10, 0.5)
    expect(learned?.n).to.equal(5)
  })

  it('look at the newest only', () => {
    const newest = Array.from({ length: learning.newest }, () => 6)
    expect(learnedMinutes([...newest, ...Array.from({ length: 50 }, () => 60)])?.minutes).to.be.closeTo(6, 1e-9)
  })

  it('lie within what was seen, and their range about them, whatever was', () => {
    fc.assert(
      fc.property(fc.array(minutes, { minLength: learning.fewest, maxLength: 30 }), (all) => {
        const learned = learnedMinutes(all)
        if (!learned) return
        expect(learned.minutes).to.be.within(Math.min(...all) - 1e-9, Math.max(...all) + 1e-9)
        expect(learned.low).to.be.below(learned.minutes)
        expect(learned.high).to.be.above(learned.minutes)
      }),
    )
  })

  it('say the same in other units', () => {
    fc.assert(
      fc.property(fc.array(minutes, { minLength: 3, maxLength: 20 }), fc.constantFrom(2, 60), (all, by) => {
        const [once, scaled] = [learnedMinutes(all), learnedMinutes(all.map((each) => each * by))]
        expect(scaled?.n).to.equal(once?.n)
        if (once && scaled) expect(scaled.minutes / by).to.be.closeTo(once.minutes, 1e-6 * once.minutes)
      }),
    )
  })
})

describe('the regression', () => {
  const real = { base: 1.5, steps: 0.9, rows: 0.6, factors: [1, 1.4] }
  const samples = (off: (at: number) => number): Sample[] =>
    Array.from({ length: 120 }, (_, at) => {
      const [steps, rows, environment] = [1 + (at % 17), 1 + (at % 5), at % 2]
      const exact = real.base * (1 + steps) ** real.steps * rows ** real.rows * real.factors[environment]!
      return { steps, rows, environment, minutes: exact * off(at), n: 6 }
    })

  it('is nothing of too few cases', () => {
    expect(fitMinutes(samples(() => 1).slice(0, 5))).to.equal(null)
  })

  it('finds what minutes were made of, though one case in ten is wild', () => {
    const model = fitMinutes(samples((at) => (at % 10 === 3 ? 6 : 1)))!
    for (const [steps, rows, environment] of [
      [4, 1, 0],
      [12, 3, 1],
    ] as const) {
      const exact = real.base * (1 + steps) ** real.steps * rows ** real.rows * real.factors[environment]!
      expect(fittedMinutes(model, { steps, rows, environment }).minutes / exact).to.be.within(0.93, 1.07)
    }
  })

  it('takes an environment it never saw for a usual one', () => {
    const model = fitMinutes(samples(() => 1))!
    const [seen, unseen] = [0, 9].map((environment) => fittedMinutes(model, { steps: 5, rows: 1, environment }).minutes)
    expect(unseen! / seen!).to.be.within(0.7, 1.5)
  })
})

describe('given and learned minutes together', () => {
  const taught = (of: number) => learnedMinutes([of, of, of, of, of])!
  const learned = learnedMinutes([20, 21, 19, 20, 22])!

  it('follow the given where they were right elsewhere, and the learned where they were not', () => {
    const right = givenError(Array.from({ length: 9 }, (_, at) => ({ given: 5 + at, learned: taught(5 + at) })))
    const rough = givenError(Array.from({ length: 9 }, (_, at) => ({ given: 10, learned: taught(3 * (at + 1)) })))
    expect(combinedMinutes(10, learned, right)).to.be.within(9.9, 11)
    expect(combinedMinutes(10, learned, rough)).to.be.within(18, 21)
  })

  it('take off what the given are always off by', () => {
    const short = givenError(Array.from({ length: 9 }, (_, at) => ({ given: 5 + at, learned: taught(2 * (5 + at)) })))
    expect(combinedMinutes(10, null, short)).to.be.closeTo(20, 1e-9)
  })

  it('are the one there is', () => {
    expect([combinedMinutes(null, null, null), combinedMinutes(7, null, null)]).to.deep.equal([null, 7])
    expect(combinedMinutes(null, learned, null)).to.equal(learned.minutes)
    expect(givenError([{ given: 1, learned: taught(1) }])).to.equal(null)
  })

  it('lie between the two', () => {
    fc.assert(
      fc.property(
        minutes,
        fc.array(minutes, { minLength: 3, maxLength: 9 }),
        fc.double({ min: 0.02, max: 2, noNaN: true }),
        (given, all, spread) => {
          const own = learnedMinutes(all)
          if (!own) return
          const both = combinedMinutes(given, own, { factor: 1, spread })!
          expect(both).to.be.within(Math.min(given, own.minutes) - 1e-6, Math.max(given, own.minutes) + 1e-6)
        },
      ),
    )
  })

  it('call given minutes far off only outside of what half of the attempts took', () => {
    expect([isFarOff(21, learned), isFarOff(40, learned), isFarOff(8, learned)]).to.deep.equal([false, true, true])
    const wide = { minutes: 20, low: 8, high: 60, n: 4 }
    expect([isFarOff(40, wide), isFarOff(9, wide), isFarOff(70, wide)]).to.deep.equal([false, false, true])
  })
})

it('the median is the middle', () => {
  expect([median([3, 1, 2]), median([4, 1, 2, 3])]).to.deep.equal([2, 2.5])
})
