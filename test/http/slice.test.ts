import { expect } from 'chai'
import { type Client, clientOf, demoData, type Running, startServer } from '../server.ts'

let server: Running
let mira: Client
const P = '/projects/FERRY'
let sequence = 0
const event = () => ({ client: 'test-client-1', sequence: ++sequence, at: Date.now() })

describe('slice', () => {
  before(async () => {
    server = await startServer({ command: 'demo', data: await demoData() })
    mira = await clientOf(server.url, 'mira')
  })
  after(() => server.stop())

  /** From lines to an item of an open run: the way a tester's work comes about. */
  async function itemFor(title: string, steps: string) {
    const requirement = (await mira.send('POST', `${P}/requirements/lines`, { lines: `${title} rule` })).body.keys[0]
    const sheet = (await mira.get(`${P}/requirements/${requirement}`)).body
    const own = (await mira.send('POST', `${P}/cases/lines`, { lines: `${title}\n${steps}`, requirement: sheet.id }))
      .body.keys[0]
    const caseSheet = (await mira.get(`${P}/cases/${own}`)).body
    const suite = (await mira.send('POST', `${P}/suites`, { title: `${title} suite`, cases: [caseSheet.id] })).body
    const project = (await mira.get(P)).body
    const release = project.releases.find((each: { name: string }) => each.name === '2.4')
    const build = project.builds.find((each: { name: string }) => each.name === '2.4.0-rc2')
    const environment = project.environments.find((each: { name: string }) => each.name === 'Chromium, phone')
    const plan = (
      await mira.send('POST', `${P}/plans`, {
        title: `${title} plan`,
        release: release.id,
        suites: [suite.id],
        environments: [environment.id],
      })
    ).body
    const run = (
      await mira.send('POST', `${P}/runs`, {
        title: `${title} run`,
        build: build.id,
        plan: plan.id,
        people: ['mira'],
        startOn: '2026-11-23',
        endOn: '2026-11-27',
        deal: 'evenly',
      })
    ).body
    const item = (await mira.get(`${P}/runs/${run.key}/items`)).body.rows[0]
    return { requirement, case: own, run: run.key, item, project, sheet, build }
  }

  it('takes one requirement all the way to a coverage figure, a defect, and a repair that makes its result stale', async () => {
    const of = await itemFor(
      'Ticket prints its number',
      '\tOpen a ticket => It opens\n\tPrint it => The number is on it',
    )
    expect(of.item).to.include({
      case: of.case,
      assignee: 'Mira Kell',
      verdict: 'Not run',
      environment: 'Chromium, phone',
    })
    const before = (await mira.get(`${P}/reports/coverage?ids=${of.sheet.id}`)).body.nodes[0]
    expect(before).to.include({ state: 'Not run' })
    const attempt = (await mira.send('POST', `${P}/items/${of.item.id}/attempts`, {})).body
    expect(attempt).to.include({ version: '0.1', build: '2.4.0-rc2' })
    const [first, second] = attempt.steps
    expect(
      (
        await mira.send('PUT', `${P}/attempts/${attempt.id}/rows/1/steps/${first.id}`, {
          verdict: 'Passed',
          ...event(),
        })
      ).body,
    ).to.include({ verdict: 'In progress', final: false })
    expect(
      (
        await mira.send('PUT', `${P}/attempts/${attempt.id}/rows/1/steps/${second.id}/comment`, {
          text: 'The number is missing',
        })
      ).status,
    ).to.equal(200)
    expect(
      (
        await mira.send('PUT', `${P}/attempts/${attempt.id}/rows/1/steps/${second.id}`, {
          verdict: 'Failed',
          ...event(),
        })
      ).body,
    ).to.include({ verdict: 'Failed', final: true, itemVerdict: 'Failed' })
    const failed = (await mira.get(`${P}/reports/coverage?ids=${of.sheet.id}`)).body.nodes[0]
    expect([failed.state, failed.figures.executed.plain.recorded, failed.figures.passing.plain.recorded]).to.deep.equal(
      ['Failed', 1, 0],
    )

    const draft = (await mira.get(`${P}/defects/draft?attempt=${attempt.id}&row=1&step=${second.id}`)).body
    expect(draft.steps).to.contain('2. Print it Should be: The number is on it. (Failed) Noted: The number is missing')
    const made = (
      await mira.send('POST', `${P}/defects`, {
        severity: 'Major',
        text: '<p>No number.</p>',
        from: { attempt: attempt.id, row: 1, step: second.id },
      })
    ).body
    const defect = (await mira.get(`${P}/defects/${made.key}`)).body
    expect(defect.links).to.have.length(1)
    expect(defect.links[0]).to.include({
      attempt: attempt.id,
      step: second.id,
      stepNumber: 2,
      item: of.item.id,
      case: of.case,
      requirement: of.requirement,
      run: of.run,
    })
    expect(defect).to.include({ foundIn: '2.4.0-rc2', environment: 'Chromium, phone', reporter: 'Mira Kell' })

    const release = of.project.releases.find((each: { name: string }) => each.name === '2.4').id
    const next = (await mira.send('POST', `${P}/builds`, { release, name: '2.4.0-rc5' })).body.id
    expect(
      (await mira.send('PATCH', `${P}/defects/${made.key}`, { state: 'Ready to retest' }, { 'if-match': '1' })).body
        .detail,
    ).to.match(/build it is fixed in/)
    const moved = (
      await mira.send(
        'PATCH',
        `${P}/defects/${made.key}`,
        { state: 'Ready to retest', fixedInId: next },
        { 'if-match': '1' },
      )
    ).body
    expect(moved.state).to.equal('Ready to retest')
    const slot = (await mira.get(`${P}/requirements/${of.requirement}`)).body.linked[0].slots[0]
    expect(slot.reasons).to.deep.equal(['older build', 'defect fixed since'])
    expect(slot.confidence).to.equal(0)
    const asOf = (await mira.get(`${P}/reports/coverage?ids=${of.sheet.id}&build=2.4.0-rc2`)).body.nodes[0]
    expect(asOf.figures.reasons, 'the repair is outside this scope').to.deep.equal({})
  })

  it('keeps the version executed with the attempt whatever the case says later, and tells the case changed', async () => {
    const of = await itemFor('Receipt is numbered', '\tPay => A receipt comes')
    const attempt = (await mira.send('POST', `${P}/items/${of.item.id}/attempts`, {})).body
    await mira.send('PUT', `${P}/attempts/${attempt.id}/rows/1/steps/${attempt.steps[0].id}`, {
      verdict: 'Passed',
      ...event(),
    })
    const sheet = (await mira.get(`${P}/cases/${of.case}`)).body
    expect(sheet.slots[0]).to.include({ verdict: 'Passed', environment: 'Chromium, phone' })
    const content = {
      ...sheet.content,
      steps: [...sheet.content.steps, { id: null, action: 'Read it', expected: 'It has a number', data: '' }],
    }
    const stored = (await mira.send('PUT', `${P}/cases/${of.case}/working`, { content, stamp: sheet.contentStamp }))
      .body
    expect(stored.content.steps[0].id, 'a step keeps its identity').to.equal(sheet.content.steps[0].id)
    expect((await mira.send('POST', `${P}/cases/${of.case}/versions`, {})).body).to.include({ name: '0.2', cut: true })
    expect(
      (await mira.send('POST', `${P}/cases/${of.case}/versions`, {})).body,
      'the same text cuts nothing',
    ).to.include({ name: '0.2', cut: false })
    expect((await mira.get(`${P}/items/${of.item.id}`)).body.attempt.steps).to.have.length(1)
    expect((await mira.get(`${P}/cases/${of.case}`)).body.slots[0].reasons).to.include('case changed')
  })

  it('undoes a verdict, refuses a whole Passed over a failure, and stores a second sending once', async () => {
    const of = await itemFor('Gate opens', '\tScan => It opens\n\tGo => It closes')
    const attempt = (await mira.send('POST', `${P}/items/${of.item.id}/attempts`, {})).body
    const at = `${P}/attempts/${attempt.id}`
    const sent = { verdict: 'Failed', ...event() }
    const step = `${at}/rows/1/steps/${attempt.steps[0].id}`
    expect((await mira.send('PUT', step, sent)).body.verdict).to.equal('Failed')
    expect((await mira.send('PUT', step, sent)).body.verdict, 'sent again').to.equal('Failed')
    const refused = await mira.send('PUT', `${at}/verdict`, { verdict: 'Passed', ...event() })
    expect([refused.status, refused.body.detail]).to.deep.equal([
      422,
      'A step failed, so the whole cannot be Passed. Change that step, or give a reason to override it.',
    ])
    expect(
      (
        await mira.send('PUT', `${at}/verdict`, {
          verdict: 'Passed',
          reason: 'the gate was locked by hand',
          ...event(),
        })
      ).body.attempt,
    ).to.include({ verdict: 'Passed', override: 'the gate was locked by hand' })
    expect((await mira.send('POST', `${at}/undo`, event())).body.attempt).to.include({
      verdict: 'Failed',
      override: null,
    })
    expect((await mira.send('POST', `${at}/undo`, event())).body.attempt).to.include({ verdict: 'Not run' })
    expect((await mira.send('POST', `${at}/undo`, event())).status).to.equal(422)
  })

  it('makes links suspect with a revision and not with a risk, and confirms them', async () => {
    const of = await itemFor('Bell rings', '\tPress => It rings')
    const at = `${P}/requirements/${of.requirement}`
    await mira.send('PATCH', at, { likelihood: 5, impact: 5 }, { 'if-match': '1' })
    expect((await mira.get(at)).body).to.include({ revision: 1, suspect: 0, risk: 25 })
    await mira.send('PATCH', at, { text: '<p>It rings twice.</p>' }, { 'if-match': '2' })
    const changed = (await mira.get(at)).body
    expect(changed).to.include({ revision: 2, suspect: 1 })
    await mira.send('POST', `${P}/links/${changed.linked[0].link}/confirm`)
    expect((await mira.get(at)).body.suspect).to.equal(0)
  })

  it('tells the past: a scope as of an instant leaves out what came after', async () => {
    const of = await itemFor('Lamp shines', '\tSwitch => It shines')
    const before = Date.now()
    await new Promise((resolve) => setTimeout(resolve, 20))
    const attempt = (await mira.send('POST', `${P}/items/${of.item.id}/attempts`, {})).body
    await mira.send('PUT', `${P}/attempts/${attempt.id}/rows/1/steps/${attempt.steps[0].id}`, {
      verdict: 'Passed',
      ...event(),
    })
    const state = async (query: string) =>
      (await mira.get(`${P}/reports/coverage?ids=${of.sheet.id}${query}`)).body.nodes[0].state
    expect([await state(''), await state(`&asOf=${before}`)]).to.deep.equal(['Passed', 'Not run'])
  })

  it('filters, sorts, groups and pages lists, and answers order and rows alike', async () => {
    const filter = encodeURIComponent(
      JSON.stringify({
        all: [
          { field: 'importance', op: 'is', values: ['Critical', 'High'] },
          { field: 'component', op: 'is', values: ['Payment'] },
        ],
      }),
    )
    const order = (await mira.get(`${P}/cases/order?filter=${filter}&sort=-title&group=importance`)).body
    const rows = (await mira.get(`${P}/cases?ids=${order.ids.join(',')}`)).body.rows
    expect(rows.map(({ id }: { id: number }) => id)).to.deep.equal(order.ids)
    expect(order.groups.reduce((sum: number, { count }: { count: number }) => sum + count, 0)).to.equal(order.total)
    expect(new Set(rows.map(({ component }: { component: string }) => component))).to.deep.equal(new Set(['Payment']))
    const page = (await mira.get(`${P}/cases?limit=50`)).body
    const next = (await mira.get(`${P}/cases?limit=50&cursor=${page.next}`)).body
    expect(next.rows[0].number).to.be.greaterThan(page.rows.at(-1).number)
    expect(
      (await mira.get(`${P}/cases?text=${encodeURIComponent('"double tap"')}`)).body.rows.map(
        ({ title }: { title: string }) => title,
      ),
    ).to.deep.equal(['Card is charged once on a double tap', 'Card is charged only once on a double tap'])
    expect((await mira.get(`${P}/find?q=df-1`)).body.rows[0].ref).to.equal('DF-1')
  })

  it('changes many at once, gives each back on undo, deletes and brings back', async () => {
    const ids = (await mira.get(`${P}/cases?limit=20`)).body.rows.map(({ id }: { id: number }) => id)
    const done = (await mira.send('PATCH', `${P}/cases`, { ids, set: { importance: 'Low' } })).body
    expect(done.changed).to.be.greaterThan(5)
    for (const each of done.undo) await mira.send('PATCH', `${P}/cases`, { ids: [each.id], set: each.set })
    expect(
      (await mira.get(`${P}/cases?limit=20`)).body.rows.some(
        ({ importance }: { importance: string }) => importance === 'High',
      ),
    ).to.equal(true)
    const deleted = (await mira.send('POST', `${P}/requirements/delete`, { ids: [1] })).body.refs
    expect(deleted.length).to.be.greaterThan(5)
    expect((await mira.get(`${P}/requirements/RQ-4`)).status).to.equal(410)
    await mira.send('POST', `${P}/restore`, { refs: deleted })
    expect((await mira.get(`${P}/requirements/RQ-4`)).status).to.equal(200)
  })

  it('streams changes to other pages and resumes where a stream left off', async () => {
    const since = (await mira.get(`${P}/frame`)).body.lastChange
    await mira.send('PATCH', `${P}/defects`, { ids: [1], set: { priority: 5 } })
    const cookie = (
      await fetch(`${server.url}/api/v1/sign-in`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ email: 'tobin@tarnsey.example', password: 'ferry-2024' }),
      })
    ).headers
      .getSetCookie()
      .map((each) => each.split(';')[0])
      .join('; ')
    const stop = new AbortController()
    const stream = await fetch(`${server.url}/api/v1/events?project=FERRY`, {
      headers: { cookie, 'last-event-id': String(since) },
      signal: stop.signal,
    })
    const reader = stream.body?.getReader()
    let heard = ''
    const until = async (text: string) => {
      while (!heard.includes(text)) heard += new TextDecoder().decode((await reader?.read())?.value)
    }
    await until('"ref":"DF-1"')
    await mira.send('PATCH', `${P}/defects`, { ids: [2], set: { priority: 5 } })
    await until('"ref":"DF-2"')
    stop.abort()
  })

  it('keeps real pictures as evidence by their content, and refuses what only claims to be one', async () => {
    const of = await itemFor('Screen is kept', '\tLook => It is there')
    const attempt = (await mira.send('POST', `${P}/items/${of.item.id}/attempts`, {})).body
    const png = Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      'base64',
    )
    const kept = await mira.send(
      'POST',
      `${P}/attempts/${attempt.id}/evidence?row=1&step=${attempt.steps[0].id}&name=a.png`,
      png,
      { 'content-type': 'image/png' },
    )
    expect(kept.body).to.include({ mime: 'image/png', step: attempt.steps[0].id })
    const read = await mira.get(kept.body.url.replace('/api/v1', ''))
    expect([
      read.status,
      read.headers.get('x-content-type-options'),
      read.headers.get('content-security-policy'),
    ]).to.deep.equal([200, 'nosniff', "default-src 'none'; sandbox"])
    const script = await mira.send(
      'POST',
      `${P}/attempts/${attempt.id}/evidence?name=a.png`,
      Buffer.from('<script>alert(1)</script>'),
      { 'content-type': 'image/png' },
    )
    expect([script.status, script.body.detail]).to.deep.equal([
      415,
      'This is not a picture that can be kept as evidence. Pictures, PDF, video, zip and plain text are; nothing was stored.',
    ])
  })

  it('writes coverage as CSV that no spreadsheet takes for a formula', async () => {
    await mira.send('POST', `${P}/requirements/lines`, { lines: '=1+1' })
    const { body } = await mira.get(`${P}/reports/coverage.csv`)
    expect(String(body))
      .to.match(/^key,title,/)
      .and.contain("'=1+1")
      .and.not.contain(',=1+1')
  })
})
