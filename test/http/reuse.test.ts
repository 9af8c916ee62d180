import { expect } from 'chai'
import { type Client, clientOf, demoData, type Running, startServer } from '../server.ts'
import { P, step, use, texts, writing } from './ferry.ts'

let server: Running
let mira: Client
let ansa: Client
let tobin: Client
describe('reuse', () => {
  before(async () => {
    server = await startServer({ command: 'demo', data: await demoData() })
    mira = await clientOf(server.url, 'mira')
    ansa = await clientOf(server.url, 'ansa')
    tobin = await clientOf(server.url, 'tobin')
  })
  after(() => server.stop())
  const { read, written, store, routine, executed } = writing(() => mira)

  it('executes a routine’s steps within a case, with the values given, and keeps results where they belong when it changes', async () => {
    const sign = await routine(
      'Sign in as a clerk',
      'Open the desk => The desk asks who you are\nSign in as {who} => Your name is shown',
    )
    const key = await written(
      'A clerk begins the day',
      [use(sign, { who: '{clerk}' }), step('Look at the list', 'Today is shown')],
      { parameters: ['clerk'], rows: [{ clerk: 'Yusra' }, { clerk: 'Piet' }] },
    )
    const sheet = await read(key)
    expect(sheet.content.steps[0].use).to.deep.include({ ref: sign, name: '0.1', kind: 'routine' })
    expect(sheet.content.parameters).to.deep.equal(['clerk'])
    expect(sheet.used[0]).to.deep.include({ ref: sign, newest: null, parameters: ['who'] })
    const attempt = (await executed(key)).body
    expect(texts(attempt.steps)).to.deep.equal(['Open the desk', 'Sign in as {clerk}', 'Look at the list'])
    expect(attempt.rows).to.deep.equal([{ clerk: 'Yusra' }, { clerk: 'Piet' }])
    const second = attempt.steps[1].id
    const said = await mira.send('PUT', `${P}/attempts/${attempt.id}/rows/1/steps/${second}`, {
      verdict: 'Failed',
      client: 'reuse-client',
      sequence: 1,
      at: Date.now(),
    })
    expect(said.body).to.include({ verdict: 'Failed', final: true })

    // The routine changes: nothing changes in the case until somebody takes the newer version.
    const before = await read(sign)
    await store(sign, [
      before.content.steps[0],
      { ...before.content.steps[1], action: 'Sign in as {who} with a card' },
      step('Close the notice'),
    ])
    const cut = (await mira.send('POST', `${P}/routines/${sign}/versions`, { why: 'cards' })).body
    expect(cut).to.include({ name: '0.2', cut: true })
    expect((await read(key)).used[0]).to.deep.include({ name: '0.1', newest: '0.2' })
    const used = (await read(sign)).usedBy
    expect(used.map(({ key: by, name }: { key: string; name: string }) => [by, name])).to.deep.equal([[key, '0.1']])
    const done = (await mira.send('POST', `${P}/routines/${sign}/repin`, { in: [key], to: cut.id })).body
    expect(done.changed).to.equal(1)
    const after = await read(key)
    expect(after.versions[0].why).to.equal(`uses ${sign} 0.2`)
    const again = (await executed(key)).body
    expect(texts(again.steps)).to.deep.equal([
      'Open the desk',
      'Sign in as {clerk} with a card',
      'Close the notice',
      'Look at the list',
    ])
    expect(again.steps[1].id, 'the same step over versions of the routine').to.equal(second)
    // The older attempt still says what was executed then.
    const items = (await mira.get(`${P}/cases/${key}`)).body.attempts
    expect(items).to.have.length(2)
    await mira.send('POST', `${P}/routines/${sign}/repin`, { in: done.undo[0].in, to: done.undo[0].to })
    expect((await read(key)).used[0]).to.deep.include({ name: '0.1', newest: '0.2' })
  })
  it('refuses a routine that would contain itself, directly or through others, naming the step', async () => {
    const [a, b] = [await routine('Inner', 'One step'), await routine('Outer', 'Another')]
    expect((await store(b, [step('First'), use(a)])).status).to.equal(200)
    const round = await store(a, [step('x'), use(b)])
    expect(round.body.detail).to.equal(`Step 2 inserts ${b}, which contains ${a} itself; nothing was stored.`)
    expect((await store(a, [use(a)])).body.detail).to.match(/into itself; nothing was stored/)
    expect(texts((await read(a)).content.steps)).to.deep.equal(['One step'])
    const gone = await store(b, [use('RT-9999')])
    expect([gone.status, gone.body.detail]).to.deep.equal([
      400,
      'Step 1: RT-9999 is not in this project or has no step yet. Nothing was stored.',
    ])
    expect((await mira.send('POST', `${P}/routines/delete`, { ids: [(await read(a)).id] })).body.detail).to.match(
      /is inserted in 1 place; take it out of them first/,
    )
  })
  it('inserts another case’s steps live, and refuses a circle of cases', async () => {
    const first = await written('Buys a ticket', [step('Choose a sailing'), step('Pay')])
    const second = await written('Cancels a ticket', [use(first), step('Cancel it')])
    expect(texts((await executed(second)).body.steps)).to.deep.equal(['Choose a sailing', 'Pay', 'Cancel it'])
    expect((await store(first, [use(second)])).body.detail).to.match(
      new RegExp(`inserts ${second}, which contains ${first} itself`),
    )
    expect((await read(first)).usedBy.map(({ key }: { key: string }) => key)).to.deep.equal([second])
  })
  it('finds repeated steps, makes a routine of them and puts it everywhere at once, or nowhere', async () => {
    const same = [step('Open the ticket machine', 'It is awake'), step('Choose {port}', 'The port is lit')]
    const keys = [
      await written('Machine A', [...same, step('Pay by coin')], { parameters: ['port'], rows: [{ port: 'Ove' }] }),
      await written('Machine B', [step('Wake it up'), ...same]),
    ]
    const found = (await mira.get(`${P}/cases/repeats?ref=${keys[0] ?? ''}`)).body
    expect(found.rows[0]).to.deep.include({ length: 2 })
    expect(found.rows[0].places.map((place: { case: string; at: number }) => [place.case, place.at])).to.deep.equal([
      [keys[0], 0],
      [keys[1], 1],
    ])
    const body = {
      title: 'Choose a port at the machine',
      length: 2,
      from: { case: keys[0], at: 0 },
      also: [{ case: keys[1], at: 0 }],
    }
    const wrong = await mira.send('POST', `${P}/routines/extract`, body)
    expect(wrong.body.detail).to.match(/does not say these steps at step 1 any more; nothing was changed/)
    const made = (await mira.send('POST', `${P}/routines/extract`, { ...body, also: [{ case: keys[1], at: 1 }] })).body
    expect(made.cases).to.equal(2)
    const [one, two] = [await read(keys[0] ?? ''), await read(keys[1] ?? '')]
    expect(
      one.content.steps.map(({ use: own, action }: { use?: { ref: string }; action: string }) => own?.ref ?? action),
    ).to.deep.equal([made.key, 'Pay by coin'])
    expect(one.content.rows).to.deep.equal([{ port: 'Ove' }])
    expect(
      two.content.steps.map(({ use: own, action }: { use?: { ref: string }; action: string }) => own?.ref ?? action),
    ).to.deep.equal(['Wake it up', made.key])
    expect(one.versions.map(({ why }: { why: string }) => why)).to.include(`steps moved into ${made.key}`)
    expect(texts((await executed(keys[0] ?? '')).body.steps)).to.deep.equal([
      'Open the ticket machine',
      'Choose {port}',
      'Pay by coin',
    ])
    // Written out in files, where a routine has no place; and read back unchanged.
    const csv = await mira.get(`${P}/export?format=csv&what=cases&ids=${one.id}`)
    expect(String(csv.body)).to.contain('Open the ticket machine')
    expect(decodeURIComponent(csv.headers.get('x-rovant-left-out') ?? '')).to.contain('they are written out')
    const back = await mira.send('POST', `${P}/imports?dry=yes&what=cases`, new TextEncoder().encode(String(csv.body)))
    expect(back.body.counts, JSON.stringify(back.body.preview[0])).to.include({ unchanged: 1, changed: 0 })
  })
  it('finds cases that say nearly the same and lets one stand for both, and takes that back', async () => {
    const requirement = (await mira.get(`${P}/requirements?limit=3`)).body.rows[1].key
    const steps = [
      step('Open the timetable of the winter', 'It is shown'),
      step('Choose the last sailing of the day', 'It is marked as the last'),
    ]
    const [keep, drop] = [
      await written('Last sailing is marked in the winter timetable', steps),
      await written('The last sailing is marked in the winter timetable', steps),
    ]
    await mira.send('POST', `${P}/links`, { requirements: [requirement], cases: [drop] })
    const groups = (await mira.get(`${P}/cases/alike?atLeast=0.6`)).body.rows
    expect(
      groups.some(({ cases }: { cases: { key: string }[] }) =>
        [keep, drop].every((key) => cases.some((each) => each.key === key)),
      ),
    ).to.equal(true)
    expect((await tobin.send('POST', `${P}/cases/merge`, { keep, drop: [drop] })).status).to.equal(403)
    expect((await mira.send('POST', `${P}/cases/merge`, { keep, drop: [drop] })).body).to.deep.equal({
      links: 1,
      dropped: [drop],
    })
    expect((await read(keep)).links.map(({ key }: { key: string }) => key)).to.deep.equal([requirement])
    expect(await read(drop)).to.include({ mergedInto: keep, retired: true })
    expect((await read(keep)).merged).to.deep.equal([drop])
    expect((await mira.send('POST', `${P}/cases/merge`, { keep, drop: [drop] })).body.detail).to.match(
      /was merged into another case before/,
    )
    await mira.send('POST', `${P}/cases/${drop}/unmerge`, {})
    expect([(await read(keep)).links, (await read(drop)).mergedInto, (await read(drop)).retired]).to.deep.equal([
      [],
      null,
      false,
    ])
  })
  it('copies, splits and moves steps, keeping what was said as versions', async () => {
    const key = await written('Long way', [step('one'), step('two {a}'), step('three')], {
      parameters: ['a'],
      rows: [{ a: '1' }, { a: '2' }],
    })
    const own = await read(key)
    const copy = (await mira.send('POST', `${P}/cases/duplicate`, { ids: [own.id] })).body.keys[0]
    expect(texts((await read(copy)).content.steps)).to.deep.equal(['one', 'two {a}', 'three'])
    expect(
      (await mira.send('POST', `${P}/cases/${key}/split`, { from: own.content.steps[0].id, title: 'x' })).body.detail,
    ).to.match(/choose a later one/)
    const second = (
      await mira.send('POST', `${P}/cases/${key}/split`, { from: own.content.steps[2].id, title: 'The rest' })
    ).body.key
    expect(texts((await read(key)).content.steps)).to.deep.equal(['one', 'two {a}'])
    expect([texts((await read(second)).content.steps), (await read(second)).content.rows]).to.deep.equal([
      ['three'],
      [],
    ])
    expect((await read(key)).versions.map(({ why }: { why: string }) => why)).to.deep.equal([
      `split: steps from 3 on are ${second}`,
      '',
    ])
    const first = (await read(key)).content.steps[0].id
    expect(
      (await mira.send('POST', `${P}/cases/${key}/steps`, { steps: [first], to: second, copy: false })).body.moved,
    ).to.equal(1)
    expect([texts((await read(key)).content.steps), texts((await read(second)).content.steps)]).to.deep.equal([
      ['two {a}'],
      ['three', 'one'],
    ])
    expect(
      (await mira.send('POST', `${P}/cases/${key}/steps`, { steps: [first], to: second, copy: true })).status,
    ).to.equal(412)
  })
  it('moves cases to another project, where the old key still leads', async () => {
    const key = await written('To the depot', [step('go there')])
    const { id } = await read(key)
    const sent = (await mira.send('POST', `${P}/cases/send`, { ids: [id], project: 'DEPOT', move: true })).body
    const gone = await mira.get(`${P}/cases/${key}`)
    expect([gone.status, gone.body.detail, gone.body.current.address]).to.deep.equal([
      410,
      `${key} was moved to the project DEPOT; there it is ${sent.keys[0]}.`,
      `/p/DEPOT/${sent.keys[0]}`,
    ])
    expect(texts((await mira.get(`/projects/DEPOT/cases/${sent.keys[0]}`)).body.content.steps)).to.deep.equal([
      'go there',
    ])
    expect(
      (await mira.send('POST', `${P}/cases/send`, { ids: [id], project: 'NOWHERE', move: false })).status,
    ).to.equal(404)
  })
  it('starts cases from a template', async () => {
    const key = await written('Model case', [step('look', 'see')])
    const { id } = (await mira.send('POST', `${P}/templates`, { name: 'Look and see', case: key })).body
    const made = (await mira.send('POST', `${P}/cases/lines`, { lines: 'Looks left\nLooks right', template: id })).body
      .keys
    expect(await Promise.all(made.map(async (own: string) => texts((await read(own)).content.steps)))).to.deep.equal([
      ['look'],
      ['look'],
    ])
    expect((await mira.send('POST', `${P}/templates`, { name: 'Look and see', case: key })).body.detail).to.match(
      /already/,
    )
    await mira.send('DELETE', `${P}/templates/${id}`)
    expect((await mira.send('POST', `${P}/cases/lines`, { lines: 'Again', template: id })).status).to.equal(400)
  })
  it('lets a row of a data table be used by one tester at a time', async () => {
    const { id } = (await mira.send('POST', `${P}/tables`, { name: 'Spare cards', columns: ['card'] })).body
    await mira.send(
      'PATCH',
      `${P}/tables/${id}`,
      {
        rows: [
          { id: null, values: { card: '4000' } },
          { id: null, values: { card: '5000' } },
        ],
      },
      { 'if-match': '1' },
    )
    const keys = [
      await written('Pays A', [step('Pay with {card}')], { table: { id, mode: 'one' } }),
      await written('Pays B', [step('Pay with {card}')], { table: { id, mode: 'one' } }),
      await written('Pays C', [step('Pay with {card}')], { table: { id, mode: 'one' } }),
    ]
    const [a, b] = [await executed(keys[0] ?? '', mira), await executed(keys[1] ?? '', tobin)]
    expect([a.body.rows, b.body.rows]).to.deep.equal([[{ card: '4000' }], [{ card: '5000' }]])
    const none = await executed(keys[2] ?? '', ansa)
    expect([none.status, none.body.detail]).to.deep.equal([
      422,
      `All 2 rows of Spare cards are checked out: Mira Kell (${keys[0] ?? ''}), Tobin Rask (${keys[1] ?? ''}). Wait for one, or ask a lead to give one back.`,
    ])
    const table = (await mira.get(`${P}/tables/${id}`)).body
    expect(
      (await mira.send('PATCH', `${P}/tables/${id}`, { rows: [] }, { 'if-match': String(table.version) })).body.detail,
    ).to.match(/is checked out/)
    expect((await tobin.send('POST', `${P}/tables/${id}/release`, { row: table.values[0].id })).status).to.equal(403)
    await mira.send('PUT', `${P}/attempts/${a.body.id}/rows/1/steps/${a.body.steps[0].id}`, {
      verdict: 'Passed',
      client: 'cards-client',
      sequence: 1,
      at: Date.now(),
    })
    expect(
      (await mira.get(`${P}/tables/${id}`)).body.values.map(({ heldBy }: { heldBy: string | null }) => heldBy),
    ).to.deep.equal([null, 'Tobin Rask'])
    expect((await executed(keys[2] ?? '', ansa)).body.rows).to.deep.equal([{ card: '4000' }])
  })
})
