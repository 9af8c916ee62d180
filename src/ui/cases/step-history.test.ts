import { expect } from 'chai'
import fc from 'fast-check'
import type { DraftStep } from './draft.ts'
import { type History, noHistory, recorded, redone, type Said, undone } from './step-history.ts'

const step = (row: string, action: string): DraftStep => ({ id: null, action, expected: '', data: '', row })
const said = (...texts: [row: string, action: string][]): Said => ({
  preconditions: '',
  steps: texts.map(([row, action]) => step(row, action)),
})
const actions = ({ steps }: Said) => steps.map(({ action }) => action)

/** What is said, with all that was done to it, as a person goes on. */
function writing(start: Said) {
  let now = start
  let history: History = noHistory
  let at = 0
  const turn = (by: typeof undone, cell: string): boolean => {
    const turned = by(history, cell, now)
    if (turned) ({ said: now, history } = turned)
    return turned !== null
  }
  return {
    now: () => now,
    put: (next: Said, cell: string | null, pause = 5000) => {
      at += pause
      history = recorded(history, { before: now, after: next, cell, at })
      now = next
    },
    type: (row: string, action: string, pause = 5000) => {
      const next = { ...now, steps: now.steps.map((each) => (each.row === row ? { ...each, action } : each)) }
      at += pause
      history = recorded(history, { before: now, after: next, cell: `${row}:action`, at })
      now = next
    },
    undo: (cell = 'a:action') => turn(undone, cell),
    redo: (cell = 'a:action') => turn(redone, cell),
  }
}

const start = said(['a', 'Open'], ['b', 'Pay'], ['c', 'Leave'])

describe('what was done to steps', () => {
  it('is taken back in order, and done again: a step taken away, a move, a paste', () => {
    const own = writing(start)
    own.put(said(['a', 'Open'], ['c', 'Leave']), null)
    own.put(said(['c', 'Leave'], ['a', 'Open']), null)
    own.put(said(['c', 'Leave'], ['x', 'One'], ['y', 'Two'], ['a', 'Open']), null)
    own.undo()
    expect(actions(own.now())).to.deep.equal(['Leave', 'Open'])
    own.undo()
    expect(actions(own.now())).to.deep.equal(['Open', 'Leave'])
    own.undo()
    expect(actions(own.now())).to.deep.equal(['Open', 'Pay', 'Leave'])
    expect(own.undo()).to.equal(false)
    for (let n = 0; n < 3; n++) own.redo()
    expect(actions(own.now())).to.deep.equal(['Leave', 'One', 'Two', 'Open'])
    expect(own.redo()).to.equal(false)
  })
  it('leaves typing in another cell alone', () => {
    const own = writing(start)
    own.type('a', 'Open it')
    own.type('b', 'Pay it')
    own.undo('a:action')
    expect(actions(own.now())).to.deep.equal(['Open', 'Pay it', 'Leave'])
    expect(own.undo('a:action')).to.equal(false)
    own.undo('b:action')
    expect(actions(own.now())).to.deep.equal(['Open', 'Pay', 'Leave'])
  })
  it('keeps what was written since in a step that was there all the time, and in one that came with it', () => {
    const own = writing(start)
    own.put(said(['a', 'Open'], ['x', ''], ['b', 'Pay'], ['c', 'Leave']), null)
    own.type('b', 'Pay by card')
    own.undo('a:action')
    expect(actions(own.now())).to.deep.equal(['Open', 'Pay by card', 'Leave'])
    own.redo('a:action')
    own.type('x', 'Wave')
    own.undo('a:action')
    expect(actions(own.now())).to.deep.equal(['Open', 'Wave', 'Pay by card', 'Leave'])
  })
  it('takes letters typed in one go as one, and forgets what was taken back when one goes on', () => {
    const own = writing(start)
    own.type('a', 'Open t')
    own.type('a', 'Open th', 200)
    own.type('a', 'Open the', 200)
    own.type('a', 'Open the desk')
    own.undo()
    expect(actions(own.now())[0]).to.equal('Open the')
    own.undo()
    expect(actions(own.now())[0]).to.equal('Open')
    own.type('a', 'Close')
    expect(own.redo()).to.equal(false)
  })
  it('takes the preconditions back too, by their own cell', () => {
    const own = writing(start)
    own.put({ ...start, preconditions: 'A held place' }, 'before')
    expect(own.undo('a:action')).to.equal(false)
    own.undo('before')
    expect(own.now().preconditions).to.equal('')
  })
  it('comes back to the start when all of it is taken back, and to the end when all is done again', () => {
    const act = fc.oneof(
      fc.record({ what: fc.constant('add'), at: fc.nat(9) }),
      fc.record({ what: fc.constant('remove'), at: fc.nat(9) }),
      fc.record({ what: fc.constant('move'), at: fc.nat(9) }),
    )
    fc.assert(
      fc.property(fc.array(act, { maxLength: 12 }), (acts) => {
        const own = writing(start)
        acts.forEach(({ what, at }, n) => {
          const { steps } = own.now()
          const place = steps.length === 0 ? 0 : at % steps.length
          const [taken] = steps.slice(place, place + 1)
          const next =
            what === 'add' || !taken
              ? steps.toSpliced(place, 0, step(`new ${n}`, `New ${n}`))
              : what === 'remove'
                ? steps.toSpliced(place, 1)
                : steps.toSpliced(place, 1).toSpliced(0, 0, taken)
          own.put({ preconditions: '', steps: next }, null)
        })
        const end = own.now()
        while (own.undo());
        expect(own.now()).to.deep.equal(start)
        while (own.redo());
        expect(own.now()).to.deep.equal(end)
      }),
    )
  })
})
