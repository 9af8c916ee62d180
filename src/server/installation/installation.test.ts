import { expect } from 'chai'
import { existsSync, mkdtempSync, readdirSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setUpFirst } from '#core/installation/contract.ts'
import { readMe } from '#core/people/contract.ts'
import { addAttachment } from '#db/talk/queries.ts'
import { memoryApp, shop } from '#test/app.ts'
import { execute, makeCase, makeRun } from '#test/make.ts'
import { home } from '#test/server.ts'
import { backUp, restoreInto } from './back-up.ts'
import { offerFirstSetUp } from './offer-set-up.ts'
import { openStore } from './store.ts'
import { verifyData } from './verify-data.ts'

const folder = () => mkdtempSync(join(tmpdir(), 'rovant-data-'))
const first = {
  name: 'Ada Min',
  email: 'ada@shop.example',
  password: 'long enough',
  projectKey: 'SHOP',
  projectName: 'Shop',
}

it('sets the first administrator up with the code from the console, once', async () => {
  const app = memoryApp()
  const code = (await offerFirstSetUp({ db: app.db, close: () => undefined })) ?? ''
  const nobody = app.as('')
  const wrong = await nobody.refused(setUpFirst, { body: { ...first, code: 'guess' } })
  expect([wrong.status, wrong.detail.slice(0, 13)]).to.deep.equal([403, 'That code is '])
  await nobody.ask(setUpFirst, { body: { ...first, code } })
  expect((await nobody.refused(setUpFirst, { body: { ...first, code, projectKey: 'OTHER' } })).status).to.equal(403)
  expect(await offerFirstSetUp({ db: app.db, close: () => undefined })).to.equal(null)
  const id = String(app.db.$client.prepare('select id from person').pluck().get())
  const me = await app.as(id).ask(readMe)
  expect([me.administrator, me.projects.map(({ key, role }) => [key, role])]).to.deep.equal([true, [['SHOP', 'lead']]])
})
it('finds nothing wrong with data that are sound', async () => {
  const of = shop()
  const run = await makeRun(of, [await makeCase(of.tester, 'A')])
  await execute(of, run.items[0]?.id ?? 0, 'Passed')
  const problems = await verifyData({ db: of.db, close: () => undefined }, of.services.data)
  // A database in memory has no write-ahead log; on disk it must have one.
  expect(problems.filter((problem) => !problem.includes('write-ahead'))).to.deep.equal([])
})
it('finds a standing result that is not what its attempts say, a missing file, and an index that lacks an object', async () => {
  const of = shop()
  const run = await makeRun(of, [await makeCase(of.tester, 'A')])
  await execute(of, run.items[0]?.id ?? 0, 'Passed')
  of.db.$client.prepare("update standing_result set verdict = 'Failed'").run()
  of.db.$client.prepare('delete from search where rowid in (select rowid from search limit 1)').run()
  addAttachment(of.db, {
    projectId: of.project().id,
    ownerKind: 'case',
    ownerId: 1,
    hash: 'f'.repeat(64),
    name: 'lost.png',
    mime: 'image/png',
    size: 1,
    at: of.now(),
    personId: 'tester',
  })
  const problems = (await verifyData({ db: of.db, close: () => undefined }, of.services.data)).join('\n')
  expect(problems).to.contain('standing results: 1 differ')
  expect(problems).to.contain('search index')
  expect(problems).to.match(/evidence f+: the file is missing/)
})
it('backs a data directory up while it is open, and restores it only where nothing is', async () => {
  const [data, out, back] = [folder(), join(folder(), 'copy'), folder()]
  const store = openStore(data, home)
  writeFileSync(join(data, 'secret'), 'key')
  const copied = await backUp(data, out)
  expect([copied.bytes > 0, copied.files]).to.deep.equal([true, 0])
  expect(await backUp(data, out).catch((error: Error) => error.message)).to.match(/is there already/)
  await restoreInto(out, back)
  expect(readdirSync(back).sort()).to.deep.equal(['evidence', 'rovant.db', 'secret'])
  expect(await restoreInto(out, back).catch((error: Error) => error.message)).to.match(/is not empty/)
  expect(await restoreInto(folder(), folder()).catch((error: Error) => error.message)).to.match(/no backup/)
  const restored = openStore(back, home)
  expect(await verifyData(restored, back)).to.deep.equal([])
  restored.close()
  store.close()
  expect(existsSync(join(back, 'rovant.db'))).to.equal(true)
})
