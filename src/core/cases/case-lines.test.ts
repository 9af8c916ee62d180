import { expect } from 'chai'
import { caseLines, caseLinesSay } from './case-lines.ts'

it('reads a line a case, and what stands indented below it as its steps', () => {
  const cases = caseLines('Pay by card\n\tOpen the desk => It asks\n\t\tPay\n\n- Pay by voucher\n')
  expect(
    cases.map(({ title, steps }) => [title, steps.map(({ action, expected }) => [action, expected])]),
  ).to.deep.equal([
    [
      'Pay by card',
      [
        ['Open the desk', 'It asks'],
        ['Pay', ''],
      ],
    ],
    ['Pay by voucher', []],
  ])
})
it('says what the lines will make', () => {
  expect(caseLinesSay('One')).to.equal('1 case')
  expect(caseLinesSay('One\n\tdo\n  see\nTwo\n\n')).to.equal('2 cases, 2 steps')
  expect(caseLinesSay('')).to.equal('0 cases')
})
