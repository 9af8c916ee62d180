import { expect } from 'chai'
import type { Place } from './asks.ts'
import { notAllowed, pairsNotMet, readFactors } from './factors.ts'

const places: Place[] = [
  { id: 1, values: { engine: 'Chromium', device: 'desk' } },
  { id: 2, values: { engine: 'Gecko', device: 'tablet' } },
  { id: 3, values: { engine: 'WebKit' } },
]
const lines = {
  factors: 'engine: Chromium, Gecko, WebKit\ndevice: desk, phone',
  rules: 'never engine Gecko with device tablet',
}

describe('factors of environments', () => {
  it('have the values that are written, and those that environments have beside', () => {
    const { values, problems } = readFactors(lines, places)
    expect(values).to.deep.equal({ engine: ['Chromium', 'Gecko', 'WebKit'], device: ['desk', 'phone', 'tablet'] })
    expect(problems).to.deep.equal([])
  })
  it('name the environment that breaks a rule; what is not named breaks nothing', () => {
    const factors = readFactors({ ...lines, rules: `${lines.rules}\nwhen engine is WebKit, device is phone` }, places)
    expect(notAllowed(factors, places)).to.deep.equal(new Map([[2, 'never engine Gecko with device tablet']]))
    const desk = [{ id: 9, values: { engine: 'WebKit', device: 'desk' } }]
    expect([...notAllowed(factors, desk).keys()]).to.deep.equal([9])
  })
  it('say which line is not understood, and keep the others', () => {
    const { rules, problems } = readFactors(
      { ...lines, rules: 'never engine Trident with device desk\n\n' + lines.rules },
      places,
    )
    expect(rules.map(({ line }) => line)).to.deep.equal([lines.rules])
    expect(problems).to.have.length(1)
    expect(problems[0]).to.match(/^“never engine Trident with device desk”: There is no value of engine here/)
    expect(readFactors({ factors: 'engine', rules: '' }, []).problems[0]).to.match(/Write a name, a colon/)
  })
  it('list pairs that no environment has, with the rule that forbids them', () => {
    const told = pairsNotMet(readFactors(lines, places), places.slice(0, 1))
    expect(told).to.deep.include({ pair: ['Gecko', 'tablet'], rule: lines.rules })
    expect(told).to.deep.include({ pair: ['Chromium', 'phone'], rule: null })
    expect(told).to.have.length(8)
  })
  it('take names and values with signs of the line’s own in them', () => {
    const odd = [{ id: 1, values: { 'screen, in "inches"': '13: wide' } }]
    const rules = 'never "screen, in ""inches""" "13: wide"'
    expect([...notAllowed(readFactors({ factors: '', rules }, odd), odd).keys()]).to.deep.equal([1])
  })
})
