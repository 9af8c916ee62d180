import { expect } from 'chai'
import fc from 'fast-check'
import { byKey, keyOf, type Keyed, numberIn, prefixes, readKey, typedKey } from './key.ts'

const kind = fc.constantFrom<Keyed>('requirement', 'case', 'routine', 'plan', 'suite', 'run', 'defect')
const number = fc.integer({ min: 1, max: 9_999_999_999 })

it('reads every key it writes, in letters large or small and with blanks around', () =>
  fc.assert(
    fc.property(kind, number, (of, n) => {
      const key = keyOf(of, n)
      expect(readKey(key)).to.deep.equal({ kind: of, number: n })
      expect(readKey(`  ${key.toLowerCase()}\n`)).to.deep.equal({ kind: of, number: n })
      expect(numberIn(of, key)).to.equal(n)
    }),
  ))
it('takes nothing else for a key', () => {
  for (const text of ['', 'TC', 'TC-', 'TC-0', 'TC-01', 'TC-1.5', 'XX-4', 'TC-4 TC-5', 'ATC-4', 'TC-12345678901'])
    expect(readKey(text), text).to.equal(null)
})
it('knows a key of another kind from one of its own', () =>
  expect([numberIn('case', 'RQ-4'), numberIn('case', 'tc-4')]).to.deep.equal([0, 4]))
it('lets a person leave the letters out where the kind is clear', () =>
  expect(['12', ' tc-12 ', 'RQ-12', 'twelve', '0'].map((text) => typedKey('case', text))).to.deep.equal([
    'TC-12',
    'TC-12',
    null,
    null,
    null,
  ]))
it('gives no two kinds the same letters', () =>
  expect(new Set(Object.values(prefixes)).size).to.equal(Object.keys(prefixes).length))
it('orders by number and not by letter', () =>
  expect([{ key: 'TC-10' }, { key: 'TC-9' }].sort(byKey)).to.deep.equal([{ key: 'TC-9' }, { key: 'TC-10' }]))
