import { expect } from 'chai'
import fc from 'fast-check'
import { type FileItem, fileParts, readReturned, runPaper, runTable } from './run-file.ts'

const item = (of: Partial<FileItem> = {}): FileItem => ({
  id: 7,
  case: 'TC-3',
  title: 'Child pays half',
  version: 'v1.2',
  environment: 'Red',
  tester: 'Mira Kell',
  minutes: 10,
  before: '<p>A ticket is held</p>',
  steps: [
    { action: 'Enter {age}', expected: 'It is taken', data: '' },
    { action: 'Pay', expected: '{price} is asked', data: '' },
  ],
  rows: [
    { age: '4', price: '6.00' },
    { age: '12', price: '12.00' },
  ],
  verdict: 'Failed',
  words: 'The price is wrong',
  executed: '2026-11-24',
  build: '2.4.0',
  defects: ['DF-4'],
  marks: [{ row: 2, step: 2, verdict: 'Failed', comment: '<p>12.50 is asked</p>' }],
  pictures: [],
  ...of,
})
const of = { run: 'RN-4', parts: [...fileParts], blank: false }
const lines = (table: readonly (readonly string[])[]) => table.map((cells, at) => ({ line: at + 1, cells }))

describe('a run as a table', () => {
  it('has a line for each item and one for each step in each data row, with its values', () => {
    const table = runTable([item()], of)
    expect(table).to.have.lengthOf(6)
    const [head = [], whole = [], , , , last = []] = table
    const cell = (cells: readonly string[], name: string) => cells[head.indexOf(name)]
    expect([cell(whole, 'Item'), cell(whole, 'Verdict'), cell(whole, 'Defects'), cell(whole, 'Step')]).to.deep.equal([
      'RN-4/7',
      'Failed',
      'DF-4',
      '',
    ])
    expect(
      ['Item', 'Row', 'Values', 'Step', 'Expected', 'Verdict', 'What happened'].map((name) => cell(last, name)),
    ).to.deep.equal(['RN-4/7', '2', 'age: 12; price: 12.00', '2', '12.00 is asked', 'Failed', '12.50 is asked'])
  })
  it('leaves out what was not chosen, and results where it is to be filled in', () => {
    const [head = [], ...rest] = runTable([item()], { ...of, parts: [] })
    expect(head).to.not.include.members(['Step', 'Row', 'Defects'])
    expect(rest).to.have.lengthOf(1)
    const [blankHead = [], ...blank] = runTable([item()], { run: 'RN-4', parts: ['steps'], blank: true })
    expect(blankHead).to.include.members(['Verdict', 'What happened'])
    expect(blank.map((cells) => cells[blankHead.indexOf('Verdict')])).to.deep.equal(['', '', ''])
  })
  it('comes back as it was filled in, whatever else stands in the file', () => {
    const word = fc.constantFrom('Passed', 'failed', 'Blocked', 'With a remark')
    const words = fc.string({ maxLength: 20 }).map((text) => text.trim())
    const filled = fc.record({ verdict: word, words, step: fc.constantFrom(0, 1, 2), row: fc.constantFrom(1, 2) })
    fc.assert(
      fc.property(filled, ({ verdict, words: told, step, row }) => {
        const table = runTable([item(), item({ id: 8, case: 'TC-4' })], {
          run: 'RN-4',
          parts: ['rows', 'steps'],
          blank: true,
        })
        const [head = []] = table
        const at = step === 0 ? 1 : 1 + (row - 1) * 2 + step
        const line = table[at] ?? []
        line[head.indexOf('Verdict')] = verdict
        line[head.indexOf('What happened')] = told
        // Somebody added a column before and a title above.
        const file = lines([['My results'], ...table.map((cells) => ['', ...cells])])
        const back = readReturned(file, 'RN-4')
        expect(back?.problems).to.deep.equal([])
        expect([back?.items.length, back?.empty]).to.deep.equal([1, 1])
        const [first] = back?.items ?? []
        expect([first?.item, first?.version]).to.deep.equal([7, 'v1.2'])
        if (step === 0) expect([first?.verdict, first?.words]).to.deep.equal([verdict, told])
        else expect(first?.steps).to.deep.equal([{ row, step, verdict, words: told }])
      }),
    )
  })
  it('names what belongs to no item, to another run or to no step by its line, and is no table without its columns', () => {
    const back = readReturned(
      lines([
        ['Item', 'Step', 'Row', 'Verdict'],
        ['RN-4/7', '', '', 'Passed'],
        ['RN-9/7', '', '', 'Passed'],
        ['nothing', '', '', 'Passed'],
        ['', '', '', ''],
        ['RN-4/7', 'one', '1', 'Passed'],
        ['RN-4/8', '', '', 'Not run'],
      ]),
      'RN-4',
    )
    expect(back?.problems.map(({ line }) => line)).to.deep.equal([3, 4, 6])
    expect([back?.items.length, back?.empty]).to.deep.equal([1, 1])
    expect(readReturned(lines([['Title', 'Result']]), 'RN-4')).to.equal(null)
    expect(readReturned([], 'RN-4')).to.equal(null)
  })
  it('is on paper what it is in the table, with what is to be circled where it is to be filled in', () => {
    const paper = runPaper([item({ pictures: [{ name: 'p.png', data: 'data:image/png;base64,AA' }] })], {
      ...of,
      title: 'T',
      under: 'U',
    })
    const text = JSON.stringify(paper)
    for (const told of [
      'TC-3 Child pays half',
      'The price is wrong',
      'Defects: DF-4',
      '12.50 is asked',
      'Row 2: age: 12; price: 12.00',
    ])
      expect(text).to.include(told)
    expect(paper.blocks.filter(({ kind }) => kind === 'picture')).to.have.lengthOf(1)
    const blank = JSON.stringify(
      runPaper([item()], { run: 'RN-4', parts: ['steps', 'rows'], blank: true, title: 'T', under: 'U' }),
    )
    expect(blank).to.include('Circle one')
    expect(blank).to.not.include('12.50 is asked')
  })
})
