import { expect } from 'chai'
import fc from 'fast-check'
import { likeness, type Stretch, wordDiff } from './word-diff.ts'

const side = (of: readonly Stretch[], without: Stretch['kind']): string =>
  of
    .filter(({ kind }) => kind !== without)
    .map(({ text }) => text)
    .join('')
const sentence = fc.array(fc.constantFrom('hold', 'pay', 'a', 'place', ',', ' ', 'Ovemouth'), { maxLength: 12 })

describe('what differs between two texts', () => {
  it('is told by words, marks on their own', () => {
    expect(wordDiff('Pay by card.', 'Pay, by voucher.')).to.deep.equal([
      { kind: 'same', text: 'Pay' },
      { kind: 'added', text: ',' },
      { kind: 'same', text: ' by ' },
      { kind: 'removed', text: 'card' },
      { kind: 'added', text: 'voucher' },
      { kind: 'same', text: '.' },
    ])
  })
  it('leads from one to the other and back', () => {
    fc.assert(
      fc.property(sentence, sentence, (a, b) => {
        const [before, after] = [a.join(' '), b.join(' ')]
        const told = wordDiff(before, after)
        expect(side(told, 'added')).to.equal(before)
        expect(side(told, 'removed')).to.equal(after)
        told.slice(1).forEach(({ kind }, at) => expect(kind).to.not.equal(told[at]!.kind))
      }),
    )
  })
  it('is nothing between the same', () => {
    expect(wordDiff('as it was', 'as it was')).to.deep.equal([{ kind: 'same', text: 'as it was' }])
    expect(wordDiff('', '')).to.deep.equal([])
  })
  it('is as little as can be: no more than the words of the shorter way', () => {
    const told = wordDiff('one two three four', 'one three four five')
    expect(told.filter(({ kind }) => kind !== 'same').map(({ text }) => text.trim())).to.have.members(['two', 'five'])
  })
  it('is the whole of both when too much differs to be read', () => {
    const words = (letter: string) => Array.from({ length: 2000 }, (_, at) => `${letter}${at}`).join(' ')
    const told = wordDiff(words('a'), words('b'))
    expect(side(told, 'added')).to.equal(words('a'))
    expect(told.filter(({ kind }) => kind === 'removed').length).to.be.at.most(2)
  })
})

describe('likeness', () => {
  it('is 1 for the same words and 0 for none in common', () => {
    expect(likeness('Pay by card', 'card by PAY')).to.equal(1)
    expect(likeness('Pay', 'Hold')).to.equal(0)
    expect(likeness('', '')).to.equal(1)
    expect(likeness('Pay', '')).to.equal(0)
  })
  it('counts a word as often as it stands', () => {
    expect(likeness('a a b', 'a b b')).to.be.closeTo(4 / 6, 1e-9)
  })
  it('is the same both ways', () => {
    fc.assert(
      fc.property(sentence, sentence, (a, b) => {
        expect(likeness(a.join(' '), b.join(' '))).to.be.closeTo(likeness(b.join(' '), a.join(' ')), 1e-12)
      }),
    )
  })
})
