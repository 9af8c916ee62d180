import { expect } from 'chai'
import { quarantineOf } from './quarantine.ts'

it('holds in the environment it names, and everywhere when it names none', () => {
  const held = quarantineOf([
    { case: 1, environment: 5 },
    { case: 2, environment: null },
  ])
  expect([1, 2, 3].map((of) => [held({ case: of, environment: 5 }), held({ case: of, environment: 6 })])).to.deep.equal(
    [
      [true, false],
      [true, true],
      [false, false],
    ],
  )
})
it('does not take one number for two: case 1 in 23 is not case 12 in 3', () =>
  expect(quarantineOf([{ case: 1, environment: 23 }])({ case: 12, environment: 3 })).to.equal(false))
