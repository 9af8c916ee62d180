import { expect } from 'chai'
import fc from 'fast-check'
import type { BoundaryInput } from '#core/techniques/models.ts'
import {
  edgesOf,
  extentOf,
  isSaid,
  moved,
  placeOf,
  placesOf,
  shareOf,
  stepOf,
  stepsOfKey,
  valueAt,
} from './number-line.ts'

const part = (name: string, from?: string | number, to?: string | number) => ({ name, from, to, valid: true })
const age: BoundaryInput = {
  type: 'integer',
  partitions: [part('infant', 0, 3), part('child', 4, 15), part('adult', 16, undefined)],
}
const sailing: BoundaryInput = {
  type: 'date',
  partitions: [part('winter', '2026-11-01', '2027-02-28'), part('summer', '2027-03-01', '2027-10-31')],
}
const weight: BoundaryInput = {
  type: 'decimal',
  step: 0.25,
  partitions: [part('light', 0, 9.75), part('heavy', 10, 40)],
}
const edge = (input: BoundaryInput, partition: number, end: 'from' | 'to') =>
  edgesOf(input).find((each) => each.partition === partition && each.end === end)!

describe('values on a line', () => {
  it('lie where they are read from, dates by days', () => {
    expect(placeOf(age, '4')).to.equal(4)
    expect(placeOf(sailing, '1970-01-03')).to.equal(2 * stepOf(sailing))
    expect(placeOf(age, undefined)).to.equal(null)
    expect(placeOf(age, 'many')).to.equal(null)
    expect(placeOf(sailing, '2027-02-31x')).to.equal(null)
  })
  it('are the nearest a step allows', () => {
    expect(valueAt(age, 4.4)).to.equal(4)
    expect(valueAt(weight, 9.9)).to.equal(10)
    expect(valueAt(weight, 0.3)).to.equal(0.25)
    expect(valueAt(sailing, placeOf(sailing, '2026-12-24')! + 1000)).to.equal('2026-12-24')
  })
  it('come back from where they lie', () => {
    fc.assert(
      fc.property(fc.integer({ min: -10_000, max: 10_000 }), (steps) => {
        const value = valueAt(weight, steps * 0.25)
        expect(placeOf(weight, value)).to.be.closeTo(steps * 0.25, 1e-9)
      }),
    )
  })
})

describe('edges of partitions', () => {
  it('are those that have a value', () => {
    expect(edgesOf(age).map(({ partition, end, at }) => `${partition} ${end} ${at}`)).to.deep.equal([
      '0 from 0',
      '0 to 3',
      '1 from 4',
      '1 to 15',
      '2 from 16',
    ])
  })
  it('are shown with room on both sides, but no length is less than none', () => {
    const { first, last } = extentOf(age, edgesOf(age))
    expect([first, last]).to.deep.equal([-3, 19])
    expect(extentOf({ ...age, type: 'length' }, edgesOf(age)).first).to.equal(0)
    expect(shareOf({ first: 10, last: 30 }, 15)).to.equal(25)
  })
  it('take the neighbour along, so that no value is in none or in two', () => {
    const next = moved(age, edge(age, 0, 'to'), 5)!
    expect(next.map(({ from, to }) => [from, to])).to.deep.equal([
      [0, 5],
      [6, 15],
      [16, undefined],
    ])
    const back = moved(age, edge(age, 1, 'from'), 3)!
    expect(back.map(({ from, to }) => [from, to])).to.deep.equal([
      [0, 2],
      [3, 15],
      [16, undefined],
    ])
  })
  it('leave a neighbour alone that does not touch', () => {
    const apart: BoundaryInput = { ...age, partitions: [part('low', 0, 3), part('high', 10, 20)] }
    expect(moved(apart, edge(apart, 0, 'to'), 5)!.map(({ from }) => from)).to.deep.equal([0, 10])
  })
  it('move by days between dates', () => {
    const next = moved(sailing, edge(sailing, 0, 'to'), placeOf(sailing, '2027-03-05')!)!
    expect(next.map(({ from, to }) => `${from} ${to}`)).to.deep.equal([
      '2026-11-01 2027-03-05',
      '2027-03-06 2027-10-31',
    ])
  })
  it('do not move within a step', () => {
    expect(moved(age, edge(age, 0, 'to'), 3.4)).to.equal(null)
  })
  it('are said once where one partition follows the other', () => {
    const edges = edgesOf(age)
    expect(edges.filter((each) => isSaid(age, edges, each)).map(({ at }) => at)).to.deep.equal([0, 3, 15])
  })
  it('go by a step, or by ten with Shift', () => {
    expect(stepsOfKey({ key: 'ArrowLeft', shiftKey: false })).to.equal(-1)
    expect(stepsOfKey({ key: 'ArrowRight', shiftKey: true })).to.equal(10)
    expect(stepsOfKey({ key: 'Enter', shiftKey: false })).to.equal(0)
  })
})

describe('values written below a line', () => {
  it('stand on one level while they have room, and on further ones where they would touch', () => {
    const labels = [
      { end: 'to', at: 100, text: '2027-02-28' },
      { end: 'to', at: 300, text: '2027-10-31' },
      { end: 'to', at: 320, text: '2027-11-05' },
      { end: 'from', at: 305, text: '2027-11-01' },
    ] as const
    expect(placesOf(labels, 500).map(({ level }) => level)).to.deep.equal([0, 0, 1, 2])
    expect(placesOf([], 500)).to.deep.equal([])
  })
  it('turn to the other side where they would leave the line', () => {
    const labels = [
      { end: 'to', at: 30, text: '2027-02-28' },
      { end: 'from', at: 480, text: '2027-10-31' },
      { end: 'to', at: 300, text: '2027-06-30' },
    ] as const
    expect(placesOf(labels, 500).map(({ side }) => side)).to.deep.equal(['right', 'left', 'left'])
  })
  it('are never written over each other, however many there are', () => {
    const label = fc.record({
      end: fc.constantFrom('from' as const, 'to' as const),
      at: fc.integer({ min: 0, max: 500 }),
      text: fc.string({ minLength: 1, maxLength: 10 }),
    })
    fc.assert(
      fc.property(fc.array(label, { maxLength: 12 }), (labels) => {
        const spans = placesOf(labels, 500).map(({ level, side }, at) => {
          const { at: edge, text } = labels[at]!
          const wide = text.length * 6
          return { level, from: side === 'left' ? edge - wide : edge, to: side === 'left' ? edge : edge + wide }
        })
        for (const [at, one] of spans.entries())
          for (const other of spans.slice(at + 1))
            if (one.from < other.to && other.from < one.to && one.level !== null)
              expect(one.level).to.not.equal(other.level)
      }),
    )
  })
})
