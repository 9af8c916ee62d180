import { expect } from 'chai'
import fc from 'fast-check'
import { cellIn, cellKey, groupedBy, headOf, placeAfter } from './matrix-place.ts'

const column = (name: string, values: Record<string, string>, id = 1) => ({ id, name, values, outage: null })

describe('a place in the matrix', () => {
  it('moves by a key and never leaves the table', () => {
    const keys = ['ArrowDown', 'ArrowUp', 'ArrowLeft', 'ArrowRight', 'PageDown', 'PageUp', 'Home', 'End']
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(...keys), { maxLength: 60 }),
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 8 }),
        (pressed, rows, columns) => {
          let at = { row: 0, column: 0 }
          for (const key of pressed) {
            at = placeAfter(at, key, { rows, columns }) ?? at
            expect(at.row).to.be.within(0, rows - 1)
            expect(at.column).to.be.within(0, columns - 1)
          }
        },
      ),
    )
    expect(placeAfter({ row: 3, column: 2 }, 'ArrowUp', { rows: 9, columns: 9 })).to.deep.equal({ row: 2, column: 2 })
    expect(placeAfter({ row: 3, column: 2 }, 'End', { rows: 9, columns: 9 })).to.deep.equal({ row: 8, column: 2 })
    expect(placeAfter({ row: 3, column: 2 }, 'x', { rows: 9, columns: 9 })).to.equal(null)
  })
  it('has a head of its values, or its name', () => {
    expect(headOf(column('Gecko, phone', { engine: 'Gecko', device: 'phone' }))).to.deep.equal(['Gecko', 'phone'])
    expect(headOf(column('Laboratory', {}))).to.deep.equal(['Laboratory'])
  })
  it('stands with others of its value when columns are grouped', () => {
    const columns = [
      column('1', { engine: 'Gecko', device: 'desk' }),
      column('2', { engine: 'Chromium', device: 'desk' }),
      column('3', { engine: 'Gecko', device: 'phone' }),
    ]
    expect(groupedBy(columns, 'engine')).to.deep.equal([0, 2, 1])
    expect(groupedBy(columns, 'device')).to.deep.equal([0, 1, 2])
    expect(groupedBy(columns, null)).to.deep.equal([0, 1, 2])
  })
  it('is named by case and environment, and read again', () => {
    expect(cellIn(cellKey(17, 4))).to.deep.equal({ case: 17, environment: 4 })
  })
})
