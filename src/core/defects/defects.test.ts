import { expect } from 'chai'
import { draftDefect, plain } from './from-step.ts'
import { defectStates, isOpen, moveRefusal, nextStates } from './state.ts'

it('asks for the build of a repair before a retest', () => {
  expect(moveRefusal('In repair', 'Ready to retest', null)).to.match(/build it is fixed in/)
  expect(moveRefusal('In repair', 'Ready to retest', 4)).to.equal(null)
  expect(moveRefusal('Reported', 'Reported', null)).to.equal(null)
})
it('says where a defect can go when it cannot go somewhere', () =>
  expect(moveRefusal('Closed', 'Rejected', null)).to.equal(
    'A defect that is Closed cannot become Rejected; it can become Confirmed, In repair.',
  ))
it('leads out of every state, and tells open from ended', () => {
  for (const state of defectStates) expect(nextStates(state)).to.not.be.empty
  expect(defectStates.filter((state) => !isOpen(state))).to.deep.equal(['Closed', 'Rejected'])
})
it('drafts title and steps up to the failure, with data, verdicts and what was noted', () => {
  const draft = draftDefect({
    caseTitle: 'Car of 4.51 m',
    preconditions: '',
    at: 1,
    values: { fare: '38.00' },
    steps: [
      { id: 1, action: 'Open a <b>booking</b>', expected: '', data: '', verdict: 'Passed', comment: '' },
      { id: 2, action: 'Read the fare', expected: 'It is {fare}', data: '', verdict: 'Failed', comment: 'It is 29.00' },
      { id: 3, action: 'Leave', expected: '', data: '', verdict: 'Not run', comment: '' },
    ],
  })
  expect(draft.title).to.equal('Car of 4.51 m: not as expected, “It is 38.00”')
  expect(draft.steps.split('\n')).to.deep.equal([
    'Data: fare = 38.00',
    '1. Open a booking (Passed)',
    '2. Read the fare Should be: It is 38.00. (Failed) Noted: It is 29.00',
  ])
})
it('reads rich text as plain words', () => expect(plain('<p>A &lt;b&gt;</p><p>c&nbsp;d</p>')).to.equal('A <b> c d'))
