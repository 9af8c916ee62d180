import { expect } from 'chai'
import { shop, type Shop } from '#test/app.ts'
import { addChange, addChanges, changesSince, lastChange, listChanges, type NewChange } from './changes.ts'

describe('history as it is stored', () => {
  let own: Shop
  let start: number
  beforeEach(() => {
    own = shop()
    start = lastChange(own.db, own.project().id)
  })
  const change = (ref: string, of: Partial<NewChange> = {}): NewChange =>
    ({
      projectId: own.project().id,
      at: own.now(),
      personId: 'lead',
      kind: 'case',
      ownerId: 1,
      ref,
      action: 'edited',
      detail: { title: ['Old', 'New'] },
      ...of,
    }) as NewChange
  const list = (of: { ref?: string; before?: number; limit?: number } = {}) =>
    listChanges(own.db, own.project().id, { limit: 10, ...of })

  it('a change tells who, what and from what to what', () => {
    const id = addChange(own.db, change('TC-1'))
    expect(list()[0]).to.deep.equal({
      id,
      at: own.now(),
      person: 'Lead Person',
      kind: 'case',
      ref: 'TC-1',
      action: 'edited',
      detail: { title: ['Old', 'New'] },
    })
  })
  it('a change without values says so, and one by nobody has no person', () => {
    addChange(own.db, change('TC-1', { detail: null, personId: null }))
    expect([list()[0]?.detail, list()[0]?.person]).to.deep.equal([null, null])
  })
  it('many at once are the same as one by one, in their order', () => {
    const all = ['TC-1', 'TC-2', 'TC-3'].map((ref) => change(ref, { detail: ref === 'TC-2' ? null : { n: [1, ref] } }))
    addChanges(own.db, all)
    const many = list()
    for (const each of all) addChange(own.db, each)
    expect(list({ limit: 3 }).map(({ id: _, ...rest }) => rest)).to.deep.equal(many.map(({ id: _, ...rest }) => rest))
    addChanges(own.db, [])
    expect(list()).to.have.lengthOf(6)
  })
  it('more than one statement can carry are written whole', () => {
    addChanges(
      own.db,
      Array.from({ length: 12_000 }, (_, index) => change(`TC-${index}`)),
    )
    expect(changesSince(own.db, own.project().id, start, 20_000)).to.have.lengthOf(12_000)
  })
  it('is read back page by page without a gap, newest first', () => {
    for (let at = 1; at <= 7; at++) addChange(own.db, change(`TC-${at}`))
    const first = list({ limit: 3 })
    const second = list({ limit: 3, before: first.at(-1)?.id ?? 0 })
    expect([...first, ...second].map(({ ref }) => ref)).to.deep.equal(['TC-7', 'TC-6', 'TC-5', 'TC-4', 'TC-3', 'TC-2'])
  })
  it('of one object is that of the object alone', () => {
    for (const ref of ['TC-1', 'TC-10', 'TC-1']) addChange(own.db, change(ref))
    expect(list({ ref: 'TC-1' })).to.have.lengthOf(2)
  })
  it('what is new since an event is told oldest first, of the own project only', () => {
    for (let at = 1; at <= 4; at++) addChange(own.db, change(`TC-${at}`))
    const since = changesSince(own.db, own.project().id, start + 1, 2)
    expect(since.map(({ ref }) => ref)).to.deep.equal(['TC-2', 'TC-3'])
    expect(changesSince(own.db, own.project().id + 1, 0, 9)).to.deep.equal([])
    expect(lastChange(own.db, own.project().id + 1)).to.equal(0)
  })
})
