import { expect } from 'chai'
import { changeWords } from './what-if.ts'
import { noChanges } from './what-if-contract.ts'

const names = {
  person: (id: string) => id.toUpperCase(),
  environment: (id: number) => `E${id}`,
  day: (day: string) => day,
}

it('says in a few words what of a run would be different', () => {
  const told = (of: Partial<typeof noChanges>) => changeWords({ ...noChanges, ...of }, names)
  expect(told({})).to.deep.equal([])
  expect(told({ more: 1 })).to.deep.equal(['one tester more'])
  expect(told({ join: ['ansa'], more: 2, endOn: '2026-12-02', without: [3, 4], reservePercent: 0 })).to.deep.equal([
    'ANSA joins',
    '2 testers more',
    'until 2026-12-02',
    'without E3',
    'without E4',
    '0 % kept for retests',
  ])
})
