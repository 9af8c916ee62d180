import { expect } from 'chai'
import fc from 'fast-check'
import { readRows, writeRows } from './data-rows.ts'

describe('data rows in one cell', () => {
  it('have their names first and a row a line', () => {
    expect(writeRows(['age', 'port'], [{ age: '4', port: 'Ove' }, { age: '16' }])).to.equal(
      'age | port\n4 | Ove\n16 | ',
    )
    expect(writeRows(['age'], [])).to.equal('')
  })
  it('come back with bars, backslashes and line breaks within values', () => {
    const value = fc.string().filter((text) => text === text.replace(/^ +| +$/g, '') && !text.includes('\r'))
    fc.assert(
      fc.property(fc.array(fc.record({ age: value, port: value }), { minLength: 1 }), (rows) => {
        expect(readRows(writeRows(['age', 'port'], rows))).to.deep.equal(rows)
      }),
    )
  })
  it('say what is wrong with them', () => {
    expect(readRows('4 | Ove\n1 | 2')).to.include('must name the parameters')
    expect(readRows('age\n4 | 5')).to.equal('data row 1 has 2 values for 1 parameters')
    expect(readRows(' ')).to.deep.equal([])
  })
  it('have nothing where a line is short', () => {
    expect(readRows('age | port\n4')).to.deep.equal([{ age: '4', port: '' }])
  })
})
