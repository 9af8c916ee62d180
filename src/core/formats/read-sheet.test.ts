import { expect } from 'chai'
import fc from 'fast-check'
import { columnIndex, columnName } from './column-names.ts'
import { guessWhat, mapColumns } from './columns.ts'
import { readRows, writeRows } from './data-rows.ts'
import { partsOf } from './cell-steps.ts'
import { guessMapping } from './guess-mapping.ts'
import { raggedRows, readSheet } from './read-sheet.ts'
import type { FileRead, Sheet } from './shapes.ts'
import { caseReads, requirementReads } from '../../../test/arbitrary.ts'
import { caseTable, requirementTable } from './write-sheet.ts'

const sheetOf = (table: readonly (readonly string[])[]): Sheet => ({
  name: 'Sheet',
  rows: table.map((cells, index) => ({ line: index + 1, cells })),
})
const sheet = (text: string): Sheet => sheetOf(text.split('\n').map((line) => line.split('|')))
function read(what: 'requirements' | 'cases' | null, text: string | Sheet): FileRead {
  const of = typeof text === 'string' ? sheet(text) : text
  const mapping = guessMapping(of, what, ['Deck'])?.mapping
  if (!mapping) throw new Error('nothing recognised')
  return readSheet(mapping, of)
}
it('recognises columns from their headers, each field once', () => {
  expect(mapColumns('requirements', ['Title', 'Outside reference', 'Name', 'Colour'])).to.deep.equal([
    'title',
    'reference',
    null,
    null,
  ])
  expect(mapColumns('cases', ['Case', 'deck'], ['Deck'])).to.deep.equal(['title', 'custom:Deck'])
  expect([
    guessWhat(['Case', 'Step', 'Expected']),
    guessWhat(['Summary', 'Risk']),
    guessWhat(['Case', 'Importance']),
    guessWhat(['4711', 'x']),
  ]).to.deep.equal(['cases', 'requirements', 'cases', null])
  expect([columnName(0), columnName(27), columnIndex('A'), columnIndex('AB')]).to.deep.equal(['A', 'AB', 0, 27])
})
it('finds parents by key or title, also below the row, and leaves others to the project', () => {
  const { requirements, problems } = read('requirements', 'id|title|parent\nA|Fares|\nB|Islander|fares\nC|Card|Z-9')
  expect(problems).to.deep.equal([])
  expect(requirements.map(({ parent }) => parent)).to.deep.equal([null, 0, { named: 'Z-9' }])
})
it('reads risk as grades or as a product split evenly', () => {
  const { requirements, problems } = read('requirements', 'title|risk\na|4x5\nb|20\nc|9\nd|17\ne|high')
  expect(requirements.map(({ likelihood, impact }) => [likelihood, impact])).to.deep.equal([
    [4, 5],
    [4, 5],
    [3, 3],
    [null, null],
    [null, null],
  ])
  expect(problems.map(({ at }) => at)).to.deep.equal(['row 5, column B', 'row 6, column B'])
})
it('takes a row a step, the title repeated or only on the first row', () => {
  const { cases } = read(
    'cases',
    'case|action|expected|requirement|folder\nPay|Go to payment|Amount is shown|RQ-1, RQ-2|Money / Cards\n|Pay|Paid||\nPay|Look again|Paid once||\nRefund|Ask||RQ-3|',
  )
  expect(cases.map(({ title, steps }) => [title, steps.length])).to.deep.equal([
    ['Pay', 3],
    ['Refund', 1],
  ])
  expect(cases[0]).to.deep.include({ requirements: ['RQ-1', 'RQ-2'], folder: ['Money', 'Cards'] })
})
it('takes a changing id, and knows one that only numbers the steps', () => {
  const changing = read('cases', 'id|case|step|expected\nA1|Pay|one|\nA1|Pay|two|\nA2|Pay|three|')
  expect(changing.cases.map(({ id, steps }) => [id, steps.length])).to.deep.equal([
    ['A1', 2],
    ['A2', 1],
  ])
  const numbering = read('cases', 'no|case|step|expected\n1|Pay|one|\n2|Pay|two|\n3|Refund|three|')
  expect(numbering.cases.map(({ title, steps }) => [title, steps.length])).to.deep.equal([
    ['Pay', 2],
    ['Refund', 1],
  ])
})
it('takes all steps numbered inside one cell, beside numbered results', () => {
  const { cases } = read(
    'cases',
    sheetOf([
      ['Test case', 'Steps', 'Expected result'],
      ['Pay', '1. Open\n2) Pay\nwith a card', '1. Opened\n2. Paid'],
      ['Refund', '1. Ask\n2. Wait', 'Money is back'],
    ]),
  )
  expect(cases[0]?.steps.map(({ action, expected }) => [action, expected])).to.deep.equal([
    ['Open', 'Opened'],
    ['Pay\nwith a card', 'Paid'],
  ])
  expect(cases[1]?.steps.map(({ action, expected }) => [action, expected])).to.deep.equal([
    ['Ask', ''],
    ['Wait', 'Money is back'],
  ])
  expect(partsOf('about 3 things\n1. no')).to.equal(null)
})
it('takes an outline by indent, in columns or by spaces', () => {
  for (const text of [
    'Money\n|Pay\n||Open => Opened\n||Pay\n|Refund\n||Ask',
    'Money\n  Pay\n    Open => Opened\n    Pay\n  Refund\n    Ask',
  ]) {
    const { cases } = read('cases', text)
    expect(
      cases.map(({ title, folder, steps }) => [
        title,
        folder,
        steps.map(({ action, expected }) => `${action}/${expected}`),
      ]),
    ).to.deep.equal([
      ['Pay', ['Money'], ['Open/Opened', 'Pay/']],
      ['Refund', ['Money'], ['Ask/']],
    ])
  }
  expect(
    read('requirements', 'Fares\n  Islander\n  Group').requirements.map(({ title, parent }) => [title, parent]),
  ).to.deep.equal([
    ['Fares', null],
    ['Islander', 0],
    ['Group', 0],
  ])
})
it('finds the header below a title and empty rows', () => {
  const { cases, problems } = read(
    null,
    sheetOf([
      ['Cases of release 2.4'],
      [],
      ['Case', 'Priority', 'Step', 'Expected'],
      ['', '', '', ''],
      ['Pay', 'high', 'Open', ''],
    ]),
  )
  expect([cases.length, cases[0]?.row, cases[0]?.importance, problems]).to.deep.equal([1, 5, 'High', []])
})
it('names the place of each problem', () => {
  expect(read('cases', 'case|importance|estimate|action\n|High||go\nPay|Huge|soon|go').problems).to.deep.equal([
    { at: 'row 2, column A', message: 'has a step but no case above it' },
    { at: 'row 3, column C', message: '“soon” is not a number of minutes' },
  ])
  const ragged = sheet('title|text\na')
  const mapping = guessMapping(ragged, 'requirements')?.mapping
  expect(mapping && raggedRows(mapping, ragged)).to.deep.equal([
    { at: 'row 2', message: 'has 1 cells where the header has 2' },
  ])
  expect(guessMapping(sheet('colour|size\nred|1'), 'requirements')).to.equal(null)
  expect(
    readSheet(
      {
        what: 'cases',
        sheets: null,
        header: 1,
        first: 2,
        columns: { B: 'action' },
        layout: 'a row a step',
        begins: 'title',
      },
      sheet('colour|size\nred|1'),
    ).problems[0]?.message,
  ).to.match(/no column is read as the title.*“colour”/)
  expect(read('cases', 'case|action|data rows\nPay|go|1x').problems[0]?.message).to.match(/must name the parameters/)
})
it('writes and reads data rows of any values', () =>
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          age: fc.string().map((text) => text.trim().replaceAll('\r', '')),
          'the fare': fc.string().map((text) => text.trim().replaceAll('\r', '')),
        }),
      ),
      (rows) => {
        return JSON.stringify(readRows(writeRows(['age', 'the fare'], rows))) === JSON.stringify(rows)
      },
    ),
  ))
it('gives cases written as a sheet back as they were', () =>
  fc.assert(
    fc.property(caseReads, (cases) => {
      const again = read('cases', sheetOf(caseTable(cases, ['Deck'])))
      expect(again.problems).to.deep.equal([])
      expect(again.cases.map(({ row: _, ...rest }) => rest)).to.deep.equal(cases.map(({ row: _, ...rest }) => rest))
    }),
    { numRuns: 300 },
  ))
it('gives requirements written as a sheet back as they were', () =>
  fc.assert(
    fc.property(requirementReads, (requirements) => {
      const again = read('requirements', sheetOf(requirementTable(requirements, ['Deck'])))
      expect(again.problems).to.deep.equal([])
      expect(again.requirements.map(({ row: _, ...rest }) => rest)).to.deep.equal(
        requirements.map(({ row: _, ...rest }) => rest),
      )
    }),
    { numRuns: 300 },
  ))
