import { expect } from 'chai'
import { movesOf, outlineKeys } from './outline-keys.ts'

const place = (id: number, parent: number | null) => ({ id, key: `RQ-${id}`, parent })
// 1 has 2, 3 and 4 below it; 5 stands beside 1.
const rows = [place(1, null), place(2, 1), place(3, 1), place(4, 1), place(5, null)]
const of = (id: number) => movesOf(rows, rows.find((row) => row.id === id) ?? place(0, null))

it('moves up before the one above and down behind the one below', () =>
  expect([of(3).up, of(3).down]).to.deep.equal([
    { under: 1, before: 2 },
    { under: 1, before: null },
  ]))
it('moves down before whatever follows the one below', () => expect(of(2).down).to.deep.equal({ under: 1, before: 4 }))
it('indents below the one above, and outdents behind its parent', () =>
  expect([of(3).in, of(3).out]).to.deep.equal([
    { under: 2, before: null },
    { under: null, before: 5 },
  ]))
it('has nowhere to go at the ends', () => {
  expect([of(2).up, of(2).in, of(4).down, of(1).out, of(1).up]).to.deep.equal([null, null, null, null, null])
})
it('gives keys only to what is open, and a key that leads nowhere does nothing', () => {
  expect(outlineKeys(rows, undefined, () => undefined)).to.deep.equal([])
  const moved: unknown[] = []
  for (const { run } of outlineKeys(rows, rows[0], (...to) => moved.push(to))) run()
  expect(moved).to.deep.equal([['RQ-1', null, null]])
})
