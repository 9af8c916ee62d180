import { expect } from 'chai'
import { begunName, peopleMeant, withName } from './naming.ts'

const people = [
  { id: 'mira', name: 'Mira Kell' },
  { id: 'milan', name: 'Milan Ost' },
  { id: 'tobin', name: 'Tobin Rask' },
]
const offered = (text: string, me = 'tobin') =>
  peopleMeant(people, begunName(text, text.length), me).map(({ name }) => name)

describe('naming people', () => {
  it('begins at an @ after a space, a bracket or at the beginning, and is of the place the caret is in', () => {
    expect(begunName('@mi', 3)).to.equal('mi')
    expect(begunName('Ask @Mira K', 11)).to.equal('Mira K')
    expect(begunName('(@', 2)).to.equal('')
    expect(begunName('mail@tarnsey', 12)).to.equal(null)
    expect(begunName('@mi and so on', 3)).to.equal('mi')
    expect(begunName('no name here', 12)).to.equal(null)
  })
  it('offers those who are called so, but not oneself', () => {
    expect(offered('@MI')).to.deep.equal(['Mira Kell', 'Milan Ost'])
    expect(offered('@mi', 'mira')).to.deep.equal(['Milan Ost'])
    expect(offered('@')).to.deep.equal(['Mira Kell', 'Milan Ost'])
    expect(offered('@xy')).to.deep.equal([])
    expect(offered('mi')).to.deep.equal([])
  })
  it('offers nobody who is named already', () => {
    expect(offered('@Mira Kell')).to.deep.equal([])
  })
  it('writes the name out where it was begun, and leaves what stands after it', () => {
    expect(withName('Ask @mi please', 7, 'Mira Kell')).to.deep.equal({ text: 'Ask @Mira Kell  please', caret: 15 })
    expect(withName('@', 1, 'Tobin Rask')).to.deep.equal({ text: '@Tobin Rask ', caret: 12 })
  })
})
