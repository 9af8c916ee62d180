import { expect } from 'chai'
import { partsOf } from './cell-steps.ts'
import { depthOf, emptyMapping, guessMapping as guessed } from './guess-mapping.ts'
import { fieldsByColumn } from './mapping.ts'
import type { Mapping } from './mapping.ts'
import type { Sheet } from './shapes.ts'

const sheet = (...rows: readonly (readonly string[])[]): Sheet => ({
  name: 'Sheet',
  rows: rows.map((cells, index) => ({ line: index + 1, cells })),
})

const guessMapping: (...of: Parameters<typeof guessed>) => Mapping | null = (...of) => guessed(...of)?.mapping ?? null

describe('a guessed mapping', () => {
  it('passes over titles and empty rows above the header', () => {
    const guess = guessMapping(
      sheet(['Cases of the harbour office'], [], ['Id', 'Case', 'Step', 'Expected'], [], ['1', 'Pay', 'Tap', 'Paid']),
      null,
    )
    expect(guess).to.deep.include({ what: 'cases', header: 3, first: 5 })
    expect(guess?.columns).to.deep.equal({ A: 'id', B: 'title', C: 'action', D: 'expected' })
  })
  it('is none where nothing is known by name', () => {
    expect(guessMapping(sheet(['Colour', 'Size'], ['red', '4']), null)).to.equal(null)
  })
  it('takes lines at several depths for an outline', () => {
    const guess = guessMapping(sheet(['Booking'], ['', 'Hold'], ['', 'Pay']), null)
    expect(guess).to.deep.include({ layout: 'an outline by indent', header: null, first: 1 })
  })
  it('sees steps that stand in one cell', () => {
    const guess = guessMapping(
      sheet(['Case', 'Steps'], ['Pay', '1. Open\n2. Tap'], ['Hold', '1. Choose\n2. Hold']),
      null,
    )
    expect(guess?.layout).to.equal('steps in one cell')
  })
  it('tells an id of the case from the number of a step', () => {
    const head = ['Id', 'Case', 'Step']
    const numbered = guessMapping(sheet(head, ['1', 'Pay', 'Open'], ['2', 'Pay', 'Tap'], ['1', 'Hold', 'Choose']), null)
    const keyed = guessMapping(sheet(head, ['A', 'Pay', 'Open'], ['A', '', 'Tap'], ['B', 'Pay', 'Choose']), null)
    expect(keyed?.begins).to.equal('id')
    expect(numbered?.begins).to.be.oneOf(['id', 'title'])
  })
})

describe('a mapping to be filled in', () => {
  it('takes the widest of the first rows for the headers', () => {
    const empty = emptyMapping(sheet(['List'], ['Title', 'Colour', 'Size'], ['Pay', 'red', '4']), 'cases')
    expect(empty).to.deep.include({ header: 2, first: 3 })
    expect(empty.columns).to.deep.equal({ A: 'title' })
  })
  it('tells the field of each column by its place', () => {
    const mapping = emptyMapping(sheet(['Title']), 'cases')
    expect(fieldsByColumn({ ...mapping, columns: { A: 'title', D: 'data' } })).to.deep.equal([
      'title',
      null,
      null,
      'data',
    ])
    expect(fieldsByColumn({ ...mapping, columns: {} })).to.deep.equal([])
  })
})

describe('text in a cell', () => {
  it('is a numbered list when its numbers count on from one', () => {
    const texts = (text: string) => partsOf(text)?.parts.map((part) => part.text) ?? []
    expect(texts('1. Open\n2) Tap\nthen wait\nStep 3: Look')).to.deep.equal(['Open', 'Tap\nthen wait', 'Look'])
    expect(texts('Open\n1. Tap')).to.deep.equal([])
  })
  it('stands as deep as its first filled cell and the room before it', () => {
    const depth = (...cells: string[]) => depthOf({ line: 1, cells })
    expect([depth('a'), depth('', 'a'), depth('  a'), depth('\ta'), depth('', '  a')]).to.deep.equal([0, 1, 1, 1, 2])
  })
})
