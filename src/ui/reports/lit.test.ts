import { expect } from 'chai'
import type { BoardAnswer } from '#core/reports/contract.ts'
import { litBy } from './lit.ts'

const board: BoardAnswer = {
  requirements: [
    { id: 1, key: 'RQ-1', title: '', gap: [] },
    { id: 2, key: 'RQ-2', title: '', gap: ['no case'] },
  ],
  cases: [
    { id: 5, key: 'TC-5', title: '', gap: [] },
    { id: 6, key: 'TC-6', title: '', gap: ['no result'] },
  ],
  results: [{ id: '5:9', case: 5, environment: '', verdict: 'Failed', word: null, stale: false, gap: [] }],
  defects: [{ id: 7, key: 'DF-7', title: '', state: 'Reported', gap: [] }],
  links: [
    [1, 5],
    [1, 6],
  ],
  defectCases: [[7, 5]],
  defectRequirements: [[7, 1]],
  cut: false,
}
const lit = (chosen: string | null, gap: string | null = null) =>
  ['r1', 'r2', 'c5', 'c6', 's5:9', 'd7'].filter((id) => litBy(board, chosen, gap).has(id))
it('lights all until something is chosen', () => expect(lit(null)).to.have.length(6))
it('lights what hangs on a requirement, a case, a result or a defect', () => {
  expect(lit('r1')).to.deep.equal(['r1', 'c5', 'c6', 's5:9', 'd7'])
  expect(lit('c6')).to.deep.equal(['r1', 'c6'])
  expect(lit('s5:9')).to.deep.equal(['r1', 'c5', 's5:9', 'd7'])
  expect(lit('d7')).to.deep.equal(['r1', 'c5', 's5:9', 'd7'])
})
it('lights a gap wherever it is', () => expect(lit(null, 'no result')).to.deep.equal(['c6']))
