import { expect } from 'chai'
import fc from 'fast-check'
import { editOver } from './edit-over.ts'

describe('an edit over what somebody else stored meanwhile', () => {
  const shown = { importance: 'Medium', tags: ['fares', 'desk'], custom: { 1: ['x'], 2: [] }, owner: null }

  it('is mine in fields that stayed', () => {
    const newer = { ...shown, importance: 'High' }
    expect(editOver(newer, shown, { owner: 'mira' })).to.deep.equal({ edit: { owner: 'mira' }, clashes: [] })
  })
  it('clashes where both changed one field differently, and not where they did the same', () => {
    const newer = { ...shown, importance: 'High' }
    expect(editOver(newer, shown, { importance: 'Low' })).to.deep.equal({
      edit: { importance: 'Low' },
      clashes: ['importance'],
    })
    expect(editOver(newer, shown, { importance: 'High' }).clashes).to.deep.equal([])
    expect(editOver({}, shown, { importance: 'Low' }).clashes, 'nothing is known of it').to.deep.equal(['importance'])
  })
  it('joins what both did to a list of words', () => {
    const newer = { ...shown, tags: ['desk', 'ship'] }
    expect(editOver(newer, shown, { tags: ['fares', 'desk', 'rail'] }).edit['tags']).to.deep.equal([
      'desk',
      'ship',
      'rail',
    ])
    expect(editOver(newer, shown, { tags: ['fares'] }).edit['tags']).to.deep.equal(['ship'])
    expect(editOver(newer, shown, { tags: ['desk', 'fares'] }).clashes, 'only the order').to.deep.equal(['tags'])
  })
  it('holds fields within a field apart', () => {
    const newer = { ...shown, custom: { 1: ['y'], 2: [], 3: ['new'] } }
    expect(editOver(newer, shown, { custom: { 2: ['z'] } })).to.deep.equal({
      edit: { custom: { 2: ['z'] } },
      clashes: [],
    })
    expect(editOver(newer, shown, { custom: { 1: ['z'] } }).clashes).to.deep.equal(['custom'])
    expect(editOver(newer, shown, { custom: { 3: ['mine'] } }).clashes).to.deep.equal(['custom'])
    expect(editOver(newer, shown, { custom: { 3: ['new'] } }).clashes).to.deep.equal([])
  })
  it('keeps every word that one put in, brings back none that one took out, and none twice', () => {
    const letters: readonly string[] = ['a', 'b', 'c', 'd', 'e']
    const words = fc.uniqueArray(fc.constantFrom(...letters))
    fc.assert(
      fc.property(words, words, words, (before, theirs, mine) => {
        const { edit, clashes } = editOver({ tags: theirs }, { tags: before }, { tags: mine })
        if (clashes.length > 0) return
        const both = edit['tags']
        if (!Array.isArray(both)) return expect.fail('no list')
        expect(new Set(both).size).to.equal(both.length)
        for (const word of letters) {
          const [b, t, m] = [before, theirs, mine].map((list) => list.includes(word))
          expect(both.includes(word), word).to.equal(t === b ? m : t)
        }
      }),
    )
  })
})
