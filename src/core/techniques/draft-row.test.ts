import { expect } from 'chai'
import { namesOf, draftModel, rowKey, rowText, sameRow, titleBy } from './draft-row.ts'

describe('rows of a model', () => {
  it('are the same whatever order they say it in', () => {
    expect(sameRow({ a: '1', b: '2' }, { b: '2', a: '1' })).to.equal(true)
    expect(sameRow({ a: '1' }, { a: '1', b: '' })).to.equal(false)
    expect(rowKey({ a: '1', b: '2' })).to.equal(rowKey({ b: '2', a: '1' }))
  })
  it('are told as names and values', () => {
    expect(rowText({ age: 'child', resident: 'yes' })).to.equal('age child, resident yes')
  })
  it('are told as the states of a path', () => {
    expect(rowText({ path: 'free –hold→ held\nheld –pay→ paid' })).to.equal('free → held → paid')
    expect(rowText({ path: 'free' })).to.equal('free')
  })
  it('are told with the events that must be refused', () => {
    const path = 'free –hold→ held'
    expect(rowText({ path, refused: 'board' })).to.equal('free → held, where board is refused')
    expect(rowText({ path, refused: 'board\npay' })).to.equal('free → held, where board and pay are refused')
    expect(rowText({ path, refused: 'board\npay\nend' })).to.equal('free → held, where 3 events are refused')
  })
  it('have a value for each name of their model', () => {
    const named = (model: unknown) => namesOf(draftModel.parse(model))
    expect(named({ technique: 'combos', body: { parameters: { device: ['phone'], age: ['child'] } } })).to.deep.equal([
      'device',
      'age',
    ])
    expect(named({ technique: 'decisions', body: { conditions: { resident: ['yes'] }, rules: [] } })).to.deep.equal([
      'resident',
    ])
    expect(named({ technique: 'paths', body: { initial: 'free', transitions: [] } })).to.deep.equal([])
  })
})

describe('titles by a pattern', () => {
  const row = { age: 'child', resident: 'yes' }
  it('take the values of the row, all of it, and its number', () => {
    expect(titleBy('Fare {n}: {age}', row, 7)).to.equal('Fare 7: child')
    expect(titleBy('{all}', row, 1)).to.equal('age child, resident yes')
  })
  it('leave names the row does not have', () => {
    expect(titleBy('{port} of {constructor}', row, 1)).to.equal('{port} of {constructor}')
  })
  it('are cut where titles end', () => {
    expect(titleBy('{age}'.repeat(200), row, 1)).to.have.length(300)
  })
})
