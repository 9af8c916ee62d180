import { expect } from 'chai'
import type { Used } from '#core/cases/contract.ts'
import { adopted, contentOf, draftOf, usedBy, withParameters } from './draft.ts'

let rows = 0
const newRow = () => `new-${++rows}`
const step = (id: number | null, action: string) => ({ id, action, expected: '', data: '' })
const content = { preconditions: '', steps: [step(1, 'Open'), step(null, 'Tap')], parameters: [], rows: [] }
const use = { kind: 'routine' as const, version: 4, ref: 'RT-1', name: '1.0', values: { port: '' } }
const used: Used[] = [
  {
    kind: 'routine',
    version: 4,
    ref: 'RT-1',
    name: '1.0',
    title: 'Sign in',
    newest: null,
    parameters: ['clerk', 'port'],
    steps: [],
  } as Used,
]

describe('what is written of a case', () => {
  it('has a place on the page for every step, and is sent without it', () => {
    const draft = draftOf(content, newRow)
    expect(draft.steps[0]!.row).to.equal('step-1')
    expect(draft.steps[1]!.row).to.match(/^new-/)
    expect(contentOf(draft)).to.deep.equal(content)
  })
  it('is sent with what it needs, and without what it does not say', () => {
    const draft = { ...draftOf(content, newRow), needs: ['TC-2'], environment: '' }
    expect(contentOf(draft)).to.deep.equal({ ...content, needs: ['TC-2'], environment: '' })
  })
})

describe('what the server answers', () => {
  const draft = draftOf(content, newRow)
  it('gives new steps their identity, while they stay where they are', () => {
    const next = adopted(draft, { ...content, steps: [step(1, 'Open'), step(7, 'Tap')] })
    expect(next.steps.map(({ id, row }) => [id, row])).to.deep.equal([
      [1, 'step-1'],
      [7, draft.steps[1]!.row],
    ])
  })
  it('passes over steps that say nothing yet', () => {
    const typing = { ...draft, steps: [draft.steps[0]!, { ...step(null, ''), row: 'x' }, draft.steps[1]!] }
    const next = adopted(typing, { ...content, steps: [step(1, 'Open'), step(7, 'Tap')] })
    expect(next.steps.map(({ id }) => id)).to.deep.equal([1, null, 7])
  })
  it('is left alone when there are more or fewer steps by now', () => {
    expect(adopted(draft, { ...content, steps: [step(1, 'Open')] })).to.equal(draft)
  })
  it('pins what was inserted', () => {
    const inserting = { ...draft, steps: [{ ...step(null, 'Sign in'), use: { ...use, version: 0 }, row: 'a' }] }
    const next = adopted(inserting, { ...content, steps: [{ ...step(9, 'Sign in as a clerk'), use }] })
    expect(next.steps[0]).to.deep.include({ id: 9, action: 'Sign in as a clerk', use, row: 'a' })
  })
})

describe('parameters of what is written', () => {
  it('are those its texts name, those its rows give values for, and those an inserted routine is given none for', () => {
    const draft = draftOf({ ...content, steps: [step(1, 'Pay with {card}'), { ...step(2, 'Sign in'), use }] }, newRow)
    const full = { ...draft, parameters: ['old', 'kept'], rows: [{ kept: 'x', old: '' }] }
    expect(withParameters(full, used).parameters).to.have.members(['card', 'clerk', 'port', 'kept'])
    const given = { ...full, steps: [{ ...full.steps[1]!, use: { ...use, values: { clerk: 'Mira', port: 'Ove' } } }] }
    expect(withParameters(given, used).parameters).to.deep.equal(['kept'])
  })
  it('are not known of what is not fetched yet', () => {
    expect(usedBy({ use: { ...use, version: 5 } }, used)).to.equal(undefined)
    expect(usedBy({}, used)).to.equal(undefined)
    expect(usedBy({ use }, used)).to.equal(used[0])
  })
})
