import { expect } from 'chai'
import { isRecord, partOf, versionIn } from './record.ts'

describe('what came from outside', () => {
  it('is a record when it has named parts, and a list, a text or nothing is none', () => {
    expect([{}, { a: 1 }, Object.create(null)].every(isRecord)).to.equal(true)
    expect([[], 'a', 0, null, undefined, () => 1].some(isRecord)).to.equal(false)
  })
  it('is read by name, and answers nothing where there is no such part', () => {
    expect(partOf({ tip: 'FERRY-4' }, 'tip')).to.equal('FERRY-4')
    expect(partOf(['tip'], 'tip')).to.equal(undefined)
    expect(partOf(null, 'tip')).to.equal(undefined)
  })
  it('names its version, or none, and never something that is no number', () => {
    expect(versionIn({ version: 7 })).to.equal(7)
    expect(versionIn({ version: '7' })).to.equal(7)
    expect(versionIn({ version: 'seven' })).to.equal(0)
    expect([{}, null, 'x', []].map(versionIn)).to.deep.equal([0, 0, 0, 0])
  })
})
