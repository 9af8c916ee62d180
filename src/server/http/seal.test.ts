import { expect } from 'chai'
import fc from 'fast-check'
import { isSealed, sealBy } from './seal.ts'

describe('a seal', () => {
  const seal = sealBy('a key of the installation')
  it('gives back what it closed, and shows none of it', () =>
    fc.assert(
      fc.property(fc.string({ minLength: 1 }), (secret) => {
        const kept = seal.close(secret)
        expect([seal.open(kept), isSealed(kept)]).to.deep.equal([secret, true])
        if (secret.length > 3) expect(kept).to.not.contain(secret)
      }),
    ))
  it('closes the same secret differently each time', () =>
    expect(seal.close('harbour-token')).to.not.equal(seal.close('harbour-token')))
  it('opens nothing with another key, or after a change of any byte', () => {
    const kept = seal.close('harbour-token')
    expect(sealBy('another key').open(kept)).to.equal(null)
    const bytes = Buffer.from(kept.slice(7), 'base64url')
    for (let at = 0; at < bytes.length; at++) {
      const changed = Buffer.from(bytes)
      changed[at] = (changed[at] ?? 0) ^ 1
      expect(seal.open(`sealed.${changed.toString('base64url')}`), `byte ${at}`).to.equal(null)
    }
    expect(seal.open('sealed.short')).to.equal(null)
  })
  it('leaves what is empty or was never sealed as it is', () =>
    expect([seal.close(''), seal.open(''), seal.open('plain')]).to.deep.equal(['', '', 'plain']))
})
