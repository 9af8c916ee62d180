import { expect } from 'chai'
import { expectSound } from '#test/sound.ts'
import { createDefect } from '#core/defects/contract.ts'
import { storeWorkingCopy } from '#core/cases/contract.ts'
import { merged } from '#core/cases/merge.ts'
import { fingerprintText } from '#core/cases/steps.ts'
import { readProject } from '#core/projects/contract.ts'
import { setPolicy } from '#core/projects/words-contract.ts'
import { changeItems, listItems, readRun, updateRun } from '#core/runs/contract.ts'
import { addEvidence, readDesk, recordStep, startAttempt, undoVerdict } from '#core/runs/desk-contract.ts'
import { commentStep } from '#core/runs/note-contract.ts'
import { giveVerdicts } from '#core/runs/many-contract.ts'
import { type Policy, usualPolicy } from '#core/projects/policy.ts'
import { replayAttempts } from '#db/runs/replay.ts'
import { addAttachment } from '#db/talk/queries.ts'
import { type Shop, shop } from '#test/app.ts'
import { caseOf, execute, makeCase, makeRun, sent, start, whole } from '#test/make.ts'

type Rules = Partial<Policy>
const ruled = async (of: Shop, rules: Rules) => {
  const { policyVersion: version } = await of.lead.ask(readProject)
  return of.lead.ask(setPolicy, { body: { ...usualPolicy, ...rules }, version })
}
const runOf = async (of: Shop, steps = ['Do', 'Look']) => {
  const run = await makeRun(of, [await makeCase(of.lead, 'Pays', { steps })])
  return { ...run, id: run.items[0]?.id ?? 0 }
}
const desk = (of: Shop, id: number) => of.tester.ask(readDesk, { params: { id } })
const sheet = (of: Shop, ref: string) => of.lead.ask(readRun, { params: { ref } })
const change = async (of: Shop, ref: string, body: object) =>
  of.lead.ask(updateRun, { params: { ref }, body, version: (await sheet(of, ref)).version })
const step = (
  of: Shop,
  attempt: { id: number; steps: readonly { id: number }[] },
  at: number,
  verdict: 'Passed' | 'Failed',
) =>
  of.tester.ask(recordStep, {
    params: { id: attempt.id, row: 1, step: attempt.steps[at]?.id ?? 0 },
    body: { verdict, ...sent(of) },
  })
/** What is derived is what the attempts say, under the policies they began with. */
const isSound = (of: Shop) => {
  expectSound(of)
  expect([...replayAttempts(of.db)].filter(({ differs }) => differs)).to.deep.equal([])
}

describe('who decides', () => {
  it('the steps: a failed one fails the item and all passed pass it, at once', async () => {
    const of = shop()
    const run = await runOf(of)
    const attempt = await start(of, run.id)
    expect((await step(of, attempt, 0, 'Passed')).itemVerdict).to.equal('In progress')
    expect((await step(of, attempt, 1, 'Passed')).itemVerdict).to.equal('Passed')
    expect((await step(of, attempt, 1, 'Failed')).itemVerdict).to.equal('Failed')
    isSound(of)
  })
  it('the tester: steps are notes, until the whole has its verdict; a failed step needs no reason then', async () => {
    const of = shop()
    await ruled(of, { decides: 'tester' })
    const run = await runOf(of)
    const attempt = await start(of, run.id)
    expect((await step(of, attempt, 0, 'Failed')).itemVerdict).to.equal('In progress')
    expect((await step(of, attempt, 1, 'Passed')).final).to.equal(false)
    const answer = await whole(of, attempt.id, 'Passed')
    expect([answer.itemVerdict, answer.attempt.override, answer.attempt.final]).to.deep.equal(['Passed', null, true])
    isSound(of)
    const back = await of.tester.ask(undoVerdict, { params: { id: attempt.id }, body: sent(of) })
    expect(back.itemVerdict).to.equal('In progress')
    isSound(of)
  })
  it('keeps the rules an attempt began under, whatever the project says later', async () => {
    const of = shop()
    await ruled(of, { decides: 'tester' })
    const run = await runOf(of)
    const attempt = await start(of, run.id)
    await step(of, attempt, 0, 'Failed')
    await ruled(of, { decides: 'steps' })
    expect((await step(of, attempt, 1, 'Failed')).itemVerdict).to.equal('In progress')
    isSound(of)
    const again = await start(of, run.id)
    expect((await step(of, again, 0, 'Failed')).itemVerdict).to.equal('Failed')
    isSound(of)
  })
})

describe('who records', () => {
  const items = async (of: Shop) => {
    const run = await makeRun(of, [await makeCase(of.lead, 'A'), await makeCase(of.lead, 'B')])
    const [own, free] = run.items.map(({ id }) => id)
    await of.lead.ask(changeItems, {
      params: { ref: run.key },
      body: { ids: [own ?? 0], set: { assigneeId: 'second' } },
    })
    return { ...run, own: own ?? 0, free: free ?? 0 }
  }
  const assignee = async (of: Shop, id: number) => (await desk(of, id)).item.assigneeId

  it('anyone who executes; a free item becomes whoever’s begins it', async () => {
    const of = shop()
    const run = await items(of)
    await execute(of, run.own, 'Failed')
    expect(await assignee(of, run.own)).to.equal('second')
    await start(of, run.free)
    expect(await assignee(of, run.free)).to.equal('tester')
  })
  it('anyone; a free item stays nobody’s', async () => {
    const of = shop()
    await ruled(of, { opens: 'free' })
    const run = await items(of)
    await execute(of, run.free, 'Failed')
    expect(await assignee(of, run.free)).to.equal(null)
  })
  it('only the named person: another is refused, and told whose it is; a free one is taken', async () => {
    const of = shop()
    await ruled(of, { records: 'named' })
    const run = await items(of)
    const refused = await of.tester.refused(startAttempt, { params: { id: run.own }, body: {} })
    expect([refused.status, refused.detail]).to.deep.equal([
      422,
      'TC-1 is Second Person’s, and only the named person records in this run; a lead can give it to you. Nothing was stored.',
    ])
    await execute(of, run.free, 'Failed')
    expect(await assignee(of, run.free)).to.equal('tester')
  })
  it('only the named person, and free items stay free: nobody begins them before a lead gives them to somebody', async () => {
    const of = shop()
    await ruled(of, { records: 'named', opens: 'free' })
    const run = await items(of)
    const refused = await of.tester.refused(startAttempt, { params: { id: run.free }, body: {} })
    expect(refused.detail).to.match(/^TC-2 is nobody’s yet, and only the named person records/)
  })
  it('what somebody has begun is theirs to finish, also when the item is given to another', async () => {
    const of = shop()
    await ruled(of, { records: 'named' })
    const run = await items(of)
    const attempt = await start(of, run.free)
    await of.lead.ask(changeItems, {
      params: { ref: run.key },
      body: { ids: [run.free], set: { assigneeId: 'second' } },
    })
    expect((await whole(of, attempt.id, 'Passed')).itemVerdict).to.equal('Passed')
    const other = await of.as('second').ask(startAttempt, { params: { id: run.free }, body: {} })
    expect((await of.tester.refused(startAttempt, { params: { id: run.free }, body: {} })).status).to.equal(422)
    const wrong = { params: { id: other.id, row: 1, step: other.steps[0]?.id ?? 0 } }
    expect(
      (await of.tester.refused(recordStep, { ...wrong, body: { verdict: 'Passed', ...sent(of) } })).detail,
    ).to.match(/only the named person records/)
  })
  it('many at once: what is somebody else’s is left and named, but may be skipped by whoever leads', async () => {
    const of = shop()
    await ruled(of, { records: 'named' })
    const run = await items(of)
    const give = (verdict: 'Passed' | 'Skipped') =>
      of.lead.ask(giveVerdicts, {
        params: { ref: run.key },
        body: { ids: [run.own, run.free], verdict, reason: 'Seen' },
      })
    const left = await give('Passed')
    expect([left.changed, left.left.map(({ item }) => item)]).to.deep.equal([0, [run.own, run.free]])
    expect(left.left[0]?.why).to.match(/^TC-1 is Second Person’s/)
    expect((await give('Skipped')).changed).to.equal(2)
  })
})

describe('what is asked for', () => {
  it('stands open until a word, evidence and a defect are given; the run is not closed by hand before', async () => {
    const of = shop()
    await ruled(of, { asked: { Failed: ['a word', 'evidence', 'a defect'] } })
    const run = await runOf(of)
    const owedNow = async () => (await sheet(of, run.key)).owing.flatMap(({ owed }) => owed)
    const attempt = await execute(of, run.id, 'Failed')
    expect(await owedNow()).to.deep.equal(['a word', 'evidence', 'a defect'])
    const refused = await of.lead.refused(updateRun, {
      params: { ref: run.key },
      body: { state: 'Closed' },
      version: 1,
    })
    expect(refused.detail).to.equal(
      'TC-1 of RN-1 lacks what the policy asks for (a word, evidence, a defect). Give it, or end the run early; nothing was changed.',
    )
    const place = { id: attempt.id, row: 1, step: attempt.steps[0]?.id ?? 0 }
    await of.tester.ask(commentStep, { params: place, body: { text: 'The till froze' } })
    expect(await owedNow()).to.deep.equal(['evidence', 'a defect'])
    addAttachment(of.db, {
      projectId: of.project().id,
      ownerKind: 'attempt',
      ownerId: attempt.id,
      row: 1,
      stepId: null,
      hash: 'a'.repeat(64),
      name: 'till.png',
      mime: 'image/png',
      size: 1,
      at: of.now(),
      personId: 'tester',
    })
    await of.tester.ask(createDefect, {
      body: { title: 'It froze', severity: 'Major', from: { attempt: attempt.id, row: 1, step: null } },
    })
    expect(await owedNow()).to.deep.equal([])
    await change(of, run.key, { state: 'Closed' })
    expect((await sheet(of, run.key)).state).to.equal('Closed')
  })
  it('is nothing on Passed, and does not hold up a run that ends early', async () => {
    const of = shop()
    await ruled(of, { asked: { Failed: ['a defect'], Blocked: ['a word'] } })
    const run = await runOf(of)
    await execute(of, run.id, 'Passed')
    expect((await sheet(of, run.key)).owingCount).to.equal(0)
    await execute(of, run.id, 'Blocked')
    const { rows } = await of.lead.ask(listItems, { params: { ref: run.key } })
    expect(rows[0]?.owed).to.deep.equal(['a word'])
    await change(of, run.key, { state: 'Aborted', reason: 'The harbour is closed' })
  })
})

describe('a step that asks for evidence', () => {
  const png = Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
    'base64',
  )
  let of: Shop
  let item: number
  beforeEach(async () => {
    of = shop()
    await makeCase(of.lead, 'Pays', { steps: ['Enter it', 'Look at the receipt'] })
    const { content, contentStamp } = await caseOf(of.lead, 'TC-1')
    const [first, second] = content.steps
    if (!first || !second) throw new Error('no steps')
    await of.lead.ask(storeWorkingCopy, {
      params: { ref: 'TC-1' },
      body: { content: { ...content, steps: [first, { ...second, evidence: true }] }, stamp: contentStamp },
    })
    item = (await makeRun(of, ['TC-1'])).items[0]?.id ?? 0
  })
  const owed = async () => (await of.viewer.ask(listItems, { params: { ref: 'RN-1' } })).rows.map((row) => row.owed)
  const close = async () => {
    const { version } = await of.lead.ask(readRun, { params: { ref: 'RN-1' } })
    return of.lead.refused(updateRun, { params: { ref: 'RN-1' }, body: { state: 'Closed' }, version })
  }

  it('owes it until it is there, whatever the policy asks and whichever verdict it was given', async () => {
    const attempt = await start(of, item)
    expect(attempt.steps.map(({ evidence }) => evidence ?? false)).to.deep.equal([false, true])
    await whole(of, attempt.id, 'Passed')
    expect(await owed()).to.deep.equal([['evidence']])
    expect((await close()).detail).to.include('lacks what the policy asks for (evidence)')
    const keep = (step: number | undefined) =>
      of.tester.ask(addEvidence, {
        params: { id: attempt.id },
        query: { row: 1, step: step ?? 0, name: 'receipt.png' },
        file: png,
        mime: 'image/png',
      })
    await keep(attempt.steps[0]?.id)
    expect(await owed()).to.deep.equal([['evidence']])
    await keep(attempt.steps[1]?.id)
    expect(await owed()).to.deep.equal([[]])
  })
  it('owes nothing where it was skipped or not reached', async () => {
    const attempt = await start(of, item)
    await of.tester.ask(recordStep, {
      params: { id: attempt.id, row: 1, step: attempt.steps[0]?.id ?? 0 },
      body: { verdict: 'Failed', ...sent(of) },
    })
    await whole(of, attempt.id, 'Failed')
    expect(await owed()).to.deep.equal([[]])
  })
  it('is kept over versions, compared and merged as a part of the step', async () => {
    const { content } = await caseOf(of.lead, 'TC-1')
    expect(content.steps.map(({ evidence }) => evidence ?? false)).to.deep.equal([false, true])
    const plain = { ...content, steps: content.steps.map(({ evidence: _, ...step }) => step) }
    expect(fingerprintText(content)).to.not.equal(fingerprintText(plain))
    // Somebody else words the step anew meanwhile: both changes stand.
    const theirs = {
      ...plain,
      steps: plain.steps.map((step, at) => (at === 1 ? { ...step, action: 'Read it' } : step)),
    }
    const both = merged(plain, content, theirs)
    expect([both.clashes, both.content.steps[1]?.action, both.content.steps[1]?.evidence]).to.deep.equal([
      [],
      'Read it',
      true,
    ])
  })
})
