import { expect } from 'chai'
import { minute, shop, type Shop } from '#test/app.ts'
import { execute, idOf, makeCase, makeDefect, makeRequirements, makeRun, makeSuite } from '#test/make.ts'
import { hideRows } from '#db/finding/search.ts'
import { defectsLinkedTo } from '#db/linked-defects.ts'
import {
  attemptCounts,
  attemptsOfCase,
  caseById,
  caseIds,
  firstRequirementOf,
  lastCasePosition,
  liveAmong,
  saveCase,
  suitesOfCase,
} from './cases.ts'
import { addFolder, casesInFolder, findFolder, folderById, folders, saveFolder } from './folders.ts'
import { addLink, endLink, linkById, openLinks, saveLink } from './links.ts'

describe('cases as they are stored', () => {
  let own: Shop
  let card: number
  let hold: number
  beforeEach(async () => {
    own = shop()
    card = await idOf(own.lead, await makeCase(own.lead, 'Pay by card'))
    hold = await idOf(own.lead, await makeCase(own.lead, 'Hold a place'))
  })
  const project = () => own.project().id

  it('attempts come newest first, with the version that was executed, and no more than asked for', async () => {
    const { items } = await makeRun(own, ['TC-1'])
    for (const verdict of ['Failed', 'Passed', 'Blocked'] as const) {
      own.pass(minute)
      await execute(own, items[0]?.id ?? 0, verdict)
    }
    const told = attemptsOfCase(own.db, card, 2)
    expect(told.map(({ verdict }) => verdict)).to.deep.equal(['Blocked', 'Passed'])
    expect(told[1]).to.deep.include({ environment: 'Red', build: '1.0.1', person: 'Tester Person' })
    expect(attemptsOfCase(own.db, hold, 9)).to.deep.equal([])
    expect(attemptCounts(own.db, [card, hold])).to.deep.equal(new Map([[card, 3]]))
  })

  it('a defect is of a case while it is linked and not deleted', async () => {
    const { items } = await makeRun(own, ['TC-1'])
    await makeDefect(own, await execute(own, items[0]?.id ?? 0, 'Failed'))
    expect(defectsLinkedTo(own.db, 'case', card)).to.deep.equal([
      { key: 'DF-1', title: 'It is not there', state: 'Reported', severity: 'Major', open: true },
    ])
    expect(defectsLinkedTo(own.db, 'case', hold)).to.deep.equal([])
    hideRows(own.db, 'defect', [1], own.now())
    expect(defectsLinkedTo(own.db, 'case', card)).to.deep.equal([])
  })

  it('suites are told while they are there', async () => {
    await makeSuite(own.lead, 'Smoke', ['TC-1'])
    await makeSuite(own.lead, 'Night', ['TC-1', 'TC-2'])
    expect(suitesOfCase(own.db, card).map(({ key, title }) => `${key} ${title}`)).to.deep.equal([
      'TS-1 Smoke',
      'TS-2 Night',
    ])
    hideRows(own.db, 'suite', [1], own.now())
    expect(suitesOfCase(own.db, card).map(({ key }) => key)).to.deep.equal(['TS-2'])
  })

  it('a retired case is there and not live; a deleted one is neither', () => {
    saveCase(own.db, hold, { retiredAt: own.now() })
    expect(liveAmong(own.db, project(), [card, hold])).to.deep.equal([card])
    expect(caseIds(own.db, project())).to.deep.equal([card, hold])
    hideRows(own.db, 'test_case', [card], own.now())
    expect(caseIds(own.db, project())).to.deep.equal([hold])
    expect(liveAmong(own.db, project() + 1, [card])).to.deep.equal([])
  })

  it('a hidden row has a newer version, so that nobody stores over it unaware', () => {
    const version = () => caseById(own.db, card)?.version ?? 0
    const before = version()
    hideRows(own.db, 'test_case', [card], own.now())
    expect(version()).to.equal(before + 1)
    expect(caseById(own.db, card)?.deletedAt).to.equal(own.now())
  })

  it('folders count what is in them and not deleted', () => {
    const till = addFolder(own.db, project(), 'Till', null)
    const drawer = addFolder(own.db, project(), 'Drawer', till)
    saveCase(own.db, card, { folderId: drawer })
    saveCase(own.db, hold, { folderId: drawer, position: 7 })
    const told = () => folders(own.db, project()).map(({ name, parent, cases }) => [name, parent, cases])
    expect(told()).to.deep.equal([
      ['Till', null, 0],
      ['Drawer', till, 2],
    ])
    hideRows(own.db, 'test_case', [hold], own.now())
    expect(told()[1]).to.deep.equal(['Drawer', till, 1])
    expect(casesInFolder(own.db, project(), drawer)).to.deep.equal([card])
    expect(lastCasePosition(own.db, project(), drawer)).to.equal(7)
  })

  it('a folder is found by its name where it is, and not once it is gone', () => {
    const till = addFolder(own.db, project(), 'Till', null)
    addFolder(own.db, project(), 'Till', till)
    expect(findFolder(own.db, project(), 'Till', null)).to.equal(till)
    expect(folderById(own.db, project() + 1, till)).to.equal(undefined)
    saveFolder(own.db, till, { name: 'Desk' })
    expect(findFolder(own.db, project(), 'Till', null)).to.equal(undefined)
    expect(folderById(own.db, project(), till)?.name).to.equal('Desk')
    saveFolder(own.db, till, { deletedAt: own.now() })
    expect(findFolder(own.db, project(), 'Desk', null)).to.equal(undefined)
  })

  it('a link is open until it is ended, and a case is placed by the first requirement it proves', async () => {
    await makeRequirements(own.lead, 'Payment', 'Boarding')
    const link = (requirementId: number) =>
      addLink(
        own.db,
        { projectId: project(), requirementId, caseId: card, revision: 1, versionId: null },
        { now: own.now(), personId: 'lead' },
      )
    expect([link(2), link(1), link(1)]).to.deep.equal([1, 2, null])
    expect(firstRequirementOf(own.db, project())).to.deep.equal([{ caseId: card, requirementId: 1, folderId: null }])
    const [first] = openLinks(own.db, { requirementId: 1 })
    saveLink(own.db, first?.id ?? 0, { stepId: null, quote: 'by card' })
    expect(linkById(own.db, project(), first?.id ?? 0)?.quote).to.equal('by card')
    expect(linkById(own.db, project() + 1, first?.id ?? 0)).to.equal(undefined)
    endLink(own.db, first?.id ?? 0, own.now())
    expect(openLinks(own.db, { caseId: card }).map(({ requirementId }) => requirementId)).to.deep.equal([2])
    expect(firstRequirementOf(own.db, project())[0]?.requirementId).to.equal(2)
  })
})
