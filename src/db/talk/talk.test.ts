import { expect } from 'chai'
import { shop, type Shop } from '#test/app.ts'
import { caseOf, idOf, makeCase } from '#test/make.ts'
import { markNotices, noticesOf, tell, unreadOf } from './inbox.ts'
import {
  addAttachment,
  addComment,
  allHashes,
  attachmentsOf,
  findAttachment,
  hideAttachment,
  listComments,
  stepComments,
} from './queries.ts'

describe('what people say to each other, as it is stored', () => {
  let own: Shop
  let project: number
  beforeEach(() => {
    own = shop()
    project = own.project().id
  })
  const say = (text: string, of: { to?: string; from?: string } = {}) =>
    tell(own.db, {
      projectId: project,
      personId: of.to ?? 'lead',
      kind: 'mention',
      ref: 'TC-1',
      text,
      fromId: of.from ?? 'tester',
      at: own.now(),
    })
  const texts = (before?: number, limit = 10) => noticesOf(own.db, project, 'lead', { limit, before })

  it('nobody is told what they said themselves', () => {
    say('to myself', { from: 'lead' })
    expect(texts()).to.deep.equal([])
  })
  it('notices come newest first, page by page, each with who it is from', () => {
    for (const text of ['one', 'two', 'three']) say(text)
    say('for another', { to: 'second' })
    const first = texts(undefined, 2)
    expect(first.map(({ text, from }) => [text, from])).to.deep.equal([
      ['three', 'Tester Person'],
      ['two', 'Tester Person'],
    ])
    expect(texts(first[1]?.id).map(({ text }) => text)).to.deep.equal(['one'])
  })
  it('a long text is told by its beginning', () => {
    say('x'.repeat(1000))
    expect(texts()[0]?.text).to.have.lengthOf(300)
  })
  it('what is read counts no more, and can be made unread; only by whose it is', () => {
    say('one')
    say('two')
    const [two] = texts()
    markNotices(own.db, 'second', [two?.id ?? 0], own.now())
    expect(unreadOf(own.db, project, 'lead')).to.equal(2)
    markNotices(own.db, 'lead', [two?.id ?? 0], own.now())
    expect([unreadOf(own.db, project, 'lead'), texts()[0]?.readAt]).to.deep.equal([1, own.now()])
    markNotices(own.db, 'lead', [two?.id ?? 0], null)
    expect(unreadOf(own.db, project, 'lead')).to.equal(2)
    expect(unreadOf(own.db, project + 1, 'lead')).to.equal(0)
  })
  it('comments of a step are counted at the step, and all are told in their order', async () => {
    const key = await makeCase(own.lead, 'Pay by card')
    const ownerId = await idOf(own.lead, key)
    const step = (await caseOf(own.lead, key)).content.steps[0]?.id ?? 0
    const comment = (text: string, stepId: number | null) =>
      addComment(own.db, {
        projectId: project,
        ownerKind: 'case',
        ownerId,
        stepId,
        text,
        at: own.now(),
        personId: 'lead',
      })
    comment('Why so?', step)
    comment('Because.', step)
    comment('Of the whole', null)
    expect(stepComments(own.db, ownerId)).to.deep.equal([{ step, n: 2 }])
    expect(listComments(own.db, 'case', ownerId).map(({ text }) => text)).to.deep.equal([
      'Why so?',
      'Because.',
      'Of the whole',
    ])
    expect(listComments(own.db, 'defect', ownerId)).to.deep.equal([])
  })
  it('a file that is hidden is told no more, comes back whole, and its bytes are still counted', () => {
    const file = (name: string, hash: string) =>
      addAttachment(own.db, {
        projectId: project,
        ownerKind: 'case',
        ownerId: 1,
        name,
        hash,
        size: 3,
        mime: 'text/plain',
        at: own.now(),
        personId: 'lead',
      })
    const [first] = [file('a.txt', 'abc'), file('same.txt', 'abc'), file('b.txt', 'def')]
    hideAttachment(own.db, first ?? 0, own.now())
    const names = () => attachmentsOf(own.db, 'case', 1).map(({ name }) => name)
    expect(names()).to.deep.equal(['same.txt', 'b.txt'])
    expect(allHashes(own.db).map(({ hash }) => hash)).to.have.members(['abc', 'def'])
    hideAttachment(own.db, first ?? 0, null)
    expect(names()).to.deep.equal(['a.txt', 'same.txt', 'b.txt'])
    expect(findAttachment(own.db, project + 1, first ?? 0)).to.equal(undefined)
  })
})
