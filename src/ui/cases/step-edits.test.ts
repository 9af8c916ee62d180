import { expect } from 'chai'
import type { Used } from '#core/cases/contract.ts'
import { chosenAfter, emptyStep, filled, type Fresh, isEmpty, listed, moved, writtenOut } from './step-edits.ts'

let counter = 0
const fresh = (step: Fresh) => ({ ...step, row: `new-${++counter}` })
const steps = ['Open', 'Tap', 'Look'].map((action, at) => ({ ...emptyStep, id: at + 1, action, row: `step-${at + 1}` }))
const actions = (of: readonly { action: string }[]) => of.map(({ action }) => action)

describe('steps that are moved', () => {
  it('go where they are put and leave the rest in order', () => {
    expect(actions(moved(steps, 0, 2))).to.deep.equal(['Tap', 'Look', 'Open'])
    expect(actions(moved(steps, 2, 0))).to.deep.equal(['Look', 'Open', 'Tap'])
  })
  it('stay where there is no such place', () => {
    for (const [from, to] of [
      [0, -1],
      [2, 3],
      [1, 1],
      [7, 0],
    ] as const)
      expect(moved(steps, from, to)).to.equal(steps)
  })
})

describe('lines that were pasted into an action', () => {
  it('become steps behind it, and it says what it said without them', () => {
    const own = steps.with(0, { ...steps[0]!, action: 'Open $&amp; &lt;it&gt;\nand wait' })
    const next = listed(own, { row: 'step-1', text: ' $& <it>\r\nand wait', fresh })
    expect(actions(next)).to.deep.equal(['Open', '$&amp; &lt;it&gt;', 'and wait', 'Tap', 'Look'])
    expect(next[0]!.id).to.equal(1)
  })
  it('take the place of a step that says nothing else, and nothing happens where the step is gone', () => {
    const own = steps.with(1, { ...steps[1]!, action: '1. One\n2. Two =&gt; seen' })
    const next = listed(own, { row: 'step-2', text: '1. One\n2. Two => seen', fresh })
    expect(next.map(({ action, expected }) => [action, expected])).to.deep.equal([
      ['Open', ''],
      ['One', ''],
      ['Two', 'seen'],
      ['Look', ''],
    ])
    expect(listed(steps, { row: 'gone', text: 'a\nb', fresh })).to.equal(steps)
  })
})

describe('columns of a spreadsheet', () => {
  it('fill the cells from where they land, into new steps after the last', () => {
    const next = filled(steps, [['a', 'b'], ['c'], ['d']], { at: 2, field: 'expected', fresh })
    expect(next).to.have.length(5)
    expect(next.slice(2).map(({ action, expected, data }) => [action, expected, data])).to.deep.equal([
      ['Look', 'a', 'b'],
      ['', 'c', ''],
      ['', 'd', ''],
    ])
    expect(steps[2]!.expected).to.equal('')
  })
  it('end at the last column, and are no marks', () => {
    const [first] = filled(steps, [['2 < 3', 'lost']], { at: 0, field: 'data', fresh })
    expect(first).to.deep.include({ action: 'Open', data: '2 &lt; 3' })
  })
  it('leave alone what is inserted', () => {
    const use = { kind: 'case' as const, version: 1, ref: 'TC-1', name: '1.0', values: {} }
    const inserted = [{ ...steps[0]!, use }, steps[1]!]
    const next = filled(inserted, [['a'], ['b']], { at: 0, field: 'expected', fresh })
    expect(next.map(({ expected }) => expected)).to.deep.equal(['', 'b'])
  })
})

describe('what a step inserts, written out', () => {
  it('has the values it was given, and keeps the names it was given none for', () => {
    const use = { kind: 'routine' as const, version: 1, ref: 'RT-1', name: '1.0', values: { clerk: 'Mira', port: ' ' } }
    const said = {
      steps: [{ action: 'Sign in as {clerk}', expected: 'Sailings of {port}', data: '', from: '' }],
    } as unknown as Used
    expect(writtenOut({ ...steps[0]!, use }, said)).to.deep.equal([
      { id: null, action: 'Sign in as Mira', expected: 'Sailings of {port}', data: '' },
    ])
  })
  it('is empty of a step that says nothing', () => {
    expect(isEmpty(emptyStep)).to.equal(true)
    expect(isEmpty({ ...emptyStep, data: 'x' })).to.equal(false)
    expect(isEmpty(undefined)).to.equal(false)
  })
})

describe('steps that are chosen', () => {
  it('are one more, or one less', () => {
    expect(chosenAfter([], steps, { at: 1, last: 0, range: false })).to.deep.equal(['step-2'])
    expect(chosenAfter(['step-2'], steps, { at: 1, last: 1, range: false })).to.deep.equal([])
  })
  it('are all from the last one, either way', () => {
    expect(chosenAfter(['step-3'], steps, { at: 0, last: 2, range: true })).to.have.members([
      'step-1',
      'step-2',
      'step-3',
    ])
    expect(chosenAfter([], steps, { at: 2, last: 0, range: true })).to.deep.equal(['step-3'])
    expect(chosenAfter(['step-1'], steps, { at: 9, last: 0, range: true })).to.deep.equal(['step-1'])
  })
})
