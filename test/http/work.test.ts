import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect } from 'chai'
import { type Client, clientOf, demoData, freshData, rovant, type Running, startServer } from '../server.ts'

let server: Running
let mira: Client
const P = '/projects/FERRY'
describe('work', () => {
  before(async () => {
    server = await startServer({ command: 'demo', data: await demoData() })
    mira = await clientOf(server.url, 'mira')
  })
  after(() => server.stop())

  it('deals what is unassigned evenly by minutes, and takes it back', async () => {
    const before_ = (await mira.get(`${P}/runs/RN-5`)).body
    expect(before_.unassigned).to.be.greaterThan(0)
    const dealt = (await mira.send('POST', `${P}/runs/RN-5/deal`, {})).body
    expect(dealt.dealt).to.equal(before_.unassigned)
    const after_ = (await mira.get(`${P}/runs/RN-5`)).body
    expect(after_.unassigned).to.equal(0)
    const left = after_.team.map((person: { left: number }) => person.left)
    expect(Math.max(...left) - Math.min(...left)).to.be.at.most(
      Math.max(...before_.team.map((person: { left: number }) => person.left)) -
        Math.min(...before_.team.map((person: { left: number }) => person.left)),
    )
    for (const each of dealt.undo) await mira.send('PATCH', `${P}/runs/RN-5/items`, { ids: [each.id], set: each.set })
    expect((await mira.get(`${P}/runs/RN-5`)).body.unassigned).to.equal(before_.unassigned)
  })
  it('assigns, estimates and dates items in bulk, and refuses items of another run', async () => {
    const rows = (await mira.get(`${P}/runs/RN-5/items?limit=5`)).body.rows
    const ids = rows.map(({ id }: { id: number }) => id)
    const done = (
      await mira.send('PATCH', `${P}/runs/RN-5/items`, {
        ids,
        set: { assigneeId: 'piet', estimate: 33, dueOn: '2026-12-01' },
      })
    ).body
    expect(done.changed).to.equal(5)
    expect((await mira.get(`${P}/runs/RN-5/items?limit=1`)).body.rows[0]).to.include({
      assignee: 'Piet Vonk',
      minutes: 33,
      dueOn: '2026-12-01',
    })
    const other = (await mira.get(`${P}/runs/RN-3/items?limit=1`)).body.rows[0].id
    expect(
      (await mira.send('PATCH', `${P}/runs/RN-5/items`, { ids: [ids[0], other], set: { estimate: 1 } })).body.detail,
    ).to.match(/another run; nothing was changed/)
    expect((await mira.get(`${P}/runs/RN-5/items?limit=1`)).body.rows[0].minutes).to.equal(33)
  })
  it('executes only in an open run, and on the build that stands where it is executed, unless one says otherwise', async () => {
    const planned = (await mira.get(`${P}/runs/RN-6/items?limit=1`)).body.rows[0].id
    expect((await mira.send('POST', `${P}/items/${planned}/attempts`, {})).body.detail).to.equal(
      'Run RN-6 is Planned; only an open run is executed. A lead can open it.',
    )
    const { version } = (await mira.get(`${P}/runs/RN-6`)).body
    expect(
      (await mira.send('PATCH', `${P}/runs/RN-6`, { state: 'Open' }, { 'if-match': String(version) })).status,
    ).to.equal(200)
    expect((await mira.send('POST', `${P}/items/${planned}/attempts`, {})).body.build).to.equal('2.4.0-rc1')
    const build = (await mira.get(`${P}/items/${planned}`)).body.run.buildId
    expect((await mira.send('POST', `${P}/items/${planned}/attempts`, { build })).body.build).to.equal('2.4.0-rc2')
  })
  it('refuses a run that ends before it starts, or has nothing to run', async () => {
    const build = (await mira.get(P)).body.builds.at(-2).id
    const run = { title: 'x', build, startOn: '2026-11-27', endOn: '2026-11-23' }
    expect((await mira.send('POST', `${P}/runs`, run)).body.field).to.deep.equal([
      { field: 'endOn', message: 'is before the start' },
    ])
    expect((await mira.send('POST', `${P}/runs`, { ...run, endOn: '2026-11-28' })).body.detail).to.match(
      /no case to run/,
    )
  })
  it('pins by key, orders, unpins, and keeps plan slots in step', async () => {
    const suite = (await mira.send('POST', `${P}/suites`, { title: 'Short', cases: [] })).body.key
    expect(
      (await mira.send('POST', `${P}/suites/${suite}/pins`, { add: ['TC-3', 'TC-1', 'tc-2'] })).body.pins,
    ).to.equal(3)
    const pinned = (await mira.get(`${P}/suites/${suite}`)).body.members
    expect(pinned.map(({ key }: { key: string }) => key)).to.deep.equal(['TC-3', 'TC-1', 'TC-2'])
    await mira.send('PUT', `${P}/suites/${suite}/order`, {
      order: pinned.map(({ id }: { id: number }) => id).reverse(),
    })
    await mira.send('POST', `${P}/suites/${suite}/pins`, { remove: [pinned[1].id] })
    expect((await mira.get(`${P}/suites/${suite}`)).body.members.map(({ key }: { key: string }) => key)).to.deep.equal([
      'TC-2',
      'TC-3',
    ])
    expect((await mira.send('POST', `${P}/suites/${suite}/pins`, { add: ['TC-99999'] })).status).to.equal(404)
  })
  it('writes down by itself who came into a rule suite, soon after a case got the value it asks for', async () => {
    const filter = { field: 'component', op: 'is', values: ['Noticed'] }
    const { key } = (
      await mira.send('POST', `${P}/suites`, { title: 'Noticed', sources: [{ kind: 'rule', words: '', filter }] })
    ).body
    const { id } = (await mira.get(`${P}/cases/TC-1`)).body
    await mira.send('PATCH', `${P}/cases`, { ids: [id], set: { component: 'Noticed' } })
    expect((await mira.get(`${P}/suites/${key}`)).body.cases).to.equal(1)
    const listed = async () => {
      const { rows } = (await mira.get(`${P}/suites?limit=500`)).body
      return rows.find((row: { key: string }) => row.key === key).cases
    }
    for (let tries = 0; (await listed()) !== 1 && tries < 100; tries++) await new Promise((go) => setTimeout(go, 100))
    expect(await listed()).to.equal(1)
    const changes = (await mira.get(`${P}/suites/${key}/changes?since=0`)).body
    expect(changes.came).to.have.length(1)
    expect(changes.came[0]).to.include({ key: 'TC-1', by: 'Mira Kell' })
    await mira.send('PATCH', `${P}/cases`, { ids: [id], set: { component: 'Booking' } })
  })
  it('moves a branch, and refuses to put it below itself', async () => {
    const branch = (await mira.get(`${P}/requirements/RQ-13`)).body
    expect((await mira.send('POST', `${P}/requirements/RQ-1/move`, { under: branch.id })).status).to.equal(200)
    expect((await mira.get(`${P}/requirements/RQ-4`)).body.path.map(({ key }: { key: string }) => key)).to.deep.equal([
      'RQ-13',
      'RQ-1',
    ])
    expect(
      (
        await mira.send('POST', `${P}/requirements/RQ-13/move`, {
          under: (await mira.get(`${P}/requirements/RQ-1`)).body.id,
        })
      ).body.detail,
    ).to.equal('RQ-13 cannot be moved below itself.')
    await mira.send('POST', `${P}/requirements/RQ-1/move`, { under: null, before: branch.id })
    expect((await mira.get(`${P}/requirements?limit=1`)).body.rows[0].key).to.equal('RQ-1')
  })
  it('keeps comments, views and history', async () => {
    await mira.send('POST', `${P}/comments`, { ref: 'TC-7', text: '<p>Is it so?<script>x</script></p>' })
    expect((await mira.get(`${P}/comments?ref=TC-7`)).body.rows[0]).to.include({
      person: 'Mira Kell',
      mine: true,
      text: '<p>Is it so?</p>',
    })
    const view = (
      await mira.send('POST', `${P}/views`, { list: 'cases', name: 'Critical', shared: true, query: 'sort=title' })
    ).body.id
    const tobin = await clientOf(server.url, 'tobin')
    expect((await tobin.get(`${P}/views?list=cases`)).body.rows[0]).to.include({ name: 'Critical', mine: false })
    expect((await tobin.send('DELETE', `${P}/views/${view}`)).status).to.equal(404)
    expect((await mira.send('DELETE', `${P}/views/${view}`)).status).to.equal(200)
    const { version } = (await mira.get(`${P}/cases/TC-7`)).body
    await mira.send('PATCH', `${P}/cases/TC-7`, { importance: 'High' }, { 'if-match': String(version) })
    expect((await mira.get(`${P}/history?ref=TC-7`)).body.rows[0]).to.deep.include({
      person: 'Mira Kell',
      action: 'changed',
      detail: { importance: ['Low', 'High'] },
    })
  })
  it('never uses a number again, and leaves no hole in what is left', async () => {
    const first = (await mira.send('POST', `${P}/cases/lines`, { lines: 'To go' })).body.keys[0]
    const { id } = (await mira.get(`${P}/cases/${first}`)).body
    await mira.send('POST', `${P}/cases/delete`, { ids: [id] })
    const next = (await mira.send('POST', `${P}/cases/lines`, { lines: 'To stay' })).body.keys[0]
    expect(Number(next.slice(3))).to.equal(Number(first.slice(3)) + 1)
  })
  it('tells a person’s day: queue, hours, retests, reviews', async () => {
    const tobin = await clientOf(server.url, 'tobin')
    const today = (await tobin.get(`${P}/today`)).body
    expect(today.queue.length).to.be.greaterThan(0)
    expect(today.queueMinutes).to.be.at.least(
      today.queue.reduce((sum: number, { minutes }: { minutes: number }) => sum + minutes, 0),
    )
    expect(today.retests.map(({ title }: { title: string }) => title)).to.include(
      'Rest of a voucher is lost after paying',
    )
    expect(today.capacityMinutes).to.equal(360)
    const frame = (await tobin.get(`${P}/frame`)).body
    expect(frame.counts.runs).to.equal(today.queueTotal)
  })
  it('sets up the first administrator once, with the code from the console', async () => {
    const empty = await startServer({ command: 'serve', data: freshData() })
    const nobody = await clientOf(empty.url, null)
    const body = {
      code: 'wrong',
      name: 'Ada',
      email: 'ada@tarnsey.example',
      password: 'a-long-password',
      projectKey: 'NEW',
      projectName: 'New',
    }
    expect((await nobody.send('POST', '/set-up', body)).body.detail).to.match(/not the one printed/)
    const { default: Database } = await import('better-sqlite3')
    const db = new Database(`${empty.data}/rovant.db`, { readonly: true })
    const code = String(db.prepare("select value from setting where name = 'set-up code'").pluck().get())
    db.close()
    expect((await nobody.send('POST', '/set-up', { ...body, code })).status).to.equal(200)
    expect((await nobody.send('POST', '/set-up', { ...body, code, email: 'eve@tarnsey.example' })).status).to.equal(403)
    expect(
      (await nobody.send('POST', '/sign-in', { email: body.email, password: body.password })).body.projects[0].key,
    ).to.equal('NEW')
    await empty.stop()
  })

  it('changes five thousand cases by one request, keeps history of each, and gives every one its own back', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'rovant-bulk-'))
    writeFileSync(
      join(folder, 'many.csv'),
      `case,action,importance\n${Array.from({ length: 5000 }, (_, n) => `Many ${n},Do it,${n % 3 === 0 ? 'Low' : 'Medium'}`).join('\n')}\n`,
    )
    expect(
      (await rovant(['import', join(folder, 'many.csv'), '--project', 'FERRY', '--data', server.data])).code,
    ).to.equal(0)
    const { ids } = (await mira.get('/projects/FERRY/cases/order?text=Many')).body
    const done = await mira.send('PATCH', '/projects/FERRY/cases', {
      ids,
      set: { importance: 'Low', component: 'Harbour' },
    })
    expect([ids.length, done.body.changed]).to.deep.equal([5000, 5000])
    const first = (await mira.get(`/projects/FERRY/cases?ids=${ids.slice(0, 2)}`)).body.rows
    expect(
      first.map(({ importance, component, version }: Record<string, unknown>) => [importance, component, version]),
    ).to.deep.equal([
      ['Low', 'Harbour', 2],
      ['Low', 'Harbour', 2],
    ])
    const history = (await mira.get(`/projects/FERRY/history?ref=${first[1].key}`)).body.rows[0]
    expect(history).to.deep.include({
      action: 'changed',
      person: 'Mira Kell',
      detail: { importance: ['Medium', 'Low'], component: ['', 'Harbour'] },
    })
    expect(new Set(done.body.undo.map(({ set }: { set: unknown }) => JSON.stringify(set))).size).to.equal(2)
    expect(
      (
        await mira.send('PATCH', '/projects/FERRY/cases', {
          ids: [...ids.slice(0, 3), 999_999],
          set: { importance: 'High' },
        })
      ).body.detail,
    ).to.match(/There is no case 999999 in this project; nothing was stored/)
    const retire = (await mira.send('PATCH', '/projects/FERRY/cases', { ids: ids.slice(0, 2), set: { retired: true } }))
      .body
    expect(retire.undo.map(({ set }: { set: unknown }) => set)).to.deep.equal([{ retired: false }, { retired: false }])
  })
  it('filters by tags, by what was executed, and by defects that are open', async () => {
    const count = async (list: string, field: string, op: string, values: unknown[]) =>
      (await mira.get(`${P}/${list}?limit=1&filter=${encodeURIComponent(JSON.stringify({ field, op, values }))}`)).body
        .total
    const all = (await mira.get(`${P}/cases?limit=1`)).body.total
    expect(await count('cases', 'tags', 'contains', ['smoke'])).to.be.within(1, all - 1)
    expect(await count('cases', 'attempts', 'is', [0])).to.be.within(1, all - 1)
    expect((await count('cases', 'attempts', 'is', [0])) + (await count('cases', 'attempts', 'above', [0]))).to.equal(
      all,
    )
    expect(await count('cases', 'defects', 'above', [0])).to.be.within(1, all - 1)
    expect(await count('requirements', 'tags', 'contains', ['money'])).to.be.above(0)
    expect(await count('requirements', 'text', 'contains', ['voucher'])).to.be.above(0)
  })

  it('takes only people and folders of the project, by one edit and by many', async () => {
    const mira = await clientOf(server.url, 'mira')
    const folder: number = (await mira.send('POST', '/projects/DEPOT/folders', { name: 'Spares', parent: null })).body
      .id
    const sheet = (await mira.get(`${P}/cases/TC-3`)).body
    const depot: string[] = (await mira.get('/projects/DEPOT')).body.people.map(({ id }: { id: string }) => id)
    const ferry: string[] = (await mira.get(P)).body.people.map(({ id }: { id: string }) => id)
    const stranger = 'nobody-at-all'
    expect(
      depot.every((id) => ferry.includes(id)),
      'the sample people of the second project are all in the first',
    ).to.equal(true)
    const tries: readonly (readonly [method: string, path: string, body: unknown, field: string])[] = [
      ['PATCH', '/cases/TC-3', { folderId: folder }, 'folderId'],
      ['PATCH', '/cases', { ids: [sheet.id], set: { folderId: folder } }, 'set.folderId'],
      ['PATCH', '/cases/TC-3', { ownerId: stranger }, 'ownerId'],
      ['PATCH', '/cases', { ids: [sheet.id], set: { ownerId: stranger } }, 'set.ownerId'],
      ['PATCH', '/requirements/RQ-3', { ownerId: stranger }, 'ownerId'],
      ['PATCH', '/defects/DF-3', { ownerId: stranger }, 'ownerId'],
    ]
    for (const [method, path, body, field] of tries) {
      const version = path.includes('-') ? (await mira.get(`${P}${path}`)).body.version : 0
      const answer = await mira.send(method, `${P}${path}`, body, { 'if-match': String(version) })
      expect([answer.status, answer.body.field?.[0]?.field], `${method} ${path} ${JSON.stringify(body)}`).to.deep.equal(
        [400, field],
      )
    }
    expect((await mira.get(`${P}/cases/TC-3`)).body).to.deep.include({
      folderId: sheet.folderId,
      ownerId: sheet.ownerId,
      version: sheet.version,
    })
  })

  it('sets priority and what release requirements are testable from, for one and for many, with a way back', async () => {
    const mira = await clientOf(server.url, 'mira')
    const read = async (ref: string) => (await mira.get(`${P}/requirements/${ref}`)).body
    const [one, two] = [await read('RQ-3'), await read('RQ-4')]
    const project = (await mira.get(P)).body
    const release = project.releases.find(({ name }: { name: string }) => name === '2.3')
    const iteration = project.iterations.find((each: { release: number }) => each.release === release.id)
    const other = project.releases.find(({ id }: { id: number }) => id !== release.id)
    expect(
      (await mira.send('PATCH', `${P}/requirements/RQ-3`, { priority: 6 }, { 'if-match': String(one.version) })).status,
    ).to.equal(400)
    expect(
      (await mira.send('PATCH', `${P}/requirements/RQ-3`, { priority: 1 }, { 'if-match': String(one.version) })).status,
    ).to.equal(200)
    expect((await read('RQ-3')).revision, 'a priority makes no revision').to.equal(one.revision)
    const done = await mira.send('PATCH', `${P}/requirements`, {
      ids: [one.id, two.id],
      set: { priority: 5, targets: [{ release: release.id, iteration: iteration.id }] },
    })
    expect(done.body.changed).to.equal(2)
    for (const ref of ['RQ-3', 'RQ-4']) {
      const now = await read(ref)
      expect(now.priority).to.equal(5)
      expect(
        now.targets.map((each: { releaseName: string; iterationName: string }) => [
          each.releaseName,
          each.iterationName,
        ]),
      ).to.deep.equal([['2.3', iteration.name]])
    }
    expect(
      (
        await mira.get(
          `${P}/requirements/order?filter=${encodeURIComponent(JSON.stringify({ field: 'priority', op: 'is', values: [5] }))}`,
        )
      ).body.ids,
    ).to.include.members([one.id, two.id])
    expect(
      (
        await mira.send('PATCH', `${P}/requirements`, {
          ids: [one.id],
          set: { targets: [{ release: other.id, iteration: iteration.id }] },
        })
      ).body.detail,
    ).to.match(/does not belong to that release/)
    for (const { id, set } of done.body.undo)
      expect((await mira.send('PATCH', `${P}/requirements`, { ids: [id], set })).status).to.equal(200)
    const [back, backTwo] = [await read('RQ-3'), await read('RQ-4')]
    expect([back.priority, backTwo.priority]).to.deep.equal([1, two.priority])
    expect([back.targets, backTwo.targets]).to.deep.equal([one.targets, two.targets])
    expect(
      (
        await mira.send('PATCH', `${P}/requirements`, {
          ids: [one.id],
          set: {
            targets: two.targets.map((each: { release: number; iteration: number | null }) => ({
              release: each.release,
              iteration: each.iteration,
            })),
          },
        })
      ).body.changed,
    ).to.be.oneOf([0, 1])
  })
})
