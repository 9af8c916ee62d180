import { expect } from 'chai'
import { type Direction, type Folder, folderLines, shifted } from './folders.ts'

const folder = (id: number, parent: number | null, cases = 0): Folder => ({
  id,
  parent,
  name: `Folder ${id}`,
  position: id,
  cases,
})
//  1 ─ 2 ─ 3
//    └ 4
//  5
const rows = [folder(1, null, 1), folder(2, 1, 2), folder(3, 2, 4), folder(4, 1, 8), folder(5, null)]

describe('the tree of folders', () => {
  it('is told from the top down, with the depth of each', () => {
    expect(folderLines(rows).map(({ id, depth }) => `${id}@${depth}`)).to.deep.equal([
      '1@0',
      '2@1',
      '3@2',
      '4@1',
      '5@0',
    ])
  })
  it('counts the cases of a folder with those below it', () => {
    expect(folderLines(rows).map(({ whole }) => whole)).to.deep.equal([15, 6, 4, 8, 0])
  })
  it('knows what stands below a folder, which is what it shows', () => {
    expect(folderLines(rows).map(({ below }) => below)).to.deep.equal([[1, 2, 3, 4], [2, 3], [3], [4], [5]])
    expect(folderLines([])).to.deep.equal([])
  })
})

describe('a folder moved by key', () => {
  const to = (id: number, by: Direction) =>
    shifted(
      rows,
      rows.find((row) => row.id === id)!,
      by,
    )
  it('goes up and down among those beside it', () => {
    expect(to(4, 'up')).to.deep.equal({ parent: 1, before: 2 })
    expect(to(2, 'down')).to.deep.equal({ parent: 1, before: null })
    expect(to(1, 'down')).to.deep.equal({ parent: null, before: null })
  })
  it('goes into the one above it, and out behind the one it was in', () => {
    expect(to(4, 'in')).to.deep.equal({ parent: 2, before: null })
    expect(to(3, 'out')).to.deep.equal({ parent: 1, before: 4 })
    expect(to(2, 'out')).to.deep.equal({ parent: null, before: 5 })
  })
  it('stays where there is no such place', () => {
    expect(to(1, 'up')).to.equal(null)
    expect(to(5, 'down')).to.equal(null)
    expect(to(2, 'in')).to.equal(null)
    expect(to(5, 'out')).to.equal(null)
  })
})
