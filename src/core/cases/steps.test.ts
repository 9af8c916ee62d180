import { expect } from 'chai'
import fc from 'fast-check'
import { fingerprintText, parametersIn, splitCells, stepLines, withValues } from './steps.ts'

it('reads action => expected, and cells of a spreadsheet by column', () => {
  expect(stepLines('1. Sign in => The first page opens\nPay')).to.deep.equal([
    { id: null, action: 'Sign in', expected: 'The first page opens', data: '' },
    { id: null, action: 'Pay', expected: '', data: '' },
  ])
  expect(stepLines('Sign in\tThe first page opens\tclerk')).to.deep.equal([
    { id: null, action: 'Sign in', expected: 'The first page opens', data: 'clerk' },
  ])
})
it('keeps line breaks and quotes of quoted cells', () =>
  expect(splitCells('"a ""b""\nc"\td\r\ne\tf')).to.deep.equal([
    ['a "b"\nc', 'd'],
    ['e', 'f'],
  ]))
it('takes back any table that was put on the clipboard as a spreadsheet does', () => {
  const cell = fc.stringMatching(/^[a-z"\n\t ]{0,6}$/)
  const table = fc
    .integer({ min: 2, max: 4 })
    .chain((width) => fc.array(fc.array(cell, { minLength: width, maxLength: width }), { minLength: 1, maxLength: 5 }))
  const written = (rows: string[][]) =>
    rows
      .map((row) => row.map((each) => (/["\n\t]/.test(each) ? `"${each.replaceAll('"', '""')}"` : each)).join('\t'))
      .join('\n')
  fc.assert(
    fc.property(table, (rows) => {
      expect(splitCells(written(rows))).to.deep.equal(rows)
    }),
  )
})
it('finds parameters in order of first use and fills them, leaving gaps to be seen', () => {
  const content = {
    preconditions: 'On {date}',
    steps: [{ id: 1, action: 'Add {length} m on {date}', expected: '{fare}', data: '' }],
  }
  expect(parametersIn(content)).to.deep.equal(['date', 'length', 'fare'])
  expect(withValues('{length} and {fare}', { length: '4.51' })).to.equal('4.51 and {fare}')
  expect(withValues('{constructor}', {})).to.equal('{constructor}')
})
it('gives one fingerprint text to what says the same, and another to what does not', () => {
  const content = {
    preconditions: '',
    steps: [{ id: 1, action: 'Pay', expected: 'Paid', data: '' }],
    parameters: ['a'],
    rows: [{ a: '1' }],
  }
  expect(fingerprintText({ ...content, steps: [{ id: 2, action: ' Pay ', expected: 'Paid', data: '' }] })).to.equal(
    fingerprintText(content),
  )
  expect(fingerprintText({ ...content, rows: [{ a: '2' }] })).to.not.equal(fingerprintText(content))
})
