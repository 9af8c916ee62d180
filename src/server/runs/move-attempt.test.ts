import { expect } from 'chai'
import fc from 'fast-check'
import { swapRows, type Attempt } from '#core/runs/attempt.ts'
import { listAttempts, readAttempt } from '#core/runs/attempts-contract.ts'
import { listItems, updateRun } from '#core/runs/contract.ts'
import { addEvidence, recordStep } from '#core/runs/desk-contract.ts'
import { commentStep } from '#core/runs/note-contract.ts'
import { moveAttempt, moveAttemptBack, swapAttemptRows } from '#core/runs/move-contract.ts'
import { readDefect } from '#core/defects/contract.ts'
import { storeWorkingCopy } from '#core/cases/contract.ts'
import { replayAttempts } from '#db/runs/replay.ts'
import { expectSound } from '#test/sound.ts'
import { minute, shop, type Shop } from '#test/app.ts'
import { caseOf, execute, makeCase, makeDefect, makeRun, sent, start, whole } from '#test/make.ts'

const png = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
)

describe('what was recorded in the wrong place', () => {
  let of: Shop
  beforeEach(async () => {
    of = shop()
    await makeCase(of.lead, 'Adult', { steps: ['Enter it', 'Pay'] })
    await makeCase(of.lead, 'Child', { steps: ['Look'] })
    await makeRun(of, ['TC-1', 'TC-2'], { environments: of.environments })
  })
  afterEach(() => {
    expectSound(of)
    expect([...replayAttempts(of.db)].filter(({ differs }) => differs)).to.deep.equal([])
  })
  const items = async (ref = 'RN-1') => (await of.viewer.ask(listItems, { params: { ref } })).rows
  const itemFor = async (key: string, environment = 'Red') =>
    (await items()).find((row) => row.case === key && row.environment === environment)?.id ?? 0
  const failed = async () => {
    const attempt = await execute(of, await itemFor('TC-1'), 'Failed')
    const [step] = attempt.steps
    const params = { id: attempt.id, row: 1, step: step?.id ?? 0 }
    await of.tester.ask(commentStep, { params, body: { text: '<p>It <b>beeps</b></p>' } })
    await of.tester.ask(addEvidence, {
      params,
      query: { row: 1, step: step?.id ?? 0, name: 'beep.png' },
      file: png,
      mime: 'image/png',
    })
    await makeDefect(of, attempt)
    await whole(of, attempt.id, 'Failed')
    return attempt
  }
  const verdicts = async () => (await items()).map((row) => `${row.case} ${row.environment} ${row.verdict}`)
  const move = (id: number, to: { run?: string; case: string; environment?: number }) =>
    of.lead.ask(moveAttempt, {
      params: { id },
      body: { run: 'RN-1', environment: of.environments[0] ?? 0, ...to },
    })

  it('goes to the item of another run with all that is its own, and back', async () => {
    const attempt = await failed()
    const other = await makeRun(of, ['TC-1'])
    const done = await move(attempt.id, { run: other.key, case: 'TC-1' })
    expect(done).to.deep.include({ attempt: attempt.id, another: false })
    expect([(await verdicts())[0], (await items(other.key))[0]?.verdict]).to.deep.equal(['TC-1 Red Not run', 'Failed'])
    const { row, attempt: read } = await of.viewer.ask(readAttempt, { params: { id: attempt.id } })
    expect([row.run, read.evidence.length, row.defects]).to.deep.equal([other.key, 1, ['DF-1']])
    await move(attempt.id, { case: 'TC-1' })
    expect((await verdicts())[0]).to.equal('TC-1 Red Failed')
    await move(attempt.id, { case: 'TC-1', environment: of.environments[1] ?? 0 })
    expect((await verdicts()).slice(0, 2)).to.have.members(['TC-1 Red Not run', 'TC-1 Blue Failed'])
  })
  it('goes to another case as a verdict of the whole, its steps as a note; what was recorded stays, struck out', async () => {
    const attempt = await failed()
    of.pass(10 * minute)
    const { attempt: made } = await move(attempt.id, { case: 'TC-2' })
    const { row, attempt: read } = await of.viewer.ask(readAttempt, { params: { id: made } })
    expect([row.case, row.verdict, row.person, row.recordedBy, row.startedAt]).to.deep.equal([
      'TC-2',
      'Failed',
      'Tester Person',
      'Lead Person',
      attempt.startedAt,
    ])
    expect(row.comment).to.equal('Recorded at TC-1 0.1: step 1 Failed (It beeps).')
    expect([read.marks, read.evidence.map(({ name, step }) => [name, step]), row.defects]).to.deep.equal([
      [],
      [['beep.png', null]],
      ['DF-1'],
    ])
    expect(await verdicts()).to.include.members(['TC-1 Red Not run', 'TC-2 Red Failed'])
    const before = await of.viewer.ask(readAttempt, { params: { id: attempt.id } })
    expect([before.row.struck, before.attempt.marks.length, before.attempt.evidence.length]).to.deep.equal([
      'belongs to TC-2',
      1,
      1,
    ])
    expect((await of.viewer.ask(readDefect, { params: { ref: 'DF-1' } })).links.map((link) => link.case)).to.deep.equal(
      ['TC-2'],
    )
    await of.lead.ask(moveAttemptBack, { params: { id: attempt.id }, body: { made } })
    expect(await verdicts()).to.include.members(['TC-1 Red Failed', 'TC-2 Red Not run'])
    expect((await of.viewer.ask(readDefect, { params: { ref: 'DF-1' } })).links.map((link) => link.case)).to.deep.equal(
      ['TC-1'],
    )
    await of.lead.refused(moveAttemptBack, { params: { id: attempt.id }, body: { made } })
  })
  it('is refused in sentences where it cannot go, and nothing is changed', async () => {
    const attempt = await failed()
    const asked = async (id: number, to: Parameters<typeof move>[1]) =>
      (
        await of.lead.refused(moveAttempt, {
          params: { id },
          body: { run: 'RN-1', environment: of.environments[0] ?? 0, ...to },
        })
      ).detail
    expect(await asked(attempt.id, { case: 'TC-1' })).to.include('stands there already')
    await makeCase(of.lead, 'Elsewhere')
    expect(await asked(attempt.id, { case: 'TC-3' })).to.include('RN-1 has no item for TC-3')
    const open = await start(of, await itemFor('TC-1', 'Blue'))
    expect(await asked(open.id, { case: 'TC-2' })).to.include('no final verdict yet')
    await of.tester.refused(moveAttempt, {
      params: { id: attempt.id },
      body: { run: 'RN-1', case: 'TC-2', environment: of.environments[0] ?? 0 },
    })
    await of.lead.ask(updateRun, { params: { ref: 'RN-1' }, body: { state: 'Aborted', reason: 'Over' }, version: 1 })
    expect(await asked(attempt.id, { case: 'TC-2' })).to.include('RN-1 is Aborted')
    expect((await of.viewer.ask(listAttempts, {})).total).to.equal(2)
  })
  it('changes places with another data row, with words, evidence and defects, and twice is as before', async () => {
    const { content, contentStamp } = await caseOf(of.lead, 'TC-1')
    const rows = [{ age: '4' }, { age: '40' }]
    await of.lead.ask(storeWorkingCopy, {
      params: { ref: 'TC-1' },
      body: { content: { ...content, parameters: ['age'], rows }, stamp: contentStamp },
    })
    const attempt = await failed()
    const [, pay] = attempt.steps
    await of.tester.ask(recordStep, {
      params: { id: attempt.id, row: 2, step: pay?.id ?? 0 },
      body: { verdict: 'Passed', ...sent(of) },
    })
    const read = async () => (await of.viewer.ask(readAttempt, { params: { id: attempt.id } })).attempt
    const told = async () => {
      const { marks, evidence, verdict } = await read()
      return [
        marks.map((mark) => [mark.row, mark.step, mark.verdict, mark.comment]).sort(),
        evidence.map(({ row }) => row),
        verdict,
      ]
    }
    const before = await told()
    await of.lead.ask(swapAttemptRows, { params: { id: attempt.id }, body: { one: 1, other: 2 } })
    expect(await told()).to.deep.equal([
      [
        [1, pay?.id, 'Passed', ''],
        [2, attempt.steps[0]?.id, 'Failed', '<p>It <b>beeps</b></p>'],
      ],
      [2],
      'Failed',
    ])
    await of.lead.ask(swapAttemptRows, { params: { id: attempt.id }, body: { one: 1, other: 2 } })
    expect(await told()).to.deep.equal(before)
    const { detail } = await of.lead.refused(swapAttemptRows, {
      params: { id: attempt.id },
      body: { one: 1, other: 3 },
    })
    expect(detail).to.equal('There is no data row 3; this attempt has 2.')
  })
  it('keeps verdicts and words of all other rows, whatever was marked', () => {
    const mark = fc.record({
      row: fc.integer({ min: 1, max: 4 }),
      step: fc.integer({ min: 1, max: 3 }),
      verdict: fc.constantFrom('Passed' as const, 'Failed' as const, 'Blocked' as const),
      word: fc.constant(null),
      final: fc.constant(true),
    })
    const marks = fc.uniqueArray(mark, { selector: (each) => `${each.row}/${each.step}` })
    const row = fc.integer({ min: 1, max: 4 })
    fc.assert(
      fc.property(marks, row, row, (all, one, other) => {
        fc.pre(one !== other)
        const attempt: Attempt = { rows: 4, steps: [1, 2, 3], marks: all, whole: null }
        const swapped = swapRows(attempt, one, other)
        if (!swapped.ok) throw new Error(swapped.sentence)
        const of = (from: Attempt, place: number) =>
          from.marks
            .filter((each) => each.row === place)
            .map(({ step, verdict }) => `${step} ${verdict}`)
            .sort()
        for (const each of [1, 2, 3, 4]) {
          const from = each === one ? other : each === other ? one : each
          expect(of(swapped.attempt, each)).to.deep.equal(of(attempt, from))
        }
      }),
    )
  })
})
