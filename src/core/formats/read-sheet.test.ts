import { expect } from 'chai'
import { columnName, guessWhat, mapColumns } from './columns.ts'
import { readSheet, type SheetRow } from './read-sheet.ts'

const sheet = (text: string): SheetRow[] => text.split('\n').map((line, index) => ({ line: index + 1, cells: line.split('|') }))
const read = (what: 'requirements' | 'cases', text: string) => {
  const [header, ...rows] = sheet(text)
  if (!header) throw new Error('no header')
  return readSheet(what, header, rows)
}
it('recognises columns from their headers, each field once', () => {
  expect(mapColumns('requirements', ['Title', 'Outside reference', 'Name', 'Colour'])).to.deep.equal(['title', 'reference', null, null])
  expect([guessWhat(['Case', 'Step', 'Expected']), guessWhat(['Summary', 'Risk']), guessWhat(['4711', 'x'])]).to.deep.equal(['cases', 'requirements', null])
  expect([columnName(0), columnName(27)]).to.deep.equal(['A', 'AB'])
})
it('finds parents by key or title, also below the row, and leaves others to the project', () => {
  const { requirements, problems } = read('requirements', 'id|title|parent\nA|Fares|\nB|Islander|fares\nC|Card|Z-9')
  expect(problems).to.deep.equal([])
  expect(requirements.map(({ parent }) => parent)).to.deep.equal([null, 0, { named: 'Z-9' }])
})
it('reads risk as grades or as a product split evenly', () => {
  const { requirements, problems } = read('requirements', 'title|risk\na|4x5\nb|20\nc|9\nd|17\ne|high')
  expect(requirements.map(({ likelihood, impact }) => [likelihood, impact])).to.deep.equal([[4, 5], [4, 5], [3, 3], [null, null], [null, null]])
  expect(problems.map(({ at }) => at)).to.deep.equal(['row 5, column B', 'row 6, column B'])
})
it('takes a row a step, the title repeated or only on the first row', () => {
  const { cases } = read('cases', 'case|action|expected|requirement|folder\nPay|Go to payment|Amount is shown|RQ-1, RQ-2|Money / Cards\n|Pay|Paid||\nPay|Look again|Paid once||\nRefund|Ask||RQ-3|')
  expect(cases.map(({ title, steps }) => [title, steps.length])).to.deep.equal([['Pay', 3], ['Refund', 1]])
  expect(cases[0]).to.deep.include({ requirements: ['RQ-1', 'RQ-2'], folder: ['Money', 'Cards'] })
})
it('names the place of each problem', () => {
  expect(read('cases', 'case|importance|estimate\n|High|\nPay|Huge|soon').problems).to.deep.equal([{ at: 'row 2, column A', message: 'has a step but no case above it' }, { at: 'row 3, column C', message: '“soon” is not a number of minutes' }, { at: 'row 3, column B', message: '“Huge” is none of Critical, High, Medium, Low' }])
  expect(read('requirements', 'title|text\na').problems).to.deep.equal([{ at: 'row 2', message: 'has 1 cells where the header has 2' }])
  expect(read('requirements', 'colour|size\nred|1').problems[0]?.message).to.match(/no column is headed “title”/)
})
