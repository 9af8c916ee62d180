import { expect } from 'chai'
import { targetChoices } from '#ui/shell/target.ts'
import { fromIn, fromValue } from './testable-from.ts'

describe('from when a case can be tested, as a choice', () => {
  const project = {
    releases: [
      { id: 1, name: '2.3', state: 'Shipped' as const, startOn: null, dueOn: null, position: 1 },
      { id: 2, name: '2.4', state: 'In test' as const, startOn: null, dueOn: null, position: 2 },
    ],
    iterations: [{ id: 7, release: 2, name: 'Iteration 1', startOn: null, dueOn: null, position: 1 }],
  }
  it('is a release, one of its iterations, or left to the requirements', () => {
    expect(targetChoices(project, 'its requirements').map((each) => Object.values(each))).to.deep.equal([
      ['', 'its requirements'],
      ['1/', '2.3'],
      ['2/', '2.4'],
      ['2/7', '2.4 from Iteration 1'],
    ])
  })
  it('is read as it is written, for every choice', () => {
    for (const { value } of targetChoices(project, '')) {
      const { fromReleaseId = null, fromIterationId = null } = fromIn(value)
      expect(fromValue({ fromReleaseId, fromIterationId })).to.equal(value)
    }
    expect(fromIn('')).to.deep.equal({ fromReleaseId: null, fromIterationId: null })
  })
})
