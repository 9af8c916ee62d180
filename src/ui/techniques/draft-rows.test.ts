import { expect } from 'chai'
import { draft } from '#core/techniques/draft.ts'
import { finished } from '#core/techniques/combos.ts'
import { draftModel } from '#core/techniques/draft-row.ts'
import type { DecidedRow } from '#core/techniques/contract.ts'
import { badCells, casesText, rowsOf, toldOf, tookText } from './draft-rows.ts'

const combos = draftModel.parse({
  technique: 'combos',
  body: {
    parameters: { device: ['phone', 'desk'], age: ['child', 'adult'], pay: ['card', 'cash'] },
    negative: { age: ['minus one'] },
  },
})
const paths = draftModel.parse({
  technique: 'paths',
  body: { initial: 'free', transitions: [{ from: 'free', event: 'hold', to: 'held' }] },
})
const decided = (id: number, row: Record<string, string>, decision: 'accepted' | 'left out') =>
  ({ id, row, decision, case: decision === 'accepted' ? { key: `TC-${id}`, live: true } : null }) as DecidedRow

describe('rows of the drafting table', () => {
  const accepted = decided(1, { device: 'phone', age: 'child', pay: 'card' }, 'accepted')
  const answer = finished(draft(combos, [accepted.row]))
  it('are the accepted first, then what is proposed', () => {
    const rows = rowsOf(answer, [accepted], [])
    expect(rows[0]).to.deep.include({ id: 'd1', decided: accepted, proposed: null })
    expect(rows.slice(1).every(({ proposed }) => proposed !== null)).to.equal(true)
    expect(rows).to.have.length(1 + answer.proposed.length)
  })
  it('say of a proposed one that it was left out before', () => {
    const first = answer.proposed[0]!
    const out = decided(2, { ...first.row }, 'left out')
    const row = rowsOf(answer, [accepted], [out]).find(({ id }) => id === 'p0')!
    expect(row).to.deep.include({ decided: out, proposed: null })
  })
  it('mark the cells whose value is refused', () => {
    expect([...badCells(combos, answer)]).to.deep.equal(['age=minus one'])
    expect(badCells(paths, finished(draft(paths, []))).size).to.equal(0)
  })
  it('tell which pairs a row adds to those above it', () => {
    const rows = rowsOf(answer, [accepted], [])
    expect(toldOf(combos, rows, 0)).to.deep.equal([
      'device phone + age child',
      'device phone + pay card',
      'age child + pay card',
    ])
    expect(toldOf(combos, rows, 99)).to.deep.equal([])
  })
  it('tell the steps of a path', () => {
    const rows = rowsOf(finished(draft(paths, [])), [], [])
    expect(toldOf(paths, rows, 0).join()).to.include('hold')
  })
})

describe('what the cases come to', () => {
  it('is the least possible, or says what would be', () => {
    expect(casesText(finished(draft(combos, [])))).to.match(/^cases(; the least possible)?$/)
    expect(casesText(finished(draft(paths, [])))).to.equal('paths with 1 steps; the least possible')
  })
  it('took so long', () => {
    expect([0.2, 12.4, 999, 1000, 2340].map(tookText)).to.deep.equal(['1 ms', '12 ms', '999 ms', '1.0 s', '2.3 s'])
  })
})
