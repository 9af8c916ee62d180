import { allowHostsInside, readHostsInside } from '#core/installation/contract.ts'
import { expect } from 'chai'
import { execFileSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  truncateSync,
  utimesSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setUpFirst } from '#core/installation/contract.ts'
import { readMe } from '#core/people/contract.ts'
import { addAttachment } from '#db/talk/queries.ts'
import { memoryApp, shop, startOfTests } from '#test/app.ts'
import { execute, makeCase, makeRequirements, makeRun, makeAdministrator } from '#test/make.ts'
import { home } from '#test/server.ts'
import { evidenceFolder } from '#db/open.ts'
import { dropComing } from '#server/integrations/coming.ts'
import { backUp, restoreInto } from './back-up.ts'
import { offerFirstSetUp } from './offer-set-up.ts'
import { openStore } from './store.ts'
import { mendData, verifyData } from './verify-data.ts'

const folder = () => mkdtempSync(join(tmpdir(), 'rovant-data-'))
const first = {
  name: 'Ada Min',
  email: 'ada@shop.example',
  password: 'nine green ferries',
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
/** Each kind of difference, planted into sound data, and what is said of it. */
const planted: readonly { what: string; plant: readonly string[]; says: RegExp; mended: boolean }[] = [
  {
    what: 'a standing result that is not what the attempts come to',
    plant: ["update standing_result set verdict = 'Failed'"],
    says: /^standing results: 1 differ from their attempts; `rovant verify --mend`/,
    mended: true,
  },
  {
    what: 'a standing result that is missing',
    plant: ['delete from standing_result'],
    says: /^standing results: 1 differ/,
    mended: true,
  },
  {
    what: 'an item that says otherwise than its attempt',
    plant: ["update item set verdict = 'Blocked' where id = 1"],
    says: /^items: 1 are not what their attempts say, first item 1 of RN-1 \(Blocked instead of Passed\); `rovant/,
    mended: true,
  },
  {
    what: 'an item that forgot its attempt',
    plant: ['update item set attempt_id = null where id = 1'],
    says: /^items: 1 /,
    mended: true,
  },
  {
    what: 'an attempt with another verdict than its events',
    plant: [
      "update attempt set verdict = 'Failed'",
      "update item set verdict = 'Failed' where id = 1",
      "update standing_result set verdict = 'Failed'",
    ],
    says: /^attempts: 1 are not what their events say, first attempt 1; `rovant/,
    mended: true,
  },
  {
    what: 'a step with another verdict than the events gave it',
    plant: ["update attempt_step set verdict = 'Failed'"],
    says: /^attempts: 1 /,
    mended: true,
  },
  {
    what: 'a step whose verdict is lost',
    plant: ['delete from attempt_step'],
    says: /^attempts: 1 /,
    mended: true,
  },
  {
    what: 'a time that no event tells',
    plant: [
      'update attempt set finished_at = finished_at + 1',
      'update standing_result set finished_at = finished_at + 1',
    ],
    says: /^attempts: 1 /,
    mended: true,
  },
  {
    what: 'an object that cannot be found',
    plant: ["delete from search where title = 'A'"],
    says: /^search index: 1 case cannot be found; `rovant/,
    mended: true,
  },
  {
    what: 'an object that is found by words of before',
    plant: ["update search set title = 'Old' where title = 'A'"],
    says: /^search index: 1 case with words of before/,
    mended: true,
  },
  {
    what: 'an entry of an object that is gone',
    plant: ["insert into search (rowid, title, body, project_id) values (4003, 'Ghost', '', 1)"],
    says: /^search index: 1 entry of a defect that is not there/,
    mended: true,
  },
  {
    what: 'a link between two projects',
    plant: [
      "insert into project (key, name, product, created_at) values ('OTHER', 'Other', 'Other', 1)",
      'update requirement set project_id = (select max(id) from project)',
    ],
    says: /^link: 1 links join a requirement and a case of different projects, first link 1; take /,
    mended: false,
  },
  {
    what: 'a link to a step of another case',
    plant: ['update link set step_id = (select id from step where case_id = 2 limit 1)'],
    says: /^link: 1 links name a step of another case/,
    mended: false,
  },
  {
    what: 'an attempt of another case than its item',
    plant: ['update attempt set item_id = 2'],
    says: /^attempt: 1 attempts are of another case/,
    mended: false,
  },
  {
    what: 'a row that points at nothing',
    plant: ['pragma foreign_keys = off', 'update item set case_id = 99 where id = 1'],
    says: /^database: 1 rows point at rows that are not there, first in item; restore/,
    mended: false,
  },
]
for (const { what, plant, says, mended } of planted)
  it(`finds ${what}${mended ? ' and mends it' : ''}`, async () => {
    const of = shop()
    const store = { db: of.db, close: () => undefined }
    const [proved = ''] = await makeRequirements(of.tester, 'Sums')
    const run = await makeRun(of, [await makeCase(of.tester, 'A', { proves: proved }), await makeCase(of.tester, 'B')])
    await execute(of, run.items[0]?.id ?? 0, 'Passed')
    const found = async () => {
      const problems = await verifyData(store, of.services.data)
      return problems.filter((problem) => !problem.includes('write-ahead'))
    }
    expect(await found()).to.deep.equal([])
    for (const statement of plant) of.db.$client.exec(statement)
    expect((await found()).filter((problem) => says.test(problem))).to.have.length(1)
    await mendData(store, of.services.data)
    expect((await found()).length === 0).to.equal(mended)
  })
it('finds files that nothing names, once they are not just coming in, and takes them away', async () => {
  const of = shop()
  const store = { db: of.db, close: () => undefined }
  const file = join(evidenceFolder(of.services.data), hashOfX)
  mkdirSync(evidenceFolder(of.services.data), { recursive: true })
  writeFileSync(file, 'x')
  const found = async () => (await verifyData(store, of.services.data)).filter((each) => each.startsWith('evidence'))
  expect(await found()).to.deep.equal([])
  const before = new Date(Date.now() - 2 * 3_600_000)
  utimesSync(file, before, before)
  expect(await found()).to.deep.equal([
    `evidence: 1 files that nothing names, first ${hashOfX}; \`rovant verify --mend\` takes them away`,
  ])
  await mendData(store, of.services.data)
  expect([await found(), existsSync(file)]).to.deep.equal([[], false])
})
it('takes away what an upload left that was cut off', () => {
  const data = folder()
  mkdirSync(join(data, 'evidence'))
  for (const name of ['coming-17', hashOfX]) writeFileSync(join(data, 'evidence', name), 'x')
  dropComing(data)
  expect(readdirSync(join(data, 'evidence'))).to.deep.equal([hashOfX])
})
it('finds a file that is missing', async () => {
  const of = shop()
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
  expect(problems).to.match(/evidence f+: the file is missing; copy it from a backup/)
})
const sentenceOf = (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'done',
    (error: unknown) => (error instanceof Error ? error.message : String(error)),
  )
const hashOf = (text: string | Buffer): string => createHash('sha256').update(text).digest('hex')
const hashOfX = hashOf('x')
/** A database that is not ours, in the place of the one that was backed up. */
function foreign(out: string): void {
  const bytes = Buffer.from('SQLite format 3\u0000, or so')
  writeFileSync(join(out, 'rovant.db'), bytes)
  const list = JSON.parse(readFileSync(join(out, 'backup.json'), 'utf8'))
  list.database = { bytes: bytes.length, sha256: hashOf(bytes) }
  writeFileSync(join(out, 'backup.json'), JSON.stringify(list))
}

const madeAt = { now: startOfTests }
it('backs a data directory up while it is open, and restores it only where nothing is', async () => {
  const [data, out, back] = [folder(), join(folder(), 'copy'), folder()]
  const store = openStore(data, home)
  writeFileSync(join(data, 'secret'), 'key')
  const copied = await backUp(data, out, madeAt)
  expect([copied.bytes > 0, copied.files]).to.deep.equal([true, 0])
  expect(await sentenceOf(backUp(data, out, madeAt))).to.match(/is there already/)
  await restoreInto(out, back)
  expect(readdirSync(back).sort()).to.deep.equal(['evidence', 'rovant.db'])
  expect(await sentenceOf(restoreInto(out, back))).to.match(/is not empty/)
  expect(await sentenceOf(restoreInto(folder(), folder()))).to.match(/no backup/)
  const restored = openStore(back, home)
  expect(await verifyData(restored, back)).to.deep.equal([])
  restored.close()
  store.close()
  expect(existsSync(join(back, 'rovant.db'))).to.equal(true)
})
it('leaves the key of the installation out of a backup unless it is asked for', async () => {
  const [data, back] = [folder(), folder()]
  openStore(data, home).close()
  writeFileSync(join(data, 'secret'), 'key')
  await backUp(data, join(data, 'without'), madeAt)
  await backUp(data, join(data, 'with'), { ...madeAt, withKey: true })
  expect(readdirSync(join(data, 'without'))).to.not.include('secret')
  await restoreInto(join(data, 'with'), back)
  expect(readdirSync(back)).to.include('secret')
})
for (const [what, spoil, told] of [
  [
    'a database that was cut short',
    (out: string) => truncateSync(join(out, 'rovant.db'), 5000),
    /changed or cut short/,
  ],
  ['an empty one', (out: string) => writeFileSync(join(out, 'rovant.db'), ''), /changed or cut short/],
  ['a foreign one under a list that was made to fit', foreign, /is empty, or not one of Rovant/],
  ['no list', (out: string) => rmSync(join(out, 'backup.json')), /no whole backup/],
  ['a list that is none', (out: string) => writeFileSync(join(out, 'backup.json'), '{'), /cannot be read/],
  ['a file less', (out: string) => rmSync(join(out, 'evidence', hashOfX)), /evidence file .* is missing/],
  ['a file that is another', (out: string) => writeFileSync(join(out, 'evidence', hashOfX), 'y'), /is not as it was/],
] as const)
  it(`restores nothing from a backup with ${what}`, async () => {
    const [data, out, back] = [folder(), join(folder(), 'copy'), folder()]
    openStore(data, home).close()
    mkdirSync(join(data, 'evidence'), { recursive: true })
    writeFileSync(join(data, 'evidence', hashOfX), 'x')
    await backUp(data, out, madeAt)
    spoil(out)
    expect(await sentenceOf(restoreInto(out, back))).to.match(told)
    expect(readdirSync(back)).to.deep.equal([])
  })
it('says that the disk is full, and leaves nothing that looks like a backup', async function () {
  const [data, small] = [folder(), folder()]
  openStore(data, home).close()
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=64k', 'tmpfs', small], { stdio: 'ignore' })
  } catch {
    // Only who may mount can have a full disk at will.
    this.skip()
  }
  try {
    expect(await sentenceOf(backUp(data, join(small, 'copy'), madeAt))).to.match(/^The disk is full/)
    expect(readdirSync(small)).to.deep.equal([])
  } finally {
    execFileSync('umount', [small])
  }
})

it('lets an administrator alone say which hosts of the own network may be asked', async () => {
  const of = shop()
  const admin = makeAdministrator(of)
  await admin.ask(allowHostsInside, { body: { hosts: ['Tracker.house', '10.0.0.7'] } })
  expect(await admin.ask(readHostsInside)).to.deep.equal({ hosts: ['10.0.0.7', 'tracker.house'] })
  expect((await of.lead.refused(allowHostsInside, { body: { hosts: ['x'] } })).status).to.equal(403)
  expect((await admin.refused(allowHostsInside, { body: { hosts: ['http://x/'] } })).fields).to.deep.equal(['hosts.0'])
})
