import { expect } from 'chai'
import { draftDefect, type FailingStep, plain } from './from-step.ts'

const step = (action: string, expected = '', of: Partial<FailingStep['steps'][number]> = {}) => ({
  id: null,
  action,
  expected,
  data: '',
  verdict: 'Passed' as const,
  comment: '',
  ...of,
})
const failing: FailingStep = {
  caseTitle: 'Hold a place',
  preconditions: '<p>A sailing with one place, to {port}</p>',
  values: { port: 'Ove' },
  at: 1,
  steps: [
    step('<p>Choose {port}</p>', 'The fare reads 12.00'),
    step('Hold it', 'The clock of <b>{port}</b> starts at 20:00', {
      verdict: 'Failed',
      data: 'one adult',
      comment: 'It starts at 18:00',
    }),
    step('Never reached'),
  ],
}

describe('a defect drafted from a failing step', () => {
  const { title, steps } = draftDefect(failing)
  it('is called after what should have been seen', () => {
    expect(title).to.equal('Hold a place: not as expected, “The clock of Ove starts at 20:00”')
  })
  it('tells the way there up to the step, with what was noted', () => {
    expect(steps.split('\n')).to.deep.equal([
      'Before: A sailing with one place, to Ove',
      'Data: port = Ove',
      '1. Choose Ove Should be: The fare reads 12.00. (Passed)',
      '2. Hold it [one adult] Should be: The clock of Ove starts at 20:00. (Failed) Noted: It starts at 18:00',
    ])
  })
  it('is called after the action where nothing was expected, and cut where titles end', () => {
    const bare = draftDefect({ ...failing, at: 2 })
    expect(bare.title).to.include('“Never reached”')
    const long = draftDefect({ ...failing, caseTitle: 'x'.repeat(300) })
    expect(long.title.length).to.be.at.most(200)
  })
  it('is called after the case where there is no step', () => {
    expect(draftDefect({ ...failing, steps: [], at: 0 }).title).to.equal('Hold a place')
  })
  it('has rich text as words', () => {
    expect(plain('<p>a</p><ul><li>b&amp;c</li></ul>')).to.equal('a b&c')
  })
})
