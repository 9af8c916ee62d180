import { expect } from 'chai'
import { merged } from '#core/cases/merge.ts'
import { canJoin, type Choice, decided, openClash, placeName } from './clashes.ts'
import { type Content, draftAfter, draftOf } from './draft.ts'

let rows = 0
const newRow = () => `new-${++rows}`
const step = (id: number, action: string) => ({ id, action, expected: '', data: '' })
const said = (of: Partial<Content> = {}): Content => ({
  preconditions: '',
  steps: [step(1, 'Open'), step(2, 'Pay')],
  parameters: [],
  rows: [],
  ...of,
})

/** The one clash of two changes, and what each choice makes of the draft. */
function clashOf(mine: Content, theirs: Content) {
  const { content, clashes } = merged(said(), mine, theirs)
  const draft = draftAfter({ ...said(), ...content } as Content, draftOf(said(), newRow), newRow)
  const [clash] = clashes
  if (!clash || clashes.length > 1) throw new Error(`${clashes.length} clashes`)
  const open = openClash(clash, draft)
  const after = (choice: Choice) => decided(draft, open, choice, theirs)
  return { open, draft, after, actions: (choice: Choice) => after(choice).steps.map(({ action }) => action) }
}

describe('where two wrote in one place', () => {
  it('a text is one of both, or both, theirs first', () => {
    const { open, draft, actions } = clashOf(
      said({ steps: [step(1, 'Open the window'), step(2, 'Pay')] }),
      said({ steps: [step(1, 'Open the door'), step(2, 'Pay')] }),
    )
    expect(placeName(open, draft)).to.equal('Step 1, action')
    expect(canJoin(open)).to.equal(true)
    expect(actions('mine')).to.deep.equal(['Open the window', 'Pay'])
    expect(actions('theirs')).to.deep.equal(['Open the door', 'Pay'])
    expect(actions('both')).to.deep.equal(['Open the door\nOpen the window', 'Pay'])
  })
  it('texts with marks are joined as paragraphs', () => {
    const { after } = clashOf(said({ preconditions: '<p>A <b>held</b> place</p>' }), said({ preconditions: 'A ship' }))
    expect(after('both').preconditions).to.equal('<p>A ship</p><p>A <b>held</b> place</p>')
    expect(after('theirs').preconditions).to.equal('A ship')
  })
  it('a step that one took away goes or stays, and cannot be joined', () => {
    const mineGone = clashOf(
      said({ steps: [step(1, 'Open')] }),
      said({ steps: [step(1, 'Open'), step(2, 'Pay twice')] }),
    )
    expect(placeName(mineGone.open, mineGone.draft)).to.equal('Step 2')
    expect(canJoin(mineGone.open)).to.equal(false)
    expect(mineGone.actions('mine')).to.deep.equal(['Open'])
    expect(mineGone.actions('theirs')).to.deep.equal(['Open', 'Pay twice'])
    const theirsGone = clashOf(
      said({ steps: [step(1, 'Open'), step(2, 'Pay twice')] }),
      said({ steps: [step(1, 'Open')] }),
    )
    expect(theirsGone.actions('mine')).to.deep.equal(['Open', 'Pay twice'])
    expect(theirsGone.actions('theirs')).to.deep.equal(['Open'])
  })
  it('parts beside the steps are one of both', () => {
    const { open, draft, after } = clashOf(said({ needs: ['TC-2'] }), said({ needs: ['TC-3'] }))
    expect(placeName(open, draft)).to.equal('What it needs')
    expect(canJoin(open)).to.equal(false)
    expect(after('mine').needs).to.deep.equal(['TC-2'])
    expect(after('theirs').needs).to.deep.equal(['TC-3'])
  })
  it('a step moved meanwhile is still found; one that is gone is let be', () => {
    const { open, draft } = clashOf(
      said({ steps: [step(1, 'Open the window'), step(2, 'Pay')] }),
      said({ steps: [step(1, 'Open the door'), step(2, 'Pay')] }),
    )
    const turned = { ...draft, steps: draft.steps.toReversed() }
    expect(decided(turned, open, 'theirs', said()).steps.map(({ action }) => action)).to.deep.equal([
      'Pay',
      'Open the door',
    ])
    const gone = { ...draft, steps: draft.steps.slice(1) }
    expect(decided(gone, open, 'theirs', said())).to.equal(gone)
    expect(placeName(open, gone)).to.equal('A step that is gone, action')
  })
})

it('steps keep their place on the page when other content takes theirs', () => {
  const before = draftOf(said(), newRow)
  const typed = { ...before, steps: [...before.steps, { ...step(0, 'New'), id: null, row: 'mine' }] }
  const after = draftAfter(
    said({ steps: [step(2, 'Pay'), { ...step(0, 'New'), id: null }, step(9, 'Theirs')] }),
    typed,
    newRow,
  )
  expect(after.steps.map(({ row }) => row)).to.deep.equal(['step-2', 'mine', 'step-9'])
})
