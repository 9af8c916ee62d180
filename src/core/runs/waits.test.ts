import { expect } from 'chai'
import fc from 'fast-check'
import { goesRound, type Wait, waitState, waitWords } from './waits.ts'

const on = (key: string, over: boolean, kind: Wait['kind'] = 'defect'): Wait => ({ kind, key, over })

describe('what an item waits for', () => {
  it('holds until the last of it has come, and frees it then', () => {
    const one = [on('DF-1', true), on('DF-2', false)]
    expect([waitState(one, 'Not run'), waitWords(one, 'Not run')]).to.deep.equal(['waiting', 'waits for DF-2'])
    const both = [on('DF-1', true), on('TC-2', true, 'item')]
    expect([waitState(both, 'Blocked'), waitWords(both, 'Blocked')]).to.deep.equal(['freed', 'freed: DF-1, TC-2'])
  })
  it('is nothing to an item that was executed, unless it is blocked', () => {
    const waits = [on('DF-1', false)]
    expect(waitState(waits, 'Passed')).to.equal(null)
    expect(waitWords(waits, 'Failed')).to.equal('')
    expect(waitState(waits, 'Blocked')).to.equal('waiting')
  })
  it('is no event where a case ran before its turn', () => {
    expect(waitState([on('TC-1', true, 'case')], 'Not run')).to.equal(null)
    expect(waitState([on('TC-1', false, 'case')], 'Not run')).to.equal('waiting')
    expect(waitState([], 'Not run')).to.equal(null)
  })
  it('never goes round: items can be put in an order in which each comes behind what it waits for', () => {
    const pairs = fc.array(fc.tuple(fc.integer({ min: 0, max: 7 }), fc.integer({ min: 0, max: 7 })), { maxLength: 40 })
    fc.assert(
      fc.property(pairs, (asked) => {
        const waits = new Map<number, number[]>()
        for (const [item, other] of asked)
          if (!goesRound(item, other, waits)) waits.set(item, [...(waits.get(item) ?? []), other])
        let left = [...waits.keys()]
        for (;;) {
          const free = left.filter((item) => !(waits.get(item) ?? []).some((other) => left.includes(other)))
          if (free.length === 0) break
          left = left.filter((item) => !free.includes(item))
        }
        expect(left).to.deep.equal([])
      }),
    )
  })
  it('is refused only where it would go round', () => {
    expect(goesRound(1, 1, new Map())).to.equal(true)
    expect(goesRound(1, 3, new Map([[3, [2]]]))).to.equal(false)
    expect(
      goesRound(
        1,
        3,
        new Map([
          [3, [2]],
          [2, [1]],
        ]),
      ),
    ).to.equal(true)
  })
})
