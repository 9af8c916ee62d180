import { expect } from 'chai'
import { listCases, updateCase } from '#core/cases/contract.ts'
import { listPlans, readPlan, readPlanSince, updatePlan } from '#core/plans/contract.ts'
import { addCriterion } from '#core/plans/criteria-contract.ts'
import { pinCases, readSuite } from '#core/plans/suite-contract.ts'
import { answerPlanReview, askPlanReview, listPlanVersions, readPlanVersion } from '#core/plans/versions-contract.ts'
import { readToday, updateRelease } from '#core/projects/contract.ts'
import { readCoverage } from '#core/reports/contract.ts'
import { addComment, listComments, listInbox } from '#core/talk/contract.ts'
import { day, minute, type Person, shop, type Shop } from '#test/app.ts'
import { idsOf, makeCase, makePlan, makeRequirements } from '#test/make.ts'

const params = { ref: 'PL-1' }
const one = { ...params, version: 1 }

describe('versions of a plan', () => {
  let of: Shop
  let second: Person
  let cases: string[]
  beforeEach(async () => {
    of = shop()
    second = of.as('second')
    const [fares = ''] = await makeRequirements(of.lead, 'Fares')
    cases = [await makeCase(of.lead, 'One', { proves: fares }), await makeCase(of.lead, 'Two', { proves: fares })]
    await makePlan(of, cases, [of.environments[0] ?? 0])
  })
  const plan = () => of.lead.ask(readPlan, { params })
  const edit = async (body: object) => of.lead.ask(updatePlan, { params, body, version: (await plan()).version })
  const putUp = (people: string[] = ['tester', 'second'], note = '') =>
    of.lead.ask(askPlanReview, { params, body: { people, note } })
  const answer = (by: Person, said: 'approved' | 'sent back', words = '', version = 1) =>
    by.ask(answerPlanReview, { params: { ...params, version }, body: { answer: said, words } })
  const states = async () => (await of.lead.ask(listPlanVersions, { params })).rows.map(({ state }) => state)

  describe('put up for review', () => {
    it('asks people, who find it on their first page and in their inbox, and is signed off when all have signed', async () => {
      await putUp(['tester', 'second'], 'The first one')
      expect((await plan()).state).to.equal('In review')
      const { reviews } = await of.tester.ask(readToday)
      expect(reviews.map(({ ref, version }) => [ref, version])).to.deep.equal([['PL-1', '1']])
      expect((await of.tester.ask(listInbox)).rows[0]?.text).to.equal('asks you to review and sign The plan, version 1')
      expect(await answer(of.tester, 'approved')).to.deep.equal({ state: 'In review' })
      expect((await of.tester.ask(readToday)).reviews).to.deep.equal([])
      expect(await answer(second, 'approved', 'Go.')).to.deep.equal({ state: 'Signed off' })
      const { state, signed, asked } = await plan()
      expect([state, signed?.by, signed?.stale, asked]).to.deep.equal([
        'Signed off',
        ['Second Person', 'Tester Person'],
        '',
        null,
      ])
      const told = (await of.lead.ask(listInbox)).rows.map(({ text }) => text)
      expect(told[0]).to.equal('approved, the last of all: The plan, version 1. Go.')
      const { acts } = await of.viewer.ask(readPlanSince, { params, query: { since: 0 } })
      expect(acts.map(({ action }) => action).slice(0, 3)).to.deep.equal(['signed off', 'approved', 'review asked'])
    })
    it('is sent back with words, and then waits for nobody', async () => {
      await putUp()
      const { detail, fields } = await of.tester.refused(answerPlanReview, {
        params: one,
        body: { answer: 'sent back' },
      })
      expect([detail, fields]).to.deep.equal(['Say what is missing; nothing was stored.', ['words']])
      await answer(of.tester, 'sent back', 'No risk is named')
      expect([(await plan()).state, await states()]).to.deep.equal(['Drafting', ['Sent back']])
      const late = await second.refused(answerPlanReview, { params: one, body: { answer: 'approved' } })
      expect([late.status, late.detail]).to.deep.equal([
        422,
        'Version 1 of PL-1 is sent back and waits for nobody any more; nothing was stored. Your words are kept here.',
      ])
    })
    it('cannot be signed when the plan changed meanwhile, which says what did; it can be put up again', async () => {
      await putUp()
      await of.lead.ask(addCriterion, { params, body: { side: 'exit', rule: { kind: 'runs' } } })
      expect((await plan()).asked?.stale).to.equal('exit criterion')
      const { status, detail } = await of.tester.refused(answerPlanReview, {
        params: one,
        body: { answer: 'approved', words: 'Fine' },
      })
      expect(status).to.equal(422)
      expect(detail).to.equal(
        'PL-1 changed after version 1 was put up (exit criterion), so what you would sign is not what it says now. Nothing was signed; your words are kept here. It has to be put up again, or sent back.',
      )
      expect((await plan()).asked?.signatures.every((each) => each.answer === null)).to.equal(true)
      await putUp()
      expect(await states()).to.deep.equal(['In review', 'Withdrawn'])
      await answer(of.tester, 'approved', '', 2)
      expect(await answer(second, 'approved', '', 2)).to.deep.equal({ state: 'Signed off' })
    })
    it('asks nobody who put it up, who only reads, or who is of another project; and answers nobody who was not asked', async () => {
      const ask = async (people: string[]) =>
        (await of.lead.refused(askPlanReview, { params, body: { people } })).detail
      expect(await ask(['lead'])).to.match(/^You put this plan up yourself/)
      expect(await ask(['viewer'])).to.match(/cannot sign in this project; nobody was asked/)
      expect(await ask([])).to.match(/nobody is asked/)
      expect((await of.lead.refused(askPlanReview, { params, body: { people: ['stranger'] } })).status).to.be.within(
        400,
        404,
      )
      expect(await states()).to.deep.equal([])
      await putUp(['tester'])
      const { detail } = await second.refused(answerPlanReview, { params: one, body: { answer: 'approved' } })
      expect(detail).to.equal('You were not asked about Version 1 of PL-1; nothing was stored.')
      expect(
        (await of.viewer.refused(answerPlanReview, { params: one, body: { answer: 'approved' } })).status,
      ).to.equal(403)
      expect(
        (await of.tester.refused(answerPlanReview, { params: { ...params, version: 7 }, body: { answer: 'approved' } }))
          .status,
      ).to.equal(404)
    })
    it('takes another answer of the same person until all have answered', async () => {
      await putUp()
      await answer(of.tester, 'approved', 'Good')
      await answer(of.tester, 'sent back', 'No, wait')
      expect(await states()).to.deep.equal(['Sent back'])
    })
    it('is withdrawn by drafting again, and put back by undoing that; by hand nobody signs', async () => {
      const version = (await plan()).version
      for (const state of ['In review', 'Signed off'] as const)
        expect((await of.lead.refused(updatePlan, { params, body: { state }, version })).detail).to.match(
          /ask for a review/,
        )
      await putUp()
      await edit({ state: 'Drafting' })
      expect(await states()).to.deep.equal(['Withdrawn'])
      await edit({ state: 'In review' })
      expect(await states()).to.deep.equal(['In review'])
      await answer(of.tester, 'approved')
      await answer(second, 'approved')
      await edit({ state: 'Closed' })
      await edit({ state: 'Signed off' })
      expect((await plan()).state).to.equal('Signed off')
    })
    it('is talked about part by part', async () => {
      await of.tester.ask(addComment, { body: { ref: 'PL-1', part: 'where', text: '<p>Which bench?</p>' } })
      const { rows } = await of.viewer.ask(listComments, { query: { ref: 'PL-1' } })
      expect(rows.map(({ part, text }) => [part, text])).to.deep.equal([['where', '<p>Which bench?</p>']])
      const { detail } = await of.tester.refused(addComment, { body: { ref: 'TC-1', part: 'where', text: 'x' } })
      expect(detail).to.equal('TC-1 has no parts to comment on; nothing was stored.')
    })
  })

  describe('signed', () => {
    beforeEach(async () => {
      await putUp()
      await answer(of.tester, 'approved')
      await answer(second, 'approved')
      of.pass(minute)
    })
    it('go stale with what is said, not with how requirements and cases are worded; members are counted beside', async () => {
      const [id = 0] = await idsOf(of.lead, ['TC-1'])
      await of.lead.ask(updateCase, {
        params: { ref: 'TC-1' },
        body: { title: 'Another name' },
        version: (await of.lead.ask(listCases, { query: { ids: String(id) } })).rows[0]?.version ?? 0,
      })
      expect((await plan()).signed?.stale).to.equal('')
      const third = await makeCase(of.lead, 'Three')
      await of.lead.ask(pinCases, { params: { ref: 'TS-1' }, body: { add: [third] } })
      await edit({ risks: [{ title: 'A storm', likelihood: 2, impact: 5 }] })
      const { signed } = await plan()
      expect(signed).to.include({ stale: 'risk, suite', changes: 2, came: 1, went: 0 })
      const { comparison, signedBefore } = await of.viewer.ask(readPlanVersion, { params: one })
      expect(signedBefore).to.equal(null)
      expect(comparison.changes.map(({ kind, before, after }) => [kind, before, after])).to.deep.equal([
        ['Risk', null, 'likelihood 2 × impact 5'],
        ['Suite', 'pinned TC-1, TC-2', 'pinned TC-1, TC-2, TC-3'],
      ])
      expect([comparison.came.map(({ key }) => key), comparison.went]).to.deep.equal([['TC-3'], []])
    })
    it('are compared with each other, the older first whichever is asked for', async () => {
      await edit({ suites: [] })
      await putUp()
      const newer = await of.viewer.ask(readPlanVersion, { params: { ...params, version: 2 }, query: { with: 1 } })
      expect([newer.signedBefore, newer.cases, newer.comparison.wentTotal]).to.deep.equal([1, 0, 2])
      const older = await of.viewer.ask(readPlanVersion, { params: one, query: { with: 2 } })
      expect(older.comparison.changes).to.deep.equal(newer.comparison.changes)
      expect(newer.comparison.changes.map(({ kind, after }) => [kind, after])).to.deep.equal([['Suite', null]])
    })
    it('are an instant since which a suite tells what changed', async () => {
      expect((await of.lead.ask(readSuite, { params: { ref: 'TS-1' } })).versions).to.deep.equal([
        { key: 'PL-1', version: 1, at: of.now() - minute },
      ])
    })
  })

  describe('that answer for a plan', () => {
    const asked = async () => {
      const { total } = await of.lead.ask(readCoverage, { query: { release: '1.0' } })
      return total.figures.slots
    }
    /** Cases that prove something already join the plan: each is asked in its two environments then, and in any before. */
    let spare: string[]
    beforeEach(async () => {
      spare = [
        await makeCase(of.lead, 'Three', { proves: 'RQ-1' }),
        await makeCase(of.lead, 'Four', { proves: 'RQ-1' }),
      ]
      await edit({ environments: [...of.environments] })
      expect(await asked()).to.equal(6)
    })
    const grow = (n: number) => of.lead.ask(pinCases, { params: { ref: 'TS-1' }, body: { add: spare.slice(0, n) } })
    it('do so once it is closed: what joins its suites later changes no figure of it, until it is opened again', async () => {
      await putUp()
      await answer(of.tester, 'approved')
      await answer(second, 'approved')
      await edit({ state: 'Closed' })
      expect([(await plan()).frozen, (await plan()).cases]).to.deep.equal([1, 2])
      await grow(2)
      expect([await asked(), (await plan()).cases]).to.deep.equal([6, 2])
      expect((await of.lead.ask(listPlans)).rows[0]?.cases).to.equal(2)
      expect((await plan()).signed).to.include({ came: 2, stale: 'suite' })
      await edit({ state: 'Signed off' })
      expect([await asked(), (await plan()).frozen, (await plan()).cases]).to.deep.equal([8, null, 4])
    })
    it('are the plan as it stood where nobody signed it, or it has changed since', async () => {
      await edit({ state: 'Closed' })
      const { rows } = await of.lead.ask(listPlanVersions, { params })
      expect(rows.map(({ state, note, cases: n }) => [state, note, n])).to.deep.equal([['Kept', 'closed', 2]])
      expect((await plan()).frozen).to.equal(1)
    })
    it('do so once its release has shipped; the plan is not changed then, and lives again when it is not shipped any more', async () => {
      const id = of.release
      await of.lead.ask(updateRelease, { params: { id }, body: { state: 'Shipped' } })
      await grow(1)
      expect([await asked(), (await plan()).cases, (await plan()).frozen]).to.deep.equal([6, 2, 1])
      const { detail } = await of.lead.refused(updatePlan, {
        params,
        body: { title: 'Later' },
        version: (await plan()).version,
      })
      expect(detail).to.equal('The release of PL-1 has shipped, and the plan stays as it was; nothing was stored.')
      expect((await of.lead.refused(askPlanReview, { params, body: { people: ['tester'] } })).detail).to.equal(detail)
      await edit({ state: 'Closed' })
      await of.lead.ask(updateRelease, { params: { id }, body: { state: 'In test' } })
      expect((await plan()).frozen).to.equal(1)
      await edit({ state: 'Drafting' })
      expect([(await plan()).frozen, (await plan()).cases]).to.deep.equal([null, 3])
    })
    it('do so as of an instant after that, and not before', async () => {
      of.pass(day)
      await grow(1)
      of.pass(minute)
      const before = of.now()
      of.pass(day)
      await of.lead.ask(pinCases, { params: { ref: 'TS-1' }, body: { remove: await idsOf(of.lead, cases) } })
      await edit({ state: 'Closed' })
      of.pass(minute)
      const as = async (asOf: number) =>
        (await of.lead.ask(readCoverage, { query: { release: '1.0', asOf } })).total.figures.slots
      expect([await as(before), await as(of.now()), await asked()]).to.deep.equal([7, 5, 5])
    })
  })
})
