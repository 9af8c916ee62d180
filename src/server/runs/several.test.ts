import { expect } from 'chai'
import { changeItems, listItems, readRun, updateRun } from '#core/runs/contract.ts'
import { readDesk, recordStep, recordWhole, startAttempt } from '#core/runs/desk-contract.ts'
import { changeAttempts, listAttempts } from '#core/runs/attempts-contract.ts'
import type { FinalVerdict } from '#core/lib/verdict.ts'
import { allStanding } from '#db/reports/standing.ts'
import { expectSound } from '#test/sound.ts'
import { minute, type Person, shop, type Shop } from '#test/app.ts'
import { storeWorkingCopy } from '#core/cases/contract.ts'
import { caseOf, makeCase, makeRun, sent } from '#test/make.ts'

describe('an item that several people judge', () => {
  let of: Shop
  let id: number
  const params = { ref: 'RN-1' }
  const row = async () => (await of.viewer.ask(listItems, { params })).rows[0]
  const several = (people: number, passes: number) =>
    of.lead.ask(changeItems, { params, body: { ids: [id], set: { people, passes } } })
  const says = async (person: Person, verdict: FinalVerdict) => {
    of.pass(minute)
    const attempt = await person.ask(startAttempt, { params: { id }, body: {} })
    await person.ask(recordWhole, { params: { id: attempt.id }, body: { verdict, reason: null, ...sent(of) } })
    return attempt.id
  }
  const stands = () => allStanding(of.db).map(({ verdict }) => verdict)
  beforeEach(async () => {
    of = shop()
    await makeCase(of.lead, 'Adult', { steps: ['Look'] })
    id = (await makeRun(of, ['TC-1'])).items[0]?.id ?? 0
    await several(3, 2)
  })
  afterEach(() => expectSound(of))

  it('is what enough of them say, in the run and in every figure, and nothing before that', async () => {
    expect([(await row())?.verdict, stands()]).to.deep.equal(['Not run', []])
    await says(of.tester, 'Passed')
    expect([(await row())?.verdict, stands()]).to.deep.equal(['In progress', []])
    await says(of.lead, 'Failed')
    const told = await row()
    expect([told?.verdict, stands(), told?.several]).to.deep.equal([
      'In progress',
      [],
      {
        people: 3,
        passes: 2,
        said: [
          { person: 'Lead Person', verdict: 'Failed' },
          { person: 'Tester Person', verdict: 'Passed' },
        ],
      },
    ])
    await says(of.as('second'), 'Passed')
    expect([(await row())?.verdict, stands()]).to.deep.equal(['Passed', ['Passed']])
    expect((await of.viewer.ask(readRun, { params })).done).to.equal(1)
  })
  it('counts what each said last, and not what was struck out', async () => {
    await says(of.tester, 'Failed')
    await says(of.lead, 'Failed')
    expect([(await row())?.verdict, stands()]).to.deep.equal(['Failed', ['Failed']])
    await says(of.tester, 'Passed')
    expect([(await row())?.verdict, stands()]).to.deep.equal(['In progress', []])
    const second = await says(of.as('second'), 'Passed')
    expect(stands()).to.deep.equal(['Passed'])
    await of.lead.ask(changeAttempts, { body: { ids: [second], set: { struck: 'On another bench' } } })
    expect([(await row())?.verdict, stands()]).to.deep.equal(['In progress', []])
  })
  it('shows each at the desk what they said themselves, and not what others did', async () => {
    await says(of.tester, 'Failed')
    const desk = async (person: Person) => person.ask(readDesk, { params: { id } })
    expect((await desk(of.tester)).attempt?.verdict).to.equal('Failed')
    const other = await desk(of.as('second'))
    expect([other.attempt, other.before]).to.deep.equal([null, []])
  })
  it('may be judged by anybody also where only the named person records', async () => {
    const { version, policy } = await of.lead.ask(readRun, { params })
    await of.lead.ask(updateRun, { params, body: { policy: { ...policy, records: 'named' } }, version })
    await says(of.tester, 'Passed')
    await says(of.as('second'), 'Passed')
    expect((await row())?.verdict).to.equal('Passed')
  })
  it('is one again when that is taken back, and follows what was said', async () => {
    await says(of.tester, 'Passed')
    await says(of.lead, 'Failed')
    const { undo } = await several(1, 1)
    expect([(await row())?.verdict, (await row())?.several, stands()]).to.deep.equal(['Failed', null, ['Failed']])
    for (const each of undo) await of.lead.ask(changeItems, { params, body: { ids: [each.id], set: each.set } })
    expect([(await row())?.verdict, stands()]).to.deep.equal(['In progress', []])
    expect((await of.viewer.ask(listAttempts, {})).total).to.equal(2)
  })
  it('is refused where more have to pass it than judge it', async () => {
    const { detail, fields } = await of.lead.refused(changeItems, {
      params,
      body: { ids: [id], set: { people: 2, passes: 3 } },
    })
    expect([detail, fields]).to.deep.equal([
      '3 cannot pass where 2 give their verdict. Nothing was changed.',
      ['passes'],
    ])
  })
})

describe('a run that executes some data rows of its cases', () => {
  let of: Shop
  beforeEach(async () => {
    of = shop()
    await makeCase(of.lead, 'Pays', { steps: ['Enter {age}'] })
    const { content, contentStamp } = await caseOf(of.lead, 'TC-1')
    const rows = ['4', '12', '40'].map((age) => ({ age }))
    await of.lead.ask(storeWorkingCopy, {
      params: { ref: 'TC-1' },
      body: { content: { ...content, parameters: ['age'], rows }, stamp: contentStamp },
    })
  })
  afterEach(() => expectSound(of))
  const run = async (dataRows: string) => {
    const made = await makeRun(of, ['TC-1'])
    const params = { ref: made.key }
    await of.lead.ask(updateRun, { params, body: { dataRows }, version: 1 })
    return { ...made, item: made.items[0]?.id ?? 0 }
  }
  const execute = async (item: number, verdicts: readonly FinalVerdict[]) => {
    of.pass(minute)
    const attempt = await of.tester.ask(startAttempt, { params: { id: item }, body: {} })
    for (const [at, verdict] of verdicts.entries())
      await of.tester.ask(recordStep, {
        params: { id: attempt.id, row: at + 1, step: attempt.steps[0]?.id ?? 0 },
        body: { verdict, ...sent(of) },
      })
    return attempt
  }
  const stands = () => allStanding(of.db).map(({ verdict }) => verdict)

  it('has those alone at the desk; what stands is what all rows came to, over the runs', async () => {
    const [some, rest] = [await run('1, 3'), await run('2')]
    const attempt = await execute(some.item, ['Passed', 'Failed'])
    expect(attempt.rows).to.deep.equal([{ age: '4' }, { age: '40' }])
    const { rows } = await of.viewer.ask(listItems, { params: { ref: some.key } })
    expect([rows[0]?.verdict, stands()]).to.deep.equal(['Failed', []])
    const other = await execute(rest.item, ['Passed'])
    expect(other.rows).to.deep.equal([{ age: '12' }])
    expect(stands()).to.deep.equal(['Failed'])
    // The row that failed passes now; of the others what was found out before counts.
    await execute((await run('3')).item, ['Passed'])
    expect(stands()).to.deep.equal(['Passed'])
  })
  it('executes the first row of a case that has none of them, and is refused what names no rows', async () => {
    const made = await run('7-9')
    expect((await execute(made.item, [])).rows).to.deep.equal([{ age: '4' }])
    const { fields } = await of.lead.refused(updateRun, {
      params: { ref: made.key },
      body: { dataRows: 'the first' },
      version: 2,
    })
    expect(fields).to.deep.equal(['dataRows'])
  })
})
