import { expect } from 'chai'
import { gradeIn, gradeText } from './grades.ts'

it('shows and reads every grade, and none as none', () =>
  expect([null, 1, 2, 3, 4, 5].map((grade) => gradeIn(gradeText(grade)))).to.deep.equal([null, 1, 2, 3, 4, 5]))
it('shows a grade outside 1 to 5 as not given', () => expect(gradeText(9)).to.equal(''))
