import { expect } from 'chai'
import { listHistory } from '#core/history/contract.ts'
import type { BodyOf } from '#core/lib/contract.ts'
import { readProject } from '#core/projects/contract.ts'
import {
  addReason,
  addVerdict,
  copyVerdict,
  orderVerdicts,
  retireReason,
  setPolicy,
  updateVerdict,
} from '#core/projects/words-contract.ts'
import { listItems, readRun, updateRun } from '#core/runs/contract.ts'
import { readDesk, recordStep, recordWhole } from '#core/runs/desk-contract.ts'
import { setReason } from '#core/runs/note-contract.ts'
import { giveVerdicts } from '#core/runs/many-contract.ts'
import { usualPolicy } from '#core/projects/policy.ts'
import { addMember } from '#db/people/members.ts'
import { addProject } from '#db/projects/projects.ts'
import { replayAttempts } from '#db/runs/replay.ts'
import { minute, type Shop, shop } from '#test/app.ts'
import { execute, makeCase, makeRun, sent, start } from '#test/make.ts'

const known: BodyOf<typeof addVerdict> = {
  word: 'Known fault',
  countsAs: 'Failed',
  final: true,
  forItems: true,
  forSteps: true,
  sign: 'bar',
  tint: 'amber',
}
const open = { ...known, word: 'To be looked at', countsAs: 'Inconclusive', final: false } as const
const add = (of: Shop, body: BodyOf<typeof addVerdict>) => of.lead.ask(addVerdict, { body })
const kinds = async (of: Shop) => (await of.lead.ask(readProject)).verdictKinds
const oneItem = async (of: Shop) => {
  const run = await makeRun(of, [await makeCase(of.lead, 'Pays', { steps: ['Do', 'Look'] })])
  return { ...run, id: run.items[0]?.id ?? 0 }
}
const say = (of: Shop, attempt: number, word: string, claim: object = {}) => ({
  params: { id: attempt },
  body: { verdict: 'Passed' as const, word, ...sent(of), ...claim },
})

describe('a verdict of the project’s own', () => {
  it('is had in other projects that one leads, once, and each keeps its own from then on', async () => {
    const of = shop()
    const { id } = await add(of, known)
    const other = addProject(of.db, {
      key: 'DEPOT',
      name: 'Depot',
      product: 'Depot',
      createdAt: of.now(),
    })
    addMember(of.db, other, 'lead', { role: 'lead' })
    const copy = (projects: string[]) => of.lead.ask(copyVerdict, { params: { id }, body: { projects } })
    expect(await copy(['DEPOT', 'NOWHERE', 'SHOP'])).to.deep.equal({
      added: ['DEPOT'],
      left: ['NOWHERE', 'SHOP'].map((project) => ({ project, why: 'it is no other project you lead' })),
    })
    const there = async () => (await of.lead.ask(readProject, { params: { key: 'DEPOT' } })).verdictKinds
    expect((await there()).map(({ id: _, retiredAt: __, ...kind }) => kind)).to.deep.equal([known])
    const again = await copy(['DEPOT'])
    expect([again.added, again.left[0]?.why]).to.satisfy(
      ([added, why]: [string[], string]) => added.length === 0 && /Known fault/.test(why),
    )
    await of.lead.ask(updateVerdict, { params: { id }, body: { retired: true } })
    expect((await there())[0]?.retiredAt).to.equal(null)
    const { rows } = await of.lead.ask(listHistory, { params: { key: 'DEPOT' }, query: { ref: 'DEPOT' } })
    expect(rows.map(({ action, person }) => [action, person])).to.deep.equal([['verdict added', 'Lead Person']])
    await of.tester.refused(copyVerdict, { params: { id }, body: { projects: ['DEPOT'] } })
  })
  it('is given to steps and items, counts as it says, and keeps its word everywhere', async () => {
    const of = shop()
    await add(of, known)
    const run = await oneItem(of)
    const attempt = await start(of, run.id)
    await of.tester.ask(recordStep, {
      params: { id: attempt.id, row: 1, step: attempt.steps[0]?.id ?? 0 },
      body: { verdict: 'Passed', word: 'known FAULT', ...sent(of) },
    })
    const { rows } = await of.lead.ask(listItems, { params: { ref: run.key } })
    expect([rows[0]?.verdict, rows[0]?.word]).to.deep.equal(['Failed', 'Known fault'])
    const sheet = await of.lead.ask(readRun, { params: { ref: run.key } })
    expect([sheet.verdicts, sheet.words, sheet.outcome]).to.deep.equal([{ Failed: 1 }, { 'Known fault': 1 }, 'Failed'])
    const filter = JSON.stringify({ field: 'word', op: 'is', values: ['Known fault'] })
    expect((await of.lead.ask(listItems, { params: { ref: run.key }, query: { filter } })).total).to.equal(1)
    expect([...replayAttempts(of.db)].filter(({ differs }) => differs)).to.deep.equal([])
  })
  it('that is not final leaves the item in progress under its own word, until another is given', async () => {
    const of = shop()
    await add(of, open)
    const run = await oneItem(of)
    const attempt = await start(of, run.id)
    const answer = await of.tester.ask(recordWhole, say(of, attempt.id, 'To be looked at'))
    expect([answer.itemVerdict, answer.attempt.word, answer.attempt.final]).to.deep.equal([
      'In progress',
      'To be looked at',
      false,
    ])
    const passed = await of.tester.ask(recordWhole, {
      params: { id: attempt.id },
      body: { verdict: 'Passed', ...sent(of) },
    })
    expect([passed.itemVerdict, passed.attempt.word, passed.attempt.final]).to.deep.equal(['Passed', null, true])
    expect([...replayAttempts(of.db)].filter(({ differs }) => differs)).to.deep.equal([])
  })
  it('may be given to many at once', async () => {
    const of = shop()
    await add(of, known)
    const run = await oneItem(of)
    await of.lead.ask(giveVerdicts, {
      params: { ref: run.key },
      body: { ids: [run.id], verdict: 'Failed', word: 'Known fault', reason: 'As in the last build' },
    })
    const { rows } = await of.lead.ask(listItems, { params: { ref: run.key } })
    expect([rows[0]?.verdict, rows[0]?.word]).to.deep.equal(['Failed', 'Known fault'])
  })
  it('has a word that is not there yet: not one of the five, not another’s, not a retired one', async () => {
    const of = shop()
    const { id } = await add(of, known)
    const detail = async (word: string) => (await of.lead.refused(addVerdict, { body: { ...known, word } })).detail
    expect(await detail(' known fault ')).to.equal('“Known fault” is there already; nothing was stored.')
    expect(await detail('passed')).to.equal('“Passed” is there already; nothing was stored.')
    await of.lead.ask(updateVerdict, { params: { id }, body: { retired: true } })
    expect(await detail('Known fault')).to.equal(
      '“Known fault” is there already, and retired: take it into use again instead. Nothing was stored.',
    )
    expect(await detail('   ')).to.not.equal(undefined)
    expect((await kinds(of)).map(({ word }) => word)).to.deep.equal(['Known fault'])
  })
  it('is said of something, is drawn anew and put in another order, and leads alone change it', async () => {
    const of = shop()
    const { id } = await add(of, known)
    const { id: second } = await add(of, open)
    const nothing = { ...known, word: 'Of nothing', forItems: false, forSteps: false }
    expect((await of.lead.refused(addVerdict, { body: nothing })).detail).to.match(/^A verdict is said of items/)
    const none = { params: { id }, body: { forItems: false, forSteps: false } }
    expect((await of.lead.refused(updateVerdict, none)).status).to.equal(400)
    await of.lead.ask(updateVerdict, { params: { id }, body: { forSteps: false, sign: 'ring', tint: 'teal' } })
    await of.lead.ask(orderVerdicts, { body: { ids: [second] } })
    expect((await kinds(of)).map(({ word, sign, forSteps }) => [word, sign, forSteps])).to.deep.equal([
      ['To be looked at', 'bar', true],
      ['Known fault', 'ring', false],
    ])
    expect((await of.tester.refused(addVerdict, { body: { ...known, word: 'Mine' } })).status).to.equal(403)
    const { rows } = await of.lead.ask(listHistory, { query: { kind: 'project' } })
    expect(rows.map(({ action }) => action)).to.include.members(['verdict added', 'verdict changed'])
    const run = await oneItem(of)
    const attempt = await start(of, run.id)
    const refused = await of.tester.refused(recordStep, {
      params: { id: attempt.id, row: 1, step: attempt.steps[0]?.id ?? 0 },
      body: { verdict: 'Passed', word: 'Known fault', ...sent(of) },
    })
    expect(refused.detail).to.equal('“Known fault” is not said of steps in this project; nothing was stored.')
  })
  it('retired while somebody holds it: what was given before counts, what is given after is refused in words', async () => {
    const of = shop()
    const { id } = await add(of, known)
    const run = await oneItem(of)
    const attempt = await start(of, run.id)
    const given = of.now()
    of.pass(minute)
    await of.lead.ask(updateVerdict, { params: { id }, body: { retired: true } })
    of.pass(minute)
    const before = await of.tester.ask(recordWhole, say(of, attempt.id, 'Known fault', { at: given, sent: of.now() }))
    expect([before.itemVerdict, before.attempt.word]).to.deep.equal(['Failed', 'Known fault'])
    const refused = await of.tester.refused(recordWhole, say(of, attempt.id, 'Known fault'))
    expect([refused.status, refused.detail]).to.deep.equal([
      400,
      '“Known fault” is not in use any more in this project; give another verdict. Nothing was stored.',
    ])
    expect((await of.lead.ask(readRun, { params: { ref: run.key } })).words).to.deep.equal({ 'Known fault': 1 })
  })
})

describe('reasons for a verdict', () => {
  it('are given beside it where the policy asks, one of those in use, and stay when they are retired', async () => {
    const of = shop()
    const { id } = await of.lead.ask(addReason, { body: { verdict: 'Blocked', word: 'Harbour closed' } })
    await of.lead.ask(setPolicy, { body: { ...usualPolicy, asked: { Blocked: ['a reason'] } }, version: 0 })
    const run = await oneItem(of)
    const attempt = await execute(of, run.id, 'Blocked')
    const owing = async () => (await of.lead.ask(readRun, { params: { ref: run.key } })).owingCount
    expect(await owing()).to.equal(1)
    const give = (reason: string | null) => ({ params: { id: attempt.id }, body: { reason } })
    expect((await of.tester.refused(setReason, give('Rain'))).detail).to.equal(
      '“Rain” is no reason for Blocked in this project; nothing was stored.',
    )
    expect((await of.tester.ask(setReason, give('harbour closed'))).reason).to.equal('Harbour closed')
    expect(await owing()).to.equal(0)
    await of.lead.ask(retireReason, { params: { id }, body: { retired: true } })
    expect([await owing(), (await of.tester.ask(readDesk, { params: { id: run.id } })).attempt?.reason]).to.deep.equal([
      0,
      'Harbour closed',
    ])
    await of.tester.ask(setReason, give(null))
    expect((await of.tester.refused(setReason, give('Harbour closed'))).detail).to.match(/is not in use any more/)
    const twin = await of.lead.refused(addReason, { body: { verdict: 'Blocked', word: 'harbour closed' } })
    expect(twin.detail).to.match(/and retired: take it into use again/)
    await of.lead.ask(addReason, { body: { verdict: 'Skipped', word: 'Harbour closed' } })
  })
  it('are given to many at once', async () => {
    const of = shop()
    await of.lead.ask(addReason, { body: { verdict: 'Skipped', word: 'Harbour closed' } })
    await of.lead.ask(setPolicy, { body: { ...usualPolicy, asked: { Skipped: ['a reason', 'a word'] } }, version: 0 })
    const run = await oneItem(of)
    const body = { ids: [run.id], verdict: 'Skipped' as const, reason: 'All day', because: 'Harbour closed' }
    await of.lead.ask(giveVerdicts, { params: { ref: run.key }, body })
    const { version } = await of.lead.ask(readRun, { params: { ref: run.key } })
    await of.lead.ask(updateRun, { params: { ref: run.key }, body: { state: 'Closed' }, version })
    const wrong = await of.lead.refused(giveVerdicts, { params: { ref: run.key }, body: { ...body, because: 'Rain' } })
    expect(wrong.detail).to.match(/“Rain” is no reason for Skipped/)
  })
})
