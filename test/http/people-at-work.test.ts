import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect } from 'chai'
import { type Client, clientOf, demoData, type Running, startServer } from '../server.ts'
import { P, step, texts, writing } from './ferry.ts'

let server: Running
let mira: Client
let ansa: Client
let tobin: Client
describe('people at work', () => {
  before(async () => {
    server = await startServer({ command: 'demo', data: await demoData() })
    mira = await clientOf(server.url, 'mira')
    ansa = await clientOf(server.url, 'ansa')
    tobin = await clientOf(server.url, 'tobin')
  })
  after(() => server.stop())
  const { read, written, store, executed } = writing(() => mira)

  it('asks people to review, hears what they answer, and takes what they suggest', async () => {
    const key = await written('To be reviewed', [step('One', 'two'), step('Three', 'four')])
    await mira.send('POST', `${P}/cases/${key}/review`, { to: 'In review', people: ['ansa', 'tobin'] })
    expect(
      (await mira.send('POST', `${P}/cases/${key}/review`, { to: 'In review', people: ['oda'] })).body.detail,
    ).to.equal('Oda Brandt cannot review in this project; nobody was asked.')
    expect((await ansa.get(`${P}/inbox`)).body.rows[0]).to.deep.include({ kind: 'review', ref: key, read: false })
    const { id } = (await tobin.send('POST', `${P}/cases/${key}/suggestions`, {})).body
    const draft = (await tobin.get(`${P}/suggestions/${id}`)).body
    const steps = [draft.content.steps[1], { ...draft.content.steps[0], expected: 'two and a half' }, step('Five')]
    const stored = await tobin.send('PUT', `${P}/suggestions/${id}`, {
      content: { ...draft.content, steps },
      stamp: draft.contentStamp,
    })
    expect(stored.status).to.equal(200)
    expect((await mira.send('PUT', `${P}/suggestions/${id}`, { note: 'mine now' })).status).to.equal(403)
    await tobin.send('PUT', `${P}/suggestions/${id}`, { note: 'the other way round' })
    expect((await mira.get(`${P}/inbox`)).body.rows[0]).to.deep.include({ kind: 'suggestion', ref: key })
    const shown = (await mira.get(`${P}/suggestions/${id}`)).body.comparison
    expect(
      shown.steps.filter(
        ({ moved, changed, before }: { moved: boolean; changed: boolean; before: number | null }) =>
          moved || changed || before === null,
      ),
    ).to.have.length(3)
    const before = (await read(key)).content.steps.map(({ id: own }: { id: number }) => own)
    await mira.send('POST', `${P}/suggestions/${id}`, { take: true })
    const after = (await read(key)).content.steps
    expect(texts(after)).to.deep.equal(['Three', 'One', 'Five'])
    expect(after.slice(0, 2).map(({ id: own }: { id: number }) => own)).to.deep.equal([...before].reverse())
    expect((await mira.send('POST', `${P}/suggestions/${id}`, { take: true })).body.detail).to.match(
      /was taken already/,
    )
    await ansa.send('POST', `${P}/cases/${key}/review`, { to: 'Draft', why: 'step 3 says nothing' })
    expect((await mira.get(`${P}/inbox`)).body.rows[0]).to.deep.include({
      kind: 'answer',
      text: 'sent back To be reviewed: step 3 says nothing',
    })
    expect((await read(key)).reviews.find(({ person }: { person: string }) => person === 'Ansa Lind').answer).to.equal(
      'sent back',
    )
  })
  it('comments on a step and tells who is named', async () => {
    const key = await written('Talked about', [step('Do it')])
    const at = (await read(key)).content.steps[0].id
    expect(
      (
        await mira.send('POST', `${P}/comments`, {
          ref: key,
          step: at,
          text: '<p>@Ansa, is this right? <script>x</script></p>',
        })
      ).body.told,
    ).to.deep.equal(['Ansa Lind'])
    expect((await mira.get(`${P}/comments?ref=${key}`)).body.rows[0]).to.deep.include({
      step: at,
      text: '<p>@Ansa, is this right? </p>',
    })
    const inbox = (await ansa.get(`${P}/inbox`)).body
    expect(inbox.rows[0]).to.deep.include({ kind: 'mention', ref: key, from: 'Mira Kell' })
    await ansa.send('POST', `${P}/inbox/read`, { ids: inbox.rows.map(({ id }: { id: number }) => id) })
    expect((await ansa.get(`${P}/inbox`)).body.unread).to.equal(0)
    expect((await mira.send('POST', `${P}/comments`, { ref: key, step: 1, text: 'x' })).status).to.equal(400)
  })
  it('keeps folders as a tree that cannot hold itself', async () => {
    const [a, b] = [
      (await mira.send('POST', `${P}/folders`, { name: 'Winter' })).body.id,
      (await mira.send('POST', `${P}/folders`, { name: 'Ice' })).body.id,
    ]
    expect((await mira.send('PATCH', `${P}/folders/${b}`, { parent: a })).status).to.equal(200)
    expect((await mira.send('PATCH', `${P}/folders/${a}`, { parent: b })).body.detail).to.match(
      /cannot be moved into itself/,
    )
    const key = await written('On ice', [step('x')])
    const { id, version } = await read(key)
    await mira.send('PATCH', `${P}/cases/${key}`, { folderId: b }, { 'if-match': String(version) })
    expect((await mira.send('DELETE', `${P}/folders/${b}`)).body).to.deep.equal({ cases: [id], folders: [] })
    expect((await read(key)).folder).to.equal('Winter')
    const under = (await mira.send('POST', `${P}/folders`, { name: 'As required' })).body.id
    const dry = (await mira.send('POST', `${P}/folders/mirror`, { under, dry: true })).body
    expect(dry.folders).to.be.greaterThan(0)
    const done = (await mira.send('POST', `${P}/folders/mirror`, { under })).body
    expect([done.folders, done.cases]).to.deep.equal([dry.folders, dry.cases])
    expect((await mira.send('POST', `${P}/folders/mirror`, { under, dry: true })).body).to.include({
      folders: 0,
      cases: 0,
    })
  })
  it('changes tags and own fields of many at once, and gives back what each had', async () => {
    const rows = (await mira.get(`${P}/cases?limit=4`)).body.rows
    const ids = rows.map(({ id }: { id: number }) => id)
    const field = (await mira.get(`${P}/fields`)).body.rows.find(
      ({ name }: { name: string }) => name === 'Needs a tide',
    )
    const before = await Promise.all(rows.map(({ key }: { key: string }) => read(key)))
    const done = (
      await mira.send('PATCH', `${P}/cases`, {
        ids,
        set: { custom: { [field.id]: ['any'] } },
        tags: { add: ['winter'], drop: ['smoke'] },
      })
    ).body
    expect(done.changed).to.equal(4)
    const after = await Promise.all(rows.map(({ key }: { key: string }) => read(key)))
    for (const each of after)
      expect([each.tags.includes('winter'), each.tags.includes('smoke'), each.custom[field.id]]).to.deep.equal([
        true,
        false,
        ['any'],
      ])
    expect(
      (
        await mira.get(
          `${P}/cases?filter=${encodeURIComponent(JSON.stringify({ field: `own:${field.id}`, op: 'is', values: ['any'] }))}&limit=500`,
        )
      ).body.rows.map(({ id }: { id: number }) => id),
    ).to.include.members(ids)
    expect(
      (await mira.send('PATCH', `${P}/cases`, { ids, set: { custom: { [field.id]: ['lukewarm'] } } })).body.detail,
    ).to.match(/Needs a tide/)
    for (const { id, set } of done.undo) await mira.send('PATCH', `${P}/cases`, { ids: [id], set })
    const back = await Promise.all(rows.map(({ key }: { key: string }) => read(key)))
    expect(back.map(({ tags, custom }) => [tags, custom])).to.deep.equal(
      before.map(({ tags, custom }) => [tags, custom]),
    )
    const retired = (await mira.send('PATCH', `${P}/cases`, { ids, set: { retired: true } })).body
    expect(retired.changed).to.equal(4)
    expect(
      (await mira.send('PATCH', `${P}/cases`, { ids, set: { retired: true } })).body.changed,
      'retiring again changes nothing',
    ).to.equal(0)
    await mira.send('PATCH', `${P}/cases`, { ids, set: { retired: false } })
  })
  it('says which step proves which sentence, and keeps that when the link is confirmed', async () => {
    const key = await written('Proves a sentence', [step('Do it')])
    const requirement = (await mira.send('POST', `${P}/requirements/lines`, { lines: 'Two sentences' })).body.keys[0]
    const sheet = await read(requirement)
    await mira.send(
      'PATCH',
      `${P}/requirements/${requirement}`,
      { text: '<p>Dogs travel free. Cats pay <b>half</b>.</p>' },
      { 'if-match': String(sheet.version) },
    )
    await mira.send('POST', `${P}/links`, { requirements: [requirement], cases: [key] })
    const own = await read(key)
    expect(own.links[0].sentences).to.deep.equal(['Dogs travel free.', 'Cats pay half.'])
    await mira.send('PATCH', `${P}/links/${own.links[0].link}`, {
      step: own.content.steps[0].id,
      quote: 'Cats pay half.',
    })
    const { version } = await read(requirement)
    await mira.send(
      'PATCH',
      `${P}/requirements/${requirement}`,
      { title: 'Two sentences, changed' },
      { 'if-match': String(version) },
    )
    const suspect = (await read(key)).links[0]
    expect(suspect.suspect).to.equal(true)
    await mira.send('POST', `${P}/links/${suspect.link}/confirm`, {})
    expect((await read(key)).links[0]).to.deep.include({
      suspect: false,
      quote: 'Cats pay half.',
      step: own.content.steps[0].id,
    })
  })
  it('splits a requirement by its sentences and merges others into it, with their cases', async () => {
    const [first, other] = (
      await mira.send('POST', `${P}/requirements/lines`, { lines: 'Pets on board\nPets below deck' })
    ).body.keys
    const { version } = await read(first)
    await mira.send(
      'PATCH',
      `${P}/requirements/${first}`,
      { text: '<p>Dogs are on a lead. <strong>Cats</strong> are in a basket.</p><p>Birds stay at home.</p>' },
      { 'if-match': String(version) },
    )
    const key = await written('Dog on a lead', [step('look')])
    await mira.send('POST', `${P}/links`, { requirements: [first], cases: [key] })
    const made = (await mira.send('POST', `${P}/requirements/${first}/split`, { title: 'Birds', sentences: [2] })).body
      .key
    expect((await read(made)).text).to.equal('<p>Birds stay at home.</p>')
    expect((await read(first)).text).to.equal('<p>Dogs are on a lead. <strong>Cats</strong> are in a basket.</p>')
    expect((await read(made)).linked.map(({ key: own }: { key: string }) => own)).to.deep.equal([key])
    expect((await read(first)).linked[0].suspect, 'what lost words is looked at again').to.equal(true)
    expect(
      (await mira.send('POST', `${P}/requirements/${first}/split`, { title: 'x', sentences: [9] })).status,
    ).to.equal(412)
    const merged = (await mira.send('POST', `${P}/requirements/${other}/merge`, { take: [made, first] })).body
    expect(merged).to.deep.equal({ links: 1, taken: [made, first] })
    const whole = await read(other)
    expect(whole.text).to.contain('Birds stay at home.').and.contain('Dogs are on a lead.')
    const gone = await mira.get(`${P}/requirements/${made}`)
    expect([gone.status, gone.body.current?.address]).to.deep.equal([410, `/p/FERRY/${other}`])
    expect((await mira.send('POST', `${P}/requirements/${other}/merge`, { take: [other] })).status).to.equal(400)
  })
  it('asks the tracker, tells what changed there, and keeps its copy when the tracker fails', async () => {
    const tracker = (await mira.get(`${P}/tracker`)).body
    expect([tracker.name, tracker.token, JSON.stringify(tracker)]).to.deep.equal([
      'Harbour board',
      true,
      JSON.stringify({ name: 'Harbour board', url: tracker.url, token: true }),
    ])
    const found = (await mira.send('POST', `${P}/requirements/fetch`, { query: 'dogs', dry: true })).body
    expect(found.rows).to.deep.equal([{ ref: 'HARB-240', title: 'Dogs on the sun deck', here: null }])
    const [key] = (await mira.send('POST', `${P}/requirements/fetch`, { query: 'dogs' })).body.made
    expect((await mira.get(`${P}/requirements/${key}/outside`)).body.copy).to.deep.include({
      ref: 'HARB-240',
      state: 'new',
    })
    const edit = (body: object) =>
      fetch(`${tracker.url}/api/issues/HARB-240`, {
        method: 'PUT',
        headers: { authorization: 'Bearer harbour-token' },
        body: JSON.stringify(body),
      })
    await edit({
      state: 'agreed',
      body: 'Dogs on a short lead may be on the sun deck. They are counted like bicycles.',
    })
    const again = (await mira.send('POST', `${P}/requirements/${key}/outside`, {})).body
    expect(again.changed.map(({ field }: { field: string }) => field)).to.deep.equal(['state', 'text'])
    expect(again.differs.same).to.equal(false)
    await fetch(`${tracker.url}/behave`, { method: 'POST', body: JSON.stringify({ errors: 1 }) })
    const failed = await mira.send('POST', `${P}/requirements/${key}/outside`, {})
    expect([failed.status, failed.body.detail]).to.deep.equal([
      422,
      'Harbour board answered 503. The copy that was fetched before is kept.',
    ])
    await edit({ title: 7 })
    expect((await mira.send('POST', `${P}/requirements/${key}/outside`, {})).body.detail).to.match(
      /cannot be read: title/,
    )
    expect((await mira.get(`${P}/requirements/${key}/outside`)).body.copy.state).to.equal('agreed')
    expect((await tobin.send('PUT', `${P}/tracker`, { name: 'x', url: 'file:///etc/passwd' })).status).to.equal(403)
    expect((await mira.send('PUT', `${P}/tracker`, { name: 'x', url: 'file:///etc/passwd' })).status).to.equal(400)
  })
  it('attaches files to a requirement, judged by content', async () => {
    const ref = (await mira.get(`${P}/requirements?limit=1`)).body.rows[0].key
    const made = await mira.send(
      'POST',
      `${P}/attachments?ref=${ref}&name=note.txt`,
      new TextEncoder().encode('the harbour office agreed'),
      { 'content-type': 'text/plain' },
    )
    expect(made.body).to.deep.include({ name: 'note.txt', mime: 'text/plain' })
    expect(
      (
        await mira.send('POST', `${P}/attachments?ref=${ref}&name=x.png`, new TextEncoder().encode('<script>'), {
          'content-type': 'image/png',
        })
      ).status,
    ).to.equal(415)
    expect((await mira.get(`${P}/attachments?ref=${ref}`)).body.rows).to.have.length(1)
    await mira.send('DELETE', `${P}/attachments/${made.body.id}`)
    expect((await mira.get(`${P}/attachments?ref=${ref}`)).body.rows).to.have.length(0)
  })
  it('imports a file of the incoming folder by one key, leaves an unchanged one alone, and says what is wrong', async () => {
    const { id } = (
      await mira.send('POST', `${P}/standing-imports`, {
        name: 'Office list',
        file: 'office.csv',
        what: 'cases',
        everyMinutes: 60,
      })
    ).body
    expect(
      (await mira.send('POST', `${P}/standing-imports`, { name: 'Out', file: '../secret', what: 'cases' })).status,
    ).to.equal(400)
    expect((await mira.send('POST', `${P}/standing-imports/${id}`, {})).body.detail).to.match(
      /There is no file office.csv/,
    )
    mkdirSync(join(server.data, 'incoming'), { recursive: true })
    writeFileSync(join(server.data, 'incoming/office.csv'), 'Id,Title,Action,Expected\nH-1,From the office,Look,See\n')
    expect((await tobin.send('POST', `${P}/standing-imports/${id}`, {})).body.told).to.equal(
      '1 new, 0 changed, 0 unchanged, 0 gone from the file.',
    )
    expect((await tobin.send('POST', `${P}/standing-imports/${id}`, {})).body).to.deep.equal({
      told: 'The file has not changed since the last time; nothing was stored.',
      act: null,
    })
    writeFileSync(
      join(server.data, 'incoming/office.csv'),
      'Id,Title,Action,Expected\nH-1,From the office,Look,See more\n',
    )
    expect((await tobin.send('POST', `${P}/standing-imports/${id}`, {})).body.told).to.equal(
      '0 new, 1 changed, 0 unchanged, 0 gone from the file.',
    )
    expect(
      (await mira.get(`${P}/standing-imports`)).body.rows.find(({ name }: { name: string }) => name === 'Office list'),
    ).to.deep.include({ lastTold: '0 new, 1 changed, 0 unchanged, 0 gone from the file.' })
  })
  it('stores ten thousand pasted lines in one act', async () => {
    const lines = Array.from({ length: 10_000 }, (_, index) => `Pasted case ${index + 1}`).join('\n')
    const made = await mira.send('POST', `${P}/cases/lines`, { lines })
    expect(made.body.keys).to.have.length(10_000)
    expect((await mira.send('POST', `${P}/cases/lines`, { lines: `${lines}\none more` })).body.detail).to.match(
      /10001 lines; at most 10000/,
    )
  }).timeout(60_000)
  it('tells at the desk what should have run before and where the case belongs, and refuses a circle', async () => {
    const first = await written('Goes first', [step('begin')])
    const second = await written('Goes second', [step('go on')], { needs: [first], environment: 'WebKit, phone' })
    expect((await store(first, [step('begin')], { needs: [second] })).body.detail).to.equal(
      `${second} must itself run after ${first}, so it cannot run before it; nothing was stored.`,
    )
    expect((await store(first, [step('begin')], { needs: ['TC-99999'] })).status).to.equal(404)
    await executed(second)
    const item = (await mira.get(`${P}/runs?limit=1&sort=-number`)).body.rows[0].key
    const own = (await mira.get(`${P}/runs/${item}/items?limit=1`)).body.rows[0]
    const desk = (await mira.get(`${P}/items/${own.id}`)).body
    expect([desk.needs, desk.wants]).to.deep.equal([
      [{ key: first, title: 'Goes first', verdict: null }],
      'WebKit, phone',
    ])
  })
  it('asks no review of a case without what the project requires', async () => {
    const { id } = (
      await mira.send('POST', `${P}/fields`, {
        owner: 'case',
        name: 'Quay',
        kind: 'text',
        required: true,
        types: ['Harbour'],
      })
    ).body
    const key = await written('Needs a quay', [step('x')])
    const { version } = await read(key)
    await mira.send('PATCH', `${P}/cases/${key}`, { type: 'Harbour' }, { 'if-match': String(version) })
    const refused = await mira.send('POST', `${P}/cases/${key}/review`, { to: 'In review' })
    expect([refused.status, refused.body.detail, refused.body.field]).to.deep.equal([
      422,
      `${key} does not say Quay, which this project requires; nothing was asked.`,
      [{ field: `custom.${id}`, message: 'is required' }],
    ])
    await mira.send(
      'PATCH',
      `${P}/cases/${key}`,
      { custom: { [id]: ['North'] } },
      { 'if-match': String((await read(key)).version) },
    )
    expect((await mira.send('POST', `${P}/cases/${key}/review`, { to: 'In review' })).status).to.equal(200)
  })
  it('filters by how long ago something was made or changed, and by the number of versions', async () => {
    const asked = async (condition: object) =>
      (await mira.get(`${P}/cases?limit=1&filter=${encodeURIComponent(JSON.stringify(condition))}`)).body.total
    const all = (await mira.get(`${P}/cases?limit=1`)).body.total
    const fresh = await asked({ field: 'made', op: 'below', values: [1] })
    expect(fresh).to.be.greaterThan(0)
    expect(fresh + (await asked({ field: 'made', op: 'is not', values: [0] }))).to.equal(all)
    expect(
      await asked({
        all: [
          { field: 'changed', op: 'below', values: [1] },
          { field: 'made', op: 'above', values: [10] },
        ],
      }),
    ).to.be.greaterThan(0)
    expect(await asked({ field: 'versions', op: 'above', values: [1] })).to.be.greaterThan(50)
  })
})
